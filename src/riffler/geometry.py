"""Boxes and sizes in mockup pixels: x grows to the right, y downwards."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import Literal, TypeAlias

Scale: TypeAlias = float
"""Output pixels per mockup pixel: 0.5 draws a mockup of density 2 at one times its CSS size."""


#: Where what is infinite ends, in pixels; whole numbers are exact up to there.
FARTHEST = 1e15

#: The edges of a box.
EdgeName = Literal["left", "right", "top", "bottom"]


@dataclass(frozen=True)
class Size:
    """Whole pixels."""

    width: int
    height: int

    def scaled(self, scale: Scale) -> Size:
        """The size drawn at `scale`, to the nearest whole pixel and never empty."""
        return Size(*(max(1, math.floor(side * scale + 0.5)) for side in (self.width, self.height)))


@dataclass(frozen=True)
class Box:
    """Whole mockup pixels, half-open: `right` and `bottom` lie outside."""

    x: int
    y: int
    width: int
    height: int

    @classmethod
    def from_edges(cls, left: int, top: int, right: int, bottom: int) -> Box:
        """The box between four edges; empty, never negative, when they cross."""
        return cls(int(left), int(top), max(0, int(right - left)), max(0, int(bottom - top)))

    def on_page(self, density: float) -> CssSize:
        """How large it is on a page, at so many mockup pixels per CSS pixel."""
        return CssSize(self.width / density, self.height / density)

    @classmethod
    def of_size(cls, size: Size) -> Box:
        """The box of a canvas: its corner at (0, 0)."""
        return cls(0, 0, size.width, size.height)

    @property
    def right(self) -> int:
        """The first column beyond the box."""
        return self.x + self.width

    @property
    def bottom(self) -> int:
        """The first row below the box."""
        return self.y + self.height

    @property
    def size(self) -> Size:
        """Width and height."""
        return Size(self.width, self.height)

    @property
    def area(self) -> int:
        """Pixels in the box."""
        return self.width * self.height

    def __bool__(self) -> bool:
        return self.width > 0 and self.height > 0

    def __and__(self, other_box: Box) -> Box:
        return Box.from_edges(
            max(self.x, other_box.x),
            max(self.y, other_box.y),
            min(self.right, other_box.right),
            min(self.bottom, other_box.bottom),
        )

    def __or__(self, other_box: Box) -> Box:
        if not self or not other_box:
            return self or other_box
        return Box.from_edges(
            min(self.x, other_box.x),
            min(self.y, other_box.y),
            max(self.right, other_box.right),
            max(self.bottom, other_box.bottom),
        )

    def meets(self, other_box: Box) -> bool:
        """Whether they have a pixel in common; asked of many boxes, so nothing is made for it."""
        return (
            self.x < other_box.x + other_box.width
            and other_box.x < self.x + self.width
            and self.y < other_box.y + other_box.height
            and other_box.y < self.y + self.height
            and bool(self)
            and bool(other_box)
        )

    def contains(self, other_box: Box) -> bool:
        """Whether no pixel of `other_box` lies outside."""
        return (
            self.x <= other_box.x
            and self.y <= other_box.y
            and other_box.right <= self.right
            and other_box.bottom <= self.bottom
        )

    def share_in(self, other_box: Box) -> float:
        """The part of its area that lies in the other, 0..1."""
        common = self & other_box
        return common.area / self.area if self and common else 0.0

    def grown(self, by: int) -> Box:
        """The box with `by` more pixels on every side (fewer when negative)."""
        return Box.from_edges(self.x - by, self.y - by, self.right + by, self.bottom + by)

    def aligned(self, step: int) -> Box:
        """The smallest box around this one whose edges are multiples of `step`."""
        return Box.from_edges(
            self.x // step * step,
            self.y // step * step,
            -(-self.right // step) * step,
            -(-self.bottom // step) * step,
        )

    def moved(self, x: int, y: int) -> Box:
        """The same size, `x` further right and `y` further down."""
        return Box(self.x + x, self.y + y, self.width, self.height)

    def edge(self, side: EdgeName) -> Box:
        """The row or column of pixels along one edge."""
        match side:
            case "left":
                return Box(self.x, self.y, 1, self.height)
            case "right":
                return Box(self.right - 1, self.y, 1, self.height)
            case "top":
                return Box(self.x, self.y, self.width, 1)
            case "bottom":
                return Box(self.x, self.bottom - 1, self.width, 1)

    def within(self, outer: Box) -> tuple[slice, slice]:
        """Rows and columns of this box in an array that holds `outer`."""
        return (
            slice(self.y - outer.y, self.bottom - outer.y),
            slice(self.x - outer.x, self.right - outer.x),
        )

    def beside(self, inner: Box) -> Iterator[Box]:
        """What of the box lies to the left and to the right of one inside it, as high as that."""
        for left, right in ((self.x, inner.x), (inner.right, self.right)):
            if left < right:
                yield Box.from_edges(left, inner.y, right, inner.bottom)

    def strips(self, depth: int) -> dict[str, Box]:
        """Strips inside it along its edges, under the name of the edge."""
        return {
            "x": Box(self.x, self.y, depth, self.height),
            "y": Box(self.x, self.y, self.width, depth),
            "right": Box(self.right - depth, self.y, depth, self.height),
            "bottom": Box(self.x, self.bottom - depth, self.width, depth),
        }

    def bands(self, height: int) -> Iterator[Box]:
        """The box cut into full-width strips of at most `height` rows, from the top."""
        for top in range(self.y, self.bottom, height):
            yield Box(self.x, top, self.width, min(height, self.bottom - top))


def union(boxes: Iterable[Box]) -> Box:
    """The smallest box that holds them all; empty when there are none."""
    whole = Box(0, 0, 0, 0)
    for box in boxes:
        whole = whole | box
    return whole


@dataclass(frozen=True)
class Point:
    """A place, with fractions."""

    x: float
    y: float


@dataclass(frozen=True)
class CssSize:
    """CSS pixels, with fractions."""

    width: float
    height: float


@dataclass(frozen=True)
class Coordinates:
    """Those that a vector is drawn in: where they begin, and their unit, in mockup pixels.

    `turn` is the angle between their first axis and that of the mockup, clockwise, in radians.
    """

    x: float
    y: float
    unit: float
    turn: float = 0.0

    def at(self, x: float, y: float) -> tuple[float, float]:
        """Where a point in them is, in mockup pixels."""
        cosine, sine = self.unit * math.cos(self.turn), self.unit * math.sin(self.turn)
        return self.x + cosine * x - sine * y, self.y + sine * x + cosine * y


@dataclass(frozen=True)
class Rect:
    """Mockup pixels with fractions, for vectors."""

    x: float
    y: float
    width: float
    height: float

    @classmethod
    def of(cls, box: Box) -> Rect:
        """A whole box."""
        return cls(box.x, box.y, box.width, box.height)

    @classmethod
    def around(cls, boxes: Iterable[Rect]) -> Rect | None:
        """The smallest box that holds them all; None when there are none."""
        rects = list(boxes)
        if not rects:
            return None
        left, top = min(box.x for box in rects), min(box.y for box in rects)
        right, bottom = max(box.right for box in rects), max(box.bottom for box in rects)
        return cls(left, top, right - left, bottom - top)

    @property
    def right(self) -> float:
        """Where it ends across."""
        return self.x + self.width

    @property
    def bottom(self) -> float:
        """Where it ends down."""
        return self.y + self.height

    def meets(self, other_rect: Rect) -> bool:
        """Whether the two share some place."""
        return (
            self.x < other_rect.right
            and other_rect.x < self.right
            and self.y < other_rect.bottom
            and other_rect.y < self.bottom
        )

    @property
    def area(self) -> float:
        """Width times height."""
        return self.width * self.height

    def __and__(self, other_rect: Rect) -> Rect | None:
        """What both share; None where that is nothing."""
        left, top = max(self.x, other_rect.x), max(self.y, other_rect.y)
        right, bottom = min(self.right, other_rect.right), min(self.bottom, other_rect.bottom)
        is_shared = right > left and bottom > top
        return Rect(left, top, right - left, bottom - top) if is_shared else None

    def contains(self, other_rect: Rect, slack: float = 0.0) -> bool:
        """Whether no part of the other stands out, by more than `slack` on any side."""
        return (
            self.x <= other_rect.x + slack
            and self.y <= other_rect.y + slack
            and other_rect.right <= self.right + slack
            and other_rect.bottom <= self.bottom + slack
        )

    def share_in(self, other_rect: Rect) -> float:
        """The part of its area that lies in the other, 0..1."""
        common = self & other_rect
        return common.area / self.area if common and self.area else 0.0

    def likeness(self, other_rect: Rect) -> float:
        """What both share of all that they cover, 0..1: Jaccard 1901."""
        common = self & other_rect
        if common is None:
            return 0.0
        return common.area / (self.area + other_rect.area - common.area)

    def moved(self, x: float, y: float) -> Rect:
        """The same size, `x` further right and `y` further down."""
        return Rect(self.x + x, self.y + y, self.width, self.height)

    def scaled(self, by: float) -> Rect:
        """The same in other units: every side times `by`."""
        return Rect(self.x * by, self.y * by, self.width * by, self.height * by)

    def outward(self) -> Box:
        """The smallest whole box that holds the rectangle; a hair's breadth of 1e-6 is forgiven.

        What is infinite ends at `FARTHEST`; what has edges that are no numbers is empty.
        """
        x, y, right, bottom = self.x, self.y, self.right, self.bottom
        try:
            return Box.from_edges(
                math.floor(x + 1e-6),
                math.floor(y + 1e-6),
                math.ceil(right - 1e-6),
                math.ceil(bottom - 1e-6),
            )
        except (OverflowError, ValueError):
            ends = (x, y, right, bottom)
            if any(map(math.isnan, ends)):
                return Box(0, 0, 0, 0)
            return Box.from_edges(*(round(min(max(end, -FARTHEST), FARTHEST)) for end in ends))
