"""Things beside one another -> flex where they are as wide as they are, grid for columns."""

from __future__ import annotations

import math
from collections.abc import Sequence

from riffler.markup import levels
from riffler.markup.area import Area, Shape
from riffler.markup.columns import Columns, halved
from riffler.markup.element import Element, in_windows, meant, snapped
from riffler.markup.evening import at_pitch, even_gap
from riffler.markup.extents import (
    Member,
    are_columns,
    area_of,
    borders_of,
    has_ground,
    hugs,
    is_grid,
    is_label,
    is_leader,
    is_text_and_end,
    left_of,
    right_of,
)
from riffler.markup.laying import Laying
from riffler.markup.places import Edges
from riffler.markup.wrap import REACH

#: What is nearer than this is at the same height or place.
NEAR = 1.5

#: The gap between rows where a row with wide gaps wraps, in CSS pixels.
BELOW = 16

#: The least gap that pushes things apart, in CSS pixels.
PUSHED = 40

#: By how much the usual gap is larger at the most than the smallest, which a margin makes good.
CLOSER = 2

#: Room beside the last thing that is no larger a share of the widest gap is no more than an inset.
REST = 0.12

#: The widest gap that does not shrink with the window, in CSS pixels.
WIDE_GAP = 48


def _giving_way(children: Sequence[Element]) -> dict[str, str]:
    """What lets a row with a field be narrower than that is, where it has to."""
    return {"min-width": "0"} if any(child.laid.tag == "input" for child in children) else {}


def _has_width(area: Area) -> bool:
    """Whether it is a plate that says how wide it is, and no label with the room around it."""
    return area.ground is not None and (not is_label(area) or _breaks(area))


def _breaks(area: Area) -> bool:
    """Whether words in it go on to another line, which its own width makes them do."""
    return any(len(setting.lines) > 1 for setting in area.words())


def _has_tracks(area: Area) -> bool:
    """Whether a list is laid out in columns, which need to know how much room they have."""
    in_rows = area.columns * 2 <= len(area.parts) or at_pitch(area)
    return area.columns > 1 and ((area.pitch > 0 and in_rows) or is_grid(area))


