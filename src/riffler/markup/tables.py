"""Rows of as many cells below a row that heads them -> a table with headers.

HTML, 4.9 (tabular data). Rows are as high as they are pitched, columns have their share of the
table, and what ends at one place is set at the right.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import pairwise

from riffler.geometry import Rect
from riffler.markup.area import Area, Shape
from riffler.markup.element import Element, snapped
from riffler.markup.laying import Laying
from riffler.markup.places import Edges
from riffler.reading.layer_names import plural

#: The fewest columns and rows that are a table, with the row of its headers.
COLUMNS, ROWS = 3, 3

#: A rule is no thicker, in CSS pixels.
RULE = 3

#: What is nearer than this is at the same place; room at the sides of cells on phones, in CSS
#: pixels.
NEAR, SIDE = 1.5, 8


def is_table(area: Area) -> bool:
    """Whether a list from top to bottom is rows of single texts, the first set otherwise."""
    if area.shape is not Shape.LIST or area.columns != 1 or len(area.parts) < ROWS:
        return False
    rows = [[cell.setting for cell in _line(part).parts] for part in area.parts]
    count = len(rows[0])
    if count < COLUMNS or any(len(row) != count or None in row for row in rows):
        return False
    return all(
        head and cell and (head.type.weight, head.type.color) != (cell.type.weight, cell.type.color)
        for head, cell in zip(rows[0], rows[1], strict=True)
    )


def _line(part: Area) -> Area:
    """The cells of a row, which may have a rule below it."""
    if part.shape is Shape.STACK and len(part.parts) == 2 and _is_rule(part.parts[1]):
        return part.parts[0]
    return part if part.shape is Shape.ROW else part.holding()


def _is_rule(area: Area) -> bool:
    return area.shape is Shape.BOX and area.box.height <= RULE and area.ground is not None


def table(area: Area, text: Callable[[Area], Element], name: str) -> Element:
    """The table that such a list is; `text` makes the element of a cell."""

    def row(part: Area, tag: str) -> Element:
        cells = [text(cell) for cell in _line(part).parts]
        for cell in cells:
            cell.tag = tag
        return Element("tr", part, "head" if tag == "th" else name, content=[*cells])

    head = row(area.parts[0], "th")
    for cell in head.inner:
        cell.attributes["scope"] = "col"
    body = Element(
        "tbody", None, plural(name), content=[row(part, "td") for part in area.parts[1:]]
    )
    return Element("table", area, "table", content=[Element("thead", content=[head]), body])


def lay(flow: Laying, element: Element, edges: Edges, top: float) -> float:
    """Lay out a table between edges; its bottom."""
    head, *others = rows = [row for part in element.inner for row in part.inner]
    boxes = [row.space.box for row in rows]
    element.css |= {"width": "100%", "border-collapse": "collapse"}
    heights = [after.y - box.y for box, after in pairwise(boxes)]
    heights.append(boxes[-1].height)
    for row, height in zip(rows, heights, strict=True):
        row.css["height"] = flow.say(snapped(height))
        rule = row.space.parts[-1]
        if _is_rule(rule) and rule.ground:
            thick = flow.say(max(1.0, snapped(rule.box.height)))
            row.css["border-bottom"] = f"{thick} solid {rule.ground.stops[0].color}"
    cells = [_line(row.space).parts for row in rows]
    columns = [_Column([row[n].box for row in cells]) for n in range(len(head.inner))]
    starts = _starts(columns, edges.left)
    for number, (column, begin) in enumerate(zip(columns, starts, strict=True)):
        end = [*starts, edges.right][number + 1]
        head.inner[number].css["width"] = f"{round(100 * (end - begin) / edges.width, 2):g}%"
        css = column.css(begin, end, flow)
        for row in (head, *others):
            row.inner[number].css |= css
            row.inner[number].narrow["padding-inline"] = flow.say(SIDE)
    return top + sum(heights)


@dataclass(frozen=True)
class _Column:
    """The boxes of the texts in a column, from its header on."""

    boxes: Sequence[Rect]

    @property
    def left(self) -> float:
        return min(box.x for box in self.boxes)

    @property
    def right(self) -> float:
        return max(box.right for box in self.boxes)

    @property
    def is_right(self) -> bool:
        """Whether texts end at one place and begin at several."""
        is_level = self.right - min(box.right for box in self.boxes) <= NEAR
        return is_level and max(box.x for box in self.boxes) - self.left > NEAR

    def css(self, begin: float, end: float, flow: Laying) -> dict[str, str]:
        """How texts stand in the column between its edges."""
        before = 0.0 if self.is_right else max(0.0, snapped(self.left - begin))
        after = max(0.0, snapped(end - self.right)) if self.is_right else 0.0
        return {
            "text-align": "right" if self.is_right else "left",
            "padding": f"0 {flow.say(after)} 0 {flow.say(before)}",
        }


def _starts(columns: Sequence[_Column], left: float) -> list[float]:
    """Where columns begin: as far before their text as the first one does."""
    room = columns[0].left - left
    starts = [left]
    for before, column in pairwise(columns):
        starts.append(max(before.right, column.left - room))
    return starts
