"""Things to click -> their states: hidden layers in the same place, marks that one alone wears."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from riffler.cutlist.sound_names import sound
from riffler.geometry import Box
from riffler.mockup.model import Layer, is_drawing
from riffler.reading import layer_names
from riffler.reading.clickable import Clickable
from riffler.reading.reading import Reading
from riffler.reading.twins import twins_in

#: A hidden layer elsewhere belongs to a thing that covers so much of it.
COVERED = 0.6

#: What a hidden part is for when its name does not say: of one in a row alone, and of any.
CURRENT, HOVER = "current", "hover"


@dataclass(frozen=True)
class States:
    """The layers to switch on for each state, and what to switch off at rest."""

    show: dict[str, list[str]] = field(default_factory=dict)
    hide_at_rest: list[str] = field(default_factory=list)


def states_of(reading: Reading, clickable: Clickable, alike: Sequence[Layer]) -> States:
    """The states of one thing; `alike` are the things that it stands in a row with."""
    states = States()
    owner, others = _unwrapped(clickable.layer), [*map(_unwrapped, alike)]
    for child in owner.children:
        marks = is_drawing(child) and _is_mark(reading, child, owner, others)
        if not child.visible:
            _note(states, child, CURRENT if marks else HOVER)
        elif marks:
            _note(states, child, CURRENT)
            states.hide_at_rest.append(child.address)
    inside = {below.address for below in clickable.layer.walk()}
    for layer in reading.mockup.hidden:
        if layer.address not in inside and _is_here(reading, layer, clickable.box):
            _note(states, layer, HOVER)
    return states


def _unwrapped(layer: Layer) -> Layer:
    """A group, or the one that is all that is in it."""
    while len(layer.children) == 1 and layer.children[0].is_group:
        layer = layer.children[0]
    return layer


def _note(states: States, layer: Layer, likely: str) -> None:
    """Take a layer for the state that its name says, or failing that for the likely one."""
    own = sound(layer.name) if layer_names.says_something(layer) else likely
    state = layer_names.state_of(layer) or own
    states.show.setdefault(state, []).append(layer.address)


def _is_mark(reading: Reading, child: Layer, owner: Layer, alike: Sequence[Layer]) -> bool:
    """Whether one of a row shows what all others have hidden: the mark of the current one.

    Twins are called the same, or lie at the same place of their own.
    """
    count, shown = twins_in(reading, [owner, *alike]).of(child)
    return count > 1 and shown + child.visible == 1


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
