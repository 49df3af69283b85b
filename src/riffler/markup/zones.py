"""A page's areas -> its landmarks: header, navigation, main part, what stands aside, footer.

HTML, 4.3 (sections) and WAI-ARIA (landmark roles) say what each is for.

Meaning is found on areas, before elements: `zones` tags landmarks by identity, so areas are not
made anew between finding and making; `loops` puts members together last, when all of them are laid
out and their differences show.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from riffler.markup.area import Area, Shape
from riffler.markup.bands import held_together
from riffler.markup.headings import Texts
from riffler.reading.part import PartKind

#: Shares of the page's height that a header and a footer take at the most, and from which a band
#: is most of the page.
HEADER, FOOTER, MOST = 0.5, 0.28, 0.55

#: The least height of a column, in CSS pixels, and how wide what stands aside is at the most,
#: compared with what it stands beside, or with the page.
COLUMN, ASIDE, SIDEBAR = 180, 0.62, 0.34

#: The words of a link in a navigation at the most, and the fewest links of one.
NAV_WORDS, NAV_LINKS = 3, 3

#: The highest band of a colour at the head of a page, and the least room above a line that ends
#: it, in CSS pixels; the share of the page that goes from side to side.
HEAD, APART, WHOLE = 420, 40, 0.98

#: So many bands may be a header at the most, each no higher than this, in CSS pixels.
BANDS, LOW = 3, 120

#: A line between bands is no higher, in CSS pixels.
RULE = 4


@dataclass
class Zones:
    """What areas are landmarks, by what holds them; areas are told apart by identity."""

    tags: dict[int, str] = field(default_factory=dict)
    texts: Texts | None = None
    width: float = 0.0

    def of(self, area: Area) -> str:
        """The landmark that an area is; empty for none."""
        return self.tags.get(id(area), "")

    @classmethod
    def find(cls, page: Area, texts: Texts) -> Zones:
        """The landmarks of a page; its areas must not be made anew afterwards."""
        zones = cls(texts=texts, width=page.box.width)
        height = max((part.box.bottom for part in page.parts), default=page.box.height)
        zones._of_bands(page, height, page.box.width)
        return zones

    def element(self, area: Area) -> str:
        """The element of a landmark; empty for what is none."""
        tag = self.of(area)
        return "" if tag == "logo" else tag

    def is_head(self, area: Area) -> bool:
        """Whether it is the header of a page with a navigation, a navigation, or its logo.

        One of several bands has what a navigation has.
        """
        tag = self.of(area)
        is_menu = len(self.heads) > 1 or "nav" in self.tags.values()
        return is_menu if tag == "header" else tag in ("nav", "logo")

    def _tag(self, area: Area, tag: str) -> None:
        self.tags.setdefault(id(area), tag)

    def _of_bands(self, area: Area, height: float, width: float) -> None:
        if area.shape is Shape.ROW:
            self._of_columns(area, width)
            return
        bands: Sequence[Area] = area.parts
        if not bands:
            return
        if len(bands) == 1:
            self._of_bands(bands[0], height, width)
            return
        last = bands[-1]
        if self._is_footer(last, height) and not self._goes_on(bands[-2], last):
            bands = self._of_footer(bands, height)
        largest = max(bands, key=lambda band: band.box.height)
        if largest.shape is Shape.STACK and largest.box.height > MOST * height and largest.parts:
            self._of_bands(largest, height, width)
            until = next(number for number, band in enumerate(bands) if band is largest)
            if until:
                self._of_header(bands[: until + 1], height)
            return
        other_areas = self._of_header(bands, height)
        if len(other_areas) == 1 and other_areas[0].shape in (Shape.ROW, Shape.STACK):
            self._tag(other_areas[0], "main")
        self.mains = tuple(other_areas)
        for band in other_areas:
            self._of_asides(band)

    feet: Sequence[Area] = ()
    """The bands of the footer."""

    mains: Sequence[Area] = ()
    """The bands of the main part, where it is more than one."""

    heads: Sequence[Area] = ()
    """The bands of the header."""

    def _of_footer(self, bands: Sequence[Area], height: float) -> Sequence[Area]:
        """Tag the last band, and those that the mockup groups with it; gives what is left."""
        count = held_together(bands[::-1])
        if bands[-1].box.bottom - bands[-count].box.y > HEADER * height:
            count = 1
        self.feet = tuple(bands[-count:])
        for band in self.feet:
            self._tag(band, "footer")
        return bands[:-count]

    def _of_header(self, bands: Sequence[Area], height: float) -> Sequence[Area]:
        """Tag the bands at the head; gives what is left."""
        count = self._until_navigation(bands)
        while count < len(bands) - 1 and self._is_header(bands[count], count, height):
            count += 1
        together = held_together(bands) if count else 0
        if all(band.box.height <= LOW for band in bands[count:together]):
            count = max(count, together)
        if not count and bands and bands[0].shape is Shape.STACK and len(bands[0].parts) > 1:
            first = bands[0].parts[0]
            if self._is_header(first, 0, height) and first.box.height < HEADER * height / 2:
                self._tag(bands[0], "header")
                self._of_navigation(first)
                self.heads = tuple(bands[:1])
                return bands[1:]
        for band in bands[:count]:
            self._of_navigation(band)
            self._tag(band, "header")
        self.heads = tuple(bands[:count])
        return bands[count:]

    def _until_navigation(self, bands: Sequence[Area]) -> int:
        """How many low bands at the head of a page end with one that has a navigation."""
        for number, band in enumerate(bands[:BANDS]):
            if band.box.height > LOW:
                break
            if any(map(is_navigation, band.walk())):
                return min(number + 1, len(bands) - 1)
        return 0

    def _is_header(self, band: Area, number: int, height: float) -> bool:
        """Whether a band has what headers have: a logo, a navigation, the picture at the head."""
        if band.box.height > HEADER * height:
            return False
        is_band = band.ground is not None and band.box.width >= WHOLE * self.width
        if number == 0 and is_band and band.parts and band.box.height <= max(HEAD, 0.3 * height):
            return True
        is_rule = band.shape is Shape.BOX and band.box.height <= RULE
        if number and not is_rule and not any(map(is_navigation, band.walk())):
            return False
        return is_rule or any(
            area.kind in (PartKind.LOGO, PartKind.HEAD) or is_navigation(area)
            for area in band.walk()
        )

    def _of_navigation(self, area: Area) -> None:
        for one_area in area.walk():
            if is_navigation(one_area):
                self._tag(one_area, "nav")

    def _goes_on(self, before: Area, last: Area) -> bool:
        """Whether a text at the end belongs to what is above it."""
        gap = last.box.y - before.box.bottom
        return last.setting is not None and gap < APART and before.setting is not None

    def _is_footer(self, band: Area, height: float) -> bool:
        texts = self.texts
        if band.box.height > FOOTER * height or band.shape is Shape.LIST:
            return False
        if band.box.y < 0.6 * height or not any(True for _ in band.words()):
            return False
        if any(_says_whose(setting.text) for setting in band.words()):
            return True
        return not any(texts.is_heading(setting) for setting in band.words()) if texts else True

    def _of_columns(self, row: Area, width: float) -> None:
        """A page of columns: what is narrow at its side and has the navigation, and the rest."""
        widest = max(row.parts, key=lambda part: part.box.width)
        for part in row.parts:
            if part is widest:
                self._tag(part, "main")
                for band in part.parts:
                    self._of_asides(band)
            elif part.box.width <= SIDEBAR * width:
                self._tag(part, "aside")
                self._of_navigation(part)
                if part.parts and any(self.of(area) == "nav" for area in part.parts):
                    self._tag(part.parts[0], "logo")

    def _of_asides(self, band: Area) -> None:
        """Narrow columns beside wide ones."""
        if band.shape is Shape.STACK and len(band.parts) == 1:
            self._of_asides(band.parts[0])
        if band.shape is not Shape.ROW or len(band.parts) != 2:
            return
        first, second = band.parts
        if min(first.box.height, second.box.height) < COLUMN:
            return
        if not all(_is_column(part) for part in band.parts):
            return
        if second.box.width <= ASIDE * first.box.width:
            self._tag(second, "aside")
        elif first.box.width <= ASIDE * second.box.width:
            self._tag(first, "aside")


def is_navigation(area: Area) -> bool:
    """Whether it is a list of short links in a row, or of tabs."""
    if area.shape is not Shape.LIST or len(area.parts) < NAV_LINKS:
        return False
    for member in area.parts:
        words = list(member.words())
        if len(words) != 1 or len(words[0].text.split()) > NAV_WORDS:
            return False
        if any(sign.isdigit() for sign in words[0].text):
            return False
    return area.parts[0].box.height < 80


def _says_whose(text: str) -> bool:
    """Whether a line says whose a page is, as the last of it does."""
    return text.lstrip().casefold().startswith(("©", "(c)", "copyright"))


def _is_column(area: Area) -> bool:
    """Whether an area holds several things under one another."""
    return area.shape is Shape.STACK and len(area.parts) > 1
