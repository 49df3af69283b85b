"""Colours where equal steps look about equally large: Oklab (Ottosson 2020)."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from riffler.color import Bytes, Pixels, linear_planes

#: The strongest half-resolution error of a hue up to which hues count as soft.
FINE_HUE = 0.035

#: Pixels from which hues are judged.
SAMPLED = 100_000

#: Ottosson 2020: linear sRGB to cone responses, and their cube roots to Oklab.
_TO_CONES = np.array(
    ((0.4122214708, 0.5363325363, 0.0514459929),
     (0.2119034982, 0.6806995451, 0.1073969566),
     (0.0883024619, 0.2817188376, 0.6299787005)), np.float32)  # fmt: skip
_TO_LAB = np.array(
    ((0.2104542553, 0.7936177850, -0.0040720468),
     (1.9779984951, -2.4285922050, 0.4505937099),
     (0.0259040371, 0.7827717662, -0.8086757660)), np.float32)  # fmt: skip


def oklab(rgb: Bytes) -> Pixels:
    """(H, W, 3) uint8 sRGB to Oklab: lightness 0..1, two hues about -0.3..0.3."""
    height, width = rgb.shape[:2]
    linear = linear_planes(rgb).reshape(3, -1)
    lab: npt.NDArray[np.float32] = _TO_LAB @ np.cbrt(_TO_CONES @ linear)
    return np.asarray(lab.reshape(3, height, width).transpose(1, 2, 0))


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
