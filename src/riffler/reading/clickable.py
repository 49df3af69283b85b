"""A reading -> what a visitor would click: tabs, buttons, logos, cards; rows of things alike."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Literal

from riffler.geometry import Box
from riffler.mockup.model import Layer, drawings, is_drawing
from riffler.reading import layer_names
from riffler.reading.judgement import Becomes
from riffler.reading.reading import Reading
from riffler.reading.rows import Row, extent, rows_of

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
class Found:
    """All that reads as clickable, and the rows of things alike."""

    clickables: list[Clickable] = field(default_factory=list)
    rows: list[Row] = field(default_factory=list)

    @property
    def inside(self) -> dict[str, Clickable]:
        """Every layer that is part of a clickable, by address, with the innermost of them."""
        parts: dict[str, Clickable] = {}
        for clickable in sorted(self.clickables, key=lambda c: -c.box.area):
            parts.update({below.address: clickable for below in clickable.layer.walk()})
        return parts


def find(reading: Reading) -> Found:
    """Everything clickable that the mockup shows, from the top of the page."""
    found = Found()
    _walk(reading, None, reading.mockup.layers, found)
    found.clickables.sort(key=lambda clickable: (clickable.box.y, clickable.box.x))
    return found


def _walk(reading: Reading, parent: Layer | None, layers: Sequence[Layer], found: Found) -> None:
    taken: set[str] = set()
    for row in rows_of(reading, parent, layers):
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
        if clickable := _named_or_shaped(reading, layer):
            found.clickables.append(clickable)
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
    shown = [part for part in drawings(layer.children) if part.visible]
    texts = [part for part in shown if reading.is_words(part)]
    plates = [
        part
        for part in shown
        if reading.judgement(part).becomes is Becomes.CSS and reading.judgement(part).is_round
    ]
    if len(texts) != 1 or not plates or len(shown) > 4:
        return False
    words, plate = reading.box(texts[0]), reading.box(plates[-1])
    if words is None or plate is None or not plate.contains(words):
        return False
    off = abs((words.x + words.right) - (plate.x + plate.right)) / 2
    return off <= 0.06 * plate.width + 2 and plate.height >= 0.8 * box.height
