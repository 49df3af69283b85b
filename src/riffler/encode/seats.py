"""Where two pictures are compared: what is looked at closely there, and what is averaged."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

import numpy as np
import numpy.typing as npt

from riffler.color import Bytes
from riffler.encode.calm import Calm
from riffler.encode.things import Mask
from riffler.encode.tiles import Place
from riffler.encode.views import View, Weights
from riffler.encode.weights import WEIGHTS


@dataclass
class Seat:
    """Places of a picture that others are compared with there, each side of the work done once.

    `laid` is the picture on each ground, (H, W, 3). The places `averaged`, one below the other, are
    looked at for bands, with `joints`; those `around` in a view, at so many `scales` and enlarged
    so many `times`. Either may be none.
    """

    laid: Mapping[int, Bytes]
    drawn: Mask
    averaged: Sequence[Place]
    around: Sequence[Place]
    scales: tuple[int, ...]
    times: int = 1
    joints: frozenset[str] = frozenset()
    calm: dict[int, Calm] = field(default_factory=dict)
    views: dict[int, View] = field(default_factory=dict)

    def loss(self, rgb: Bytes, ground: int) -> float:
        """What is seen of the difference to another picture on a ground, (H, W, 3)."""
        lost = 0.0
        if self.averaged:
            if ground not in self.calm:
                mine = _column(self.laid[ground], self.averaged)
                marked = _column(self.drawn, self.averaged)
                self.calm[ground] = Calm.of(mine, marked, self.joints)
            lost = self.calm[ground].loss(_column(rgb, self.averaged))
        if self.around:
            felt = self.view(ground).felt(_stack(rgb, self.around), *self._weights)
            lost = max(lost, felt)
        return lost

    @property
    def _weights(self) -> list[Weights]:
        return [WEIGHTS[scales] for scales in self.scales]

    def view(self, ground: int) -> View:
        """The picture on a ground, made once."""
        if ground not in self.views:
            rgb, marked = _stack(self.laid[ground], self.around), _stack(self.drawn, self.around)
            self.views[ground] = View.of(rgb, marked, max(map(len, self._weights)), self.times)
        return self.views[ground]


def _stack(pixels: npt.NDArray[Any], group: Sequence[Place]) -> npt.NDArray[Any]:
    """Places of one size, (pieces, H, W, ...)."""
    return np.stack([pixels[place] for place in group])


def _column(pixels: npt.NDArray[Any], group: Sequence[Place]) -> npt.NDArray[Any]:
    """Places of one width below one another; a single one as it is."""
    parts = [pixels[place] for place in group]
    return np.concatenate(parts) if len(parts) > 1 else parts[0]
