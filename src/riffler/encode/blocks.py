"""Pixels -> what a sum, or the highest or lowest, makes of each block of them."""

from __future__ import annotations

from typing import Any

import numpy as np
import numpy.typing as npt


def by_blocks(
    pixels: npt.NDArray[Any], side: int, way: np.ufunc, kind: npt.DTypeLike | None = None
) -> npt.NDArray[Any]:
    """What `way` makes of each square block: (H, W, ...) becomes (H / side, W / side, ...).

    Blocks at the far edges go on as the edge does. Sums are of `kind`, which has to hold them.
    """
    down, across = (-length % side for length in pixels.shape[:2])
    if down or across:
        more = ((0, down), (0, across), *[(0, 0)] * (pixels.ndim - 2))
        pixels = np.pad(pixels, more, "edge")
    rows = pixels[::side].astype(kind or pixels.dtype)
    for first in range(1, side):  # whole rows at a time: far quicker than block by block
        way(rows, pixels[first::side], out=rows)
    found = rows[:, ::side].copy()
    for first in range(1, side):
        way(found, rows[:, first::side], out=found)
    return np.asarray(found)
