"""Things in a row -> how they stand to one another: by their middles, baselines or tops."""

from __future__ import annotations

from collections.abc import Sequence

from riffler.markup.area import Area, Shape
from riffler.markup.element import Element, meant, snapped
from riffler.markup.extents import Member, border_of, has_ground, height_of, is_leader, top_of
from riffler.markup.laying import Laying
from riffler.markup.places import Edges

#: What is nearer than this is at the same height.
NEAR = 1.5

#: What a mark stands off the middle of its row more than this is meant, in CSS pixels.
NUDGE = 0.5

#: A row no higher than this is of one line, whose height it keeps in narrow windows, in CSS pixels.
LOW = 64

#: A row as high as this keeps room above and below in narrow windows, in CSS pixels.
TALL = 120


class Levels:
    """Puts things in a row at their heights, for a flow."""

    def __init__(self, flow: Laying) -> None:
        self._flow = flow
        self._say = flow.say

    def down(
        self,
        element: Element,
        children: Sequence[Element],
        areas: Sequence[Area],
        spans: Sequence[Edges],
        begin: tuple[float, Member],
    ) -> float:
        """How things in a row stand to one another: middles, baselines, or tops in line."""
        area = element.space
        top, member = begin
        tops = [top_of(area) for area in areas]
        heights = [height_of(area) for area in areas]
        middles = [(value + high / 2) for value, high in zip(tops, heights, strict=True)]
        centre = area.box.y + area.box.height / 2
        sees_edges = has_ground(area)
        if max(middles) - min(middles) <= NEAR and not any(map(is_leader, areas)):
            element.css["align-items"] = "center"
            tallest = max(heights)
            line = middles[heights.index(tallest)]
            if sees_edges and abs(line - centre) <= NEAR:
                element.css["min-height"] = self._say(snapped(area.box.height))
                if area.box.height > LOW:
                    element.narrow |= {"min-height": "0", "align-content": "start"}
                if area.box.height > TALL:
                    element.narrow["padding-block"] = self._say(24)
                middle = top + snapped(area.box.height) / 2 - border_of(area)
            else:
                above = max(0.0, meant(line - tallest / 2 - top))
                self._above(element, above)
                middle = top + above + tallest / 2
            for child, part, span, its in zip(children, areas, spans, middles, strict=True):
                if part.shape is Shape.PICTURE:
                    self._nudge(child, its - line)
                self._flow.lay(child.laid, span, middle - height_of(part) / 2)
            bottom = middle + tallest / 2
            return self._below(element, area, bottom, member) if sees_edges else bottom
        if self._on_one_line(areas):
            element.css["align-items"] = "baseline"
            first = min(tops)
            above = max(0.0, meant(first - top))
            self._above(element, above)
            ends = [value + high for value, high in zip(tops, heights, strict=True)]
            return top + above + max(ends) - first
        return self._from_the_top(element, children, areas, spans, (top, member))

    def _nudge(self, child: Element, lower: float) -> None:
        """A mark that stands a little above or below the middle of its row stays there."""
        if abs(lower) > NUDGE:
            child.css |= {"position": "relative", "top": self._say(snapped(lower))}

    def _from_the_top(
        self,
        element: Element,
        children: Sequence[Element],
        areas: Sequence[Area],
        spans: Sequence[Edges],
        begin: tuple[float, Member],
    ) -> float:
        area = element.space
        top, member = begin
        tops = [top_of(area) for area in areas]
        above = max(0.0, meant(min(tops) - top))
        self._above(element, above)
        first = top + above
        bottoms = []
        heights = {round(area.box.height) for area in areas}
        is_level = max(tops) - min(tops) <= 0.5 and len(heights) == 1
        if not is_level:
            element.css["align-items"] = "start"
        for child, own_area, span, begins in zip(children, areas, spans, tops, strict=True):
            margin = meant(begins - first)
            if margin:
                child.css["margin-top"] = self._say(margin)
            bottom = self._flow.lay(child.laid, span, first + margin)
            bottoms.append(self._flow.after(child, own_area, bottom))
        bottom = max(bottoms)
        return self._below(element, area, bottom, member) if has_ground(area) else bottom

    def _above(self, element: Element, above: float) -> None:
        if above > 0:
            element.css["padding-top"] = self._say(above)

    def _below(self, element: Element, area: Area, bottom: float, member: Member) -> float:
        """Room below what is in a row that has edges."""
        if "min-height" in element.css:
            return max(bottom, area.box.bottom - border_of(area))
        spare = snapped(area.box.bottom - border_of(area) - bottom)
        if member.has_height:
            element.css["min-height"] = self._say(snapped(area.box.height))
            spare = min(spare, 16.0)
        if spare > 0:
            element.css["padding-bottom"] = self._say(spare)
        return max(bottom, area.box.bottom - border_of(area))

    def _on_one_line(self, areas: Sequence[Area]) -> bool:
        """Whether they are texts of one line on one baseline, and no leader stands among them."""
        settings = [area.setting for area in areas]
        lines = [
            setting.baseline for setting in settings if setting is not None and setting.rows == 1
        ]
        return len(lines) == len(areas) and max(lines) - min(lines) <= 1
