"""Pixels that show through entirely: their colours are ours to choose."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from riffler.color import Bytes


def spread(straight: Bytes, hidden: npt.NDArray[np.bool_]) -> Bytes:
    """Invisible pixels in the colour of the visible one nearest to them.

    The soft edges of a shape of one colour then lie on more of it, and only alpha changes.

    straight: (H, W, 4) uint8, straight RGBA; hidden: (H, W), where alpha is 0.
    """
    from scipy import ndimage

    rows, columns = ndimage.distance_transform_edt(
        hidden, return_distances=False, return_indices=True
    )
    filled = straight[rows, columns].copy()
    filled[..., 3] = straight[..., 3]
    return np.asarray(filled)


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
