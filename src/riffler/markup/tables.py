"""Rows of as many cells below a row that heads them -> a table with headers.

HTML, 4.9 (tabular data). Rows are as high as they are pitched, columns have their share of the
table, and what ends at one place is set at the right.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from itertools import pairwise

from riffler.markup.area import Area, Shape
from riffler.markup.element import Element, snapped
from riffler.markup.laying import Laying
from riffler.markup.places import Edges

#: The fewest columns and rows that are a table, with the row of its headers.
COLUMNS, ROWS = 3, 3

#: What is nearer than this is at the same place; room at the sides of cells on phones, in CSS
#: pixels.
NEAR, SIDE = 1.5, 8


def is_table(area: Area) -> bool:
    """Whether a list from top to bottom is rows of single texts, the first set otherwise."""
    if area.shape is not Shape.LIST or area.columns != 1 or len(area.parts) < ROWS:
        return False
    rows = [row.parts for row in area.parts]
    count = len(rows[0])
    if count < COLUMNS or any(len(cells) != count for cells in rows):
        return False
    if any(cell.setting is None for cells in rows for cell in cells):
        return False
    return all(
        (one := head.setting) is not None
        and (other := cell.setting) is not None
        and (one.type.weight, one.type.color) != (other.type.weight, other.type.color)
        for head, cell in zip(rows[0], rows[1], strict=True)
    )


def table(area: Area, text: Callable[[Area], Element], name: str) -> Element:
    """The table that such a list is; `text` makes the element of a cell."""

    def row(part: Area, tag: str) -> Element:
        cells = [text(cell) for cell in part.parts]
        for cell in cells:
            cell.tag = tag
        return Element("tr", part, "head" if tag == "th" else name, content=[*cells])

    head = row(area.parts[0], "th")
    for cell in head.inner:
        cell.attributes["scope"] = "col"
    body = Element("tbody", None, name, content=[row(part, "td") for part in area.parts[1:]])
    return Element("table", area, "table", content=[Element("thead", content=[head]), body])


def lay(flow: Laying, element: Element, edges: Edges, top: float) -> float:
    """Lay out a table between edges; its bottom."""
    head, body = (part.inner for part in element.inner)
    rows = [*head, *body]
    boxes = [row.space.box for row in rows]
    left, right = min(box.x for box in boxes), max(box.right for box in boxes)
    if right - left < edges.width - 2 * NEAR or not any(row.space.ground for row in rows):
        left, right = edges.left, edges.right
    element.css |= {"width": "100%", "border-collapse": "collapse"}
    tops = [box.y for box in boxes]
    heights = [after - before for before, after in pairwise(tops)]
    heights.append(boxes[-1].height)
    columns = [[row.space.parts[n].box for row in rows] for n in range(len(head[0].inner))]
    starts = _starts([[(box.x, box.right) for box in column] for column in columns], left)
    for row, height in zip(rows, heights, strict=True):
        row.css["height"] = flow.say(snapped(height))
        for number, (cell, begin) in enumerate(zip(row.inner, starts, strict=True)):
            column, end = columns[number], [*starts, right][number + 1]
            is_right = _ends_alike([box.right for box in column], [box.x for box in column])
            cell.css["text-align"] = "right" if is_right else "left"
            before = 0.0 if is_right else max(0.0, snapped(min(box.x for box in column) - begin))
            after = max(0.0, snapped(end - max(box.right for box in column))) if is_right else 0.0
            cell.css["padding"] = f"0 {flow.say(after)} 0 {flow.say(before)}"
            cell.narrow["padding-inline"] = flow.say(SIDE)
            if row is head[0]:
                cell.css["width"] = f"{round(100 * (end - begin) / (right - left), 2):g}%"
    return top + sum(heights)


def _starts(columns: Sequence[Sequence[tuple[float, float]]], left: float) -> list[float]:
    """Where columns begin: as far before their text as the first one does."""
    room = min(x for x, _ in columns[0]) - left
    starts = [left]
    for before, column in pairwise(columns):
        end = max(right for _, right in before)
        starts.append(max(end, min(x for x, _ in column) - room))
    return starts


def _ends_alike(rights: Sequence[float], lefts: Sequence[float]) -> bool:
    """Whether texts end at one place and begin at several."""
    return max(rights) - min(rights) <= NEAR < max(lefts) - min(lefts)
