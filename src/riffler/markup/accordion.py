"""A column of titles with signs, some with words below -> what is opened and closed."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from riffler.geometry import Rect
from riffler.markup.area import Area, Shape
from riffler.markup.element import Element
from riffler.reading.part import PartKind

#: The fewest members, and the largest sign that says whether one is open, in CSS pixels.
FEWEST, SIGN = 2, 40


def is_accordion(area: Area) -> bool:
    """Whether all have a title and a sign at its right, and some but not all have more below."""
    members = [_stacked(part) for part in area.parts]
    if area.columns != 1 or len(members) < FEWEST or not all(map(_is_headed, members)):
        return False
    opened = [len(member.parts) > 1 for member in members]
    return any(opened) and not all(opened)


def accordion(area: Area, holder: Callable[[Area], Element]) -> Element:
    """The list of such members, each of which `holder` makes an element of."""
    area = replace(area, parts=tuple(map(_stacked, area.parts)))
    members = [_as_details(holder(member)) for member in area.parts]
    items = [Element("li", None, "item", content=[member]) for member in members]
    return Element("ul", area, "questions", content=[*items])


def _as_details(element: Element) -> Element:
    """The element of a member as one that is opened by what heads it. HTML, 4.11.1."""
    element.tag, element.name = "details", "question"
    head = element.inner[0]
    head.tag, head.name = "summary", "head"
    for inner in head.inner:
        if inner.tag == "img":
            inner.name = "sign"
    if len(element.inner) > 1:
        element.attributes["open"] = "open"
    return element


def _stacked(area: Area) -> Area:
    """A row with edges of its own as a stack of nothing but that row."""
    if area.shape is not Shape.ROW:
        return area
    box = Rect.around(part.box for part in area.parts) or area.box
    row = Area(Shape.ROW, box, PartKind.ROWS, parts=area.parts)
    return replace(area, shape=Shape.STACK, parts=(row,))


def _is_headed(area: Area) -> bool:
    if area.shape is not Shape.STACK or not area.parts or area.parts[0].shape is not Shape.ROW:
        return False
    row = area.parts[0].parts
    if len(row) != 2 or row[0].setting is None or row[1].shape is not Shape.PICTURE:
        return False
    is_sign = max(row[1].box.width, row[1].box.height) <= SIGN
    rest = area.parts[1:]
    return is_sign and row[1].box.x > row[0].box.right and all(part.setting for part in rest)
