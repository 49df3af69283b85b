"""A box and the layers that are on -> those of them that may paint there, and the groups around.

Which layers paint in a box of a drawing is looked up in one table of all their boxes, so that a
thousand slices of a thousand layers are no million questions. What a filter may spread from
anywhere is always in it.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from functools import cached_property
from typing import NamedTuple

import numpy as np

from riffler.geometry import Box
from riffler.mockup.model import Layer, Mockup
from riffler.sides import Sides, meeting, sides_of

#: Of so many layers one is on at the least where all of them are measured.
MANY = 8


class _Table(NamedTuple):
    """Layers that may paint anywhere, and the others with the sides of what they paint."""

    anywhere: frozenset[str]
    addresses: tuple[str, ...]
    sides: Sides


class Reaches:
    """How far the layers of a mockup paint.

    `reach` is a box that holds all paint of a layer, None where it may be anywhere; `may_flood` is
    whether a group paints by itself, as one with a filter can.
    """

    def __init__(
        self,
        mockup: Mockup,
        reach: Callable[[Layer], Box | None],
        may_flood: Callable[[Layer], bool],
    ) -> None:
        self._mockup, self._reach, self._may_flood = mockup, reach, may_flood

    def near(self, box: Box, shown: frozenset[str]) -> frozenset[str]:
        """Layers that may paint in a box, and drawings that are no layer; each is measured once."""
        known_layers, parents = self._mockup.by_address, self._mockup.parents
        is_few = len(shown) * MANY < len(known_layers)  # then what is off is not even measured
        table = (
            self._table(known_layers[at] for at in shown & known_layers.keys())
            if is_few
            else self._all
        )
        addresses = (table.addresses[at] for at in np.flatnonzero(meeting(table.sides, box)))
        near = {*(shown & table.anywhere), *shown.intersection(addresses)}
        for address in tuple(near):
            around = parents.get(address)
            while around is not None and around not in near and around in shown:
                near.add(around)
                around = parents.get(around)
        return frozenset(near | (shown - known_layers.keys()))

    @cached_property
    def _all(self) -> _Table:
        return self._table(self._mockup.walk())

    def _table(self, layers: Iterable[Layer]) -> _Table:
        anywhere, boxes = set[str](), dict[str, Box]()
        for layer in layers:
            reach = None if layer.is_group else self._reach(layer)
            if reach is not None:
                boxes[layer.address] = reach
            elif not layer.is_group or self._may_flood(layer):
                anywhere.add(layer.address)
        return _Table(frozenset(anywhere), tuple(boxes), sides_of(boxes.values()))
