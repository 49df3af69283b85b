"""An area of a page: a box with what is in it, in CSS pixels, ready to become an element."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field, replace
from enum import StrEnum

from riffler.analyse.style import Style
from riffler.geometry import Rect
from riffler.markup.setting import Setting
from riffler.reading.part import PartKind


class Shape(StrEnum):
    """How what is in an area stands: under or beside or on one another; or what it is alone."""

    STACK = "stack"
    ROW = "row"
    PILE = "pile"
    LIST = "list"
    """Areas made alike."""
    WORDS = "words"
    PICTURE = "picture"
    LINES = "lines"
    """Some beside one another, and all others under these, one by one."""
    BOX = "box"
    """Nothing but its ground."""


@dataclass(frozen=True)
class Piece:
    """The slice that shows something: its name, where its picture lies, in CSS pixels.

    `is_styled` says that only a class shows it, `is_drawn` that it is vectors; `alt` is None where
    nobody said it. `room` is how much of its place is free above, on the right, below and on the
    left. One that `has_canvas` stands in the middle of its place, which may be larger; one that
    `is_fine` has more pixels than it is shown in. One `on_square` is as large as what it was drawn
    on.
    """

    name: str
    paint: Rect
    alt: str | None = None
    is_styled: bool = False
    fills_its_frame: bool = False
    is_drawn: bool = False
    room: tuple[float, float, float, float] = (0.0, 0.0, 0.0, 0.0)
    has_canvas: bool = False
    is_fine: bool = False
    on_square: bool = False


@dataclass(frozen=True)
class Area:
    """A box of the page, in CSS pixels, and what is in it.

    `ground` is what CSS draws of it, `piece` what a slice does. `layers` are addresses. `link` is
    where it leads, as a cutlist says it; `states` are grounds by state. A list has its members as
    `parts` and lies in `columns`, the next `pitch` to the right, `is_centred` when their words are;
    a pile has what lies lowest first. What `is_pinned` sits in a corner, out of the flow; what
    `is_upon` lies on what follows, which begins where it does. `tint` is the colour with which a
    picture ends below, or that is behind what lies upon it, `track` how high the room is in whose
    middle it stands, as those beside it do. `mark` is the line that an entry of a menu has on its
    own page.
    """

    shape: Shape
    box: Rect
    kind: PartKind = PartKind.BOX
    layers: tuple[str, ...] = ()
    parts: tuple[Area, ...] = ()
    ground: Style | None = None
    setting: Setting | None = None
    piece: Piece | None = None
    link: str | None = None
    states: Mapping[str, Style] = field(default_factory=dict)
    columns: int = 1
    pitch: float = 0.0
    is_centred: bool = False
    is_pinned: bool = False
    is_upon: bool = False
    tint: str = ""
    track: float = 0.0
    mark: Area | None = None

    @property
    def is_frame(self) -> bool:
        """Whether it is nothing but an order of what is in it."""
        return self.ground is None and self.piece is None and not self.layers

    def walk(self) -> Iterator[Area]:
        """The area and all in it, in the order of reading."""
        yield self
        for part in self.parts:
            yield from part.walk()

    def words(self) -> Iterator[Setting]:
        """All text in it, in the order of reading."""
        for area in self.walk():
            if area.setting is not None:
                yield area.setting

    def holding(self, *parts: Area) -> Area:
        """The area with other parts."""
        return replace(self, parts=parts)
