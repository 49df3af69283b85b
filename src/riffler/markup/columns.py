"""Things beside one another -> the columns of a grid, or the cells of a table's row."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise

from riffler.geometry import Rect
from riffler.markup.area import Area, Shape
from riffler.markup.element import Element, snapped
from riffler.markup.extents import has_ground, hugs, left_of, right_of
from riffler.markup.laying import Laying
from riffler.markup.places import SIDE, Edges, Side

#: What is nearer than this is at the same place, in CSS pixels.
NEAR = 1.5

#: Gaps between columns are multiples of this, in CSS pixels.
STEP = 8

#: The narrowest of columns that fill their room, in CSS pixels.
NARROWEST = 140

#: The most columns of a grid that is meant, and how far from it widths may be, in CSS pixels.
FINEST, MEANT = 4, 0.75


def shares(widths: Sequence[float], gap: float) -> list[int]:
    """How many columns of a grid with this gap each width spans: thirds, halves, quarters.

    One and two where they are a third and two thirds; none where no grid of up to `FINEST`
    columns has them.
    """
    whole = sum(widths) + gap * len(widths)
    for count in range(len(widths), FINEST + 1):
        spans = [round((width + gap) * count / whole) for width in widths]
        off = [
            span * whole / count - gap - width for width, span in zip(widths, spans, strict=True)
        ]
        if sum(spans) == count and min(spans) > 0 and max(map(abs, off)) <= MEANT:
            return spans
    return []


def _roomy(area: Area, gap: float) -> float:
    """The gap beside a column of text: its ink ends somewhere, the column a little beyond it.

    The least that a column can be is what its longest line takes, the most what takes in a word of
    the next line. In between a gap of whole steps is meant.
    """
    if area.ground is not None or area.piece is not None or gap <= STEP:
        return gap
    spare = [
        setting.lines[0].x + setting.next_words - area.box.right
        for setting in area.words()
        if len(setting.lines) > 1 and setting.align == "left"
    ]
    wider = min((room for room in spare if room > 1), default=0.0)
    rounded = float((gap - 1) // STEP * STEP)
    return rounded if gap - rounded < wider - 1 else gap


def halved(areas: Sequence[Area], edges: Edges) -> list[Area]:
    """Two areas, of which a picture fills half of a room: what is beside it has the other half."""
    pictures = [area for area in areas if area.shape is Shape.PICTURE and area.piece]
    others = [area for area in areas if area.shape is Shape.STACK and not has_ground(area)]
    if (len(areas), len(pictures), len(others)) != (2, 1, 1):
        return [*areas]
    left, right = _beside(pictures[0].box, edges)
    box = others[0].box
    if right <= left or box.x < left or box.right > right:
        return [*areas]
    half = replace(others[0], box=Rect(left, box.y, right - left, box.height))
    return [half if area is others[0] else area for area in areas]


def _beside(picture: Rect, edges: Edges) -> tuple[float, float]:
    """The other half of a room; nothing where a picture fills none."""
    middle = (edges.left + edges.right) / 2
    if abs(picture.x - edges.left) <= NEAR and abs(picture.right - middle) <= 2 * NEAR:
        return picture.right, edges.right
    if abs(picture.right - edges.right) <= NEAR and abs(picture.x - middle) <= 2 * NEAR:
        return edges.left, picture.x
    return 0.0, 0.0


class Columns:
    """Lays out columns for a flow."""

    def __init__(self, flow: Laying) -> None:
        self._flow = flow
        self._say = flow.say

    def lay(
        self,
        element: Element,
        children: Sequence[Element],
        areas: Sequence[Area],
        edges: Edges,
        start: float,
    ) -> list[Edges]:
        """A grid of columns with the widths that they have to one another."""
        lefts = [start, *(area.box.x for area in areas[1:])]
        rights = [area.box.right for area in areas]
        gap = snapped(min(after - right for right, after in zip(rights, lefts[1:], strict=False)))
        gap = _roomy(areas[0], gap) if len(areas) == 2 else gap
        last = max(rights[-1], edges.right - max(0.0, start - edges.left))
        ends = [*(after - max(0.0, gap) for after in lefts[1:]), last]
        if rights[-1] >= edges.right:
            ends[-1] = rights[-1]
        self._declare(
            element, children, [end - left for left, end in zip(lefts, ends, strict=True)], gap
        )
        spare = snapped(edges.right - ends[-1])
        if spare > NEAR and "padding-inline" not in element.css:
            element.css["padding-right"] = self._say(spare)
        halves = self._halves(areas, edges, start, gap) or [None] * len(areas)
        is_whole = self._flow.places.is_whole(edges) and start - edges.left < SIDE
        for child, area, end, half in zip(children, areas, ends, halves, strict=True):
            child.narrow["margin-top"] = "0"
            self._at_side(child, area, half, is_whole=is_whole)
            self._reach(child, area, end)
        ends = [max(end, right) for end, right in zip(ends, rights, strict=True)]
        return [Edges(left, end, half) for left, end, half in zip(lefts, ends, halves, strict=True)]

    def even(
        self, element: Element, areas: Sequence[Area], start: float, gap: float
    ) -> list[Edges]:
        """A grid of columns of one width, but for the first; fewer beside one another on phones."""
        lefts = [start, *(area.box.x for area in areas[1:])]
        first, width = lefts[1] - lefts[0] - gap, lefts[-1] - lefts[-2] - gap
        tracks = f"repeat({len(areas)}, minmax(0, 1fr))"
        if abs(first - width) > len(areas):
            rest = f"repeat({len(areas) - 1}, minmax(0, {round(width)}fr))"
            tracks = f"minmax(0, {round(first)}fr) {rest}"
        element.css |= {"display": "grid", "grid-template-columns": tracks}
        if gap:
            element.css["column-gap"] = self._say(gap)
        least = f"minmax(min(100%, {self._say(NARROWEST)}), 1fr)"
        element.narrow |= {
            "grid-template-columns": f"repeat(auto-fit, {least})",
            "row-gap": self._say(24),
        }
        ends = [lefts[1] - gap, *(left + width for left in lefts[1:])]
        return [Edges(left, end) for left, end in zip(lefts, ends, strict=True)]

    def _halves(
        self, areas: Sequence[Area], edges: Edges, start: float, gap: float
    ) -> list[Side | None]:
        """The sides of the window that two halves of it end at; none where they are no halves."""
        is_whole = self._flow.places.is_whole(edges) and abs(start - edges.left) <= NEAR
        pictures = [area for area in areas if area.shape is Shape.PICTURE and area.piece]
        if len(areas) != 2 or not is_whole or gap > NEAR or not pictures:
            return []
        is_even = abs(areas[0].box.width - areas[1].box.width) <= 2 * NEAR
        return ["left", "right"] if is_even and not self._flow.places.is_for_phones else []

    def _at_side(self, child: Element, area: Area, half: Side | None, *, is_whole: bool) -> None:
        """What a column needs that may end at the side of the window."""
        if half and area.shape is Shape.PICTURE:
            self._half(child, area, half)
        elif is_whole and area.ground is None:
            child.narrow["padding-inline"] = self._say(SIDE)

    def _half(self, child: Element, area: Area, side: Side) -> None:
        """A picture in half of a window keeps its size, and to the middle of the window."""
        child.css |= {
            "width": "100%",
            "height": "100%",
            "max-height": self._say(snapped(area.box.height)),
            "object-fit": "none",
            "object-position": "right" if side == "left" else "left",
        }
        width = self._say(snapped(area.box.width))
        if area.piece is not None and area.piece.is_fine:
            child.css |= {"object-fit": "cover", "max-width": width}
            if side == "left":
                child.css["margin-left"] = "auto"
        child.narrow |= {"height": "auto", "max-width": width, "margin-inline": "auto"}

    def _declare(
        self, element: Element, children: Sequence[Element], widths: Sequence[float], gap: float
    ) -> None:
        """The grid: its tracks, the gap between them, one under another in narrow windows."""
        spans = shares(widths, max(0.0, gap))
        tracks = f"repeat({sum(spans)}, minmax(0, 1fr))"
        if not spans:
            tracks = " ".join(f"minmax(0, {round(width, 1):g}fr)" for width in widths)
        for child, span in zip(children, spans, strict=False):
            if span > 1:
                child.css["grid-column"] = f"span {span}"
                child.narrow["grid-column"] = "auto"
        element.css |= {"display": "grid", "grid-template-columns": tracks}
        if gap > 0:
            element.css["column-gap"] = self._say(gap)
        element.narrow |= {"grid-template-columns": "minmax(0, 1fr)", "row-gap": self._say(24)}

    def _reach(self, child: Element, area: Area, end: float) -> None:
        """Let what is wider than its column, or whose shadow is, reach over the edge."""
        if area.box.right - end > NEAR:
            child.css["margin-right"] = self._say(snapped(end - area.box.right))
            child.narrow["margin-right"] = "0"
        if area.shape is not Shape.PICTURE or area.piece is None:
            return
        beyond = snapped(area.piece.paint.x - area.box.x)
        if beyond:
            child.css |= {"margin-left": self._say(beyond), "max-width": "none"}
            child.narrow |= {"max-width": "100%", "margin-left": "0"}

    def table(
        self, element: Element, children: Sequence[Element], areas: Sequence[Area], edges: Edges
    ) -> list[Edges]:
        """The cells of a table's row, each as far from the left as in every other row."""
        lefts = [left_of(area) for area in areas]
        element.narrow |= {"display": "flex", "flex-wrap": "wrap", "gap": f"0 {self._say(12)}"}
        for child, area in zip(children, areas, strict=True):
            if hugs(area):
                child.laid.css["width"] = "fit-content"
        ends = [*lefts[1:], areas[-1].box.right]
        right = edges.right - areas[-1].box.right
        last, is_end = edges.right, False
        if -NEAR <= right <= max(NEAR, 1.2 * (lefts[0] - edges.left) + NEAR):
            right = max(0.0, right)
            children[-1].css["justify-self"] = "end"
            element.css.pop("padding-inline", None)
            element.css |= self._flow.places.sides(
                "padding", snapped(lefts[0] - edges.left), snapped(right), edges
            )
            last, is_end = last - snapped(right), True
        widths = [snapped(after - left) for left, after in pairwise([*lefts, last])]
        tracks = " ".join(f"minmax(0, {width:g}fr)" for width in widths)
        if is_end:  # however wide the last one is, the others begin where they do in other rows
            shares = [f"{round(100 * width / (last - lefts[0]), 2):g}%" for width in widths[:-2]]
            tracks = " ".join((*shares, "minmax(0, 1fr)", "auto"))
            gap = lefts[1] - right_of(areas[0])
            has_gap = right_of(areas[1]) + gap <= lefts[2] + NEAR
            if len(areas) == 3 and areas[0].shape is Shape.PICTURE and gap > 0 and has_gap:
                width = self._say(snapped(right_of(areas[0]) - lefts[0]))
                tracks = f"{width} minmax(0, 1fr) auto"
                element.css["column-gap"] = self._say(snapped(gap))
        element.css |= {"display": "grid", "grid-template-columns": tracks}
        return [Edges(left, end) for left, end in zip(lefts, ends, strict=True)]
