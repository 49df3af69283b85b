"""Shapes <-> paths, whichever takes fewer characters. SVG 2, section 10."""

from __future__ import annotations

import math
from collections.abc import Sequence
from functools import lru_cache

from lxml import etree

from riffler.mockup.svg import shapes
from riffler.mockup.xml import local_name
from riffler.tidy.arcs import Arc, centered
from riffler.tidy.drawing import Drawing, computed, svg
from riffler.tidy.numbers import Grid
from riffler.tidy.path_data import REMEMBERED, DamagedError, Segment, parse
from riffler.tidy.path_shape import simplified
from riffler.tidy.path_text import written
from riffler.tidy.precision import Precision

#: The attributes that say where a shape is.
GEOMETRY = {
    "path": ("d",), "rect": ("x", "y", "width", "height", "rx", "ry"), "circle": ("cx", "cy", "r"),
    "ellipse": ("cx", "cy", "rx", "ry"), "line": ("x1", "y1", "x2", "y2"),
    "polyline": ("points",), "polygon": ("points",),
}  # fmt: skip


def segments_of(element: etree._Element) -> Sequence[Segment] | None:
    """The outline of a shape; None where only a renderer knows it."""
    try:
        data = shapes.path_data(local_name(element), element)
        return parse(data) if data else None
    except (shapes.UnmeasuredError, DamagedError):
        return None


def become(element: etree._Element, name: str, geometry: dict[str, str]) -> None:
    """Make another shape of an element."""
    for key in GEOMETRY[local_name(element)]:
        element.attrib.pop(key, None)
    element.tag = svg(name)
    for key, value in geometry.items():
        if value != "0" or key in ("width", "height", "r"):
            element.set(key, value)


def settle(drawing: Drawing, precision: Precision) -> None:
    """Write every shape in the form that takes the fewest characters."""
    moving = drawing.moving()
    for element in drawing.elements():
        if local_name(element) not in GEOMETRY or element in moving:
            continue
        segments = segments_of(element)
        if segments is None:
            continue
        grid, tolerance = precision.grid(element), precision.tolerance(element)
        marked = any(
            computed(element, f"marker-{end}") != "none" for end in ("start", "mid", "end")
        )
        if local_name(element) == "path" and drawing.has_sheet:
            element.set("d", written(segments, grid))
            continue
        if drawing.has_sheet or marked or element.get("pathLength") is not None:
            continue
        if local_name(element) in ("rect", "circle", "ellipse"):
            if (
                local_name(element) == "rect"
                and "rx" not in element.attrib
                and "ry" not in element.attrib
            ):
                _to_path(element, segments, tolerance, grid)
            continue
        _to_path(element, segments, tolerance, grid)
        if local_name(element) == "path":
            _to_plain(element, grid)


def _to_path(
    element: etree._Element, segments: Sequence[Segment], tolerance: float, grid: Grid
) -> None:
    """Make a path of a shape unless that is longer."""
    data = settled(tuple(segments), tolerance, grid)
    name = local_name(element)
    if name != "path":
        said = {key: element.get(key) for key in GEOMETRY[name] if element.get(key) is not None}
        before = len(name) + sum(len(key) + len(str(value)) + 4 for key, value in said.items())
        if before <= len("path") + len(data) + 5:
            return
    become(element, "path", {"d": data})


@lru_cache(REMEMBERED)
def settled(segments: tuple[Segment, ...], tolerance: float, grid: Grid) -> str:
    """The shortest path data for an outline."""
    return written(simplified(segments, tolerance, grid), grid)


def _to_plain(element: etree._Element, grid: Grid) -> None:
    """Make a circle or a round rectangle of a path that is one, where that is shorter."""
    if computed(element, "stroke-dasharray") != "none":
        return
    segments = parse(element.get("d", ""))
    plain = _circle(segments, grid) or _round_rect(segments, grid)
    if plain is None:
        return
    name, geometry = plain
    after = len(name) + sum(len(k) + len(v) + 4 for k, v in geometry.items() if v != "0")
    if after < len("path") + len(element.get("d", "")) + 5:
        become(element, name, geometry)


def _arcs(segments: Sequence[Segment]) -> list[tuple[Segment, Arc | None]]:
    found, here = [], (0.0, 0.0)
    for segment in segments:
        if segment.command != "Z":
            arc = centered(here, segment.numbers) if segment.command == "A" else None
            found.append((segment, arc))
            here = segment.end
    return found


def _circle(segments: Sequence[Segment], grid: Grid) -> tuple[str, dict[str, str]] | None:
    """A whole circle, begun anywhere."""
    tolerance = 0.51 * 10.0**-grid.digits
    arcs = [arc for segment, arc in _arcs(segments)[1:] if segment.command == "A"]
    if len(arcs) < 2 or len(arcs) != len(segments) - 1 - (segments[-1].command == "Z"):
        return None
    first = arcs[0]
    if first is None or segments[len(arcs)].end != segments[0].end:
        return None
    for arc in arcs:
        if arc is None or math.dist(arc.center, first.center) > tolerance:
            return None
        if max(abs(arc.rx - first.rx), abs(arc.ry - first.rx)) > tolerance:
            return None
    if abs(abs(sum(arc.sweep for arc in arcs if arc)) - 2 * math.pi) > 1e-3:
        return None
    x, y = (grid.text(value) for value in first.center)
    return "circle", {"cx": x, "cy": y, "r": grid.text(first.rx)}


def _round_rect(segments: Sequence[Segment], grid: Grid) -> tuple[str, dict[str, str]] | None:
    """An upright rectangle with four equal round corners."""
    if [s.command for s in segments] not in (
        ["M", *"LALALALA", "Z"], ["M", *"LALALAL", "A", "Z"], ["M", *"ALALALA", "Z"],
        ["M", *"ALALALAL", "Z"],
    ):  # fmt: skip
        return None
    corners = [(s, a) for s, a in _arcs(segments) if s.command == "A"]
    arcs = [arc for _, arc in corners if arc is not None]
    if len(arcs) != 4:
        return None
    radius, tolerance = arcs[0].rx, 0.51 * 10.0**-grid.digits
    quarter = math.copysign(math.pi / 2, arcs[0].sweep)
    if any(max(abs(arc.rx - radius), abs(arc.ry - radius)) > tolerance for arc in arcs):
        return None
    if any(abs(arc.sweep - quarter) > 0.02 for arc in arcs):
        return None
    here, ends = segments[0].end, list[tuple[float, float]]()
    for segment in segments[1:]:
        end = segments[0].end if segment.command == "Z" else segment.end
        if segment.command != "A" and min(abs(end[0] - here[0]), abs(end[1] - here[1])) > 1e-9:
            return None  # a side that is not upright
        ends.append(end)
        here = end
    (left, right), (top, bottom) = ((min(v), max(v)) for v in zip(*ends, strict=True))
    insides = {
        (x, y) for x in (left + radius, right - radius) for y in (top + radius, bottom - radius)
    }
    if any(min(math.dist(arc.center, place) for place in insides) > 2 * tolerance for arc in arcs):
        return None
    geometry = {"x": left, "y": top, "width": right - left, "height": bottom - top, "rx": radius}
    return "rect", {key: grid.text(value) for key, value in geometry.items()}
