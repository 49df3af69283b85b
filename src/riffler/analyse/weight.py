"""A picture -> where the middle of its weight lies, paint taken for weight."""

from __future__ import annotations

import numpy as np

from riffler.color import Pixels


def middle(pixels: Pixels) -> tuple[float, float] | None:
    """The mean place (x, y) of all paint, in pixels from the top left; None where there is none.

    pixels: (H, W, 4) float32, premultiplied, 0..1; alpha is taken for weight.
    """
    alpha = pixels[..., 3]
    whole = float(alpha.sum())
    if whole == 0:
        return None
    across, down = (np.arange(side) + 0.5 for side in (alpha.shape[1], alpha.shape[0]))
    return float(alpha.sum(axis=0) @ across) / whole, float(alpha.sum(axis=1) @ down) / whole
