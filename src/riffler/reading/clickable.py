"""A reading -> what a visitor would click: tabs, buttons, logos, cards; rows of things alike."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Literal

from riffler.geometry import Box, union
from riffler.mockup.model import Layer, drawings, is_drawing
from riffler.reading import layer_names
from riffler.reading.bars import bars_of
from riffler.reading.judgement import Becomes, Certainty
from riffler.reading.reading import Reading
from riffler.reading.rows import Row, rows_of

#: The largest button, in CSS pixels: a box with one line of text in it.
BUTTON_WIDTH, BUTTON_HEIGHT = 360, 96

#: The lowest plate that is one without another state of it, and the largest with a sign alone, in
#: CSS pixels; and the plain boxes of a button at the most.
LOWEST, SIGN, MOST_PLATES = 27, 64, 3

#: Plates that are no higher, in CSS pixels, are badges where they lie on a photograph.
BADGE = 36

#: What lies on a button may be so much of its width off the middle; initials take so much of it.
OFF, INITIALS = 0.06, 0.7

#: The largest logo, in CSS pixels.
LOGO_SIDE = 320


@dataclass(frozen=True)
class Clickable:
    """Something to click: its layer or group, what kind of thing it is, and its box."""

    layer: Layer
    kind: Literal["tab", "button", "logo", "card"]
    box: Box

    @property
    def certainty(self) -> Certainty:
        """Sure where the name says the same as what is seen."""
        is_called = layer_names.means(self.layer, layer_names.CALLED[self.kind])
        return Certainty.SURE if is_called else Certainty.LIKELY


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

    @property
    def repeated(self) -> set[str]:
        """The layers that stand in rows of things alike, by address; tabs are each their own."""
        rows = (row for row in self.rows if row.kind != "tabs")
        return {member.address for row in rows for member in row.members}

    @property
    def alike(self) -> dict[str, tuple[Layer, ...]]:
        """Every layer that stands in a row, by address, with all of the row."""
        return {member.address: row.members for row in self.rows for member in row.members}


def find(reading: Reading) -> Found:
    """Everything clickable that the mockup shows, from the top of the page."""
    clickables = Found()
    _walk(reading, None, reading.mockup.layers, clickables)
    clickables.clickables.sort(key=lambda clickable: (clickable.box.y, clickable.box.x))
    return clickables


def _walk(
    reading: Reading, parent: Layer | None, layers: Sequence[Layer], clickables: Found
) -> None:
    taken: set[str] = set()
    for row in rows_of(reading, parent, layers):
        clickables.rows.append(row)
        if row.kind != "items":
            kind: Literal["tab", "card"] = "tab" if row.kind == "tabs" else "card"
            for member, box in zip(row.members, row.boxes, strict=True):
                clickables.clickables.append(Clickable(member, kind, box))
        if row.kind == "tabs":
            taken.update(member.address for member in row.members)
    clickables.rows.extend(bars_of(reading, parent, layers))
    for layer in layers:
        if not layer.visible or layer.address in taken:
            continue
        clickable = _named_or_shaped(reading, layer)
        if clickable and not _is_decoration(reading, clickable, parent):
            clickables.clickables.append(clickable)
        elif layer.is_group and not is_drawing(layer):
            _walk(reading, layer, layer.children, clickables)


def _named_or_shaped(reading: Reading, layer: Layer) -> Clickable | None:
    density = reading.density
    if layer_names.means(layer, layer_names.LOGO) and not layer_names.means(
        layer, layer_names.NAVIGATION
    ):
        box = reading.extent(layer)
        if box and max(box.width, box.height) <= LOGO_SIDE * density:
            return Clickable(layer, "logo", box)
    named = layer_names.means(layer, layer_names.BUTTON | layer_names.LINK)
    if (layer.is_group and not is_drawing(layer)) or named:
        box = _button_box(reading, layer)
        if box and (_is_button(reading, layer, box) or (named and _is_drawn(reading, layer))):
            return Clickable(layer, "button", box)
    return None


def _is_decoration(reading: Reading, clickable: Clickable, parent: Layer | None) -> bool:
    """Whether it is a sign on a plate above or beside the words that it belongs to."""
    layer = clickable.layer
    if clickable.kind != "button" or parent is None or not layer.is_group:
        return False
    if layer_names.means(layer, layer_names.BUTTON | layer_names.LINK):
        return False
    box = reading.extent(layer)
    if any(map(reading.is_words, drawings([layer]))) or box is None:
        return False
    if _has_another_state(reading, layer, box):
        return False
    beside = (part for part in parent.children if part.visible and part is not layer)
    return any(all(map(reading.is_words, drawings([part]))) for part in beside)


def _button_box(reading: Reading, layer: Layer) -> Box | None:
    box = reading.extent(layer)
    density = reading.density
    if box is None or box.width > BUTTON_WIDTH * density or box.height > BUTTON_HEIGHT * density:
        return None
    return box


def _is_drawn(reading: Reading, layer: Layer) -> bool:
    """Whether it is more than text: a heading that is called a link is none to draw."""
    return any(part.visible and not reading.is_words(part) for part in drawings([layer]))


@dataclass(frozen=True)
class _Parts:
    """What may be a button: its plate, the boxes of the text on it and of signs, and how many."""

    plate: Box
    texts: list[Box]
    signs: list[Box]
    is_disc: bool

    @property
    def inside(self) -> list[Box]:
        """All that lies on the plate."""
        return [*self.texts, *self.signs]


def _is_button(reading: Reading, layer: Layer, box: Box) -> bool:
    """Whether it looks like one: a plate of a finger's size with a line of text, or one sign.

    Lower plates are badges, and a lone disc with an initial or two stands for a person; unless
    there is another state of it.
    """
    parts = _parts(reading, layer, box)
    if parts is None or not all(map(parts.plate.contains, parts.inside)):
        return False
    plate, density = parts.plate, reading.density
    if _has_another_state(reading, layer, plate):
        return True
    if plate.height < LOWEST * density or not _is_in_the_middle(parts.inside, plate):
        return False
    if layer_names.means(layer, layer_names.BADGE) or _is_on_photograph(reading, plate):
        return False
    if not parts.texts:
        return max(plate.width, plate.height) <= SIGN * density
    return not (parts.is_disc and parts.texts[0].width < INITIALS * plate.width)


def _is_on_photograph(reading: Reading, plate: Box) -> bool:
    """Whether a low plate lies on a photograph that is no head of a page, as badges do."""
    if plate.height > BADGE * reading.density:
        return False
    canvas = reading.mockup.size.width
    return any(
        (painted & plate).area >= plate.area / 2
        for layer, painted in reading.near(plate)
        if painted.width < canvas / 2 and reading.has_own_edges(layer)
    )


def _parts(reading: Reading, layer: Layer, box: Box) -> _Parts | None:
    """A plate with a text, a sign, or both on it; None for anything else."""
    shown = [part for part in drawings(layer.children) if part.visible]
    plate = _plate_of(reading, shown, box)
    on = None if plate is None else reading.box(plate)
    if plate is None or on is None:
        return None
    texts = [part for part in shown if reading.is_words(part)]
    signs = [part for part in shown if reading.judgement(part).becomes is Becomes.PICTURE]
    others = len(shown) - len(texts) - len(signs)
    if len(texts) > 1 or len(texts) + len(signs) not in (1, 2) or others > MOST_PLATES:
        return None
    is_disc = abs(on.width - on.height) <= 2 and reading.judgement(plate).is_round
    return _Parts(on, _boxes(reading, texts), _boxes(reading, signs), is_disc)


def _boxes(reading: Reading, layers: Sequence[Layer]) -> list[Box]:
    return [box for layer in layers if (box := reading.box(layer))]


def _plate_of(reading: Reading, shown: Sequence[Layer], box: Box) -> Layer | None:
    """The plain box under all else, nearly as large as the whole."""
    for part in reversed(shown):
        own_box = reading.box(part)
        if own_box is None or reading.judgement(part).becomes is not Becomes.CSS:
            continue
        if own_box.height >= 0.8 * box.height and own_box.width >= 0.8 * box.width:
            return part
    return None


def _is_in_the_middle(inside: Sequence[Box], plate: Box) -> bool:
    """Whether what lies on a plate has as much room to the left as to the right."""
    whole = union(inside)
    off = abs((whole.x + whole.right) - (plate.x + plate.right)) / 2
    return off <= OFF * plate.width + 2


def _has_another_state(reading: Reading, layer: Layer, plate: Box) -> bool:
    """Whether something hidden in it has the plate's size: how it looks under the pointer."""
    for part in drawings(layer.children):
        own_box = None if part.visible else reading.box(part)
        if (
            own_box
            and abs(own_box.width - plate.width) <= 4
            and abs(own_box.height - plate.height) <= 4
        ):
            return True
    return False
