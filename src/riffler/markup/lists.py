"""Things alike -> a list from top to bottom, a row, a grid, or the bars of a chart."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise

from riffler.geometry import Rect
from riffler.markup.area import Area, Shape
from riffler.markup.element import Element, snapped
from riffler.markup.evening import at_pitch, spread
from riffler.markup.extents import Member, area_of, has_ground, is_grid, widest_leaf
from riffler.markup.laying import Laying
from riffler.markup.members import fills_rows, has_edges, is_pictured, is_strip, needed
from riffler.markup.places import SPARE, Edges

#: Room on both sides of centred words before their columns fall, in CSS pixels.
BESIDE = 16

#: What has a picture shrinks to so much of its width before there are fewer columns.
SHRUNK = 0.64

#: What is nearer than this is at the same place, in CSS pixels.
NEAR = 1.5


class Lists:
    """Lays out lists for a flow."""

    def __init__(self, flow: Laying) -> None:
        self._flow = flow
        self._say = flow.say

    def lay(self, element: Element, edges: Edges, top: float) -> float:
        """Things alike: under one another, beside one another, or in a grid."""
        area = element.space
        items = element.inner
        boxes = [area_of(item).box for item in items]
        if area.columns == 1 or len(items) < 2:
            return self._column(element, items, edges, top)
        widths = [box.width for box in boxes]
        is_even = max(widths) - min(widths) <= 2 * NEAR and boxes[0].width > 60
        if all(item.laid.area is not None and item.laid.area.shape is Shape.BOX for item in items):
            return self._bars(element, items, top)
        is_whole = self._flow.places.is_whole(edges)
        if fills_rows(items, boxes) or (is_whole and is_strip(area)):
            lay = self._strip if is_strip(area) else self._filled
            return lay(element, items, boxes, top)
        return self._in_grid(element, boxes, edges, top, is_even=is_even)

    def _in_grid(
        self, element: Element, boxes: list[Rect], edges: Edges, top: float, *, is_even: bool
    ) -> float:
        """Things in columns, or beside one another as wide as they are."""
        area, items = element.space, element.inner
        gap = self._grid(element, area, boxes, edges)
        if area.pitch > 0 and gap != snapped(boxes[1].x - boxes[0].right):
            boxes = [replace(box, width=area.pitch - gap) for box in boxes]
        self._gaps(element, boxes, gap)
        bottom = top
        self._lower(items, boxes)
        is_ragged = self._end(element, items, boxes)
        is_shared = "1fr" in element.css.get("grid-template-columns", "")
        for item, box in zip(items, boxes, strict=True):
            member = Member(has_height=has_ground(area_of(item)) and not is_ragged)
            if not is_shared:
                self._width_of(item, is_even=is_even)
            if area.is_centred and area_of(item).setting is not None:
                item.laid.css["text-align"] = "center"
            height = self._flow.lay(
                item.laid, Edges(box.x, box.right), box.y - area.box.y + top, member
            )
            bottom = max(bottom, height)
        return max(bottom, top + area.box.height)

    def _grid(self, element: Element, area: Area, boxes: Sequence[Rect], edges: Edges) -> float:
        """How things stand beside one another; the gap that is between them."""
        widths = [box.width for box in boxes]
        if area.is_centred:
            if edges.width - area.box.width > NEAR:
                element.css["max-width"] = self._say(snapped(area.box.width))
            if area.columns < len(boxes):
                return self._in_cells(element, area.columns)
            return self._centred(element, area, widths[0])
        if is_grid(area):
            return self._even(element, area, boxes, edges)
        if area.pitch > 0 and (area.columns * 2 <= len(boxes) or at_pitch(area)):
            fits = [width for width in widths if width <= area.pitch] or widths
            gap = self._pitched(element, area, max(fits), edges)
            self._span(element.inner, widths, area.pitch - gap)
            return gap
        return self._loose(element, boxes)

    def _even(self, element: Element, area: Area, boxes: Sequence[Rect], edges: Edges) -> float:
        """Columns of one width that fill their row."""
        if is_pictured(area):
            return self._pictured(element, area, boxes)
        if not any(map(has_edges, area.parts)):
            return self._unframed(element, area, boxes, edges)
        least = self._say(int(min(box.width for box in boxes)) - 1)
        tracks = f"repeat(auto-fill, minmax(min(100%, {least}), 1fr))"
        element.css |= {"display": "grid", "grid-template-columns": tracks}
        return max(0.0, snapped(boxes[1].x - boxes[0].right))

    def _unframed(self, element: Element, area: Area, boxes: Sequence[Rect], edges: Edges) -> float:
        """Columns whose edges nobody sees: they fill the room if their steps do."""
        wide = spread(area, edges.right)
        if wide is not area:
            boxes = [part.box for part in wide.parts]
        elif area.pitch > 0 and boxes[area.columns - 1].right < edges.right - SPARE:
            return self._pitched(element, area, max(box.width for box in boxes), edges)
        return self._shrinking(element, area, boxes, widest_leaf(area) + BESIDE)

    def _loose(self, element: Element, boxes: Sequence[Rect]) -> float:
        """Things as wide as they are, with what is between them on the whole."""
        row = [box for box in boxes if abs(box.y - boxes[0].y) < box.height / 2]
        element.css["display"] = "flex"
        (element.css if len(row) < len(boxes) else element.narrow)["flex-wrap"] = "wrap"
        gaps = [after.x - box.right for box, after in pairwise(row)]
        return snapped(sum(gaps) / len(gaps)) if gaps else 0.0

    def _centred(self, element: Element, area: Area, width: float) -> float:
        """Columns of one width with centred words, which fall where these have no room."""
        least = self._say(int(min(width - 1, widest_leaf(area) + 2 * BESIDE)))
        tracks = f"repeat(auto-fit, minmax(min(100%, {least}), 1fr))"
        element.css |= {"display": "grid", "grid-template-columns": tracks}
        return 0.0

    def _in_cells(self, element: Element, columns: int) -> float:
        """Rows of centred words which those of each row share, of the last too."""
        element.css |= {"display": "flex", "flex-wrap": "wrap"}
        for item in element.inner:
            item.css["flex"] = f"1 1 {100 // columns}%"
        return 0.0

    def _pictured(self, element: Element, area: Area, boxes: Sequence[Rect]) -> float:
        """Columns with pictures that are as wide: they shrink before they fall, and never grow."""
        width = min(box.width for box in boxes)
        least = max(SHRUNK * width, *map(needed, area.parts))
        gap = self._shrinking(element, area, boxes, least)
        for item in element.inner:
            item.css["max-width"] = self._say(math.ceil(width))
            item.narrow["justify-self"] = "center"
            item.narrow["width"] = "100%"
        return gap

    def _shrinking(
        self, element: Element, area: Area, boxes: Sequence[Rect], least: float
    ) -> float:
        """Columns of one width that shrink to the least that they need before they fall."""
        gap = max(0.0, snapped(boxes[1].x - boxes[0].right))
        tracks = self._shared(area.columns, gap, min(least, boxes[0].width - 1))
        element.css |= {"display": "grid", "grid-template-columns": tracks}
        return gap

    def _shared(self, columns: int, gap: float, least: float) -> str:
        """So many columns that share their room, or fewer where each would have too little."""
        across = f"(100% - {self._say(gap * (columns - 1) + 1)}) / {columns}"
        least_said = self._say(math.floor(least))
        return f"repeat(auto-fill, minmax(min(100%, max({least_said}, {across})), 1fr))"

    def _lower(self, items: Sequence[Element], boxes: Sequence[Rect]) -> None:
        """Keep each thing as far below the highest of its row as it is, if one is higher."""
        lower = []
        for box in boxes:
            row = [other.y for other in boxes if other.y < box.bottom and box.y < other.bottom]
            lower.append(snapped(box.y - min(row)))
        if max(lower) < 1:
            return
        for item, by in zip(items, lower, strict=True):
            item.css["margin-block-start"] = self._say(by) if by >= 1 else "0"
            item.narrow["margin-block-start"] = "0"

    def _end(self, element: Element, items: Sequence[Element], boxes: Sequence[Rect]) -> bool:
        """Whether things with edges end at several heights, though they begin at one."""
        if not all(has_ground(area_of(item)) for item in items):
            return False
        rows = [[other.bottom for other in boxes if abs(other.y - box.y) <= NEAR] for box in boxes]
        is_ragged = any(max(row) - min(row) > NEAR for row in rows)
        if is_ragged:
            element.css["align-items"] = "start"
        return is_ragged

    def _strip(
        self, element: Element, items: Sequence[Element], boxes: Sequence[Rect], top: float
    ) -> float:
        """Pictures from edge to edge, which share the width as they do in the mockup."""
        gap = max(0.0, snapped(boxes[1].x - boxes[0].right))
        tracks = " ".join(f"minmax(0, {snapped(box.width):g}fr)" for box in boxes)
        if len({snapped(box.width) for box in boxes}) == 1:
            tracks = f"repeat({len(boxes)}, minmax(0, 1fr))"
        element.css |= {"display": "grid", "grid-template-columns": tracks}
        least = f"max({self._say(int(min(box.width for box in boxes) / 2))}, 100% / {len(boxes)})"
        element.narrow["grid-template-columns"] = f"repeat(auto-fit, minmax({least}, 1fr))"
        if gap:
            element.css["gap"] = self._say(gap)
        for item in items:
            item.laid.css |= {"width": "100%", "height": "100%", "object-fit": "cover"}
        self._flow.places.keep_size(element, boxes[-1].right - boxes[0].x, area_of(items[0]))
        return top + max(box.height for box in boxes)

    def _filled(
        self, element: Element, items: Sequence[Element], boxes: Sequence[Rect], top: float
    ) -> float:
        """Labels that share the width of each row, however many it holds."""
        element.css |= {"display": "flex", "flex-wrap": "wrap"}
        self._gaps(element, boxes, max(0.0, snapped(boxes[1].x - boxes[0].right)))
        least = self._say(math.floor(min(box.width for box in boxes)) - 1)
        for item, box in zip(items, boxes, strict=True):
            item.css["flex"] = f"1 1 {least}"
            self._flow.lay(item.laid, Edges(box.x, box.right), top + box.y - boxes[0].y)
        return top + boxes[-1].bottom - boxes[0].y

    def _pitched(self, element: Element, area: Area, widest: float, edges: Edges) -> float:
        """Columns of one width that begin at equal steps; the gap between them."""
        spare = 0.0
        if not all(map(has_edges, area.parts)):
            widest = math.ceil(widest)
            room = edges.right - area.box.x - (area.columns - 1) * area.pitch - widest
            spare = min(SPARE, max(0.0, room))
        gap = max(0.0, snapped(area.pitch - snapped(widest) - spare))
        width = snapped(area.pitch - gap)
        full = area.columns * width + (area.columns - 1) * gap
        has_room = edges.width >= full
        wrapped = f"repeat(auto-fill, min(100%, {self._say(width)}))"
        if abs(edges.right - area.box.x - full) <= NEAR:
            least = min(widest_leaf(area) + BESIDE, width - 1)
            wrapped = self._shared(area.columns, gap, least)
        tracks = wrapped if has_room else f"repeat({area.columns}, {self._say(width)})"
        element.css |= {"display": "grid", "grid-template-columns": tracks}
        if not has_room:
            element.narrow["grid-template-columns"] = wrapped
        return gap

    def _span(self, items: Sequence[Element], widths: Sequence[float], column: float) -> None:
        """Things wider than a column take the row, and those with edges that are narrower less."""
        for item, width in zip(items, widths, strict=True):
            if width > column + SPARE:
                item.css["grid-column"] = "1 / -1"
            elif width < column - SPARE and has_edges(area_of(item)):
                item.css["max-width"] = self._say(snapped(width))

    def _gaps(self, element: Element, boxes: Sequence[Rect], gap: float) -> None:
        """Gaps across and down."""
        second = next((n for n, box in enumerate(boxes) if n and box.x <= boxes[0].x + NEAR), 0)
        bottom = max(box.bottom for box in boxes[: second or 1])
        down = max(0.0, snapped(boxes[second].y - bottom)) if second else gap
        if gap or down:
            gaps = self._say(gap) if gap == down else f"{self._say(down)} {self._say(gap)}"
            element.css["gap"] = gaps

    def _width_of(self, item: Element, *, is_even: bool) -> None:
        """What a thing in a row needs to be as wide as it is: a label has room around it."""
        area = area_of(item)
        if area.piece is not None or area.shape is Shape.BOX:
            return
        if item.laid.label is not None:
            width = self._say(snapped(area.box.width))
            item.laid.css["width"] = width if is_even else "fit-content"

    def _column(
        self, element: Element, items: Sequence[Element], edges: Edges, top: float
    ) -> float:
        """A list from top to bottom with even gaps."""
        y, gap = top, 0.0
        heights = [area_of(item).box.height for item in items]
        is_even = max(heights) - min(heights) <= NEAR
        for number, item in enumerate(items):
            own_area = area_of(item)
            if number == 1:
                gap = snapped(own_area.box.y - y)
                if gap > 0:
                    element.css |= {"display": "grid", "gap": self._say(gap)}
            if number:
                y += max(0.0, gap)
            has_height = is_even and has_ground(own_area)
            member = Member(is_table=len(items) > 2, has_height=has_height)
            placed = self._flow.places.across(item, own_area, edges)
            y = self._flow.lay(item.laid, placed, y, member)
        return y

    def _bars(self, element: Element, items: Sequence[Element], top: float) -> float:
        """The bars of a chart: on one line, each of a height of its own."""
        area = element.space
        boxes = [area_of(item).box for item in items]
        element.css |= {
            "display": "flex",
            "align-items": "end",
            "gap": self._say(snapped(boxes[1].x - boxes[0].right)),
        }
        for item, box in zip(items, boxes, strict=True):
            item.css |= {"width": self._say(snapped(box.width)), "height": "var(--size)"}
            item.attributes["style"] = f"--size: {snapped(box.height):g}px"
        return top + area.box.height
