"""An area and the room it stands in -> how far from the sides it stands, and how wide it may be."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal, TypeAlias

from riffler.markup.area import Area, Shape
from riffler.markup.element import NOISE, Element, Lengths, meant, snapped
from riffler.markup.evening import even_gap
from riffler.markup.extents import (
    Borders,
    are_columns,
    hugs,
    is_grid,
    is_mount,
    is_run,
    left_of,
    right_of,
)
from riffler.markup.setting import widest

#: What is nearer than this is at the same place; a text in the middle has so much on both sides.
NEAR, MIDDLE = 1.5, 6

#: Share of the page from which something goes from side to side.
WHOLE = 0.98

#: What text has to spare on its right, in CSS pixels.
SPARE = 8

#: A text is held to a width where that leaves so much, in CSS pixels; else it says its breaks.
LEAST = 1

#: Pages no wider than this are for phones, where pictures grow with the window, in CSS pixels.
PHONE = 640

#: Room at the sides of narrow windows, and the padding from which on it shrinks to that.
SIDE, WIDE = 16, 28


#: So far in from the edges of what holds them blocks are padded, and not centred, in CSS pixels.
INSET = 64


#: A side of the window.
Side: TypeAlias = Literal["left", "right"]


@dataclass(frozen=True)
class Edges:
    """From where to where something goes across.

    `half` is the side of the window where it ends, for what goes from there to the middle.
    """

    left: float
    right: float
    half: Side | None = None

    @property
    def width(self) -> float:
        """How wide it is."""
        return self.right - self.left

    def inset(self, borders: Borders) -> Edges:
        """Inside borders."""
        return Edges(self.left + borders.left, self.right - borders.right, self.half)


class Places:
    """Puts things in their place across a page of a width; on a `sheet` that may be narrower."""

    def __init__(self, width: float, lengths: Lengths) -> None:
        self.sheet = self._width = width
        self._say = lengths.say

    @property
    def is_for_phones(self) -> bool:
        """Whether the page is a narrow one."""
        return self._width <= PHONE

    def is_whole(self, edges: Edges) -> bool:
        """Whether something goes from side to side of the page."""
        is_sheet = abs(edges.width - self.sheet) <= NEAR
        return is_sheet or edges.width >= WHOLE * self._width

    def padded(self, element: Element, edges: Edges, areas: Sequence[Area]) -> Edges:
        """The room that is left inside an element when what all its parts keep free is padding."""
        free = [self._room(area, edges) for area in areas]
        if not free:
            return edges
        left = max(0.0, meant(min(value for value, _ in free)))
        right = max(0.0, meant(min(left, *(other for _, other in free))))
        is_middle = all(self._is_middle(first, second) for first, second in free) and left > MIDDLE
        is_inset = is_mount(element.area) or (left <= INSET and all(map(_is_blocky, areas)))
        if is_middle and not is_inset and not (element.area and hugs(element.area)):
            self._keep_off(element, edges, areas)
            return edges
        element.css |= self.sides("padding", left, right, edges)
        if max(left, right) > WIDE and not self.is_whole(edges):
            element.narrow["padding-inline"] = self._say(SIDE)
        return Edges(edges.left + left, edges.right - right)

    def _keep_off(self, element: Element, edges: Edges, areas: Sequence[Area]) -> None:
        """Room at the sides of narrow windows for centred words; blocks among them have theirs."""
        if self.is_whole(edges) and all(area.setting or not area.parts for area in areas):
            element.css["padding-inline"] = self._say(SIDE)

    def _free(self, area: Area, edges: Edges) -> tuple[float, float]:
        """What an area leaves free on both sides; its text may go on to the right."""
        return left_of(area) - edges.left, edges.right - right_of(area)

    def _room(self, area: Area, edges: Edges) -> tuple[float, float]:
        """What an area leaves free for padding: text in the middle may have room to spare."""
        left, right = self._free(area, edges)
        if area.setting is None:
            return left, right
        is_single = len(area.setting.lines) == 1
        if area.setting.align == "center" or (is_single and self._is_middle(left, right)):
            return max(0.0, left - MIDDLE - 2), max(0.0, right - MIDDLE - 2)
        return left, max(0.0, right - SPARE) if right > NEAR else right

    def sides(self, what: str, left: float, right: float, edges: Edges) -> dict[str, str]:
        """Padding or margin on both sides; of what goes over the page it keeps its middle.

        On phones the sides are what they are, and what is between them grows with the window.
        """
        if not left and not right:
            return {}
        is_fluid = self.is_for_phones and max(left, right) <= WIDE
        if self.is_whole(edges) and not is_fluid:
            half = edges.width / 2
            texts = [
                f"max({self._say(min(SIDE, side))}, {self._from_middle(half - side)})"
                if side
                else "0"
                for side in (left, right)
            ]
        else:
            texts = [self._say(left), self._say(right)]
        if edges.half:
            outer = ("left", "right").index(edges.half)
            length = (left, right)[outer]
            texts[outer] = f"max({self._say(SIDE)}, 100% - {self._say(edges.width - length)})"
        if texts[0] == texts[1]:
            return {f"{what}-inline": texts[0]}
        sides = zip(("left", "right"), texts, (left, right), strict=True)
        return {f"{what}-{side}": text for side, text, length in sides if length}

    def _from_middle(self, length: float) -> str:
        """How far from the side something is that begins so far before the middle."""
        return f"50% {'-' if length >= 0 else '+'} {self._say(abs(length))}"

    def pad(self, element: Element, above: float, below: float) -> None:
        """Padding above and below what is in an element."""
        if above:
            element.css["padding-top"] = self._say(above)
        if below:
            element.css["padding-bottom"] = self._say(below)

    def across(self, element: Element, area: Area, edges: Edges) -> Edges:
        """Declare where an element stands in its room; the edges that its box gets."""
        match area.shape:
            case Shape.WORDS:
                return self._words(element, area, edges)
            case Shape.PICTURE:
                return self._picture(element, area, edges)
        left, right = self._free(area, edges)
        if left <= NEAR and (right <= NEAR or self._fills_evenly(area, edges)):
            return edges
        if hugs(area):
            return self._hugging(element, area, edges)
        if self._is_centred(area, edges):
            self._keep_off(element, edges, area.parts)
            return edges
        if self._is_middle(left, right) and is_run(area):
            element.laid.css["justify-content"] = "center"
            self._keep_off(element, edges, area.parts)
            return Edges(left_of(area), right_of(area))
        if self.is_whole(edges):
            right = right if _has_right_edge(area) or right < left else left
            element.css |= self.sides("margin", snapped(left), max(0.0, snapped(right)), edges)
            return Edges(edges.left + snapped(left), edges.right - max(0.0, snapped(right)))
        return self._block(element, area, edges)

    def _fills_evenly(self, area: Area, edges: Edges) -> bool:
        """Whether they are columns at equal steps that go on to the end of the room."""
        is_row = area.shape is Shape.ROW and area.is_frame and not self.is_whole(edges)
        return is_row and even_gap(area.parts, edges.right) is not None

    def _is_centred(self, area: Area, edges: Edges) -> bool:
        """Whether it is nothing but texts in the middle, whose box nobody sees."""
        is_frame = area.ground is None and area.piece is None and area.shape is Shape.STACK
        return is_frame and all(
            part.setting is not None and self._is_middle(*self._free(part, edges))
            for part in area.parts
        )

    def fills(self, element: Element, area: Area, edges: Edges) -> bool:
        """Whether an element of no width of its own is as wide as its room."""
        if "width" in element.css or element.css.get("display") == "inline-block":
            return False
        return abs(area.box.x - edges.left) <= NEAR and abs(edges.right - area.box.right) <= NEAR

    def _block(self, element: Element, area: Area, edges: Edges) -> Edges:
        left, right = self._free(area, edges)
        width = snapped(area.box.width)
        key = "width" if area.shape is Shape.BOX and element.tag != "hr" else "max-width"
        if self._is_middle(left, right) and left > MIDDLE:
            values = {key: self._say(width)}
            if key == "max-width" and left > SIDE:
                values = {"width": f"min({self._say(width)}, 100% - {self._say(2 * SIDE)})"}
            element.css |= {**values, "margin-inline": "auto"}
            start = edges.left + (edges.width - width) / 2
            return Edges(start, start + width)
        start = edges.left
        if abs(left) > NOISE:
            element.css["margin-left"] = self._say(snapped(left))
            start += snapped(left)
            if left > WIDE:
                element.narrow["margin-left"] = "0"
        if _has_right_edge(area) and right > NEAR:
            element.css[key] = self._say(width)
            return Edges(start, start + width)
        return Edges(start, edges.right)

    def _hugging(self, element: Element, area: Area, edges: Edges) -> Edges:
        """What is as wide as its label with the room around it."""
        left, right = self._free(area, edges)
        if area.piece is None:
            element.laid.css["width"] = "fit-content"
        if self._is_middle(left, right) and left > MIDDLE:
            element.css["margin-inline"] = "auto"
        elif right <= NEAR:
            element.css["margin-left"] = "auto"
        elif abs(left) > NOISE:
            element.css["margin-left"] = self._say(snapped(left))
            if left > WIDE:
                element.narrow["margin-left"] = "0"
        return Edges(area.box.x, area.box.right)

    def _picture(self, element: Element, area: Area, edges: Edges) -> Edges:
        paint = area.piece.paint if area.piece else area.box
        left, right = paint.x - edges.left, edges.right - paint.right
        if area.piece is None:
            element.css |= {
                "width": self._say(snapped(paint.width)),
                "height": self._say(snapped(paint.height)),
            }
        if abs(left) <= NEAR and abs(right) <= NEAR:
            if self.is_whole(edges):
                element.css["width"] = "100%"
                self.keep_size(element, paint.width, area)
        elif self._is_middle(left, right):
            element.css["margin-inline"] = "auto"
        elif self.is_whole(edges) and left > MIDDLE:
            element.css |= self.sides("margin", snapped(left), 0.0, edges)
        elif abs(left) > NOISE:
            element.css["margin-left"] = self._say(snapped(left))
            if left > WIDE:
                element.narrow["margin-inline"] = "auto"
        return Edges(paint.x, paint.right)

    def keep_size(self, element: Element, width: float, area: Area) -> None:
        """What goes from side to side and is made of pixels stays in the middle of wide windows."""
        if not self.is_for_phones and area.piece is not None and not area.piece.is_drawn:
            element.css |= {"max-width": self._say(snapped(width)), "margin-inline": "auto"}

    def _is_middle(self, left: float, right: float) -> bool:
        return abs(left - right) <= 2 * NEAR

    def _words(self, element: Element, area: Area, edges: Edges) -> Edges:
        setting = area.setting
        assert setting is not None
        left, right = self._free(area, edges)
        is_single = len(setting.lines) == 1
        is_middle = self._is_middle(left, right) and left > MIDDLE
        if is_middle if is_single else setting.align == "center":
            element.css["text-align"] = "center"
            self.limit(element, area, edges.width, is_centred=True)
            return edges
        is_at_the_right = setting.align == "right" or (is_single and left > MIDDLE)
        if is_at_the_right and abs(right) <= NEAR:
            element.css["text-align"] = "right"
            return edges
        start = edges.left
        if self.is_whole(edges) and left > MIDDLE:
            element.css |= self.sides("margin", snapped(left), snapped(left), edges)
            start += snapped(left)
            self.limit(element, area, edges.width - 2 * snapped(left))
            return Edges(start, edges.right - snapped(left))
        if abs(left) > NOISE:
            element.css["margin-left"] = self._say(snapped(left))
            start += snapped(left)
            if left > WIDE:
                element.narrow["margin-left"] = "0"
        if element.tag == "a":
            element.css |= {"display": "block", "width": "fit-content"}
        self.limit(element, area, edges.right - start)
        return Edges(start, edges.right)

    def limit(
        self, element: Element, area: Area, width: float, *, is_centred: bool = False
    ) -> None:
        """Keep a text from going on where the mockup begins a new line."""
        setting = area.setting
        assert setting is not None
        if not setting.is_said and setting.rows > 1:
            element.css["min-height"] = self._say(setting.step * setting.rows)
        if len(setting.lines) < 2 or width < setting.next_words - 1:
            return
        if setting.next_words < setting.width + LEAST:
            return
        element.css["max-width"] = self._say(widest(setting.width, setting.next_words))
        if is_centred:
            element.css["margin-inline"] = "auto"


def _has_right_edge(area: Area) -> bool:
    """Whether something is seen to end at its right edge, other than a line of text."""
    if area.ground is not None or area.piece is not None:
        return True
    if area.shape is Shape.ROW:
        return are_columns(area.parts)
    if area.shape is Shape.LIST:
        return (area.columns == 1 or is_grid(area)) and _has_right_edge(area.parts[0])
    return any(
        _has_right_edge(part) and abs(part.box.right - area.box.right) <= NEAR
        for part in area.parts
    )


def _is_blocky(area: Area) -> bool:
    """Whether it fills its room, and is no line, label or picture that may be centred in it."""
    if area.setting is not None:
        return len(area.setting.lines) > 1 and area.setting.align == "left"
    return area.shape is not Shape.PICTURE and not hugs(area)
