"""Boxes -> which of them repeat: equal boxes at equal steps, in a row, a column, or both."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from riffler.geometry import Box


@dataclass(frozen=True)
class Lattice:
    """Equal boxes at equal steps. `members` are indexes, row by row; `step` is right and down."""

    members: tuple[int, ...]
    columns: int
    step: tuple[int, int]


def lattice(boxes: Sequence[Box], tolerance: int) -> Lattice | None:
    """The lattice that all the boxes lie on, their left top corners counted; None without one.

    Only the last row may be shorter. Corners may be `tolerance` pixels off.
    """
    if len(boxes) < 2:
        return None
    rows = _rows(boxes, tolerance)
    columns = len(rows[0])
    if any(len(row) != columns for row in rows[:-1]) or len(rows[-1]) > columns:
        return None
    across = _step([boxes[index].x for index in rows[0]])
    down = _step([boxes[row[0]].y for row in rows])
    first = boxes[rows[0][0]]
    for at, row in enumerate(rows):
        for place, index in enumerate(row):
            off = boxes[index].moved(-first.x - place * across, -first.y - at * down)
            if max(abs(off.x), abs(off.y)) > tolerance:
                return None
    return Lattice(tuple(index for row in rows for index in row), columns, (across, down))


def _rows(boxes: Sequence[Box], tolerance: int) -> list[list[int]]:
    """The boxes, as indexes, in rows from the top, each from the left."""
    rows: list[list[int]] = []
    for index in sorted(range(len(boxes)), key=lambda at: (boxes[at].y, boxes[at].x)):
        if rows and abs(boxes[index].y - boxes[rows[-1][0]].y) <= tolerance:
            rows[-1].append(index)
        else:
            rows.append([index])
    return [sorted(row, key=lambda at: boxes[at].x) for row in rows]


def _step(starts: Sequence[int]) -> int:
    """The mean distance from each start to the next; 0 for a single one."""
    return round((starts[-1] - starts[0]) / (len(starts) - 1)) if len(starts) > 1 else 0
