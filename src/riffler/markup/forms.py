"""Boxes to write into -> fields, and what holds them -> forms."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from riffler.markup.area import Area, Shape
from riffler.markup.controls import is_select, select, tick
from riffler.markup.element import HEADINGS, Element
from riffler.markup.extents import has_ground, is_framed, is_label
from riffler.markup.sections import framed
from riffler.reading.part import PartKind

#: The heights of a box to write into, in CSS pixels, its least width, and how far its text stands
#: to the left, as a share of the room on both sides.
FIELD, FIELD_WIDTH, FIELD_LEFT = (24, 64), 120, 0.3

#: How high a box for several lines is at the most, words of a label, how far it stands above its
#: box and begins beside it, in CSS pixels.
WRITTEN, LABEL, ABOVE, BESIDE = 280, 6, 20, 4


#: The most words of what sends a form, and how far beside a field it stands, in CSS pixels.
SENDS, BUTTON = 3, 32

#: How large the square of a check box is, in CSS pixels.
CHECK = (12, 30)

_HOLDERS = ("div", "section", "form")


def is_field(area: Area, highest: float = FIELD[1]) -> bool:
    """Whether it is a box to write in: one text at the left of a framed box.

    One that is higher than a line has it at its top.
    """
    if area.ground is None or area.kind is not PartKind.BOX or len(area.parts) != 1:
        return False
    setting = area.parts[0].setting
    box = area.box
    if setting is None or not FIELD[0] <= box.height <= highest or box.width < FIELD_WIDTH:
        return False
    above, below = setting.box.y - box.y, box.bottom - setting.box.bottom
    if box.height > FIELD[1] and above > FIELD_LEFT * (above + below):
        return False
    if not is_framed(area):
        return False
    left, right = setting.box.x - box.x, box.right - setting.box.right
    return left > 0 and left <= FIELD_LEFT * (left + right)


def is_empty_field(area: Area) -> bool:
    """Whether it is a framed box with nothing in it, as high as a line or a few."""
    if area.shape is not Shape.BOX or area.ground is None or area.ground.border is None:
        return False
    return FIELD[0] <= area.box.height <= WRITTEN and area.box.width >= FIELD_WIDTH


def with_labels(parts: Sequence[Area]) -> list[Area]:
    """Parts of a stack, with each field without words and the text right above it as one."""
    result: list[Area] = []
    for part in parts:
        before = result[-1] if result else None
        is_free = is_empty_field(part) or is_select(part)
        if before is not None and is_free and _labels(before, part):
            result[-1] = replace(framed([before, part]), kind=PartKind.ROWS)
        else:
            result.append(part)
    return result


def with_sending(parts: Sequence[Area]) -> list[Area]:
    """Parts of a row, with a field and the plate beside it that sends it as one."""
    result: list[Area] = []
    for part in parts:
        before = result[-1] if result else None
        if before is not None and len(parts) > 2 and _sends(part, before):
            result[-1] = replace(framed([before, part]), shape=Shape.ROW)
        else:
            result.append(part)
    return result


def _sends(plate: Area, before: Area) -> bool:
    """Whether a plate with a word stands right beside a field, as high on the page."""
    if not (is_field(before) or is_labelled(before)) or not (has_ground(plate) and is_label(plate)):
        return False
    written = before.parts[-1] if is_labelled(before) else before
    is_near = 0 <= plate.box.x - written.box.right <= BUTTON
    return is_near and plate.box.y < written.box.bottom and written.box.y < plate.box.bottom


def is_labelled(area: Area) -> bool:
    """Whether it is a field below its label, and nothing else."""
    if area.shape is not Shape.STACK or len(area.parts) != 2 or area.ground is not None:
        return False
    return _is_any_field(area.parts[1]) and _labels(*area.parts)


def _is_any_field(area: Area) -> bool:
    return is_empty_field(area) or is_field(area, WRITTEN) or is_select(area)


def is_check(area: Area) -> bool:
    """Whether it is an empty small framed square and the words beside it."""
    if area.shape is not Shape.ROW or len(area.parts) != 2 or area.parts[1].setting is None:
        return False
    square = area.parts[0]
    if square.ground is None or square.ground.border is None or square.parts:
        return False
    is_square = abs(square.box.width - square.box.height) <= 1
    return is_square and CHECK[0] <= square.box.width <= CHECK[1]


def check(label: Element, area: Area) -> Element:
    """The label that a check box with its words is."""
    box = Element("input", area.parts[0], "check", {"type": "checkbox"})
    label.content = [box, *label.inner[1:]]
    for inner in label.inner:
        inner.tag = "span" if inner.tag in ("p", "div") else inner.tag
    return label


def _labels(text: Area, box: Area) -> bool:
    """Whether a text right above a field says what it is for."""
    setting = text.setting
    if setting is None or len(setting.lines) > 1 or len(setting.text.split()) > LABEL:
        return False
    return abs(text.box.x - box.box.x) <= BESIDE and box.box.y - text.box.bottom <= ABOVE


def holds_fields(area: Area, made: Element) -> bool:
    """Whether there are boxes to write in right in it, or in each of a row in it.

    `made` is the element of it, in which empty ones have their labels; a form in it has its own.
    """
    if any(inner.tag == "form" for inner in made.walk()):
        return False
    return any(inner.tag == "label" for inner in made.inner) or any(
        is_field(part) or is_labelled(part) or (part.shape is Shape.LIST and are_fields(part))
        for part in area.parts
    )


def are_fields(area: Area) -> bool:
    """Whether a row is one of fields, each with its label: no list, but a part of a form."""
    return all(any(map(_is_any_field, member.parts)) for member in area.parts)


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
    element = empty_field(area, hint)
    element.attributes |= {"placeholder": hint, "aria-label": hint}
    element.text = hint
    return element


def gathered(body: Element) -> None:
    """One form where a plate holds fields: what is in it are no forms by themselves."""
    for inner in body.inner:
        gathered(inner)
    if body.tag not in _HOLDERS:
        return
    forms = [inner for inner in body.walk() if inner is not body and inner.tag == "form"]
    is_plate = body.area is not None and has_ground(body.area)
    if body.area is not None and body.area.shape is Shape.ROW and is_plate:
        return  # columns, of which one has a form
    if not forms or (len(forms) == 1 and not is_plate) or _has_sections(body, forms):
        return
    body.tag = "form"
    for form in forms:
        form.tag = "div"
    tick(body)
    _send(body)


def _has_sections(holder: Element, forms: Sequence[Element]) -> bool:
    """Whether there is more in it than forms with what heads them: a sheet with all of a page."""
    within = {id(inner) for form in forms for inner in form.walk()}
    headings = [inner for inner in holder.walk() if inner.tag in HEADINGS]
    return sum(id(heading) not in within for heading in headings) > 1


def _send(form: Element) -> None:
    """What is clicked in a form sends it; where nothing else is, the last plate with a word."""
    buttons = [inner for inner in form.walk() if _is_button(inner)]
    known = any(inner.tag == "button" for inner in form.walk())
    plates = [] if buttons or known else [inner for inner in form.walk() if _is_plate(inner)]
    for inner in buttons or plates[-1:]:
        inner.tag, inner.attributes = "button", {"type": "submit"}


def _is_button(element: Element) -> bool:
    is_button = element.area is not None and element.area.kind is PartKind.BUTTON
    return is_button and element.tag == "a"


def _is_plate(element: Element) -> bool:
    """Whether it is a filled plate with a few words, which lead nowhere."""
    if element.label is None or element.tag != "p" or element.area is None:
        return False
    return element.area.ground is not None and len(element.label.text.split()) <= SENDS


def as_form(holder: Element) -> Element:
    """A holder of a field is a form, and what is clicked in it sends it."""
    _send(holder)
    if holder.tag in ("div", "section"):
        holder.tag = "form"
        tick(holder)
    return holder


def labelled(area: Area, text: Element) -> Element:
    """A field in the label that says what it is for, by its text."""
    text.tag = "span"
    box = area.parts[1]
    label = Element("label", area, "label", content=[text, _field_of(box, text.text)])
    label.css["display"] = "block"
    return label


def _field_of(area: Area, label: str) -> Element:
    if is_select(area):
        return select(area)
    if not area.parts:
        return empty_field(area, label)
    element = field(area)
    del element.attributes["aria-label"]  # it has a label
    return element
