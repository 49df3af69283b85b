"""Settings of text -> which are headings, of which level, and which text leads somewhere."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass
from itertools import pairwise
from typing import TypeAlias

from riffler.markup.area import Area, Shape
from riffler.markup.setting import Setting
from riffler.reading.part import PartKind
from riffler.tokens.palette import lab

#: How much larger than the body a heading is: set in another face or bolder, or set as the body.
LARGER, MUCH_LARGER = 1.08, 1.55

#: The share of the most letters that are set alike that keeps a body set as it was.
STILL = 0.5

#: Lines and words that a heading has at the most; a text with a full stop has fewer.
LINES, WORDS, STOPPED = 3, 14, 6

#: Letters of a heading at the least: fewer are initials.
FEWEST = 3

#: Words of a link at the most, and the least chroma (Oklab) of one that stands out by its colour.
LINK_WORDS, CHROMA = 4, 0.05

#: A title that is drawn: how many times as wide as high it is at least, how high at least and at
#: most, in CSS pixels, the share of the page that it is wide at most, and how far down it begins.
LETTERED, LETTERS, TITLE_WIDTH, TITLE_TOP = 2.0, (24, 200), 0.75, 900

#: What is clicked has its own words: none of them is a heading.
_CLICKED = (PartKind.TAB, PartKind.BUTTON)

BodyType: TypeAlias = tuple[str, float, int, str]
"""Family, size in CSS pixels, weight and colour."""


@dataclass(frozen=True)
class Texts:
    """The text of a page: how its body is set, and what its first heading is.

    Where that is drawn, `drawn` is its picture, and `first` none; `title` is what the largest says.
    """

    family: str
    size: float
    weight: int
    color: str
    first: Setting | None
    drawn: Area | None = None
    title: str = ""

    @classmethod
    def of(cls, page: Area, before: BodyType | None = None) -> Texts:
        """What most letters of a page are set like, and its largest text that may be a heading.

        What it was `before` it stays while about as many letters are set so.
        """
        letters: Counter[BodyType] = Counter()
        for setting in page.words():
            type_ = setting.type
            key = (type_.family, type_.size, type_.weight, type_.color)
            letters[key] += len(setting.text)
        most, number = max(
            letters.items(), key=lambda pair: pair[1], default=(("", 16.0, 400, "#000000"), 0)
        )
        is_still = before is not None and letters[before] >= STILL * max(1, number)
        family, size, weight, color = before if before and is_still else most
        body = cls(family, size, weight, color, None)
        first = body.largest(page)
        drawn = body.drawn_title(page, first)
        title = first.text if first else ""
        return cls(family, size, weight, color, None if drawn else first, drawn, title)

    @property
    def body(self) -> BodyType:
        """What the body of the page is set like."""
        return self.family, self.size, self.weight, self.color

    def may_head(self, setting: Setting) -> bool:
        """Whether a text is set as a heading is and says what one may say."""
        type_ = setting.type
        larger = type_.size / self.size
        is_other = type_.family != self.family or type_.weight > self.weight
        if larger < (LARGER if is_other else MUCH_LARGER):
            return False
        words = setting.text.split()
        most = STOPPED if setting.text.rstrip().endswith(".") else WORDS
        if len(setting.lines) > LINES or len(words) > most:
            return False
        letters = sum(sign.isalpha() for sign in setting.text)
        return letters >= FEWEST and letters > sum(sign.isdigit() for sign in setting.text)

    def largest(self, page: Area) -> Setting | None:
        """The first of the largest texts that may be a heading."""
        candidates = [setting for setting in _outside_clicked(page) if self.may_head(setting)]
        names = {id(setting) for setting in _of_logos(page)}
        candidates = [one for one in candidates if id(one) not in names] or candidates
        largest = max((setting.type.size for setting in candidates), default=0.0)
        return next((one for one in candidates if one.type.size >= 0.97 * largest), None)

    def drawn_title(self, page: Area, first: Setting | None) -> Area | None:
        """A picture of letters above a text at the head of a page, where no words are a heading."""
        top = min(TITLE_TOP, first.box.y if first else math.inf)
        for area in page.walk():
            if area.shape is not Shape.STACK or any(map(self.may_head, _outside_clicked(area))):
                continue
            for picture, below in pairwise(area.parts):
                box = picture.box
                if (
                    picture.shape is Shape.PICTURE
                    and picture.kind is PartKind.PICTURE
                    and below.setting is not None
                    and box.bottom < top
                    and LETTERS[0] <= box.height <= min(LETTERS[1], box.width / LETTERED)
                    and box.width <= TITLE_WIDTH * page.box.width
                ):
                    return picture
        return None

    def is_heading(self, setting: Setting) -> bool:
        """Whether it is one, once it is known which is the first."""
        if setting is self.first:
            return True
        return self.may_head(setting) and not (
            setting.text.rstrip().endswith(".") and setting.type.is_italic
        )

    def heading_size(self, area: Area) -> float:
        """The size of a heading below the first that is all of an area; 0 for other areas."""
        setting = area.setting
        if setting is None or setting is self.first or not self.is_heading(setting):
            return 0.0
        return setting.type.size

    def largest_heading(self, area: Area) -> float:
        """The size of the largest such heading in an area; 0 where there is none."""
        return max(map(self.heading_size, area.walk()), default=0.0)

    def is_link(self, setting: Setting) -> bool:
        """Whether a short text stands out by its colour, as links do."""
        text = setting.text
        if len(text.split()) > LINK_WORDS or len(setting.lines) > 1 or text.isupper():
            return False
        if setting.type.size > LARGER * self.size or any(sign.isdigit() for sign in text):
            return False
        _, a, b = lab(setting.type.color[:7])
        _, body_a, body_b = lab(self.color[:7])
        return math.hypot(a, b) >= CHROMA and math.hypot(a - body_a, b - body_b) >= CHROMA


def _outside_clicked(area: Area) -> Iterable[Setting]:
    if area.kind in _CLICKED:
        return
    if area.setting is not None:
        yield area.setting
    for part in area.parts:
        yield from _outside_clicked(part)


def _of_logos(page: Area) -> Iterable[Setting]:
    """What logos say: no heading of a page that has another."""
    for area in page.walk():
        if area.kind is PartKind.LOGO:
            yield from area.words()
