"""Boxes to write into -> fields, and what holds them -> forms."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from riffler.analyse.style import SQUARE
from riffler.markup.area import Area, Shape
from riffler.markup.element import Element
from riffler.markup.sections import framed
from riffler.reading.part import PartKind

#: The heights of a box to write into, in CSS pixels, its least width, and how far its text stands
#: to the left, as a share of the room on both sides.
FIELD, FIELD_WIDTH, FIELD_LEFT = (24, 64), 120, 0.3

#: How high a box for several lines is at the most, words of a label, how far it stands above its
#: box and begins beside it, in CSS pixels.
WRITTEN, LABEL, ABOVE, BESIDE = 280, 6, 20, 4


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


def is_empty_field(area: Area) -> bool:
    """Whether it is a framed box with nothing in it, as high as a line or a few."""
    if area.shape is not Shape.BOX or area.ground is None or area.ground.border is None:
        return False
    return FIELD[0] <= area.box.height <= WRITTEN and area.box.width >= FIELD_WIDTH


def with_labels(parts: Sequence[Area]) -> list[Area]:
    """Parts of a stack, with each empty field and the short text right above it as one."""
    result: list[Area] = []
    for part in parts:
        before = result[-1] if result else None
        if before is not None and is_empty_field(part) and _labels(before, part):
            result[-1] = replace(framed([before, part]), kind=PartKind.ROWS)
        else:
            result.append(part)
    return result


def is_labelled(area: Area) -> bool:
    """Whether it is an empty field below its label, and nothing else."""
    if area.shape is not Shape.STACK or len(area.parts) != 2 or area.ground is not None:
        return False
    return is_empty_field(area.parts[1]) and _labels(*area.parts)


def _labels(text: Area, box: Area) -> bool:
    """Whether a text right above a field says what it is for."""
    setting = text.setting
    if setting is None or len(setting.lines) > 1 or len(setting.text.split()) > LABEL:
        return False
    return abs(text.box.x - box.box.x) <= BESIDE and box.box.y - text.box.bottom <= ABOVE


def holds_fields(area: Area, made: Element) -> bool:
    """Whether there are boxes to write in right in it, or in each of a row in it.

    `made` is the element of it, in which empty ones have their labels.
    """
    return any(inner.tag == "label" for inner in made.inner) or any(
        is_field(part) or is_labelled(part) or (part.shape is Shape.LIST and are_fields(part))
        for part in area.parts
    )


def are_fields(area: Area) -> bool:
    """Whether a row is one of fields, each with its label: no list, but a part of a form."""
    return all(
        any(is_field(part) or is_empty_field(part) for part in member.parts)
        for member in area.parts
    )


def empty_field(area: Area, label: str) -> Element:
    """What is written into, below its label: an address for mail, one line, or several."""
    if area.box.height > FIELD[1]:
        return Element("textarea", area, "field")
    is_mail = "mail" in label.casefold()
    return Element("input", area, "field", {"type": "email" if is_mail else "text"})


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
