"""Whether a picture has hues that half the resolution would smear."""

from __future__ import annotations

import numpy as np

from riffler.color import Bytes, oklab

#: The strongest half-resolution error of a hue up to which hues count as soft.
FINE_HUE = 0.035

#: Pixels from which hues are judged.
SAMPLED = 100_000


def has_fine_hues(straight: Bytes) -> bool:
    """Whether hues change so sharply that half the resolution would smear them.

    straight: (H, W, 4) uint8, straight RGBA.
    """
    height, width = (side // 2 * 2 for side in straight.shape[:2])
    if min(height, width) < 4:
        return True
    step = 2 * max(1, height * width // SAMPLED)
    upper, lower = (oklab(straight[row:height:step, :width, :3])[..., 1:] for row in (0, 1))
    four = (upper[:, ::2], upper[:, 1::2], lower[:, ::2], lower[:, 1::2])
    mean = (four[0] + four[1] + four[2] + four[3]) / 4
    off = np.max([np.abs(hue - mean).max(axis=2) for hue in four], axis=0)
    return bool(np.quantile(off, 0.995) > FINE_HUE)
