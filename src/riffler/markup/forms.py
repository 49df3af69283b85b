"""Boxes to write into -> fields, and what holds them -> forms."""

from __future__ import annotations

from riffler.analyse.style import SQUARE
from riffler.markup.area import Area, Shape
from riffler.markup.element import Element
from riffler.reading.part import PartKind

#: The heights of a box to write into, in CSS pixels, its least width, and how far its text stands
#: to the left, as a share of the room on both sides.
FIELD, FIELD_WIDTH, FIELD_LEFT = (24, 64), 120, 0.3


def is_field(area: Area) -> bool:
    """Whether it is a box to write in: one text at the left of a framed box."""
    if area.ground is None or area.kind is not PartKind.BOX or len(area.parts) != 1:
        return False
    setting = area.parts[0].setting
    box = area.box
    if setting is None or not FIELD[0] <= box.height <= FIELD[1] or box.width < FIELD_WIDTH:
        return False
    if area.ground.border is None and area.ground.radii == SQUARE:
        return False
    left, right = setting.box.x - box.x, box.right - setting.box.right
    return left > 0 and left <= FIELD_LEFT * (left + right)


def holds_fields(area: Area) -> bool:
    """Whether there are boxes to write in right in it, or in each of a row in it."""
    return any(
        is_field(part) or (part.shape is Shape.LIST and are_fields(part)) for part in area.parts
    )


def are_fields(area: Area) -> bool:
    """Whether a row is one of fields, each with its label: no list, but a part of a form."""
    return all(any(map(is_field, member.parts)) for member in area.parts)


def field(area: Area) -> Element:
    """What is written into."""
    setting = area.parts[0].setting
    assert setting is not None
    hint = setting.text
    values = {"type": "text", "placeholder": hint, "aria-label": hint}
    element = Element("input", area, "field", values)
    element.text = hint
    return element


def as_form(holder: Element) -> Element:
    """A holder of a field is a form, and what is clicked in it sends it."""
    for inner in holder.inner:
        if inner.tag == "a" and inner.area is not None and inner.area.kind is PartKind.BUTTON:
            inner.tag = "button"
            inner.attributes = {"type": "submit"}
    if holder.tag in ("div", "section"):
        holder.tag = "form"
    return holder
