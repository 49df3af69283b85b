"""Pixels -> the box that is painted."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from riffler.color import Bytes, Pixels
from riffler.geometry import Box


def painted_box(pixels: Pixels | Bytes, threshold: float = 0.0) -> Box | None:
    """Smallest box that holds every pixel with alpha above `threshold`.

    pixels: (H, W, 4), float32 in 0..1 or uint8 in 0..255; `threshold` is in the same range.
    Returns None for an empty picture.
    """
    return marked_box(pixels[..., 3] > threshold)


def marked_box(marked: npt.NDArray[np.bool_]) -> Box | None:
    """Smallest box that holds every marked pixel of (H, W) bool; None when none is marked."""
    rows, columns = np.flatnonzero(marked.any(axis=1)), np.flatnonzero(marked.any(axis=0))
    if not rows.size:
        return None
    return Box.from_edges(columns[0], rows[0], columns[-1] + 1, rows[-1] + 1)
