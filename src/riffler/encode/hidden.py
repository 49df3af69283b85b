"""Pixels that show through entirely: their colours are ours to choose."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from riffler.color import Bytes


def spread(straight: Bytes, hidden: npt.NDArray[np.bool_]) -> Bytes:
    """Invisible pixels in the colours of the visible ones around them, the softer the farther.

    The soft edges of a shape of one colour then lie on more of it, and only alpha changes. Halved
    pictures hold the means of what is seen, and what is unseen takes them (Gortler et al. 1996).

    straight: (H, W, 4) uint8, straight RGBA; hidden: (H, W), where alpha is 0.
    """
    seen = (~hidden)[..., None].astype(np.float32)
    levels = [(straight[..., :3] * seen, seen)]
    while not levels[-1][1].all() and max(levels[-1][1].shape) > 1:
        sums, counts = (_halved(plane) for plane in levels[-1])
        levels.append((sums / np.maximum(counts, 1), (counts > 0).astype(np.float32)))
    colors = levels[-1][0]
    for known, seen in levels[-2::-1]:
        height, width = seen.shape[:2]
        colors = np.where(seen > 0, known, colors.repeat(2, 0).repeat(2, 1)[:height, :width])
    filled = straight.copy()
    filled[hidden, :3] = np.round(colors[hidden])
    return filled


def _halved(plane: npt.NDArray[np.float32]) -> npt.NDArray[np.float32]:
    """Sums of four pixels each; beyond an odd edge there is nothing."""
    height, width = (side % 2 for side in plane.shape[:2])
    even = np.pad(plane, ((0, height), (0, width), (0, 0)))
    rows = even[::2] + even[1::2]
    return np.asarray(rows[:, ::2] + rows[:, 1::2])


def filled(straight: Bytes) -> Bytes:
    """The picture with its invisible pixels spread over, where there are any."""
    hidden = straight[..., 3] == 0
    return spread(straight, hidden) if hidden.any() else straight


def smeared(straight: Bytes, hidden: npt.NDArray[np.bool_]) -> Bytes:
    """Invisible pixels in the colour on their left, so that a difference to the left is nothing.

    straight: (H, W, 4) uint8, straight RGBA; hidden: (H, W), where alpha is 0.
    """
    columns = np.arange(straight.shape[1])
    last = np.maximum.accumulate(np.where(hidden, 0, columns[None, :]), axis=1)
    smeared = np.take_along_axis(straight, last[..., None], axis=1)
    smeared[..., 3] = straight[..., 3]
    return np.asarray(smeared)
