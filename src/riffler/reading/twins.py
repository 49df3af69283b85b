"""Things in a row -> which of their parts are alike, without holding each against all others."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import TypeAlias
from weakref import WeakKeyDictionary

import numpy as np

from riffler.mockup.model import Layer, is_drawing
from riffler.reading import layer_names
from riffler.reading.reading import Reading

#: CSS pixels by which parts may lie otherwise in what they are part of.
NEAR = 2


Noted: TypeAlias = tuple[int, Layer, bool, tuple[int, int, int, int] | None, object]
"""The number of what a part is of, the part, whether its name says much, its place, its look."""


class Twins:
    """The parts of things in a row: by name, by place in their own, and by how they look."""

    def __init__(self, reading: Reading, row: Sequence[Layer]) -> None:
        self.note(reading.density, list(_parts(reading, row)))

    def note(self, density: float, parts: Sequence[Noted]) -> None:
        """Keep what parts are compared by; lengths are mockup pixels."""
        self._near = NEAR * density
        self._at = {part.address: number for number, (_, part, *_) in enumerate(parts)}
        names: dict[str, int] = {}
        looks: dict[object, int] = {}
        addresses, name, look, place = [], [], [], []
        for owner, part, says, placed, seen in parts:
            addresses.append(owner)
            name.append(names.setdefault(part.name, len(names)) if says else -1)
            look.append(looks.setdefault(seen, len(looks)) if placed else -1)
            place.append(placed or (0, 0, 0, 0))
        self._own, self._name, self._look = (
            np.array(side, np.int64) for side in (addresses, name, look)
        )
        self._visible = np.array([part.visible for _, part, *_ in parts], bool)
        self._place = np.array(place, np.float64).reshape(-1, 4)

    def of(self, part: Layer) -> tuple[int, int]:
        """How many parts of others are called the same or lie and look alike, and show.

        Where either part is called nothing, what counts is where they lie.
        """
        at = self._at[part.address]
        others = self._own != self._own[at]
        named = (self._name >= 0) & (self._name[at] >= 0)
        alike = np.abs(self._place - self._place[at]).max(axis=1, initial=0) <= self._near
        alike &= (self._look == self._look[at]) & (self._look[at] >= 0)
        twins = others & np.where(named, self._name == self._name[at], alike)
        return int(twins.sum()), int((twins & self._visible).sum())


def _parts(reading: Reading, row: Sequence[Layer]) -> Iterator[Noted]:
    for number, owner in enumerate(row):
        for part in owner.children:
            place = _place(reading, part, owner) if is_drawing(part) else None
            look = _look(reading, part) if place else None
            yield number, part, layer_names.says_something(part), place, look


def _look(reading: Reading, part: Layer) -> object:
    """What a drawing should become, and its fill."""
    judgement = reading.judgement(part)
    return judgement.becomes, judgement.style and judgement.style.stops


def _place(reading: Reading, part: Layer, whole: Layer) -> tuple[int, int, int, int] | None:
    """Where a part lies in what it is part of, and how large it is."""
    box, around = reading.box(part), reading.extent(whole)
    if box is None or around is None:
        return None
    return box.x - around.x, box.y - around.y, box.width, box.height


#: What is known of rows, for as long as anybody reads the mockup.
_KNOWN: WeakKeyDictionary[Reading, dict[frozenset[str], Twins]] = WeakKeyDictionary()


def twins_in(reading: Reading, row: Sequence[Layer]) -> Twins:
    """The parts of a row, which is looked through once, in whatever order it is said."""
    known_all_twins, key = _KNOWN.setdefault(reading, {}), frozenset(layer.address for layer in row)
    if key not in known_all_twins:
        by_address = reading.mockup.by_address
        known_all_twins[key] = Twins(reading, [by_address[address] for address in sorted(key)])
    return known_all_twins[key]
