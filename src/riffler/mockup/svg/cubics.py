"""The outline of a shape as cubic curves, and how far it and its stroke reach.

All in NumPy: a curve is four points, `(n, 4, 2)`; SVG 2, sections 9 and 13.5.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from fontTools.misc.transform import Transform
from fontTools.pens.recordingPen import RecordingPen
from fontTools.svgLib.path import parse_path
from numpy.typing import NDArray

from riffler.mockup.svg.lengths import BEYOND
from riffler.mockup.svg.shapes import DAMAGED

Points = NDArray[np.float64]
"""(n, 2)"""

Point = tuple[float, float]

#: Where a curve is looked at to find how far its stroke reaches: 0 to 1 with both ends.
_AT = np.linspace(0, 1, 17)


def _weights(at: NDArray[np.float64]) -> Points:
    """How much of each of the four points of a curve lies at places along it."""
    return np.stack([(1 - at) ** 3, 3 * (1 - at) ** 2 * at, 3 * (1 - at) * at**2, at**3], axis=1)


_WEIGHTS = _weights(_AT)

#: Where a curve becomes corners of a polygon; its end is the next one's beginning.
_FINE = _weights(np.linspace(0, 1, 33))

_SLOPES = np.stack([(1 - _AT) ** 2, 2 * (1 - _AT) * _AT, _AT**2], axis=1)


@dataclass(frozen=True)
class Stroke:
    """How a line is drawn around an outline, in its own coordinates."""

    width: float
    join: str = "miter"
    cap: str = "butt"
    miter: float = 4.0


@dataclass(frozen=True)
class Subpath:
    """Curves that follow one another, `(n, 4, 2)`."""

    curves: Points
    is_closed: bool


def parse(d: str) -> list[Subpath]:
    """The curves of path data. Raises ValueError when it is damaged: part of it may be drawn."""
    pen = RecordingPen()
    try:
        parse_path(d, pen)
    except DAMAGED as error:
        raise ValueError(d[:40]) from error
    subpaths, curves = [], list[tuple[Point, Point, Point, Point]]()
    begin = point = (0.0, 0.0)
    for command, points in pen.value:
        match command:
            case "moveTo" | "endPath":
                subpaths += _subpath(curves, is_closed=False)
                curves, begin = [], points[0] if points else begin
                point = begin
                continue
            case "lineTo":
                curves.append((point, _between(point, points[0]), points[0], points[0]))
            case "curveTo":
                curves.append((point, *points))
            case "qCurveTo":
                control, end = points
                curves.append((point, _between(point, control), _between(end, control), end))
            case "closePath":
                if point != begin:
                    curves.append((point, _between(point, begin), begin, begin))
                subpaths += _subpath(curves, is_closed=True)
                curves, point = [], begin
                continue
        point = points[-1]
    return subpaths + _subpath(curves, is_closed=False)


def _between(start: Point, end: Point) -> Point:
    """The point two thirds of the way: there lies the handle that a quadratic curve has."""
    return (start[0] + 2 * end[0]) / 3, (start[1] + 2 * end[1]) / 3


def _subpath(curves: list[tuple[Point, Point, Point, Point]], *, is_closed: bool) -> list[Subpath]:
    """The curves that go anywhere as a part of an outline; none when there are none.

    Raises ValueError for curves that lead beyond all numbers.
    """
    array = np.array(curves, float).reshape(-1, 4, 2)
    if not (np.abs(array) < BEYOND).all():
        raise ValueError
    moves = np.abs(array - array[:, :1]).max(axis=(1, 2), initial=0) > 0
    return [Subpath(array[moves], is_closed)] if moves.any() else []


def reach(outline: list[Subpath], matrix: Transform, stroke: Stroke | None) -> Points | None:
    """The furthest points, left and top, right and bottom, `(2, 2)`; None when there is none.

    `matrix` takes the outline's coordinates to those that are measured; a stroke is drawn before.
    """
    turn, shift = _linear(matrix)
    parts = [_extremes(part.curves @ turn + shift) for part in outline]
    if stroke is not None and stroke.width > 0:
        half = stroke.width / 2
        radius = half * np.hypot(
            turn[0], turn[1]
        )  # a circle becomes an ellipse that reaches so far
        for part in outline:
            parts.append(_stroked(part, stroke) @ turn + shift)
            if stroke.join == "round" or stroke.cap == "round":
                knots = _knots(part, stroke) @ turn + shift
                parts += [knots - radius, knots + radius]
    points = np.concatenate(parts) if parts else np.empty((0, 2))
    if not len(points):
        return None
    return np.stack([points.min(axis=0), points.max(axis=0)])


def reach_within(
    outline: list[Subpath], matrix: Transform, hole: tuple[float, float, float, float]
) -> Points | None:
    """As `reach`, of the part of a fill that lies in an upright hole: left, top, right, bottom.

    Each edge of the hole cuts off what is beyond it: Sutherland and Hodgman, 1974.
    """
    left, top, right, bottom = hole
    parts = []
    for points in flattened(outline, matrix):
        for axis, limit, sign in ((0, left, 1), (1, top, 1), (0, right, -1), (1, bottom, -1)):
            points = _cut_off(points, axis, limit, sign)
        parts.append(points)
    kept = np.concatenate(parts) if parts else np.empty((0, 2))
    return np.stack([kept.min(axis=0), kept.max(axis=0)]) if len(kept) else None


def _cut_off(points: Points, axis: int, limit: float, sign: int) -> Points:
    """A polygon without what lies beyond a line across an axis."""
    after = np.roll(points, -1, axis=0)
    here, there = (sign * (ends[:, axis] - limit) for ends in (points, after))
    with np.errstate(all="ignore"):
        share = here / (here - there)
        meets = points + share[:, None] * (after - points)
    pairs = np.stack([points, meets], axis=1).reshape(-1, 2)
    kept: Points = pairs[np.stack([here >= 0, (here >= 0) != (there >= 0)], axis=1).reshape(-1)]
    return kept


def flattened(outline: list[Subpath], matrix: Transform) -> list[Points]:
    """Every part as the corners of a polygon, `(n, 2)`."""
    turn, shift = _linear(matrix)
    return [
        np.einsum("ti,nik->ntk", _FINE, part.curves).reshape(-1, 2) @ turn + shift
        for part in outline
    ]


def centers_inside(outline: list[Subpath], matrix: Transform, most: int) -> Points | None:
    """The furthest edges, `(2, 2)`, of pixels whose centres a fill holds; None when it holds none.

    That is what is drawn where edges are not smoothed. Raises ValueError beyond `most` crossings.
    """
    polygons = flattened(outline, matrix)
    if not polygons:
        return None
    start = np.concatenate(polygons)
    end = np.concatenate([np.roll(polygon, -1, axis=0) for polygon in polygons])
    top, bottom = np.floor(start[:, 1].min()), np.ceil(start[:, 1].max())
    if not np.isfinite(bottom - top) or (bottom - top) * len(start) > most:
        raise ValueError(most)
    rows = np.arange(top, bottom) + 0.5
    crosses = (start[:, None, 1] <= rows) != (end[:, None, 1] <= rows)
    with np.errstate(all="ignore"):
        share = (rows - start[:, None, 1]) / (end - start)[:, None, 1]
        x = start[:, None, 0] + share * (end - start)[:, None, 0]
    left = np.ceil(np.where(crosses, x, np.inf).min(axis=0) - 0.5)
    right = np.ceil(np.where(crosses, x, -np.inf).max(axis=0) - 0.5)
    seen = right > left
    if not seen.any():
        return None
    y = rows[seen] - 0.5
    return np.array([[left[seen].min(), y[0]], [right[seen].max(), y[-1] + 1]])


def _linear(matrix: Transform) -> tuple[Points, Points]:
    a, b, c, d, e, f = matrix
    return np.array([[a, b], [c, d]], float), np.array([e, f], float)


def _extremes(curves: Points) -> Points:
    """The ends of curves and where they turn back along an axis."""
    p0, p1, p2, p3 = (curves[:, index] for index in range(4))
    a, b, c = p3 - 3 * p2 + 3 * p1 - p0, 2 * (p0 - 2 * p1 + p2), p1 - p0
    with np.errstate(all="ignore"):
        root = np.sqrt(b * b - 4 * a * c)
        turns = [(-b + root) / (2 * a), (-b - root) / (2 * a), -c / b]
    result = [p0, p3]
    for t in turns:
        t = np.clip(np.nan_to_num(t, nan=0.0, posinf=0.0, neginf=0.0), 0, 1)
        result.append(
            (1 - t) ** 3 * p0 + 3 * (1 - t) ** 2 * t * p1 + 3 * (1 - t) * t**2 * p2 + t**3 * p3
        )
    points: Points = np.concatenate(result)
    return points


def _stroked(part: Subpath, stroke: Stroke) -> Points:
    """Points on both sides of a stroke, with the tips of its sharp corners and square ends."""
    half = stroke.width / 2
    on = np.einsum("ti,nik->ntk", _WEIGHTS, part.curves)
    along = _directions(part.curves)
    across = half * np.stack([-along[..., 1], along[..., 0]], axis=2)
    result = [(on + across).reshape(-1, 2), (on - across).reshape(-1, 2)]
    if stroke.cap == "square" and not part.is_closed:
        for end, toward in ((on[0, 0], -along[0, 0]), (on[-1, -1], along[-1, -1])):
            side = half * np.array([-toward[1], toward[0]])
            result.append(end + half * toward + np.stack([side, -side]))
    if stroke.join not in ("round", "bevel"):
        result.append(_tips(part, on, along, stroke))
    return np.concatenate(result)


def _tips(part: Subpath, on: Points, along: Points, stroke: Stroke) -> Points:
    """The tips of mitred corners that are within the limit."""
    before, after, corner = along[:-1, -1], along[1:, 0], on[1:, 0]
    if part.is_closed:
        before = np.concatenate([before, along[-1:, -1]])
        after = np.concatenate([after, along[:1, 0]])
        corner = np.concatenate([corner, on[:1, 0]])
    outward = before - after
    length = np.hypot(*outward.T)  # twice the cosine of half the angle between the two lines
    inner = np.sqrt(np.clip(1 - length**2 / 4, 0, 1))
    is_tip = (length > 1e-6) & (inner > 1e-6) & (inner * stroke.miter >= 1)
    far = stroke.width / 2 / inner[is_tip, None]
    tips: Points = corner[is_tip] + outward[is_tip] / length[is_tip, None] * far
    return tips


def _knots(part: Subpath, stroke: Stroke) -> Points:
    """Where round joins and round ends stand."""
    joints = [part.curves[:, 0], part.curves[:, 3]]
    if stroke.join != "round" and not part.is_closed:
        joints = [part.curves[:1, 0], part.curves[-1:, 3]]
    elif stroke.join != "round":
        return np.empty((0, 2))
    elif stroke.cap != "round" and not part.is_closed:
        joints = [part.curves[1:, 0]]
    return np.concatenate(joints)


def _directions(curves: Points) -> Points:
    """Which way curves go, `(n, t, 2)` of length 1; an end without a handle asks the next point."""
    steps = np.diff(curves, axis=1)
    along = np.einsum("ti,nik->ntk", _SLOPES, steps)
    chords = curves[:, 3] - curves[:, 0]
    for index, others in ((0, (1, 2)), (-1, (1, 0))):
        for other_index in others:
            still = np.hypot(*along[:, index].T) < 1e-9
            along[still, index] = steps[still, other_index]
    length = np.hypot(along[..., 0], along[..., 1])
    flat = length < 1e-12
    along[flat] = np.broadcast_to(chords[:, None], along.shape)[flat]
    length = np.hypot(along[..., 0], along[..., 1])
    unit: Points = along / np.where(length < 1e-12, 1, length)[..., None]
    return unit
