"""Boxes -> how far they are from each other, and which of their edges stand on one line."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import product
from typing import Literal, TypeAlias

from riffler.geometry import Rect

Side: TypeAlias = Literal["left", "right", "above", "below"]
Line: TypeAlias = Literal["left", "center", "right", "top", "middle", "bottom"]

ACROSS: tuple[Line, ...] = ("left", "center", "right")
DOWN: tuple[Line, ...] = ("top", "middle", "bottom")

#: Edges so near, in CSS pixels, are on one line; up to `MISSED` they were meant to be.
EXACT, MISSED = 0.1, 2.0

#: Pixels by which boxes of one drawing touch or miss by how they were rounded alone.
ROUNDING = 0.5


@dataclass(frozen=True)
class Insets:
    """How far the sides of a box are inside another's; negative where they stand out."""

    left: float
    top: float
    right: float
    bottom: float


@dataclass(frozen=True)
class Apart:
    """Two boxes along one axis: between their edges, and between their middles.

    `gap` is negative by how much they overlap; `center` is from the first to the second, to the
    right or down.
    """

    gap: float
    center: float


@dataclass(frozen=True)
class Meeting:
    """A line of one box and one of another that stand `off` pixels apart, the second further."""

    line: Line
    other: Line
    off: float


@dataclass(frozen=True)
class Between:
    """Two boxes: how far apart, what they share, and the lines that agree, or miss by a little.

    `inside` is there when the second lies in the first, or the other way round: its insets.
    """

    across: Apart
    down: Apart
    overlap: Rect | None
    inside: Insets | None
    aligned: tuple[Meeting, ...]
    missed: tuple[Meeting, ...]


def insets(inner: Rect, outer: Rect) -> Insets:
    """How far one box lies inside another."""
    return Insets(
        inner.x - outer.x, inner.y - outer.y, outer.right - inner.right, outer.bottom - inner.bottom
    )


def between(first: Rect, second: Rect, density: float = 1.0) -> Between:
    """All that two boxes have to do with each other, in their pixels.

    Edges are compared with those of their kind and with the opposite ones, which touch; middles
    with middles.
    """
    shared = first & second
    inner = (
        (second, first)
        if first.contains(second)
        else (first, second)
        if second.contains(first)
        else None
    )
    mine, yours = _places(first), _places(second)
    meetings = [
        Meeting(a, b, yours[b] - mine[a])
        for lines in (ACROSS, DOWN)
        for a, b in product(lines, lines)
        if (a == lines[1]) == (b == lines[1])
    ]
    near = [meeting for meeting in meetings if abs(meeting.off) <= MISSED * density]
    return Between(
        Apart(_gap(first.x, first.right, second.x, second.right), yours["center"] - mine["center"]),
        Apart(
            _gap(first.y, first.bottom, second.y, second.bottom), yours["middle"] - mine["middle"]
        ),
        shared,
        insets(*inner) if inner else None,
        tuple(meeting for meeting in near if abs(meeting.off) <= EXACT * density),
        tuple(meeting for meeting in near if abs(meeting.off) > EXACT * density),
    )


def neighbours(box: Rect, other_rects: Sequence[Rect]) -> dict[Side, tuple[int, float]]:
    """The nearest box on each side that has one, by its index, and the gap to it.

    A neighbour lies beyond an edge and reaches along it. Less than half a pixel is rounding: what
    overlaps by that is a neighbour too, what reaches along by that, at a corner, is none. Nor is
    what lies in the box or around it.
    """
    result: dict[Side, tuple[int, float]] = {}
    for index, other_rect in enumerate(other_rects):
        beside = _reaches_along(box.y, box.bottom, other_rect.y, other_rect.bottom)
        stacked = _reaches_along(box.x, box.right, other_rect.x, other_rect.right)
        gaps: dict[Side, float] = {}
        if beside:
            gaps |= {"left": box.x - other_rect.right, "right": other_rect.x - box.right}
        if stacked:
            gaps |= {"above": box.y - other_rect.bottom, "below": other_rect.y - box.bottom}
        for side, gap in gaps.items():
            if gap > -ROUNDING and (side not in result or gap < result[side][1]):
                result[side] = (index, gap)
    return result


def _places(box: Rect) -> dict[Line, float]:
    return {
        "left": box.x,
        "center": box.x + box.width / 2,
        "right": box.right,
        "top": box.y,
        "middle": box.y + box.height / 2,
        "bottom": box.bottom,
    }


def _reaches_along(start: float, end: float, other_start: float, other_end: float) -> bool:
    """Whether two spans share more than rounding; of what is thinner than that, more than half."""
    least = min(ROUNDING, (end - start) / 2, (other_end - other_start) / 2)
    return _gap(start, end, other_start, other_end) < -least


def _gap(start: float, end: float, other_start: float, other_end: float) -> float:
    """Between two spans; negative by what they share."""
    return max(start, other_start) - min(end, other_end)
