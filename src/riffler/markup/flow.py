"""Elements with the boxes that they should have -> declarations of flow that put them there.

Every element is laid out once in numbers as a browser will do it, so that what is rounded above is
made good below: a margin is what is left from where the last thing ends to where the next begins.
Lengths are CSS pixels. CSS Box Model 3, Flexbox 1, Grid 1.

Roughing out is laying out twice: `markup/flow.py` computes where a browser will put each element
with the declarations it writes, so that what is rounded above is made good below, and nothing but a
margin is left over. Where lines begin and baselines lie comes from the ink and the face.
"""

from __future__ import annotations

from collections.abc import Sequence

from riffler.analyse.style import SIDES
from riffler.markup import controls, lines, piles, tables
from riffler.markup.area import Area, Shape
from riffler.markup.element import NOISE, Element, Lengths, snapped
from riffler.markup.extents import (
    PLAIN,
    Member,
    area_of,
    borders_of,
    has_ground,
    is_plate,
    top_of,
)
from riffler.markup.lists import Lists
from riffler.markup.piles import nearest
from riffler.markup.places import Edges, Places
from riffler.markup.rows import Rows
from riffler.markup.setting import Setting
from riffler.markup.wrap import sheet_of

#: Room at the sides of a field that shows no words, in CSS pixels.
FREE = 12

#: A wider picture grows and shrinks with its room, in CSS pixels.
SIGN = 160

#: By how much the room beside a label in the middle of its plate may differ, in CSS pixels.
UNEVEN = 4

#: More room below is no padding, in CSS pixels: the box has a height of its own.
DEEP = 64


