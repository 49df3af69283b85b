"""Things in a row -> how they stand to one another: by their middles, baselines or tops."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from riffler.markup.area import Area, Shape
from riffler.markup.element import Element, meant, snapped
from riffler.markup.extents import Member, borders_of, has_ground, height_of, is_leader, top_of
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


@dataclass(frozen=True)
class Row:
    """An element with what is in it: the areas of that, and from where to where each goes across.

    It begins at `top`, in CSS pixels, and is this `member` of a list.
    """

    element: Element
    areas: Sequence[Area]
    spans: Sequence[Edges]
    top: float
    member: Member

    @property
    def area(self) -> Area:
        """The area of the row itself."""
        return self.element.space


def down(flow: Laying, row: Row) -> float:
    """How things in a row stand to one another: middles, baselines, or tops in line; its bottom."""
    tops = [top_of(area) for area in row.areas]
    heights = [height_of(area) for area in row.areas]
    middles = [top + high / 2 for top, high in zip(tops, heights, strict=True)]
    if max(middles) - min(middles) <= NEAR and not any(map(is_leader, row.areas)):
        return _in_the_middle(flow, row, heights, middles)
    if _on_one_line(row.areas):
        row.element.css["align-items"] = "baseline"
        ends = [top + high for top, high in zip(tops, heights, strict=True)]
        return row.top + _above(flow, row, min(tops)) + max(ends) - min(tops)
    return _from_the_top(flow, row, tops)


def _in_the_middle(
    flow: Laying, row: Row, heights: Sequence[float], middles: Sequence[float]
) -> float:
    element, area = row.element, row.area
    element.css["align-items"] = "center"
    tallest = max(heights)
    line = middles[heights.index(tallest)]
    centre = area.box.y + area.box.height / 2
    sees_edges = has_ground(area)
    if sees_edges and abs(line - centre) <= NEAR:
        element.css["min-height"] = flow.say(snapped(area.box.height))
        if area.box.height > LOW:
            element.narrow |= {"min-height": "0", "align-content": "start"}
        if area.box.height > TALL:
            element.narrow["padding-block"] = flow.say(24)
        middle = row.top + snapped(area.box.height) / 2 - borders_of(area).top
    else:
        middle = row.top + _above(flow, row, line - tallest / 2) + tallest / 2
    for child, part, span, its in zip(element.inner, row.areas, row.spans, middles, strict=True):
        if part.shape is Shape.PICTURE:
            _nudge(flow, child, its - line)
        flow.lay(child.laid, span, middle - height_of(part) / 2)
    bottom = middle + tallest / 2
    return _below(flow, row, bottom) if sees_edges else bottom


def _from_the_top(flow: Laying, row: Row, tops: Sequence[float]) -> float:
    first = row.top + _above(flow, row, min(tops))
    heights = {round(area.box.height) for area in row.areas}
    if max(tops) - min(tops) > 0.5 or len(heights) > 1:
        row.element.css["align-items"] = "start"
    bottoms = []
    for child, part, span, begins in zip(
        row.element.inner, row.areas, row.spans, tops, strict=True
    ):
        margin = meant(begins - first)
        if margin:
            child.css["margin-top"] = flow.say(margin)
        bottom = flow.lay(child.laid, span, first + margin)
        bottoms.append(flow.after(child, part, bottom))
    return _below(flow, row, max(bottoms)) if has_ground(row.area) else max(bottoms)


def _nudge(flow: Laying, child: Element, lower: float) -> None:
    """A mark that stands a little above or below the middle of its row stays there."""
    if abs(lower) > NUDGE:
        child.css |= {"position": "relative", "top": flow.say(snapped(lower))}


def _above(flow: Laying, row: Row, begins: float) -> float:
    """The room above the highest of what is in a row, which is padding."""
    above = max(0.0, meant(begins - row.top))
    if above > 0:
        row.element.css["padding-top"] = flow.say(above)
    return above


def _below(flow: Laying, row: Row, bottom: float) -> float:
    """Room below what is in a row that has edges; the bottom inside of these."""
    element, end = row.element, row.area.box.bottom - borders_of(row.area).bottom
    if "min-height" in element.css:
        return max(bottom, end)
    spare = snapped(end - bottom)
    if row.member.has_height:
        element.css["min-height"] = flow.say(snapped(row.area.box.height))
        spare = min(spare, 16.0)
    if spare > 0:
        element.css["padding-bottom"] = flow.say(spare)
    return max(bottom, end)


def _on_one_line(areas: Sequence[Area]) -> bool:
    """Whether they are texts of one line on one baseline, and no leader stands among them."""
    settings = [area.setting for area in areas]
    lines = [setting.baseline for setting in settings if setting is not None and setting.rows == 1]
    return len(lines) == len(areas) and max(lines) - min(lines) <= 1
