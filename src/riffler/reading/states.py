"""Things to click -> their states: hidden layers in the same place, marks that one alone wears."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from riffler.cutlist.naming import sound
from riffler.geometry import Box
from riffler.mockup.model import Layer, is_drawing
from riffler.reading import layer_names
from riffler.reading.clickable import Clickable
from riffler.reading.reading import Reading

#: A hidden layer elsewhere belongs to a thing that covers so much of it.
COVERED = 0.6


@dataclass(frozen=True)
class States:
    """The layers to switch on for each state, and what to switch off at rest."""

    show: dict[str, list[str]] = field(default_factory=dict)
    hide_at_rest: list[str] = field(default_factory=list)


def states_of(reading: Reading, clickable: Clickable, alike: Sequence[Layer]) -> States:
    """The states of one thing; `alike` are the things that it stands in a row with."""
    found = States()
    for child in clickable.layer.children:
        if not child.visible:
            _note(found, child, child.address)
        elif is_drawing(child) and _is_mark(child, clickable.layer, alike):
            _note(found, child, child.address)
            found.hide_at_rest.append(child.address)
    inside = {below.address for below in clickable.layer.walk()}
    for layer in _hidden(reading, reading.mockup.layers):
        if layer.address not in inside and _is_here(reading, layer, clickable.box):
            _note(found, layer, layer.address)
    return found


def _note(found: States, layer: Layer, address: str) -> None:
    state = layer_names.state_of(layer) or sound(layer.name or str(layer.kind))
    found.show.setdefault(state, []).append(address)


def _is_mark(child: Layer, owner: Layer, alike: Sequence[Layer]) -> bool:
    """Whether the others of the row have the same layer hidden: the mark of the current one."""
    twins = [
        twin for other in alike if other is not owner for twin in other.children
        if twin.name == child.name
    ]  # fmt: skip
    return bool(child.name) and bool(twins) and not any(twin.visible for twin in twins)


def _hidden(reading: Reading, layers: Sequence[Layer]) -> list[Layer]:
    """The outermost hidden layers of what is shown."""
    found = []
    for layer in layers:
        if not layer.visible:
            found.append(layer)
        elif layer.is_group:
            found.extend(_hidden(reading, layer.children))
    return found


def _is_here(reading: Reading, layer: Layer, box: Box) -> bool:
    painted = reading.painted(layer)
    if painted is None or (layer.is_group and len(layer.children) > 8):
        return False
    part = (painted & box).area
    return (
        part >= COVERED * painted.area
        and painted.area <= 2 * box.area
        and (painted.area >= 0.05 * box.area)
    )
