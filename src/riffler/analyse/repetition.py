"""Boxes -> which of them repeat: equal boxes at equal steps, in a row, a column, or both."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from riffler.geometry import Box

#: The part of a list's steps that are its usual one; the others are gaps between its parts.
USUAL = 2 / 3

#: How far boxes alike may be off their places, in CSS pixels.
TOLERANCE = 1


@dataclass(frozen=True)
class Lattice:
    """Equal boxes at equal steps. `members` are indexes, row by row; `step` is right and down.

    Where the steps are not all equal, `step` is the usual one, or 0, and `places` say how far right
    and down of the first each one lies.
    """

    members: tuple[int, ...]
    columns: int
    step: tuple[int, int]
    places: tuple[tuple[int, int], ...] = ()


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


def scattered(boxes: Sequence[Box], tolerance: int) -> Lattice:
    """The lattice that all lie on, or else where each of them lies, from the top."""
    order = [index for row in _rows(boxes, tolerance) for index in row]
    return lattice(boxes, tolerance) or _listed(boxes, order, (0, 0))


def _listed(boxes: Sequence[Box], order: Sequence[int], step: tuple[int, int]) -> Lattice:
    first = boxes[order[0]]
    places = tuple((boxes[index].x - first.x, boxes[index].y - first.y) for index in order)
    return Lattice(tuple(order), len(order), step, places)


def lattices(boxes: Sequence[Box], tolerance: int) -> list[Lattice]:
    """The one lattice that all lie on, or else the longest runs of three and more at equal steps.

    Runs go down or across; a list with a gap in it is two of them.
    """
    whole = lattice(boxes, tolerance)
    if whole is not None:
        return [whole]
    found_lattices: list[Lattice] = []
    left = list(range(len(boxes)))
    for is_down in (True, False):
        for line in _lines(boxes, left, tolerance, is_down=is_down):
            for run in _runs(boxes, line, tolerance):
                part = lattice([boxes[index] for index in run], tolerance)
                if part is not None:
                    members = tuple(run[member] for member in part.members)
                    found_lattices.append(Lattice(members, part.columns, part.step))
                    left = [index for index in left if index not in run]
    return found_lattices


def in_parts(boxes: Sequence[Box], tolerance: int) -> Lattice | None:
    """All the boxes, where they stand in a line at one step with wider gaps in it; else None."""
    for is_down in (True, False):
        line, *others = _lines(boxes, range(len(boxes)), tolerance, is_down=is_down)
        steps = [_far(boxes[a], boxes[b]) for a, b in pairwise(line)]
        usual = sum(step <= min(steps) + 2 * tolerance for step in steps)
        is_line = not others and min(steps) > 2 * tolerance
        if is_line and USUAL * len(steps) <= usual < len(steps):
            return _listed(boxes, line, (0, min(steps)) if is_down else (min(steps), 0))
    return None


def evened(boxes: Sequence[Box], cores: Sequence[Box | None], tolerance: int) -> list[Box] | None:
    """Boxes of one size on a lattice, for things whose paint does not begin at the same place.

    Signs of several shapes, columns of several heights, lines set from the middle: the things are
    in line by another edge than the left top one, or by their `cores`, such as the text in them.
    None where the boxes themselves are on a lattice, or nothing is.
    """
    if lattice(boxes, tolerance) is not None:
        return None
    alike = max(box.height for box in boxes) - min(box.height for box in boxes) <= 2 * tolerance
    whole = list(boxes) if alike else []
    parts = [core for core in cores if core is not None]
    for members in (whole, parts if len(parts) == len(boxes) else [], list(boxes)):
        for across in (0.0, 0.5, 1.0):
            for down in (0.0, 1.0):
                if members and (found_boxes := _evened(members, across, down, tolerance)):
                    return found_boxes
    return None


def _evened(boxes: Sequence[Box], across: float, down: float, tolerance: int) -> list[Box] | None:
    """The boxes as large as all of them, if a place of theirs is on a lattice; else None."""
    places = [
        (round(box.x + across * box.width), round(box.y + down * box.height)) for box in boxes
    ]
    if lattice([Box(x, y, 1, 1) for x, y in places], tolerance) is None:
        return None
    pairs = list(zip(boxes, places, strict=True))
    left, top = min(box.x - x for box, (x, _) in pairs), min(box.y - y for box, (_, y) in pairs)
    right = max(box.right - x for box, (x, _) in pairs)
    bottom = max(box.bottom - y for box, (_, y) in pairs)
    found_boxes = [Box(x + left, y + top, right - left, bottom - top) for x, y in places]
    return None if any(a.meets(b) for a, b in pairwise(found_boxes)) else found_boxes


def _lines(
    boxes: Sequence[Box], indexes: Sequence[int], tolerance: int, *, is_down: bool
) -> list[list[int]]:
    """Boxes that begin on one line down, or across, each in order."""
    lines: list[list[int]] = []
    for index in sorted(indexes, key=lambda at: _place(boxes[at], is_down=is_down)):
        start = _place(boxes[index], is_down=is_down)[0]
        if lines and abs(start - _place(boxes[lines[-1][0]], is_down=is_down)[0]) <= tolerance:
            lines[-1].append(index)
        else:
            lines.append([index])
    return [sorted(line, key=lambda at: _place(boxes[at], is_down=is_down)[1]) for line in lines]


def _place(box: Box, *, is_down: bool) -> tuple[int, int]:
    return (box.x, box.y) if is_down else (box.y, box.x)


def _runs(boxes: Sequence[Box], line: Sequence[int], tolerance: int) -> list[list[int]]:
    """The parts of a line, of three and more, from each to the next of which it is as far."""
    runs: list[list[int]] = []
    for index in line:
        run = runs[-1] if runs else []
        steps = [_far(boxes[a], boxes[b]) for a, b in pairwise([*run[-2:], index])]
        if run and max(steps) - min(steps) <= 2 * tolerance:
            run.append(index)
        elif len(run) == 2:
            runs[-1:] = [[run[1], index]]
        else:
            runs.append([index])
    return [run for run in runs if len(run) > 2]


def _far(box: Box, other_box: Box) -> int:
    return abs(other_box.x - box.x) + abs(other_box.y - box.y)


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
