"""What can be wrong with a thing of a mockup on its page, as data."""

from __future__ import annotations

from dataclasses import dataclass, field
from enum import StrEnum

from riffler import csslength
from riffler.fit.expected import ExpectedThing, ThingKind
from riffler.geometry import Rect

#: Oklab's distance from which a colour is another: where the mockup says it, where it is measured.
COLOR, MEASURED = 0.012, 0.035

#: Edges that are off by less lie right, in CSS pixels.
PLACE = 0.5


class Fault(StrEnum):
    """What can be wrong with a thing, the root of the matter."""

    MISSING = "missing"
    SWAPPED = "swapped"
    ANOTHER = "another picture"
    WORDS = "words"
    FAMILY = "font"
    TYPE_SIZE = "type size"
    WEIGHT = "weight"
    STYLE = "slant"
    BREAKS = "line breaks"
    SPACING = "letter spacing"
    LINE_HEIGHT = "line height"
    STRETCHED = "stretched"
    SIZE = "size"
    MOVED = "moved"
    COVERED = "covered"
    COLOR = "colour"
    LINK = "link"
    GRADIENT = "gradient"
    RADIUS = "corners"
    BORDER = "border"
    SHADOW = "shadow"
    GAP = "gap"
    OVERLAP = "overlap"
    STATE = "state"
    LENGTH = "page length"


#: Faults that change how much room a thing takes.
SIZING = frozenset(
    {
        Fault.WORDS,
        Fault.FAMILY,
        Fault.TYPE_SIZE,
        Fault.WEIGHT,
        Fault.STYLE,
        Fault.BREAKS,
        Fault.SPACING,
        Fault.LINE_HEIGHT,
        Fault.STRETCHED,
        Fault.BORDER,
    }
)


@dataclass(frozen=True)
class Difference:
    """One thing that differs: what was wanted, and what is there.

    `element` is the number of the element that has it, where it is not that of the whole thing.
    """

    fault: Fault
    wanted: str = ""
    found: str = ""
    element: int = -1


@dataclass(frozen=True)
class Placed:
    """A thing with its place on the page: how far it is moved and larger, in CSS pixels.

    `element` is the number of the page's element, -1 for what is missing; `differences` are what it
    has otherwise, its place left out. `box` is where it lies on the page.
    """

    number: int
    thing: ExpectedThing
    box: Rect
    element: int = -1
    dx: float = 0.0
    dy: float = 0.0
    dw: float = 0.0
    dh: float = 0.0
    differences: tuple[Difference, ...] = field(default=())

    @property
    def is_missing(self) -> bool:
        """Whether the page has it nowhere."""
        return any(difference.fault is Fault.MISSING for difference in self.differences)

    @property
    def is_of_type(self) -> bool:
        """Whether it is a text: as wide as its letters, not as what is around them."""
        return self.thing.kind is ThingKind.WORDS

    @property
    def off(self) -> float:
        """How far the edge that is off the most is off."""
        edges = (self.dx, self.dy, self.dx + self.dw, self.dy + self.dh)
        return 0.0 if self.is_missing else max(abs(edge) for edge in edges)

    @property
    def there(self) -> Rect:
        """The thing's own box, as it lies on the page."""
        box = self.thing.box
        width, height = max(0.0, box.width + self.dw), max(0.0, box.height + self.dh)
        return Rect(box.x + self.dx, box.y + self.dy, width, height)

    @property
    def is_resized(self) -> bool:
        """Whether it takes another room than it should."""
        return max(abs(self.dw), abs(self.dh)) > PLACE


def px(value: float) -> str:
    """A length as styles say it, as finely as a browser tells it."""
    return csslength.px(value, 2)
