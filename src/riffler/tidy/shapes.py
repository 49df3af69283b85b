"""Shapes <-> paths, whichever takes fewer characters. SVG 2, section 10."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

from lxml import etree

from riffler.mockup.svg import shapes
from riffler.mockup.xml import local_name
from riffler.tidy import plain_shapes
from riffler.tidy.drawing import Drawing, computed, is_marked, says, svg
from riffler.tidy.numbers import Grid
from riffler.tidy.path_data import REMEMBERED, DamagedError, Segment, parse
from riffler.tidy.path_shape import simplified
from riffler.tidy.path_text import written
from riffler.tidy.precision import Precision

#: The attributes that say where a shape is.
GEOMETRY = {
    "path": ("d",),
    "rect": ("x", "y", "width", "height", "rx", "ry"),
    "circle": ("cx", "cy", "r"),
    "ellipse": ("cx", "cy", "rx", "ry"),
    "line": ("x1", "y1", "x2", "y2"),
    "polyline": ("points",),
    "polygon": ("points",),
}


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
        name = local_name(element)
        if name not in GEOMETRY or element in moving:
            continue
        segments = segments_of(element)
        if segments is None:
            continue
        if drawing.has_sheet:
            if name == "path":
                element.set("d", written(segments, precision.grid(element)))
        elif not is_marked(element) and not says(element, "pathLength"):
            _settle(element, segments, precision)


def _settle(element: etree._Element, segments: Sequence[Segment], precision: Precision) -> None:
    is_round = local_name(element) in ("circle", "ellipse")
    if is_round or (local_name(element) == "rect" and says(element, "rx", "ry")):
        if element.get("rx") == element.get("ry"):
            element.attrib.pop("ry", None)  # SVG 2, section 10.2: one stands for both
        return
    grid, tolerance = precision.grid(element), precision.tolerance(element)
    is_dashed = computed(element, "stroke-dasharray") != "none"
    if is_dashed and computed(element, "stroke") != "none":
        tolerance = 0.0  # where a dash begins depends on how long all before it is
    _to_path(element, segments, tolerance, grid)
    if local_name(element) == "path" and tolerance:
        _to_plain(element, grid)


def _to_path(
    element: etree._Element, segments: Sequence[Segment], tolerance: float, grid: Grid
) -> None:
    """Make a path of a shape unless that is longer."""
    data = settled(tuple(segments), tolerance, grid)
    name = local_name(element)
    if name != "path":
        values = {key: element.get(key) for key in GEOMETRY[name] if element.get(key) is not None}
        before = len(name) + sum(len(key) + len(str(value)) + 4 for key, value in values.items())
        if before <= len("path") + len(data) + 5:
            return
    become(element, "path", {"d": data})


@lru_cache(REMEMBERED)
def settled(segments: tuple[Segment, ...], tolerance: float, grid: Grid) -> str:
    """The shortest path data for an outline; without a tolerance it only is written anew."""
    return written(simplified(segments, tolerance, grid) if tolerance else segments, grid)


def _to_plain(element: etree._Element, grid: Grid) -> None:
    """Make a circle or a round rectangle of a path that is one, where that is shorter."""
    segments = parse(element.get("d", ""))
    plain = plain_shapes.circle(segments, grid) or plain_shapes.round_rect(segments, grid)
    if plain is None:
        return
    name, geometry = plain
    after = len(name) + sum(len(k) + len(v) + 4 for k, v in geometry.items() if v != "0")
    if after < len("path") + len(element.get("d", "")) + 5:
        become(element, name, geometry)