class Rows:
    """Lays out rows for a flow."""

    def __init__(self, flow: Laying) -> None:
        self._flow = flow
        self._say = flow.say
        self._columns = Columns(flow)

    def lay(self, element: Element, edges: Edges, top: float, member: Member) -> float:
        """Lay out what is in a row; its bottom."""
        area = element.space
        children = element.inner
        borders = borders_of(area)
        inner = edges.inset(borders)
        seen = [area_of(child) for child in children]
        areas = halved(seen, inner)
        start = self._start(element, inner, areas)
        if are_columns(areas) or areas != seen:
            spans = self._columns.lay(element, children, areas, inner, start)
        elif (gap := even_gap(areas, inner.right)) is not None:
            spans = self._columns.even(element, areas, start, gap)
        elif member.is_table and len(areas) > 2 and not any(map(is_leader, areas)):
            spans = self._columns.table(element, children, areas, inner)
        else:
            spans = self._flex(element, children, areas, inner, start, is_table=member.is_table)
            self._fill(element, areas, inner)
        bottom = levels.down(
            self._flow, levels.Row(element, areas, spans, top + borders.top, member)
        )
        if has_ground(area):
            bottom = max(bottom, area.box.bottom - borders.bottom)
        return bottom + borders.bottom

    def _start(self, element: Element, edges: Edges, areas: Sequence[Area]) -> float:
        """Where the first thing begins; padding keeps it there, and as much room at the end."""
        left = meant(left_of(areas[0]) - edges.left)
        right = snapped(edges.right - right_of(areas[-1]))
        if self._is_at_end(areas, edges):
            element.css |= self._flow.places.sides("padding", 0.0, max(0.0, right), edges)
            element.css["justify-content"] = "flex-end"
        elif left > 0:
            both = right if 0 <= right < left or abs(right - left) <= NEAR else left
            sides = self._flow.places.sides("padding", left, max(0.0, both), edges)
            element.css |= sides
            if left > 28 and not self._flow.places.is_whole(edges):
                element.narrow["padding-inline"] = self._say(16)
        elif left < 0:
            element.inner[0].css["margin-left"] = self._say(left)
        return edges.left + left

    def _is_at_end(self, areas: Sequence[Area], edges: Edges) -> bool:
        """Whether things stand at the right of their room, and begin wherever they do."""
        left, right = left_of(areas[0]) - edges.left, edges.right - right_of(areas[-1])
        return left > edges.width / 2 and not are_columns(areas) and right < left / 2

    def _flex(
        self,
        element: Element,
        children: Sequence[Element],
        areas: Sequence[Area],
        edges: Edges,
        start: float,
        *,
        is_table: bool,
    ) -> list[Edges]:
        """Things as wide as they are, with what is between them; some pushed to the right."""
        element.css["display"] = "flex"
        element.narrow["flex-wrap"] = "wrap"
        element.narrow |= _giving_way(children)
        lefts = [left_of(area) for area in areas]
        rights = [right_of(area) for area in areas]
        gaps = [after - right for right, after in zip(rights[:-1], lefts[1:], strict=True)]
        spans = []
        pushed = self._pushed(areas, gaps, edges, start, is_table=is_table)
        usual = self._usual_gap([gap for n, gap in enumerate(gaps) if n + 1 != pushed])
        if usual > 0:
            element.css["gap"] = self._shrinking(usual)
        if usual > 16:
            element.narrow["gap"] = self._say(16)
        carried = 0.0
        for number, (child, area) in enumerate(zip(children, areas, strict=True)):
            if pushed and number == pushed:
                self._push(element, child, is_table=is_table)
                self._keep_off(element, snapped(edges.right - rights[-1]))
            elif number:
                carried += gaps[number - 1] - usual
                own = meant(carried)
                carried -= own
                if own:
                    child.css["margin-left"] = self._say(own)
                if own > PUSHED:
                    child.narrow["margin-left"] = "0"
            is_last = number == len(areas) - 1 and pushed != number
            spans.append(self._item(child, area, is_last, edges))
        return spans

    def _fill(self, element: Element, areas: Sequence[Area], edges: Edges) -> None:
        """On phones a text takes all the room that a short one beside it leaves."""
        if not self._flow.places.is_for_phones or len(areas) != 2:
            return
        is_whole = abs(edges.right - right_of(areas[1])) <= NEAR
        if is_whole and is_text_and_end(*areas):
            text, end = element.inner
            element.css["gap"] = self._say(snapped(left_of(areas[1]) - right_of(areas[0])))
            text.css |= {"flex": "1", "min-width": "0"}
            end.css["flex"] = "none"

    def _push(self, element: Element, child: Element, *, is_table: bool) -> None:
        """What stands at the end of a row; below the rest where that leaves it no room."""
        if len(element.inner) == 2 and not is_table:
            element.css["justify-content"] = "space-between"
            element.narrow["gap"] = self._say(16)
            return
        child.css["margin-left"] = "auto"
        if not is_table:
            child.narrow["margin-left"] = "0"

    def _keep_off(self, element: Element, right: float) -> None:
        """What is pushed to the right ends as far before the edge as it does."""
        if right > NEAR and "padding-inline" not in element.css:
            element.css.setdefault("padding-right", self._say(right))

    def _item(self, child: Element, area: Area, is_last: bool, edges: Edges) -> Edges:
        """One thing of a row: as wide as it is, or all the room that is left."""
        if area.shape is Shape.PICTURE and area.piece:
            child.css["flex"] = "none"
            return Edges(area.piece.paint.x, area.piece.paint.right)
        width = self._say(snapped(area.box.width))
        if is_leader(area):
            child.css["flex"] = "1"
        elif child.laid.tag == "input":
            child.css |= {"flex": "0 1 auto", "width": width}  # what is around it is as wide, too
        elif child.laid.tag == "label" and area.shape is Shape.STACK:
            child.css["width"] = width  # its field is as wide as it is
        elif area.shape is Shape.BOX:
            child.css |= {"flex": "none", "width": width}
        elif area.shape is Shape.LIST and _has_tracks(area):
            child.css["flex"] = f"0 1 {self._say(math.ceil(area.box.width))}"
        elif hugs(area):
            child.laid.css["width"] = "fit-content"
            child.css["flex"] = "none"
        elif area.setting is not None or area.is_frame:
            return self._loose(child, area, is_last, edges)
        elif _has_width(area):
            child.css["flex"] = f"0 1 {width}"
        return Edges(left_of(area), right_of(area))

    def _loose(self, child: Element, area: Area, is_last: bool, edges: Edges) -> Edges:
        """A text, or several things, in a row: what is last may take the room that is left."""
        many = _breaks(area)
        if area.setting is not None and many:
            self._flow.places.limit(child, area, edges.right - area.box.x)
            if is_last and "max-width" not in child.css:
                child.css |= {"flex": "1", "min-width": "0"}
            return Edges(area.box.x, edges.right)
        if area.shape in (Shape.STACK, Shape.PILE) and area.is_frame:
            if is_last:
                least = self._say(min(200, int(area.box.width)))
                child.css |= {"flex": f"1 1 {least}", "min-width": "0"}
                return Edges(area.box.x, max(area.box.right, edges.right))
            if many or any(part.shape is Shape.LIST for part in area.parts):
                # no narrower than its words
                child.css["flex"] = f"0 1 {self._say(math.ceil(area.box.width) + 1)}"
        return Edges(area.box.x, area.box.right)

    def _pushed(
        self,
        areas: Sequence[Area],
        gaps: Sequence[float],
        edges: Edges,
        start: float,
        *,
        is_table: bool,
    ) -> int:
        """The number of the first thing that stands at the right of the row; 0 for none."""
        right = edges.right - right_of(areas[-1])
        left = start - edges.left
        if not gaps or any(map(is_leader, areas)) or self._is_at_end(areas, edges):
            return 0
        widest = max(range(len(gaps)), key=lambda n: gaps[n])
        if right > max(REACH, left + 2 * NEAR, REST * gaps[widest]):
            return 0
        is_wide = gaps[widest] >= (1 if is_table else PUSHED)
        rest = [gap for n, gap in enumerate(gaps) if n != widest]
        return widest + 1 if is_wide and gaps[widest] > 1.5 * max(rest, default=0) else 0

    def _shrinking(self, gap: float) -> str:
        """A gap; a wide one is a share of windows that are narrower than the mockup.

        What wraps there stays near.
        """
        if gap <= WIDE_GAP:
            return self._say(gap)
        return f"{self._say(BELOW)} min({self._say(gap)}, {in_windows(gap, self._flow.width)})"

    def _usual_gap(self, gaps: Sequence[float]) -> float:
        """The gap that most things in a row have."""
        rounded = [snapped(gap) for gap in gaps if gap > 0]
        if not rounded:
            return 0.0
        usual = max(rounded, key=lambda gap: (rounded.count(gap), -gap))
        return usual if usual <= CLOSER * min(rounded) else min(rounded)
