"""Outlines that are a circle or an upright rectangle with round corners -> their numbers."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence

from riffler.tidy.arcs import Arc, Point, centered
from riffler.tidy.numbers import Grid
from riffler.tidy.path_data import Segment

Plain = tuple[str, dict[str, str]]
"""The name of an element, and its attributes."""

#: How far a corner may be from a quarter of a turn, and a circle from a whole one, in radians.
QUARTER, WHOLE = 0.02, 1e-3

#: Four sides and four corners, begun at a side or at a corner, the last side drawn or closed.
_SIDES_AND_CORNERS = {"MLALALALAZ", "MALALALZ", "MALALALAZ", "MALALALALZ"}


def circle(segments: Sequence[Segment], grid: Grid) -> Plain | None:
    """A whole circle, begun anywhere; None for another outline."""
    drawn = [segment for segment in segments[1:] if segment.command != "Z"]
    arcs = _arcs(segments)
    if len(arcs) < 2 or len(arcs) != len(drawn) or drawn[-1].end != segments[0].end:
        return None
    if not _are_alike(arcs, grid) or abs(abs(sum(a.sweep for a in arcs)) - 2 * math.pi) > WHOLE:
        return None
    x, y = (grid.text(value) for value in arcs[0].center)
    if any(math.dist(arc.center, arcs[0].center) > _tolerance(grid) for arc in arcs):
        return None
    return "circle", {"cx": x, "cy": y, "r": grid.text(arcs[0].rx)}


def round_rect(segments: Sequence[Segment], grid: Grid) -> Plain | None:
    """An upright rectangle with four equal round corners; None for another outline."""
    arcs = _arcs(segments)
    if "".join(s.command for s in segments) not in _SIDES_AND_CORNERS or len(arcs) != 4:
        return None
    if not _are_alike(arcs, grid) or not all(map(_is_upright, _lines(segments))):
        return None
    if not all(_is_quarter(arc, arcs[0]) for arc in arcs):
        return None
    ends = [segment.end for segment in segments if segment.command != "Z"]
    (left, right), (top, bottom) = ((min(v), max(v)) for v in zip(*ends, strict=True))
    radius = arcs[0].rx
    corners = (left + radius, top + radius), (right - radius, bottom - radius)
    if not all(_is_inside(arc, corners, grid) for arc in arcs):
        return None
    values = {"x": left, "y": top, "width": right - left, "height": bottom - top, "rx": radius}
    return "rect", {key: grid.text(value) for key, value in values.items()}


def _is_inside(arc: Arc, corners: tuple[Point, Point], grid: Grid) -> bool:
    """Whether a round corner bends about a point inside, and is not bitten out."""
    x, y = arc.center
    (left, top), (right, bottom) = corners
    nearest = min(abs(x - left), abs(x - right)), min(abs(y - top), abs(y - bottom))
    return math.hypot(*nearest) <= 2 * _tolerance(grid)


def _tolerance(grid: Grid) -> float:
    """A little more than half a step."""
    return 0.51 * 10.0**-grid.digits


def _lines(segments: Sequence[Segment]) -> Iterator[tuple[Point, Point]]:
    """From where to where the straight sides go, the closing one too."""
    point = segments[0].end
    for segment in segments[1:]:
        end = segments[0].end if segment.command == "Z" else segment.end
        if segment.command != "A":
            yield point, end
        point = end


def _is_upright(line: tuple[Point, Point]) -> bool:
    (x0, y0), (x1, y1) = line
    return min(abs(x1 - x0), abs(y1 - y0)) < 1e-9


def _is_quarter(arc: Arc, first: Arc) -> bool:
    """Whether it goes on by a quarter of a turn, the same way as the first."""
    return abs(arc.sweep - math.copysign(math.pi / 2, first.sweep)) <= QUARTER


def _arcs(segments: Sequence[Segment]) -> list[Arc]:
    """The arcs of an outline about their centres."""
    result, point = list[Arc | None](), (0.0, 0.0)
    for segment in segments:
        if segment.command == "A":
            result.append(centered(point, segment.numbers))
        point = point if segment.command == "Z" else segment.end
    return [arc for arc in result if arc is not None]


def _are_alike(arcs: Sequence[Arc], grid: Grid) -> bool:
    """Whether all are round, with one radius."""
    radius = arcs[0].rx
    return all(max(abs(a.rx - radius), abs(a.ry - radius)) <= _tolerance(grid) for a in arcs)
