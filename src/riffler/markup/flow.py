"""Elements with the boxes that they should have -> declarations of flow that put them there.

Every element is laid out once in numbers as a browser will do it, so that what is rounded above is
made good below: a margin is what is left from where the last thing ends to where the next begins.
Lengths are CSS pixels. CSS Box Model 3, Flexbox 1, Grid 1.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from riffler.markup.area import Area, Shape
from riffler.markup.element import Element, Lengths, snapped
from riffler.markup.places import SPARE, Edges, Places, is_grid
from riffler.markup.rows import Rows
from riffler.markup.setting import Setting

#: What is nearer than this is at the same place.
NEAR = 1.5

#: More room below is no padding, in CSS pixels: the box has a height of its own.
DEEP = 64


@dataclass(frozen=True)
class Member:
    """What an element is of a list: one row of a table, and of a height of its own."""

    is_table: bool = False
    has_height: bool = False


PLAIN = Member()


class Flow:
    """Lays out one page of a width."""

    def __init__(self, width: float, lengths: Lengths) -> None:
        self.width = width
        self.say = lengths.say
        self.places = Places(width, lengths)
        self._rows = Rows(self)

    def page(self, body: Element) -> None:
        """Lay out a whole page from its top."""
        self.lay(body, Edges(0.0, self.width), 0.0)

    def lay(self, element: Element, edges: Edges, top: float, member: Member = PLAIN) -> float:
        """Lay out what is in an element whose box has these edges and begins here; its bottom."""
        area = element.area
        assert area is not None
        if element.tag == "input":
            return self._field(element, area, top)
        match area.shape:
            case Shape.WORDS:
                assert area.setting is not None
                if element.tag in ("a", "span"):
                    element.css["display"] = "block"
                return top + area.setting.step * area.setting.rows
            case Shape.PICTURE:
                return top + (area.piece.paint.height if area.piece else area.box.height)
            case Shape.BOX:
                height = snapped(area.box.height)
                element.css["height"] = self.say(height)
                return top + height
            case Shape.ROW:
                return self._rows.lay(element, edges, top, member)
            case Shape.LIST:
                return self.list(element, edges, top)
            case Shape.PILE:
                return self._pile(element, edges, top)
        return self._stack(element, edges, top, member)

    def _field(self, element: Element, area: Area, top: float) -> float:
        setting = area.parts[0].setting
        assert setting is not None
        border = area.ground.border.width if area.ground and area.ground.border else 0
        element.css["width"] = "100%"
        element.css["height"] = self.say(snapped(area.box.height))
        left = snapped(setting.box.x - area.box.x - border)
        element.css["padding"] = f"0 {self.say(left)}"
        return top + snapped(area.box.height)

    def _stack(self, element: Element, edges: Edges, top: float, member: Member) -> float:
        """Things under one another."""
        area = element.area
        assert area is not None
        children = element.inner
        if element.label is not None:
            return self._label(element, area, element.label, (edges, top))
        border = border_of(area)
        inner = edges.inset(border)
        padded = self.places.padded(element, inner, [area_of(child) for child in children])
        y = top + border
        above = below = 0.0
        for number, child in enumerate(children):
            own = area_of(child)
            placed = self.places.across(child, own, padded)
            begins = top_of(own)
            if number == 0 and begins - y >= 0.5:
                above = snapped(begins - y)
                y += above
            elif abs(begins - y) >= 0.5:
                margin = snapped(begins - y)
                child.css["margin-top"] = self.say(margin)
                if number == 0:
                    element.css["display"] = "flow-root"
                y += margin
            y = self.lay(child.laid, placed, y, Member(is_table=member.is_table))
            y = self._after(child, own, y)
        ground = has_ground(area)
        bottom = y + border
        if ground or member.has_height:
            spare = snapped(area.box.bottom - bottom)
            below = max(0.0, spare)
            if member.has_height:
                element.css["min-height"] = self.say(snapped(area.box.height))
                below = min(below, max(12.0, above))
            bottom = max(bottom, area.box.bottom)
            if below > DEEP and not member.has_height:
                element.css["min-height"] = self.say(snapped(area.box.height))
                element.narrow["min-height"] = "0"
                below = max(above, 16.0)
        self.places.pad(element, above, below)
        return bottom

    def _label(
        self, element: Element, area: Area, label: Setting, begin: tuple[Edges, float]
    ) -> float:
        """What has nothing but words in it, with room around them."""
        edges, top = begin
        if area.piece is not None:
            element.css |= {"display": "block", "text-align": "center"}
            above = snapped(label.box.y - area.box.y)
            if above > 0:
                element.css["padding-top"] = self.say(above)
            return top + area.box.height
        border = border_of(area)
        box = label.box
        above = snapped(box.y - area.box.y - border)
        below = snapped(area.box.height - 2 * border - above - label.step)
        left, right = box.x - area.box.x - border, area.box.right - box.right - border
        side = snapped((left + right) / 2) if abs(left - right) <= 3 else snapped(left)
        is_round = area.ground is not None and area.ground.radii is None
        if is_round:
            element.css["width"] = self.say(snapped(area.box.width))
        fills = self.places.fills(element, area, edges)
        if element.css.get("width", "fit-content") == "fit-content" and not fills:
            element.css["padding-inline"] = self.say(max(0.0, side))
        elif abs(left - right) <= 3:
            element.css["text-align"] = "center"
        else:
            element.css["padding-left"] = self.say(max(0.0, side))
        if fills and element.tag == "button":
            element.css["width"] = "100%"
        element.css |= {"display": "block", "padding-top": self.say(max(0.0, above)),
                        "padding-bottom": self.say(max(0.0, below))}  # fmt: skip
        return top + above + label.step + below + 2 * border

    def _after(self, child: Element, area: Area, y: float) -> float:
        """Where the next thing begins: the shadow of a picture takes no room."""
        if area.shape is not Shape.PICTURE or area.piece is None:
            return y
        beyond = snapped(area.piece.paint.bottom - area.box.bottom)
        if beyond > 0.5:
            child.css["margin-bottom"] = self.say(-beyond)
            return y - beyond
        return y

    def _pile(self, element: Element, edges: Edges, top: float) -> float:
        """Things on one another, in one cell of a grid; what breaks out of it is placed on it."""
        area = element.area
        assert area is not None
        element.css["display"] = "grid"
        element.css["grid-template-columns"] = "minmax(0, 1fr)"
        bottom = top
        for number, child in enumerate(element.inner):
            own = area_of(child)
            if number and own.shape is Shape.PICTURE:
                self._upon(element, child, own, edges, top)
                continue
            child.css["grid-area"] = "1 / 1"
            if number == 0 and own.shape is Shape.PICTURE:
                child.css |= {"width": "100%", "height": "100%", "object-fit": "cover"}
                bottom = max(bottom, self.lay(child.laid, edges, top))
                continue
            placed = self.places.across(child, own, edges)
            begins = top_of(own)
            if abs(begins - top) >= 0.5:
                child.css["margin-top"] = self.say(snapped(begins - top))
            if number:
                child.css["position"] = "relative"
            bottom = max(bottom, self.lay(child.laid, placed, top + snapped(begins - top)))
        return bottom

    def _upon(self, element: Element, child: Element, area: Area, edges: Edges, top: float) -> None:
        """Art that breaks out of its row."""
        paint = area.piece.paint if area.piece else area.box
        element.css["position"] = "relative"
        share = 100 / edges.width
        child.css |= {
            "position": "absolute",
            "top": self.say(snapped(paint.y - top)),
            "left": f"{round(share * (paint.x - edges.left), 2):g}%",
            "width": f"{round(share * paint.width, 2):g}%",
        }

    def list(self, element: Element, edges: Edges, top: float) -> float:
        """Things alike: under one another, beside one another, or in a grid."""
        area = element.area
        assert area is not None
        items = element.inner
        boxes = [area_of(item).box for item in items]
        columns = area.columns
        if columns == 1:
            return self._column(element, items, edges, top)
        widths = [box.width for box in boxes]
        is_even = max(widths) - min(widths) <= 2 * NEAR and boxes[0].width > 60
        if all(item.laid.area is not None and item.laid.area.shape is Shape.BOX for item in items):
            return self._bars(element, items, top)
        gap = snapped(boxes[1].x - boxes[0].right)
        if area.pitch > 0 and not is_grid(area) and area.columns * 2 <= len(items):
            gap = max(0.0, snapped(area.pitch - snapped(max(widths)) - SPARE))
            boxes = [replace(box, width=area.pitch - gap) for box in boxes]
            least = self.say(snapped(area.pitch - gap))
            element.css |= {
                "display": "grid", "grid-template-columns": f"repeat(auto-fill, {least})",
            }  # fmt: skip
        elif is_grid(area):
            least = self.say(int(min(widths)) - 1)
            element.css |= {
                "display": "grid",
                "grid-template-columns": f"repeat(auto-fill, minmax(min(100%, {least}), 1fr))",
            }
        else:
            element.css |= {"display": "flex", "flex-wrap": "wrap"}
        rows = [box for box in boxes if box.y > boxes[0].y + NEAR]
        first = [box.bottom for box in boxes if box.y <= boxes[0].y + NEAR]
        down = max(0.0, snapped(rows[0].y - max(first))) if rows else gap
        if gap or down:
            gaps = self.say(gap) if gap == down else f"{self.say(down)} {self.say(gap)}"
            element.css["gap"] = gaps
        bottom = top
        for item, box in zip(items, boxes, strict=True):
            member = Member(has_height=has_ground(area_of(item)))
            self.width_of(item, is_even=is_even)
            made = self.lay(item.laid, Edges(box.x, box.right), box.y - area.box.y + top, member)
            bottom = max(bottom, made)
        return max(bottom, top + area.box.height)

    def width_of(self, item: Element, *, is_even: bool) -> None:
        """What a thing in a row needs to be as wide as it is: a label has room around it."""
        area = area_of(item)
        if area.piece is not None or area.shape is Shape.BOX:
            return
        if item.laid.label is not None:
            width = self.say(snapped(area.box.width))
            item.laid.css["width"] = width if is_even else "fit-content"

    def _column(
        self, element: Element, items: Sequence[Element], edges: Edges, top: float
    ) -> float:
        """A list from top to bottom with even gaps."""
        y, gap = top, 0.0
        for number, item in enumerate(items):
            own = area_of(item)
            if number == 1:
                gap = snapped(own.box.y - y)
                if gap > 0:
                    element.css |= {"display": "grid", "gap": self.say(gap)}
                elif gap < 0:
                    element.css["--overlap"] = self.say(gap)
            if number:
                y += max(0.0, gap)
            member = Member(is_table=len(items) > 2, has_height=has_ground(own))
            placed = self.places.across(item, own, edges)
            y = self.lay(item.laid, placed, y, member)
        element.css.pop("--overlap", None)
        return y

    def _bars(self, element: Element, items: Sequence[Element], top: float) -> float:
        """The bars of a chart: on one line, each of a height of its own."""
        area = element.area
        assert area is not None
        boxes = [area_of(item).box for item in items]
        element.css |= {
            "display": "flex", "align-items": "end",
            "gap": self.say(snapped(boxes[1].x - boxes[0].right)),
        }  # fmt: skip
        for item, box in zip(items, boxes, strict=True):
            item.css |= {"width": self.say(snapped(box.width)), "height": "var(--size)"}
            item.attributes["style"] = f"--size: {snapped(box.height):g}px"
        return top + area.box.height


def area_of(element: Element) -> Area:
    """The area of an element, or of the only one in it."""
    area = element.laid.area
    assert area is not None
    return area


def top_of(area: Area) -> float:
    """Where an element of this area begins: a picture where its file does, shadow and all."""
    return area.piece.paint.y if area.shape is Shape.PICTURE and area.piece else area.box.y


def has_ground(area: Area) -> bool:
    """Whether its own edges are seen."""
    return area.ground is not None or area.piece is not None


def border_of(area: Area) -> float:
    """How wide its border is."""
    return area.ground.border.width if area.ground and area.ground.border else 0.0
