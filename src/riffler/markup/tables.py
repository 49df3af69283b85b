"""Rows of as many cells below a row that heads them -> a table with headers.

HTML, 4.9 (tabular data). Rows are as high as they are pitched, columns have their share of the
table, and what ends at one place is set at the right.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import pairwise

from riffler.geometry import Rect
from riffler.markup.area import Area, Shape
from riffler.markup.element import Element, snapped
from riffler.markup.extents import area_of
from riffler.markup.laying import Laying
from riffler.markup.places import SIDE as SIDE_OF_PAGE
from riffler.markup.places import Edges
from riffler.reading.layer_names import plural

#: The fewest columns and rows that are a table, with the row of its headers.
COLUMNS, ROWS = 3, 3

#: A rule is no thicker, in CSS pixels.
RULE = 3

#: What is nearer than this is at the same place, in CSS pixels.
NEAR = 1.5

#: Room at the sides of cells on phones, what a table has room for on the smallest of these, in CSS
#: pixels. How much wider than its share of a line's letters a word may be.
SIDES, SMALLEST, WIDER = (8, 6, 4), 320 - 2 * SIDE_OF_PAGE, 1.1


def is_table(area: Area) -> bool:
    """Whether a list from top to bottom is rows of single texts, the first set otherwise."""
    if area.shape is not Shape.LIST or area.columns != 1 or len(area.parts) < ROWS:
        return False
    rows = [[cell.setting for cell in _line(part)] for part in area.parts]
    count = len(rows[0])
    if count < COLUMNS or any(len(row) != count or None in row for row in rows):
        return False
    return all(
        head and cell and (head.type.weight, head.type.color) != (cell.type.weight, cell.type.color)
        for head, cell in zip(rows[0], rows[1], strict=True)
    )


def _line(part: Area) -> tuple[Area, ...]:
    """The cells of a row, which may have a rule below it; some may be in a list of their own."""
    if part.shape is Shape.STACK and len(part.parts) == 2 and _is_rule(part.parts[1]):
        part = part.parts[0]
    row = part.parts if part.shape is Shape.ROW else ()
    return tuple(cell for area in row for cell in (area.parts if _is_of_words(area) else (area,)))


def _is_of_words(area: Area) -> bool:
    return area.shape is Shape.LIST and all(part.setting for part in area.parts)


def _has_rule(row: Area) -> bool:
    return bool(row.parts) and _is_rule(row.parts[-1])


def _is_rule(area: Area) -> bool:
    return area.shape is Shape.BOX and area.box.height <= RULE and area.ground is not None


def table(area: Area, text: Callable[[Area], Element], name: str) -> Element:
    """The table that such a list is; `text` makes the element of a cell."""

    def row(part: Area, tag: str) -> Element:
        cells = [text(cell) for cell in _line(part)]
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
    rows = [row for part in element.inner for row in part.inner]
    element.css |= {"width": "100%", "border-collapse": "collapse"}
    if any(key.startswith("margin-") and key != "margin-top" for key in element.css):
        width = f"min({flow.say(snapped(edges.width))}, 100% - {flow.say(2 * SIDE_OF_PAGE)})"
        element.css["width"] = width
    ends = _edges([row.space for row in rows], top)
    for row, (begin, end) in zip(rows, pairwise(ends), strict=True):
        _lay_row(flow, row, begin, end)
    _lay_columns(flow, rows, edges)
    return top + ends[-1] - ends[0]


def _lay_columns(flow: Laying, rows: Sequence[Element], edges: Edges) -> None:
    """The widths of columns, and how cells stand in them.

    In a narrow mockup some row may lack a cell: it says nothing of columns.
    """
    head = rows[0]
    whole = [row for row in rows if len(row.inner) == len(head.inner)]
    cells = [[area_of(cell) for cell in row.inner] for row in whole]
    is_at_top = any(map(_is_at_top, cells))
    columns = [_Column([row[n] for row in cells]) for n in range(len(head.inner))]
    starts = _starts(columns, edges.left)
    side, has_room = _on_phones(columns)
    is_tight = starts[-1] + columns[-1].widest > edges.right
    for number, (column, begin) in enumerate(zip(columns, starts, strict=True)):
        end = [*starts, edges.right][number + 1]
        width = "auto" if is_tight else f"{round(100 * (end - begin) / edges.width, 2):g}%"
        head.inner[number].css["width"] = width
        head.inner[number].narrow["width"] = "auto"  # as its words need it
        css = column.css(begin, end, flow)
        if is_tight:
            css |= dict.fromkeys(("padding-right", "padding-left"), flow.say(side))
        if is_at_top:
            css["vertical-align"] = "top"
        for row in whole:
            row.inner[number].css |= css
            row.inner[number].narrow["padding-inline"] = flow.say(side)
            if not has_room:
                row.inner[number].narrow["overflow-wrap"] = "anywhere"


def _on_phones(columns: Sequence[_Column]) -> tuple[int, bool]:
    """Room at the sides of cells, and whether their words then need not break."""
    needed = sum(column.least for column in columns)
    for side in SIDES:
        if needed + 2 * side * len(columns) <= SMALLEST:
            return side, True
    return SIDES[-1], False


def _lay_row(flow: Laying, row: Element, begin: float, end: float) -> None:
    """Room above and below the texts of a row, and the rule below it."""
    rule = row.space.parts[-1]
    thick = rule.box.height if _has_rule(row.space) else 0.0
    tallest = max(map(area_of, row.inner), key=lambda cell: cell.box.height).box
    room = max(0.0, end - begin - thick - tallest.height)
    above = min(room, max(0.0, snapped(tallest.y - begin)))
    below = snapped(room - above)
    for cell in row.inner:
        flow.places.pad(cell, above, below)
    if thick and rule.ground:
        width = flow.say(max(1.0, snapped(thick)))
        row.css["border-bottom"] = f"{width} solid {rule.ground.stops[0].color}"


def _is_at_top(cells: Sequence[Area]) -> bool:
    """Whether texts of several heights begin at one."""
    tops, heights = [cell.box.y for cell in cells], [cell.box.height for cell in cells]
    return max(tops) - min(tops) <= NEAR < max(heights) - min(heights)


@dataclass(frozen=True)
class _Column:
    """The texts in a column, from its header on."""

    cells: Sequence[Area]

    @property
    def boxes(self) -> list[Rect]:
        return [cell.box for cell in self.cells]

    @property
    def most(self) -> float:
        """How wide the column may be before a word moves up to the line above."""
        settings = [cell.setting for cell in self.cells if cell.setting]
        return min((text.next_words for text in settings if len(text.lines) > 1), default=math.inf)

    @property
    def least(self) -> float:
        """How wide its widest word is, or its widest text where none of these wraps."""
        if self.is_right:
            return self.widest
        lines = [line for cell in self.cells if cell.setting for line in cell.setting.lines]
        letters = [
            line.width * max(map(len, line.text.split()), default=0) / max(1, len(line.text))
            for line in lines
        ]
        return WIDER * max(letters, default=0.0)

    @property
    def widest(self) -> float:
        return max(box.width for box in self.boxes)

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
        before, after = max(0.0, snapped(self.left - begin)), max(0.0, snapped(end - self.right))
        if self.is_right:  # as much room on the other side, as far as there is some
            before = min(before, after)
        else:
            after = min(before, after)
        css = {"text-align": "left"}
        if self.is_right:
            css = {"text-align": "right", "white-space": "nowrap"}
        sides = {"padding-right": after, "padding-left": before}
        return css | {side: flow.say(room) for side, room in sides.items() if room}


def _edges(rows: Sequence[Area], top: float) -> list[float]:
    """Where rows begin and the last one ends: at what is seen of them, else between their texts."""
    edges = [rows[0].box.y if rows[0].ground else top]
    for row, after in pairwise(rows):
        seen = after.box.y if after.ground else _end(row)
        edges.append((row.box.bottom + after.box.y) / 2 if seen is None else seen)
    last = rows[-1]
    end = _end(last)
    edges.append(last.box.bottom - (edges[-1] - last.box.y) if end is None else end)
    return edges


def _end(row: Area) -> float | None:
    """Where a row is seen to end: at its rule, or its ground."""
    if _has_rule(row):
        return row.parts[-1].box.bottom
    return row.box.bottom if row.ground else None


def _starts(columns: Sequence[_Column], left: float) -> list[float]:
    """Where columns begin: as far before their text as the first one does."""
    room = columns[0].left - left
    starts = [left]
    for before, column in pairwise(columns):
        pen = max(before.left, starts[-1])
        after = min(room, pen - starts[-1])  # as much as before it
        latest = min(column.left - room, pen + before.most - NEAR + after)
        starts.append(max(pen + before.widest + 1, latest))
    return starts