class Flow:
    """Lays out one page of a width."""

    def __init__(self, width: float, lengths: Lengths) -> None:
        self.width = width
        self._lengths = lengths
        self.places = Places(width, lengths)
        self._rows = Rows(self)
        self._lists = Lists(self)

    def say(self, pixels: float) -> str:
        """A length as the style sheet writes it."""
        return self._lengths.say(pixels)

    def page(self, body: Element) -> None:
        """Lay out a whole page from its top."""
        self.places.sheet = sheet_of(body.space)
        below = snapped(body.space.box.height - self.lay(body, Edges(0.0, self.width), 0.0))
        if below >= 1:
            body.css["padding-bottom"] = self.say(below)

    def lay(self, element: Element, edges: Edges, top: float, member: Member = PLAIN) -> float:
        """Lay out what is in an element whose box has these edges and begins here; its bottom."""
        area = element.space
        if controls.is_controlled(element):
            return controls.lay(self, element, top, self._field)
        match element.tag:
            case "input" | "textarea" if element.attributes.get("type") != "checkbox":
                return self._field(element, area, top)
            case "table":
                return tables.lay(self, element, edges, top)
        match area.shape:
            case Shape.WORDS:
                assert area.setting is not None
                if element.tag in ("a", "span"):
                    element.css["display"] = "block"
                return top + area.setting.step * area.setting.rows
            case Shape.PICTURE:
                return self._picture(element, area, top)
            case Shape.BOX:
                height = snapped(area.box.height)
                element.css["height"] = self.say(height)
                return top + height
            case Shape.ROW:
                return self._rows.lay(element, edges, top, member)
            case Shape.LIST:
                return self._lists.lay(element, edges, top)
            case Shape.PILE:
                return piles.lay(self, element, edges, top)
            case Shape.LINES:
                return lines.lay(self, element, edges, top)
        return self._stack(element, edges, top, member)

    def _picture(self, element: Element, area: Area, top: float) -> float:
        """A picture, with the room around it that belongs to its place."""
        if area.piece is None:
            return top + area.box.height
        if area.piece.has_canvas:
            width, height = snapped(area.piece.paint.width), snapped(area.piece.paint.height)
            element.css |= {"width": self.say(width), "height": self.say(height)}
            element.css["object-fit"] = "none"
        if any(area.piece.room):
            element.css["width"] = self.say(snapped(area.piece.paint.width))
            for side, length in zip(SIDES, area.piece.room, strict=True):
                if length:
                    element.css[f"padding-{side}"] = self.say(snapped(length))
        return top + area.piece.paint.height

    def _field(self, element: Element, area: Area, top: float) -> float:
        setting = area.parts[0].setting if area.parts else None
        element.css["display"] = "block"
        element.css.setdefault("width", "100%")
        element.css["height"] = self.say(snapped(area.box.height))
        left = snapped(setting.box.x - area.box.x - borders_of(area).left) if setting else FREE
        element.css["padding"] = (
            f"{self.say(left) if element.tag == 'textarea' else 0} {self.say(left)}"
        )
        return top + snapped(area.box.height)

    def _stack(self, element: Element, edges: Edges, top: float, member: Member) -> float:
        """Things under one another."""
        area = element.space
        children = [child for child in element.inner if not area_of(child).is_pinned]
        if element.label is not None:
            return self._label(element, area, element.label, (edges, top))
        if is_plate(area) and element.inner == children:
            return self._plate(element, area, top)
        self._put_on_track(element, children)
        borders = borders_of(area)
        inner = edges.inset(borders)
        padded = self.places.padded(element, inner, [area_of(child) for child in children])
        y = top + borders.top
        above = 0.0
        for number, child in enumerate(children):
            own_area = area_of(child)
            placed = self.places.across(child, own_area, padded)
            begins = top_of(own_area)
            if number == 0 and begins - y > NOISE:
                above = snapped(begins - y)
                y += above
            elif abs(begins - y) > NOISE:
                margin = snapped(begins - y)
                child.css["margin-top"] = self.say(margin)
                if number == 0:
                    element.css["display"] = "flow-root"
                y += margin
            bottom = self.lay(child.laid, placed, y, Member(is_table=member.is_table))
            if own_area.is_upon:
                is_body = element.tag == "body"  # which holds it in any case
                if not is_body:
                    element.css["position"] = "relative"
                self._put_upon(child, own_area, y if is_body else y - top)
            else:
                y = self.after(child, own_area, bottom)
        bottom, below = self._end(element, area, y + borders.bottom, above, member)
        self.places.pad(element, above, below)
        self._pin(element, area)
        return bottom

    def _plate(self, element: Element, area: Area, top: float) -> float:
        """A sign in the middle of its plate."""
        element.css |= {"display": "grid", "place-items": "center"}
        if "flex" not in element.css:
            element.css["width"] = self.say(area.box.width)
        element.css["height"] = self.say(area.box.height)
        (sign,) = element.inner
        borders = borders_of(area)
        piece, room = area_of(sign).piece, area.box.width - borders.left - borders.right
        if piece is not None and piece.paint.width > room:  # it lies on the border
            over = self.say(snapped((room - piece.paint.width) / 2))
            sign.css |= {"max-width": "none", "margin-block": over, "margin-inline": over}
        return top + area.box.height

    def _end(
        self, element: Element, area: Area, bottom: float, above: float, member: Member
    ) -> tuple[float, float]:
        """Where a stack ends that has edges, and the room below what is in it."""
        below = 0.0
        if has_ground(area) or member.has_height:
            spare = snapped(area.box.bottom - bottom)
            below = max(0.0, spare)
            if spare < -1 and not member.has_height:
                element.css["height"] = self.say(snapped(area.box.height))
                element.narrow["height"] = "auto"
                bottom = area.box.bottom
            if member.has_height:
                element.css["min-height"] = self.say(snapped(area.box.height))
                if any(map(_grows, area.parts)):
                    element.narrow["min-height"] = "0"
                below = min(below, max(12.0, above))
            bottom = max(bottom, area.box.bottom)
            if below > DEEP and not member.has_height:
                element.css["min-height"] = self.say(snapped(area.box.height))
                element.narrow["min-height"] = "0"
                below = min(below, max(above, 16.0))
        return bottom, below

    def _put_on_track(self, element: Element, children: Sequence[Element]) -> None:
        """An icon in the middle of a row as high as those of the icons beside it."""
        if children and (track := area_of(children[0]).track):
            element.css |= {
                "display": "grid",
                "grid-template-columns": "minmax(0, 1fr)",
                "grid-template-rows": self.say(snapped(track)),
                "align-content": "start",
            }
            children[0].css["align-self"] = "center"

    def _pin(self, element: Element, area: Area) -> None:
        """Put what sits in a corner there, at its own size."""
        borders = borders_of(area)
        for child in element.inner:
            pinned = area_of(child)
            if pinned.is_pinned:
                element.css["position"] = "relative"
                left, right = pinned.box.x - area.box.x, area.box.right - pinned.box.right
                beside, side = nearest({"left": left, "right": right})
                border = borders.left if side == "left" else borders.right
                child.css |= {
                    "position": "absolute",
                    "top": self.say(snapped(pinned.box.y - area.box.y - borders.top)),
                    side: self.say(snapped(beside - border)),
                    "width": "fit-content",
                }
                if beside < border:
                    child.narrow[side] = "0"
                self.lay(child.laid, Edges(pinned.box.x, pinned.box.right), pinned.box.y)

    def _put_upon(self, element: Element, area: Area, top: float) -> None:
        """Put what lies on all that follows there; on phones it comes first, with its room.

        It begins `top` below where what holds it does.
        """
        element.css |= {"position": "absolute", "inset": f"{self.say(top)} 0 auto", "z-index": "1"}
        element.narrow["position"] = "static"
        if area.tint:
            element.narrow["background"] = area.tint

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
        borders, box = borders_of(area), label.box
        above = snapped(box.y - area.box.y - borders.top)
        below = snapped(area.box.height - borders.top - borders.bottom - above - label.step)
        left, right = box.x - area.box.x - borders.left, area.box.right - box.right - borders.right
        side = snapped((left + right) / 2) if abs(left - right) <= UNEVEN else snapped(left)
        is_round = area.ground is not None and area.ground.radii is None
        if is_round:
            element.css["width"] = self.say(snapped(area.box.width))
        fills = self.places.fills(element, area, edges)
        if element.css.get("width", "fit-content") == "fit-content" and not fills:
            element.css["padding-inline"] = self.say(max(0.0, side))
        elif abs(left - right) <= UNEVEN:
            element.css["text-align"] = "center"
        elif self.places.is_whole(edges):
            element.css |= self.places.sides("padding", max(0.0, side), 0.0, edges)
        else:
            element.css["padding-left"] = self.say(max(0.0, side))
        if fills and element.tag == "button":
            element.css["width"] = "100%"
        element.css |= {
            "display": "block",
            "padding-top": self.say(max(0.0, above)),
            "padding-bottom": self.say(max(0.0, below)),
        }
        return top + above + label.step + below + borders.top + borders.bottom

    def after(self, child: Element, area: Area, y: float) -> float:
        """Where the next thing begins: the shadow of a picture takes no room."""
        if area.shape is not Shape.PICTURE or area.piece is None:
            return y
        beyond = snapped(area.piece.paint.bottom - area.box.bottom)
        if beyond > 0.5:
            child.css["margin-bottom"] = self.say(-beyond)
            return y - beyond
        return y


def _grows(area: Area) -> bool:
    """Whether it is a picture that is as high as its room is wide."""
    return area.shape is Shape.PICTURE and area.box.width > SIGN
