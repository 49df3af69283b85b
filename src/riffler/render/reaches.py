"""A box and the layers that are on -> those of them that may paint there, and the groups around."""

from __future__ import annotations

from collections.abc import Callable
from functools import cached_property

import numpy as np
import numpy.typing as npt

from riffler.geometry import Box
from riffler.mockup.model import Layer, Mockup

#: Of so many layers one is on at the least where all of them are measured.
MANY = 8

#: Edges of what may paint anywhere.
EVERYWHERE = (-np.inf, -np.inf, np.inf, np.inf)


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
        """Those that may paint in a box, and what is no layer; each layer is measured once."""
        known = self._mockup.by_address
        if len(shown) * MANY < len(known):  # what is off is not even measured
            layers = (known[address] for address in shown if address in known)
            near = {layer.address for layer in layers if self._may_meet(layer, box)}
        else:
            near = set(shown.intersection(self._meeting(box)))
        for address in tuple(near):
            around = self._mockup.parents.get(address)
            while around is not None and around not in near and around in shown:
                near.add(around)
                around = self._mockup.parents.get(around)
        return frozenset(near | (shown - known.keys()))

    def _may_meet(self, layer: Layer, box: Box) -> bool:
        if layer.is_group:
            return self._may_flood(layer)
        reach = self._reach(layer)
        return reach is None or reach.meets(box)

    def _meeting(self, box: Box) -> list[str]:
        addresses, edges = self._edges
        low, high = edges[:, :2] < (box.right, box.bottom), edges[:, 2:] > (box.x, box.y)
        return [addresses[number] for number in np.flatnonzero((low & high).all(axis=1))]

    @cached_property
    def _edges(self) -> tuple[list[str], npt.NDArray[np.float64]]:
        """The layers that paint, and their left, top, right and bottom edges, (n, 4)."""
        addresses, edges = [], []
        for layer in self._mockup.walk():
            reach = None
            if not layer.is_group:
                reach = self._reach(layer)
            elif not self._may_flood(layer):
                continue
            addresses.append(layer.address)
            edges.append((reach.x, reach.y, reach.right, reach.bottom) if reach else EVERYWHERE)
        return addresses, np.array(edges, np.float64).reshape(-1, 4)
