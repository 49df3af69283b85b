"""Boxes -> their sides as rows, so that a box is held against all of them at once."""

from __future__ import annotations

from collections.abc import Iterable
from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray

from riffler.geometry import Box, Rect

Sides: TypeAlias = NDArray[np.float64]
"""Left, top and the negated right and bottom of each box: (n, 4); NaN for what is nowhere."""

#: The row of what is nowhere: it meets nothing.
NOWHERE = (np.nan,) * 4


def sides_of(boxes: Iterable[Box | Rect | None]) -> Sides:
    """The sides of boxes; None is nowhere.

    One box lies around another where its row is at most the other's in every column.
    """
    rows = [NOWHERE if box is None else (box.x, box.y, -box.right, -box.bottom) for box in boxes]
    return np.array(rows, np.float64).reshape(-1, 4)


def meeting(sides: Sides, box: Box | Rect) -> NDArray[np.bool_]:
    """Which of them have some place in common with a box: (n,)."""
    beside = sides < (box.right, box.bottom, -box.x, -box.y)
    meets: NDArray[np.bool_] = np.logical_and.reduce(beside, axis=1)
    return meets
