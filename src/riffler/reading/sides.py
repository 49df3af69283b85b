"""Boxes -> their sides as rows, so that a box is held against all of them at once."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np
from numpy.typing import NDArray

from riffler.geometry import Box


def sides_of(boxes: Iterable[Box]) -> NDArray[np.float64]:
    """Left, top and the negated right and bottom of each box: (n, 4).

    One box lies around another where its row is at most the other's in every column.
    """
    rows = [(box.x, box.y, -box.right, -box.bottom) for box in boxes]
    return np.array(rows, np.float64).reshape(-1, 4)
