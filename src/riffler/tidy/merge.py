"""Paths that follow one another and look alike -> one path, where no paint lies on another."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from lxml import etree

from riffler.mockup.svg.references import by_id
from riffler.mockup.xml import drop, local_name
from riffler.tidy.arcs import centered
from riffler.tidy.drawing import Drawing, by_reference, computed, is_marked, says
from riffler.tidy.occupied import Edges, Occupied
from riffler.tidy.path_data import DamagedError, Segment, parse
from riffler.tidy.path_text import written
from riffler.tidy.precision import Precision
from riffler.tidy.properties import EFFECTS


def merge(drawing: Drawing, precision: Precision) -> None:
    """Put paths together that say the same; `Drawing.merges` allows it."""
    if drawing.has_sheet or drawing.keeps_names or not drawing.merges:
        return
    held = drawing.moving() | drawing.reused()
    held |= set(by_id(drawing.root).values())
    for parent in list(drawing.elements()):
        if local_name(parent) in ("svg", "g", "symbol"):
            _merge_children(parent, held, precision)


def _merge_children(
    parent: etree._Element, held: set[etree._Element], precision: Precision
) -> None:
    run: list[etree._Element] = []
    drawn: list[Segment] = []
    boxes = Occupied()
    for child in [*parent, None]:
        segments = _segments(child) if child is not None and child not in held else []
        box = reach(segments) if segments else None
        if box and run and _says(child) == _says(run[0]) and _is_apart(child, box, boxes):
            run.append(child)
            drawn += segments
            boxes.add(box)
            continue
        if len(run) > 1:
            run[0].set("d", written(drawn, precision.grid(run[0])))
            for other_element in run[1:]:
                drop(other_element)
        run, drawn, boxes = [], [], Occupied()
        if box:
            run, drawn = [child], [*segments]
            boxes.add(box)


def _segments(element: etree._Element) -> Sequence[Segment]:
    """The outline of a path that may be put together with others."""
    if local_name(element) != "path" or not _is_plain(element):
        return []
    try:
        return parse(element.get("d", ""))
    except DamagedError:
        return []


def _is_plain(path: etree._Element) -> bool:
    """Whether nothing about a path depends on its own box, and it is opaque where it overlaps."""
    if len(path) or says(path, *EFFECTS, "style", "transform", "pathLength"):
        return False
    return not is_marked(path) and not by_reference(path)


def _says(path: etree._Element) -> dict[str, str]:
    return {str(key): str(value) for key, value in path.attrib.items() if key != "d"}


def _is_apart(path: etree._Element, box: Edges, cells: Occupied) -> bool:
    """Whether drawing a path together with others gives the same pixels."""
    fills = computed(path, "fill") != "none"
    strokes = computed(path, "stroke") != "none"
    if strokes and not fills and computed(path, "stroke-opacity") in ("1", None):
        return True
    if strokes:
        return False
    return not cells.meets(box)


def reach(segments: Iterable[Segment]) -> Edges:
    """A box that holds an outline: that of all its points and handles, and of whole ellipses."""
    xs, ys = list[float](), list[float]()
    point = (0.0, 0.0)
    for command, numbers in segments:
        if command == "A":
            arc = centered(point, numbers)
            if arc is not None:
                far = max(arc.rx, arc.ry)
                xs += [arc.center[0] - far, arc.center[0] + far]
                ys += [arc.center[1] - far, arc.center[1] + far]
            numbers = numbers[-2:]
        xs += numbers[::2]
        ys += numbers[1::2]
        point = numbers[-2:] if numbers else point  # type: ignore[assignment]
    return min(xs), min(ys), max(xs), max(ys)
