"""Where everything stands in a window of some width -> what goes wrong there.

Needs no mockup: whatever the width, no words lie over words, nothing leaves the window, pictures
keep their shape and are no larger than their files.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from enum import StrEnum

from riffler.geometry import Rect
from riffler.mirror.instances import Instance
from riffler.mirror.standing import Stand

#: How far lines of words may lie over one another, in CSS pixels, and how much of their height is
#: no letter's.
OVER, FREE = 2.0, 0.2

#: What reaches out of the window by no more than this does not, in CSS pixels.
OUT = 1.0

#: How much larger than its file a picture may be shown, and how much flatter or higher.
ENLARGED, DISTORTED = 1.05, 0.02


class TroubleKind(StrEnum):
    """What goes wrong."""

    OUT = "out of the window"
    OVER = "text over text"
    ENLARGED = "picture enlarged"
    DISTORTED = "picture distorted"


@dataclass(frozen=True)
class Trouble:
    """Something that goes wrong in a window of a width: with what, and by how many CSS pixels."""

    kind: TroubleKind
    width: float
    instance: Instance
    by: float


def troubles(page: Instance, stands: Mapping[int, Stand], width: float) -> list[Trouble]:
    """All that goes wrong on a page, one kind after the other."""
    here = _Here({number: stand for number, stand in stands.items() if stand.box.width}, width)
    return [*here.out(page), *here.over(page), *here.pictures(page)]


class _Here:
    """A page in a window, by what takes room there."""

    def __init__(self, stands: Mapping[int, Stand], width: float) -> None:
        self._stands, self._width = stands, width

    def out(self, instance: Instance) -> list[Trouble]:
        """What leaves the window, and nothing in it does."""
        inner = [trouble for part in instance.inner for trouble in self.out(part)]
        stand = self._stands.get(instance.number)
        if inner or stand is None:
            return inner
        by = max(part.right for part in (stand.box, *stand.lines)) - self._width
        return [Trouble(TroubleKind.OUT, self._width, instance, by)] if by > OUT else []

    def over(self, page: Instance) -> Iterator[Trouble]:
        """Words that lie on words before them."""
        before: list[Rect] = []
        for instance in page.walk():
            stand = self._stands.get(instance.number)
            if stand is None or instance.shown.words is None:
                continue
            lines = [_letters(line) for line in stand.lines]
            shared = (line & other for line in lines for other in before)
            by = max((min(over.width, over.height) for over in shared if over), default=0.0)
            if by > OVER:
                yield Trouble(TroubleKind.OVER, self._width, instance, by)
            before += lines

    def pictures(self, page: Instance) -> Iterator[Trouble]:
        """Pictures that are larger than their files, or of another shape."""
        for instance in page.walk():
            stand, area = self._stands.get(instance.number), instance.area
            piece = area.piece if area else None
            if stand is None or piece is None or instance.shown.tag != "img":
                continue
            if self._width > float(instance.ruled.attributes.get("narrow_to", "inf")):
                continue  # another file is shown there
            fit = instance.rules.css.get("object-fit", "fill") if instance.rules else "none"
            scales = stand.box.width / piece.paint.width, stand.box.height / piece.paint.height
            if fit == "none" or piece.is_drawn or any(piece.room):
                continue
            if fit == "fill" and abs(scales[0] / scales[1] - 1) > DISTORTED:
                by = abs(stand.box.width - scales[1] * piece.paint.width)
                yield Trouble(TroubleKind.DISTORTED, self._width, instance, by)
            elif max(scales) > ENLARGED:
                by = stand.box.width - piece.paint.width
                yield Trouble(TroubleKind.ENLARGED, self._width, instance, by)


def _letters(line: Rect) -> Rect:
    """A line without the room above and below its letters."""
    return Rect(line.x, line.y + FREE * line.height, line.width, (1 - 2 * FREE) * line.height)
