"""Some things beside one another, others above or below -> a grid of one line and full ones."""

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
    """Whether some stand beside one another, and all others above or under these, one by one."""
    rows = rows_of(areas)
    long = [row for row in rows if len(row) > 1]
    if len(rows) < 2 or len(long) != 1:
        return False
    return all(
        after[0].box.y >= max(area.box.bottom for area in row) - OVERLAP
        for row, after in pairwise(rows)
    )


def rows_of(areas: Sequence[Area]) -> list[list[Area]]:
    """Things in their order, those that stand beside one another together."""
    rows: list[list[Area]] = []
    for area in areas:
        last = rows[-1][-1] if rows else None
        is_beside = last is not None and area.box.x >= last.box.right - OVERLAP
        if last is not None and is_beside and area.box.y < last.box.bottom - OVERLAP:
            rows[-1].append(area)
        else:
            rows.append([area])
    return rows


def lay(flow: Laying, element: Element, edges: Edges, top: float) -> float:
    """Lay them out; the bottom."""
    children = element.inner
    areas = [area_of(child) for child in children]
    rows = rows_of(areas)
    count = max(map(len, rows))
    left = max(0.0, snapped(min(map(left_of, areas)) - edges.left))
    element.css |= {
        "display": "grid",
        "grid-template-columns": " ".join(["auto"] * (count - 1) + ["minmax(0, 1fr)"]),
        "align-items": "start",
        **flow.places.sides("padding", left, left, edges),
    }
    inner = Edges(edges.left + left, edges.right - left)
    above = max(0.0, snapped(min(map(top_of, rows[0])) - top))
    flow.places.pad(element, above, 0.0)
    bottom, start = top + above, 0
    for row in rows:
        beside = children[start : start + len(row)]
        start += len(row)
        if len(row) > 1:
            bottom = _beside(flow, beside, row, inner, bottom)
            continue
        beside[0].css["grid-column"] = "1 / -1"
        placed = flow.places.across(beside[0], row[0], inner)
        gap = snapped(top_of(row[0]) - bottom)
        beside[0].css["margin-top"] = flow.say(gap)
        bottom = flow.lay(beside[0].laid, placed, bottom + gap)
    return bottom


def _beside(
    flow: Laying, children: Sequence[Element], areas: Sequence[Area], inner: Edges, top: float
) -> float:
    """Lay out what stands beside one another below `top`; the bottom."""
    bottom, x = top, inner.left
    for child, area in zip(children, areas, strict=True):
        gap = snapped(top_of(area) - top)
        child.css |= {"margin-top": flow.say(gap)}
        child.css["margin-left"] = flow.say(snapped(left_of(area) - x))
        x = right_of(area)
        bottom = max(bottom, flow.lay(child.laid, Edges(left_of(area), x), top + gap))
        if child.laid.tag == "input":
            child.css["width"] = flow.say(snapped(area.box.width))
    return bottom
