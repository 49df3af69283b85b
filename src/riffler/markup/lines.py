"""Some things beside one another and the others under them -> a grid of one line and full ones."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise

from riffler.markup.area import Area
from riffler.markup.element import Element, snapped
from riffler.markup.extents import area_of, left_of, right_of, top_of
from riffler.markup.laying import Laying
from riffler.markup.places import Edges

#: How far things may lie over one another and still stand beside or under one another, in CSS
#: pixels.
OVERLAP = 4


def are_lines(areas: Sequence[Area]) -> bool:
    """Whether at least two things begin beside one another, and each other one is lower."""
    count = in_first(areas)
    first, others = areas[:count], areas[count:]
    if count < 2 or not others:
        return False
    bottom = max(area.box.bottom for area in first)
    return others[0].box.y >= bottom - OVERLAP and all(
        after.box.y >= area.box.bottom - OVERLAP for area, after in pairwise(others)
    )


def in_first(areas: Sequence[Area]) -> int:
    """How many things stand in the first line."""
    count = 1
    while count < len(areas) and areas[count].box.x >= areas[count - 1].box.right - OVERLAP:
        if areas[count].box.y >= areas[count - 1].box.bottom - OVERLAP:
            break
        count += 1
    return count


def lay(flow: Laying, element: Element, edges: Edges, top: float) -> float:
    """Lay them out; the bottom."""
    children = element.inner
    areas = [area_of(child) for child in children]
    count = in_first(areas)
    left = max(0.0, snapped(min(map(left_of, areas)) - edges.left))
    element.css |= {
        "display": "grid",
        "grid-template-columns": " ".join(["auto"] * (count - 1) + ["minmax(0, 1fr)"]),
        "align-items": "start",
        **flow.places.sides("padding", left, left, edges),
    }
    inner = Edges(edges.left + left, edges.right - left)
    above = max(0.0, snapped(min(map(top_of, areas[:count])) - top))
    flow.places.pad(element, above, 0.0)
    end, bottom, x = top + above, top + above, inner.left
    for child, area in zip(children[:count], areas, strict=False):
        child.css |= {"margin-top": flow.say(snapped(top_of(area) - end))}
        child.css["margin-left"] = flow.say(snapped(left_of(area) - x))
        x = right_of(area)
        span = Edges(left_of(area), x)
        bottom = max(bottom, flow.lay(child.laid, span, end + snapped(top_of(area) - end)))
    for child, area in zip(children[count:], areas[count:], strict=True):
        child.css["grid-column"] = "1 / -1"
        placed = flow.places.across(child, area, inner)
        gap = snapped(top_of(area) - bottom)
        child.css["margin-top"] = flow.say(gap)
        bottom = flow.lay(child.laid, placed, bottom + gap)
    return bottom
