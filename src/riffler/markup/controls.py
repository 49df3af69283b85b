"""Plates with a sign in them -> what is chosen from a list, and what is ticked, in a form."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import replace

from riffler.markup.area import Area, Shape
from riffler.markup.element import Element, snapped
from riffler.markup.extents import is_framed, is_small
from riffler.markup.laying import Laying
from riffler.mockup import address

#: The largest sign in a field, in CSS pixels, and the most room beside it.
SIGN, BESIDE = 28, 28

#: How high a plate with a value is, and how wide at least; how large a box that is ticked is, in
#: CSS pixels.
HEIGHT, WIDTH, TICKED = (28, 64), 100, (12, 32)

#: What the text, the sign or the layers of a box to search in say, and the room before its sign.
SEARCHES = re.compile(
    r"\b(search|find|suche|cherch|busca|zoek)|glass|lens|loupe|magnif", re.IGNORECASE
)
APART = 8

#: A sign that is farther from the middle of its plate is moved there, in CSS pixels.
OFF = 0.75

#: What hides the tick of a box that is not ticked.
UNTICKED = ":not(:checked) + *"


def is_select(area: Area) -> bool:
    """Whether it is a plate with a value at its left and a small sign at its right.

    What says that it is a field is the label above it.
    """
    if area.ground is None or len(area.parts) != 2:
        return False
    value, sign = area.parts
    if value.setting is None or len(value.setting.lines) > 1 or not _is_sign(sign):
        return False
    box = area.box
    is_field = HEIGHT[0] <= box.height <= HEIGHT[1] and box.width >= WIDTH
    room = (value.box.x - box.x, box.right - sign.box.right)
    return is_field and all(0 <= length <= BESIDE for length in room)


def is_search(area: Area) -> bool:
    """Whether it is a framed box that says it is to search in, with a sign at its right."""
    if not is_select(area) or not is_framed(area):
        return False
    value, sign = area.parts
    if value.setting is None or sign.box.x - value.box.right < BESIDE:
        return False
    names = [address.plain(layer) for part in (area, *area.parts) for layer in part.layers]
    return any(SEARCHES.search(text) for text in (value.setting.text, *names))


def search(area: Area) -> Element:
    """What is searched for is written in it, where its sign leaves it room."""
    value, sign = area.parts
    setting = value.setting
    assert setting is not None
    box = replace(setting.box, width=sign.box.x - APART - setting.box.x)
    written = Element("input", Area(Shape.STACK, box, parts=(value,)), "search-field")
    written.attributes = {"type": "search", "placeholder": setting.text}
    written.attributes["aria-label"] = written.text = setting.text
    picture = Element("img", sign, "sign", {"alt": '""'})
    sends = Element("button", None, "search-button", {"type": "submit"}, [picture])
    sends.attributes["aria-label"] = setting.text
    return Element("form", area, "search", {"role": "search"}, content=[written, sends])


def select(area: Area) -> Element:
    """A list to choose from, with the value that the mockup shows, and its sign upon it."""
    value, sign = area.parts
    assert value.setting is not None
    option = Element("option", content=[value.setting.text])
    chosen = Element("select", replace(area, shape=Shape.BOX, parts=(value,)), "field")
    chosen.content = [option]
    picture = Element("img", sign, "sign", {"alt": '""'})
    return Element("span", bare(area), "select", content=[chosen, picture])


def tick(form: Element) -> None:
    """Make check boxes of the ticked plates that stand beside words in a form."""
    for row in form.walk():
        if row.tag not in ("div", "p") or len(row.inner) != 2 or not _is_ticked(row.inner[0]):
            continue
        plate, text = row.inner
        if text.tag != "p":
            continue
        area, (sign,) = plate.space, plate.inner
        box = Element("input", replace(area, shape=Shape.BOX, parts=()), "box")
        box.attributes = {"type": "checkbox", "checked": "checked"}
        box.looks = {UNTICKED: {"visibility": "hidden"}}
        sign.attributes["alt"] = '""'
        plate.content = [box, sign]
        plate.tag, plate.name, plate.area = "span", "tick", bare(area)
        row.tag, row.name, text.tag = "label", "check", "span"


def lay(flow: Laying, element: Element, top: float, field: Callable[..., float]) -> float:
    """Lay a sign on what it belongs to: in the middle, or at the end; the bottom of both.

    `field` lays out what is written into.
    """
    control, sign = element.inner
    box, paint = element.space.box, sign.space.box
    if sign.space.piece is not None:
        paint = sign.space.piece.paint
    element.css |= {"display": "grid", "align-items": "center"}
    control.css |= {"grid-area": "1 / 1", "appearance": "none"}
    sign.css |= {"position": "relative", "grid-area": "1 / 1", "pointer-events": "none"}
    if control.tag == "select":
        bottom = field(control, control.space, top)
        sign.css |= {
            "justify-self": "end",
            "margin-right": flow.say(snapped(box.right - paint.right)),
        }
    else:
        width, height = snapped(box.width), snapped(box.height)
        bottom = top + height
        control.css |= {"width": flow.say(width), "height": flow.say(height)}
        sign.css["justify-self"] = "center"
    lower = paint.y + paint.height / 2 - box.y - box.height / 2
    if abs(lower) > OFF:
        sign.css["top"] = flow.say(snapped(lower))
    return bottom


def is_controlled(element: Element) -> bool:
    """Whether an element is such a field with its sign upon it."""
    inner = element.inner
    return element.tag == "span" and len(inner) == 2 and inner[0].tag in ("select", "input")


def _is_sign(area: Area) -> bool:
    return is_small(area, SIGN)


def _is_ticked(element: Element) -> bool:
    """Whether it is a small square plate with nothing but a sign in it."""
    area = element.area
    if area is None or area.ground is None or len(area.parts) != 1 or element.tag != "div":
        return False
    is_square = abs(area.box.width - area.box.height) <= 1
    return is_square and TICKED[0] <= area.box.width <= TICKED[1] and _is_sign(area.parts[0])


def bare(area: Area) -> Area:
    """The same place without its ground."""
    return replace(area, shape=Shape.BOX, ground=None, parts=())
