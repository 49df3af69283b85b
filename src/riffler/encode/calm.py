"""Two pictures -> what stays of their difference where it is averaged: bands, and joints.

An eye averages over some pixels, so that grain goes and bands stay: the error of squares of 8 px,
and steps from one such square to the next where the picture has none. Along edges at which another
picture goes on, the error of the first pixels counts.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np
import numpy.typing as npt

from riffler.color import Bytes
from riffler.encode.blocks import by_blocks, over_windows

#: The side of a square; and that of the cells it is put together of, by which squares follow one
#: another: finer ones of small things, so that no worst square is passed over.
SQUARE, COARSE, FINE = 8, 4, 2

#: Pixels up to which a thing is small.
SMALL = 65_536

#: The error and the step, of 255, that count as a loss of 1, and with which power loss rises.
BAND, STEP, RISES = 1.33, 1.8, 2.1

#: Shares of the squares, of the pairs of calm ones, and of those beside a joint, that may err by
#: more.
SHARE, STEPS_SHARE, BESIDE_SHARE = 0.005, 0.02, 0.05

#: Pairs from which steps are looked for.
PAIRS = 24

#: How far the pixels of a calm square stand out from those beside them, of 255 in the mean of both
#: directions and twice over: a gradient does not, however steep; grain of 1 does by 2.
CALM = 2.2

#: What red, green and blue add to lightness (ITU-R BT.601), and how much the error of one of them
#: counts beside that: hues are seen less, in what is lively still less, and least where a texture
#: meets itself.
LIGHT = np.array((0.299, 0.587, 0.114), np.float32)
HUES, LIVELY, BESIDE = np.float32(0.9), np.float32(0.7), np.float32(0.45)

#: Stands among joints for a texture that goes on in itself: a step in it shows by its lightness.
TEXTURE = "texture"

#: The error beside a joint that counts as a loss of `JOINED`, and with which power loss rises.
JOINT, JOINED, JOINT_RISES = 0.95, 2.9, 4.0

Squares = npt.NDArray[np.float32]
"""(rows, columns, 3) float32: means of squares that overlap, 0..255."""


@dataclass(frozen=True)
class Calm:
    """A picture as it is shown on a ground, averaged; with the edges at which others go on.

    `is_calm` tells of each square whether it is so even that a step would show; `is_drawn` of each
    whether anything is seen of the picture there; `joints` has the sides at which another goes on,
    and `TEXTURE` where the picture is one.
    """

    squares: Squares
    is_calm: npt.NDArray[np.bool_]
    is_drawn: npt.NDArray[np.bool_]
    joints: frozenset[str]
    cell: int

    @classmethod
    def of(
        cls, rgb: Bytes, is_drawn: npt.NDArray[np.bool_], joints: frozenset[str] = frozenset()
    ) -> Calm:
        """rgb: (H, W, 3) uint8; is_drawn: (H, W)."""
        cell = FINE if is_drawn.size <= SMALL else COARSE
        is_calm = _standing_out(rgb, cell) <= CALM
        marked = by_blocks(_widened(is_drawn[..., None]), cell, np.maximum)[..., 0]
        drawn = over_windows(marked, SQUARE // cell, np.maximum)
        return cls(_squares(rgb, cell), is_calm, drawn, joints, cell)

    def loss(self, rgb: Bytes) -> float:
        """The loss by bands and joints of another picture of the same size, 0 or more."""
        error = _squares(rgb, self.cell)
        error -= self.squares
        most = _felt(error, np.where(self.is_calm, HUES, LIVELY))
        lost = (max(_beyond(most, SHARE), _beyond(most[self.is_drawn], SHARE)) / BAND) ** RISES
        steps = np.concatenate(list(self._steps(error)))
        if steps.size >= PAIRS:
            lost = max(lost, (_beyond(steps, STEPS_SHARE) / STEP) ** RISES)
        for side in sorted(self.joints - {TEXTURE}):
            lost = max(lost, JOINED * (self._beside(error, side) / JOINT) ** JOINT_RISES)
        return float(lost)

    def _steps(self, error: Squares) -> Iterator[npt.NDArray[np.float32]]:
        """From each calm square to the next that it does not overlap, across and down."""
        for pixels, calm in ((error, self.is_calm), (error.transpose(1, 0, 2), self.is_calm.T)):
            far = SQUARE // self.cell
            pairs = calm[far:] & calm[:-far]
            yield _felt(pixels[far:] - pixels[:-far], HUES)[pairs]

    def _beside(self, error: Squares, side: str) -> float:
        """The error that shows of the calm squares along a side."""
        axis, line = (0, 1)[side in ("left", "right")], (0, -1)[side in ("bottom", "right")]
        calm = np.take(self.is_calm, line, axis)
        along = np.take(error, line, axis)[calm]
        if TEXTURE in self.joints:
            return _beyond(_felt(along, BESIDE), BESIDE_SHARE)
        return _beyond(_strongest(along), STEPS_SHARE)


def _felt(
    error: npt.NDArray[np.float32], hues: np.float32 | npt.NDArray[np.float32]
) -> npt.NDArray[np.float32]:
    """How much of errors is felt: of lightness all, of a single channel a part."""
    return np.asarray(np.maximum(np.abs(error @ LIGHT), hues * _strongest(error)))


def _strongest(error: npt.NDArray[np.float32]) -> npt.NDArray[np.float32]:
    """The largest error of three channels; one by one, which is far quicker than along an axis."""
    red, green, blue = np.abs(error).transpose(error.ndim - 1, *range(error.ndim - 1))
    return np.asarray(np.maximum(np.maximum(red, green), blue))


def _beyond(errors: npt.NDArray[np.float32], share: float) -> float:
    """What all errors but a share of them stay below; 0 for none."""
    if not errors.size:
        return 0.0
    last = errors.size - 1 - int(share * errors.size)
    return float(np.partition(errors.ravel(), last)[last])


def _squares(rgb: Bytes, cell: int) -> Squares:
    """Means of squares."""
    cells = by_blocks(_widened(rgb), cell, np.add, np.uint16)
    return np.asarray(over_windows(cells, SQUARE // cell, np.add) / np.float32(SQUARE**2))


def _standing_out(rgb: Bytes, cell: int) -> npt.NDArray[np.float32]:
    """How far the pixels of each square stand out from those beside them, the worst channel."""
    wide = _widened(rgb).astype(np.int16)
    result = np.zeros_like(wide)
    result[:, 1:-1] = np.abs(2 * wide[:, 1:-1] - wide[:, :-2] - wide[:, 2:])
    result[1:-1] += np.abs(2 * wide[1:-1] - wide[:-2] - wide[2:])
    sums = over_windows(by_blocks(result, cell, np.add, np.int32), SQUARE // cell, np.add)
    return np.asarray(sums.max(axis=2) / np.float32(2 * SQUARE**2))


def _widened(pixels: npt.NDArray[Any]) -> npt.NDArray[Any]:
    """The edge going on half a square all around."""
    room = SQUARE // 2
    height, width, depth = pixels.shape
    wide = np.empty((height + 2 * room, width + 2 * room, depth), pixels.dtype)
    wide[room:-room, room:-room] = pixels
    wide[room:-room, :room], wide[room:-room, -room:] = pixels[:, :1], pixels[:, -1:]
    wide[:room], wide[-room:] = wide[room : room + 1], wide[-room - 1 : -room]
    return wide
