"""A reading -> what a visitor would click: tabs, buttons, logos, cards; rows of things alike."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from itertools import pairwise
from typing import Literal

from riffler.analyse.repetition import Lattice, lattice
from riffler.geometry import Box, union
from riffler.mockup.model import Layer, drawings, is_drawing
from riffler.reading import layer_names
from riffler.reading.judgement import Becomes
from riffler.reading.reading import Reading

#: The largest button, in CSS pixels: a box with one line of text in it.
BUTTON_WIDTH, BUTTON_HEIGHT = 360, 96

#: The largest logo, in CSS pixels.
LOGO_SIDE = 320

#: How far boxes alike may be off their places, in CSS pixels.
TOLERANCE = 1


@dataclass(frozen=True)
class Clickable:
    """Something to click: its layer or group, what kind of thing it is, and its box."""

    layer: Layer
    kind: Literal["tab", "button", "logo", "card"]
    box: Box


@dataclass(frozen=True)
class Row:
    """Things alike in one group, on a lattice. `kind` says what they are.

    `boxes` lie as `members`, row by row; `bar` is what tabs lie on.
    """

    parent: Layer | None
    kind: Literal["tabs", "cards", "items"]
    members: tuple[Layer, ...]
    boxes: tuple[Box, ...]
    lattice: Lattice
    bar: Layer | None = None


@dataclass(frozen=True)
class Found:
    """All that reads as clickable, and the rows of things alike."""

    clickables: list[Clickable] = field(default_factory=list)
    rows: list[Row] = field(default_factory=list)

    @property
    def inside(self) -> dict[str, Clickable]:
        """Every layer that is part of a clickable, by address, with the innermost of them."""
        parts: dict[str, Clickable] = {}
        for one in sorted(self.clickables, key=lambda c: -c.box.area):
            parts.update({below.address: one for below in one.layer.walk()})
        return parts


def find(reading: Reading) -> Found:
    """Everything clickable that the mockup shows, from the top of the page."""
    found = Found()
    _walk(reading, None, reading.mockup.layers, found)
    found.clickables.sort(key=lambda one: (one.box.y, one.box.x))
    return found


def _walk(reading: Reading, parent: Layer | None, layers: Sequence[Layer], found: Found) -> None:
    taken: set[str] = set()
    for row in _rows(reading, parent, layers):
        found.rows.append(row)
        if row.kind != "items":
            kind: Literal["tab", "card"] = "tab" if row.kind == "tabs" else "card"
            for member, box in zip(row.members, row.boxes, strict=True):
                found.clickables.append(Clickable(member, kind, box))
        if row.kind == "tabs":
            taken.update(member.address for member in row.members)
    for layer in layers:
        if not layer.visible or layer.address in taken:
            continue
        if one := _named_or_shaped(reading, layer):
            found.clickables.append(one)
        elif layer.is_group and not is_drawing(layer):
            _walk(reading, layer, layer.children, found)


def _named_or_shaped(reading: Reading, layer: Layer) -> Clickable | None:
    density = reading.density
    if layer_names.means(layer, layer_names.LOGO) and not layer_names.means(
        layer, layer_names.NAVIGATION
    ):
        box = extent(reading, layer)
        if box and max(box.width, box.height) <= LOGO_SIDE * density:
            return Clickable(layer, "logo", box)
    named = layer_names.means(layer, layer_names.BUTTON | layer_names.LINK)
    if (layer.is_group and not is_drawing(layer)) or named:
        box = _button_box(reading, layer)
        if box and (named or _is_button(reading, layer, box)):
            return Clickable(layer, "button", box)
    return None


def _button_box(reading: Reading, layer: Layer) -> Box | None:
    box = extent(reading, layer)
    density = reading.density
    if box is None or box.width > BUTTON_WIDTH * density or box.height > BUTTON_HEIGHT * density:
        return None
    return box


def _is_button(reading: Reading, layer: Layer, box: Box) -> bool:
    """Whether it looks like one: a rounded plate with one text in its middle."""
    shown = [one for one in drawings(layer.children) if one.visible]
    texts = [one for one in shown if reading.is_words(one)]
    plates = [
        one
        for one in shown
        if reading.judgement(one).becomes is Becomes.CSS and reading.judgement(one).is_round
    ]
    if len(texts) != 1 or not plates or len(shown) > 4:
        return False
    words, plate = reading.box(texts[0]), reading.box(plates[-1])
    if words is None or plate is None or not plate.contains(words):
        return False
    off = abs((words.x + words.right) - (plate.x + plate.right)) / 2
    return off <= 0.06 * plate.width + 2 and plate.height >= 0.8 * box.height


def extent(reading: Reading, layer: Layer) -> Box | None:
    """The box of a thing without its text, hidden layers included; with text when that is all."""
    parts = [one for one in drawings([layer]) if not reading.is_words(one)]
    plain = union(box for box in map(reading.box, parts) if box)
    return plain or union(box for box in map(reading.box, drawings([layer])) if box) or None


def _rows(reading: Reading, parent: Layer | None, layers: Sequence[Layer]) -> Iterable[Row]:
    """The sets of siblings that are made alike and lie on a lattice."""
    alike: dict[tuple[object, ...], list[Layer]] = {}
    for layer in layers:
        if layer.visible and (layer.is_group or reading.is_words(layer)):
            alike.setdefault(_signature(layer), []).append(layer)
    for members in alike.values():
        if len(members) >= 2 and (row := _row(reading, parent, layers, members)):
            yield row


def _signature(layer: Layer) -> tuple[object, ...]:
    """What a thing is made of, whatever its own name."""
    if not layer.is_group:
        return ("words",)
    if is_drawing(layer):
        return ("drawing", layer.name)
    return tuple(sorted((child.name, str(child.kind)) for child in layer.children))


def _row(
    reading: Reading, parent: Layer | None, siblings: Sequence[Layer], members: list[Layer]
) -> Row | None:
    kind = _kind_of_row(reading, parent, members)
    if kind is None:
        return None
    bar = _bar(reading, siblings, members) if kind == "tabs" else None
    boxes = [_member_box(reading, kind, member) for member in members]
    if any(box is None for box in boxes) or (kind == "tabs" and bar is None):
        return None
    known = [box for box in boxes if box is not None]
    if kind == "tabs":
        assert bar is not None
        known = _tab_boxes(reading, known, bar)
    if len(members) < 3 and kind == "items":
        return None
    found = lattice(known, round(TOLERANCE * reading.density))
    if found is None:
        if kind != "tabs":
            return None
        order = sorted(range(len(known)), key=lambda index: known[index].x)
        found = Lattice(tuple(order), len(order), (0, 0))
    return Row(
        parent,
        kind,
        tuple(members[index] for index in found.members),
        tuple(known[index] for index in found.members),
        found,
        bar,
    )


def _kind_of_row(
    reading: Reading, parent: Layer | None, members: list[Layer]
) -> Literal["tabs", "cards", "items"] | None:
    first = members[0]
    if not first.is_group:
        in_navigation = parent is not None and layer_names.means(parent, layer_names.NAVIGATION)
        return "tabs" if in_navigation and len(members) >= 3 else None
    shown = [one for one in drawings(first.children) if one.visible]
    texts = [one for one in shown if reading.is_words(one)]
    is_named = all(layer_names.means(one, layer_names.TAB) for one in members)
    in_navigation = parent is not None and layer_names.means(parent, layer_names.NAVIGATION)
    if len(texts) == 1 and (is_named or in_navigation):
        return "tabs"
    if any(layer_names.means(one, layer_names.BUTTON) for one in members):
        return None
    plate = _plate(reading, first)
    if plate is not None and len(texts) >= 1 and (len(members) >= 3 or len(texts) >= 2):
        return "cards"
    return "items" if texts and len(shown) > len(texts) else None


def _plate(reading: Reading, member: Layer) -> Layer | None:
    """The box that all else in a card lies on; None when there is none."""
    shown = [one for one in drawings(member.children) if one.visible]
    for one in reversed(shown):
        box = reading.box(one)
        if box is None or reading.judgement(one).becomes is not Becomes.CSS:
            continue
        others = [reading.box(other) for other in shown if other is not one]
        if others and all(other is None or box.contains(other) for other in others):
            return one
    return None


def _member_box(reading: Reading, kind: str, member: Layer) -> Box | None:
    if kind == "cards" and (plate := _plate(reading, member)):
        return reading.box(plate)
    if kind == "items":
        shown = [one for one in drawings(member.children) if one.visible]
        return union(box for box in map(reading.box, shown) if box) or None
    return extent(reading, member)


def _bar(reading: Reading, siblings: Sequence[Layer], members: list[Layer]) -> Layer | None:
    """The plain box that all the members lie on, from top to bottom."""
    boxes = [extent(reading, member) for member in members]
    whole = union(box for box in boxes if box)
    for layer in siblings:
        if not layer.visible or not is_drawing(layer) or layer in members:
            continue
        box = reading.box(layer)
        if box and box.contains(whole) and box.height <= 4 * whole.height + 40 * reading.density:
            return layer
    return None


def _tab_boxes(reading: Reading, boxes: list[Box], bar: Layer) -> list[Box]:
    """Tabs as high as their bar; where only labels are drawn, they meet half-way between."""
    around = reading.box(bar)
    assert around is not None
    order = sorted(range(len(boxes)), key=lambda index: boxes[index].x)
    sorted_boxes = [boxes[index] for index in order]
    pairs = list(pairwise(sorted_boxes))
    gaps = [b.x - a.right for a, b in pairs]
    step = lattice(sorted_boxes, round(TOLERANCE * reading.density))
    tight = step is not None and all(0 <= gap <= 4 * reading.density for gap in gaps)
    result = list(boxes)
    if tight and step is not None:
        pitch = step.step[0]
        spare = pitch - max(box.width for box in sorted_boxes)
        left = sorted_boxes[0].x - spare // 2
        for place, index in enumerate(order):
            result[index] = Box(left + place * pitch, around.y, pitch, around.height)
        return [_on_css_pixels(box, reading.density) for box in result]
    edges = [a.right + (b.x - a.right) // 2 for a, b in pairs]
    half = (gaps[0] if gaps else 40) // 2
    left_end = max(around.x, sorted_boxes[0].x - half)
    right_end = min(around.right, sorted_boxes[-1].right + (gaps[-1] if gaps else 40) // 2)
    for place, index in enumerate(order):
        start = left_end if place == 0 else edges[place - 1]
        end = right_end if place == len(order) - 1 else edges[place]
        result[index] = Box.from_edges(start, around.y, end, around.bottom)
    return result


def _on_css_pixels(box: Box, density: float) -> Box:
    """The box moved to whole CSS pixels; its size is kept."""
    step = max(1, round(density))
    return Box(box.x // step * step, box.y, box.width, box.height)
