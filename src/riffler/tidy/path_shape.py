"""Segments -> fewer segments that draw the same within a tolerance.

Curves that are straight become lines, those that are round arcs, cubic ones that a quadratic one
tells become that; lines that go on become one.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from riffler.tidy.arcs import Arc, Point, centered
from riffler.tidy.numbers import Grid, joined
from riffler.tidy.path_data import Segment

#: Where along a curve it is held against an arc: between its ends, at its middle least.
_LOOKED_AT = (0.2, 0.35, 0.5, 0.65, 0.8)

#: A circle whose radius is more than so many times the chord is as good as straight, and ill told.
FLATTEST = 200.0

#: Arcs are put together up to here, in radians: a whole circle has no beginning and no end.
LONGEST_ARC = 1.99 * math.pi


@dataclass
class _Step:
    """A segment with where it begins, the arc that it is, and corners that were left out of it."""

    begin: Point
    segment: Segment
    arc: Arc | None = None
    corners: tuple[Point, ...] = ()


def simplified(segments: Iterable[Segment], tolerance: float, grid: Grid) -> list[Segment]:
    """The same outline, `tolerance` in its own units, for numbers on a grid."""
    steps: list[_Step] = []
    point = begin = (0.0, 0.0)
    for segment in segments:
        if segment.command == "Z":
            _close(steps, point, begin)
            point = begin
            continue
        if segment.command == "M":
            begin = segment.end
            _drop_move(steps)  # one that drew nothing
        elif _goes_nowhere(point, segment) and steps and steps[-1].segment.command not in "MZ":
            continue
        step = _plainest(_Step(point, segment), tolerance)
        one_step = _as_one(steps[-1], step, tolerance) if steps else None
        steps[-1 if one_step else len(steps) :] = [one_step or step]
        point = segment.end
    if len(steps) > 1:
        _drop_move(steps)
    return [_shorter(step, grid) for step in steps]


def _close(steps: list[_Step], point: Point, begin: Point) -> None:
    """Close a part; a line to where closing goes anyway is left out."""
    has_drawn = len(steps) > 2 and steps[-2].segment.command not in "MZ"
    if has_drawn and steps[-1].segment == Segment("L", begin):
        steps.pop()
    steps.append(_Step(point, Segment("Z", ())))


def _drop_move(steps: list[_Step]) -> None:
    if steps and steps[-1].segment.command == "M":
        steps.pop()


def _goes_nowhere(point: Point, segment: Segment) -> bool:
    """Whether nothing of a segment is away from its beginning."""
    numbers = segment.numbers if segment.command in "LCQ" else segment.end
    return all(pair == point for pair in zip(numbers[::2], numbers[1::2], strict=True))


def _plainest(step: _Step, tolerance: float) -> _Step:
    """A curve as the plainest segment that draws it, with the arc that it is."""
    point, (command, numbers) = step.begin, step.segment
    line = _Step(point, Segment("L", step.segment.end)) if command != "M" else step
    if command == "A":
        arc = centered(point, numbers)
        if arc is None:
            return line
        is_round = math.isclose(arc.rx, arc.ry, rel_tol=1e-9)
        return _Step(point, step.segment, arc if is_round else None)
    if command not in "CQ":
        return step
    points = (point, *zip(numbers[::2], numbers[1::2], strict=True))
    if _is_straight(points, tolerance):
        return line
    if command == "Q":
        return step
    if (arc := _round(points, tolerance)) is not None:
        return _Step(point, step.segment, arc)
    (x0, y0), (x1, y1), (x2, y2), (x3, y3) = points
    first = ((3 * x1 - x0) / 2, (3 * y1 - y0) / 2)
    second = ((3 * x2 - x3) / 2, (3 * y2 - y3) / 2)
    if math.dist(first, second) > tolerance:
        return step
    middle = ((first[0] + second[0]) / 2, (first[1] + second[1]) / 2)
    return _Step(point, Segment("Q", (*middle, x3, y3)))


def _is_straight(points: Sequence[Point], tolerance: float) -> bool:
    """Whether the handles lie on the chord, in order."""
    (x0, y0), (x3, y3) = points[0], points[-1]
    chord = math.hypot(x3 - x0, y3 - y0)
    if chord <= tolerance:
        return False
    along, across, last = (x3 - x0) / chord, (y3 - y0) / chord, 0.0
    for x, y in points[1:-1]:
        reach = (x - x0) * along + (y - y0) * across
        if abs((y - y0) * along - (x - x0) * across) > tolerance / 2:
            return False
        if not last - tolerance <= reach <= chord + tolerance:
            return False
        last = reach
    return True


def _round(points: Sequence[Point], tolerance: float) -> Arc | None:
    """The arc of a circle that a cubic curve is, up to half a turn; None when it is none."""
    (x0, y0), (x1, y1), (x2, y2), (x3, y3) = points
    ax, ay, bx, by = x1 - x0, y1 - y0, x3 - x2, y3 - y2
    lean = ax * by - ay * bx
    if not lean or math.hypot(ax, ay) < 1e-9 or math.hypot(bx, by) < 1e-9:
        return None
    # The centre is where the lines across both ends meet.
    share = ((x3 - x0) * bx + (y3 - y0) * by) / lean
    center = (x0 - ay * share, y0 + ax * share)
    radius = math.dist(center, (x0, y0))
    if radius > FLATTEST * math.hypot(x3 - x0, y3 - y0):
        return None
    looked_at = [*(_at(points, t) for t in _LOOKED_AT), (x3, y3)]
    if any(abs(math.dist(center, point) - radius) > tolerance for point in looked_at):
        return None
    begin = math.atan2(y0 - center[1], x0 - center[0])
    sweep = math.atan2(y3 - center[1], x3 - center[0]) - begin
    sweep += 2 * math.pi * ((lean > 0 and sweep < 0) - (lean < 0 and sweep > 0))
    arc = Arc(center, radius, radius, 0.0, begin, sweep)
    is_there = math.dist(arc.at(0.5), _at(points, 0.5)) <= 2 * tolerance
    return arc if is_there and abs(sweep) < math.pi * 1.01 else None


def _at(points: Sequence[Point], t: float) -> Point:
    (x0, y0), (x1, y1), (x2, y2), (x3, y3) = points
    a, b, c, d = (1 - t) ** 3, 3 * (1 - t) ** 2 * t, 3 * (1 - t) * t * t, t**3
    return a * x0 + b * x1 + c * x2 + d * x3, a * y0 + b * y1 + c * y2 + d * y3


def _as_one(last: _Step, step: _Step, tolerance: float) -> _Step | None:
    """Two segments that follow one another as one; None when they are two."""
    if last.segment.command == step.segment.command == "L":
        return _one_line(last, step, tolerance)
    if last.arc is None or step.arc is None:
        return None
    sweep = last.arc.sweep + step.arc.sweep
    is_same = (
        math.dist(step.arc.center, last.arc.center) <= 2 * tolerance
        and abs(step.arc.rx - last.arc.rx) <= 2 * tolerance
        and (step.arc.sweep > 0) == (last.arc.sweep > 0)
        and abs(sweep) <= LONGEST_ARC
    )
    if not is_same:
        return None
    whole = last.arc._replace(sweep=sweep)
    segment = as_arc(whole, step.segment.end)
    drawn = centered(last.begin, segment.numbers)
    if drawn is None or math.dist(drawn.center, whole.center) > 2 * tolerance:
        return None
    return _Step(last.begin, segment, whole)


def as_arc(arc: Arc, end: Point) -> Segment:
    """A round arc as a segment to its end."""
    is_large, is_sweep = float(abs(arc.sweep) > math.pi), float(arc.sweep > 0)
    return Segment("A", (arc.rx, arc.rx, 0.0, is_large, is_sweep, *end))


def _one_line(last: _Step, step: _Step, tolerance: float) -> _Step | None:
    """Two lines as one, when none of the corners on the way is one, and none turns back."""
    begin, end = last.begin, step.segment.end
    length = math.dist(begin, end)
    corners = (*last.corners, last.segment.end)
    if length <= tolerance:
        return None
    along, across, reached = (end[0] - begin[0]) / length, (end[1] - begin[1]) / length, 0.0
    for x, y in corners:
        reach = (x - begin[0]) * along + (y - begin[1]) * across
        away = abs((y - begin[1]) * along - (x - begin[0]) * across)
        if away > tolerance / 4 or not reached < reach < length:
            return None
        reached = reach
    return _Step(begin, step.segment, corners=corners)


def _shorter(step: _Step, grid: Grid) -> Segment:
    """A round curve as the arc that it is, where that takes fewer characters."""
    if step.arc is None or step.segment.command != "C":
        return step.segment
    arc = as_arc(step.arc, step.segment.end)
    (x, y), ends = step.begin, step.segment.end
    end = [grid.text(ends[0] - x), grid.text(ends[1] - y)]
    curve = [grid.text(v - (y if i % 2 else x)) for i, v in enumerate(step.segment.numbers)]
    radius = grid.text(step.arc.rx)
    is_shorter = len(joined([radius, radius, "0"])) + 3 + len(joined(end)) < len(joined(curve))
    return arc if is_shorter else step.segment
