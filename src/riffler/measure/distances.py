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


def between(one: Rect, other: Rect, density: float = 1.0) -> Between:
    """All that two boxes have to do with each other, in their pixels.

    Edges are compared with those of their kind and with the opposite ones, which touch; middles
    with middles.
    """
    shared = _overlap(one, other)
    inner = (other, one) if holds(one, other) else (one, other) if holds(other, one) else None
    mine, yours = _places(one), _places(other)
    meetings = [
        Meeting(a, b, yours[b] - mine[a])
        for lines in (ACROSS, DOWN)
        for a, b in product(lines, lines)
        if (a == lines[1]) == (b == lines[1])
    ]
    near = [one for one in meetings if abs(one.off) <= MISSED * density]
    return Between(
        Apart(_gap(one.x, one.right, other.x, other.right), yours["center"] - mine["center"]),
        Apart(_gap(one.y, one.bottom, other.y, other.bottom), yours["middle"] - mine["middle"]),
        shared,
        insets(*inner) if inner else None,
        tuple(one for one in near if abs(one.off) <= EXACT * density),
        tuple(one for one in near if abs(one.off) > EXACT * density),
    )


def neighbours(box: Rect, others: Sequence[Rect]) -> dict[Side, tuple[int, float]]:
    """The nearest box on each side that has one, by its index, and the gap to it.

    A neighbour lies beyond an edge and reaches along it; what overlaps by less than half a pixel is
    one too, and what lies in the box or around it is none.
    """
    found: dict[Side, tuple[int, float]] = {}
    for index, other in enumerate(others):
        beside = _gap(box.y, box.bottom, other.y, other.bottom) < 0
        stacked = _gap(box.x, box.right, other.x, other.right) < 0
        gaps: dict[Side, float] = {}
        if beside:
            gaps |= {"left": box.x - other.right, "right": other.x - box.right}
        if stacked:
            gaps |= {"above": box.y - other.bottom, "below": other.y - box.bottom}
        for side, gap in gaps.items():
            if gap > -0.5 and (side not in found or gap < found[side][1]):
                found[side] = (index, gap)
    return found


def _places(box: Rect) -> dict[Line, float]:
    return {
        "left": box.x,
        "center": box.x + box.width / 2,
        "right": box.right,
        "top": box.y,
        "middle": box.y + box.height / 2,
        "bottom": box.bottom,
    }


def _gap(start: float, end: float, other_start: float, other_end: float) -> float:
    """Between two spans; negative by what they share."""
    return max(start, other_start) - min(end, other_end)


def holds(outer: Rect, inner: Rect) -> bool:
    """Whether no part of the inner box lies outside."""
    found = insets(inner, outer)
    return min(found.left, found.top, found.right, found.bottom) >= 0


def _overlap(one: Rect, other: Rect) -> Rect | None:
    left, top = max(one.x, other.x), max(one.y, other.y)
    right, bottom = min(one.right, other.right), min(one.bottom, other.bottom)
    return Rect(left, top, right - left, bottom - top) if right > left and bottom > top else None
