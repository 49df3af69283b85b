"""Pixels -> what a sum, or the highest, makes of each block of them, and of windows of blocks."""

from __future__ import annotations

from typing import Any

import numpy as np
import numpy.typing as npt


def by_blocks(
    pixels: npt.NDArray[Any], side: int, reduce: np.ufunc, kind: npt.DTypeLike | None = None
) -> npt.NDArray[Any]:
    """What `reduce` makes of each square block: (H, W, ...) becomes (H / side, W / side, ...).

    Blocks at the far edges go on as the edge does. Sums are of `kind`, which has to hold them.
    """
    down, across = (-length % side for length in pixels.shape[:2])
    if down or across:
        more = ((0, down), (0, across), *[(0, 0)] * (pixels.ndim - 2))
        pixels = np.pad(pixels, more, "edge")
    rows = pixels[::side].astype(kind or pixels.dtype)
    for first in range(1, side):  # whole rows at a time: far quicker than block by block
        reduce(rows, pixels[first::side], out=rows)
    result = rows[:, ::side].copy()
    for first in range(1, side):
        reduce(result, rows[:, first::side], out=result)
    return np.asarray(result)


def over_windows(
    cells: npt.NDArray[Any], side: int, reduce: np.ufunc, axis: int = 0
) -> npt.NDArray[Any]:
    """What `reduce` makes of every square window of cells, along an axis and the one after it.

    Of what is no larger than a window there is one, of all of it.
    """
    for line in (axis, axis + 1):
        count = min(side, cells.shape[line])
        length = cells.shape[line] - count + 1
        before = (slice(None),) * line
        result = cells[(*before, slice(length))].copy()
        for first in range(1, count):
            reduce(result, cells[(*before, slice(first, first + length))], out=result)
        cells = result
    return cells
