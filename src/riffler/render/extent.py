"""The alpha of a layer -> what is known of its rows and columns: where it paints and hides.

What hides is known by the row: from where to where a layer is opaque without a gap. Under a card
with a soft rim only the rim is composed, and a small layer that lies under the rest is not even
decoded.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import TypeAlias

import numpy as np
import numpy.typing as npt

from riffler.errors import MockupError
from riffler.geometry import Box

#: Half opaque, in steps of 8 bits: shadows and glows stay below.
HALF = 127

Alpha: TypeAlias = npt.NDArray[np.uint8]
"""(rows, W): alpha, 0..255."""

Flags: TypeAlias = npt.NDArray[np.bool_]
"""(H,) or (W,): whether something is so in a row or column."""

Runs: TypeAlias = npt.NDArray[np.int_]
"""(H, 2): from which column on and up to which each row is opaque without a gap; 0, 0 with one."""


@dataclass(frozen=True)
class Extent:
    """Where in its box a layer paints.

    `painted_rows` and `painted_columns` say in which anything is painted at all, `solid_rows` and
    `solid_columns` in which something is more than half opaque: what is left of a layer without
    its shadow.
    """

    box: Box
    opaque_runs: Runs
    painted_rows: Flags
    painted_columns: Flags
    solid_rows: Flags
    solid_columns: Flags

    def within(self, box: Box) -> Extent:
        """The extent of a layer of which only `box` is stored: the rest is clear."""
        if box == self.box:
            return self
        top, left = self.box.y - box.y, self.box.x - box.x
        down = (top, box.height - self.box.height - top)
        across = (left, box.width - self.box.width - left)
        runs = np.where(self.opaque_runs[:, 1:] > 0, self.opaque_runs + left, 0)
        return Extent(
            box,
            np.pad(runs, (down, (0, 0))),
            np.pad(self.painted_rows, down),
            np.pad(self.painted_columns, across),
            np.pad(self.solid_rows, down),
            np.pad(self.solid_columns, across),
        )

    def opaque_part(self, area: Box) -> Box:
        """The part of `area` that is opaque in all of its rows; empty when there is none."""
        runs = self.opaque_runs[area.within(self.box)[0]]
        left, right = self.box.x + int(runs[:, 0].max()), self.box.x + int(runs[:, 1].min())
        return area & Box.from_edges(left, area.y, right, area.bottom)

    def is_painted(self, area: Box) -> bool:
        """Whether the layer paints anything in the rows of `area`."""
        return bool(self.painted_rows[area.within(self.box)[0]].any())

    def painted_box(self) -> Box | None:
        """The box of all pixels that are not clear; None for an empty layer."""
        return self._around(self.painted_rows, self.painted_columns)

    def solid_box(self) -> Box | None:
        """The box of all pixels that are more than half opaque; None when there are none."""
        return self._around(self.solid_rows, self.solid_columns)

    def _around(self, rows: Flags, columns: Flags) -> Box | None:
        down, across = np.flatnonzero(rows), np.flatnonzero(columns)
        if not down.size:
            return None
        inner = Box.from_edges(across[0], down[0], across[-1] + 1, down[-1] + 1)
        return inner.moved(self.box.x, self.box.y)


@dataclass
class Noting:
    """Takes in a layer's alpha, some rows at a time from the top; `what` names it in errors."""

    what: str
    box: Box
    _runs: list[Runs] = field(default_factory=list)
    _most: list[Alpha] = field(default_factory=list)

    def __post_init__(self) -> None:
        self._columns = np.zeros(self.box.width, np.uint8)

    def note(self, alpha: Alpha) -> None:
        """Some more rows. Raises MockupError when the layer is larger than its header says."""
        if alpha.shape[1] != self.box.width or self._height + len(alpha) > self.box.height:
            raise MockupError(f"{self.what} is not of the size that its header says.")
        if alpha.min(initial=255) == 255:
            runs = np.tile((0, self.box.width), (len(alpha), 1))
            across = down = np.uint8(255)
        else:
            runs, across, down = _opaque_runs(alpha), alpha.max(axis=1), alpha.max(axis=0)
        self._runs.append(runs)
        self._most.append(np.broadcast_to(across, len(alpha)))
        np.maximum(self._columns, down, out=self._columns)

    @property
    def _height(self) -> int:
        return sum(map(len, self._runs))

    def extent(self) -> Extent:
        """What all the rows say."""
        rows, columns = np.concatenate(self._most), self._columns
        runs = np.concatenate(self._runs)
        return Extent(self.box, runs, rows > 0, columns > 0, rows > HALF, columns > HALF)


def _opaque_runs(alpha: Alpha) -> Runs:
    is_opaque = alpha == 255
    first = is_opaque.argmax(axis=1)
    end = alpha.shape[1] - is_opaque[:, ::-1].argmax(axis=1)
    has_gap = np.count_nonzero(is_opaque, axis=1) != end - first
    return np.where(has_gap[:, None], 0, np.stack((first, end), axis=1))
