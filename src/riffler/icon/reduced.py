"""A picture -> a small one: areas averaged in linear light, sharpened by as much as was lost."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from riffler.color import LUMA, Pixels, within_alpha
from riffler.geometry import Size
from riffler.render.scaling import resized

#: How much sharpening is tried, in times what a blur takes away.
AMOUNTS = (0.0, 0.2, 0.4, 0.6, 0.8, 1.0)

#: By how much a sharpened pixel may leave the range of those around it: more is a halo.
HALO = 0.06

#: Sides from which nothing is sharpened: there is room for what the picture shows.
LARGE = 96


def to_side(pixels: Pixels, side: int) -> Pixels:
    """The picture with its longer side so long; never enlarged beyond what is asked for.

    pixels: (H, W, 4) float32, premultiplied, 0..1.
    """
    height, width = pixels.shape[:2]
    scale = side / max(width, height)
    size = Size(max(1, round(width * scale)), max(1, round(height * scale)))
    small = resized(pixels, size)
    if scale >= 1 or side >= LARGE:
        return small
    return sharpened(small, contrast(pixels))


def sharpened(small: Pixels, wanted: float) -> Pixels:
    """The picture with an unsharp mask by which its contrast is nearest to what is wanted.

    Amounts that leave halos are not taken.
    """
    blurred = _blurred(small)
    low, high = _around(small)
    best, nearest = small, abs(contrast(small) - wanted)
    for amount in AMOUNTS[1:]:
        tried = small + np.float32(amount) * (small - blurred)
        over = np.maximum(tried - high, low - tried)[..., :3]
        if float(over.max()) > HALO + amount * 0.25:
            break
        tried = within_alpha(np.clip(tried, 0, 1).astype(np.float32))
        if (apart := abs(contrast(tried) - wanted)) < nearest:
            best, nearest = tried, apart
    return best


def contrast(pixels: Pixels) -> float:
    """The standard deviation of how bright it is on a middle grey, where it paints: Peli, 1990."""
    on_grey = pixels[..., :3] + (1 - pixels[..., 3:]) * np.float32(0.5)
    bright = on_grey @ LUMA
    weight = pixels[..., 3]
    total = float(weight.sum())
    if total <= 0:
        return 0.0
    mean = float((bright * weight).sum()) / total
    return float(np.sqrt((np.square(bright - mean) * weight).sum() / total))


def _blurred(pixels: Pixels) -> Pixels:
    """Each pixel with a quarter of its neighbours in both directions; edges go on."""
    for axis in (0, 1):
        ends = [(1, 1) if side == axis else (0, 0) for side in range(3)]
        wide = np.pad(pixels, ends, mode="edge")
        count = pixels.shape[axis]
        parts = [wide.take(range(at, at + count), axis=axis) for at in range(3)]
        pixels = np.asarray((parts[0] + 2 * parts[1] + parts[2]) / 4, np.float32)
    return pixels


def _around(pixels: Pixels) -> tuple[npt.NDArray[np.float32], npt.NDArray[np.float32]]:
    """The least and the most of the nine pixels around each."""
    wide = np.pad(pixels, [(1, 1), (1, 1), (0, 0)], mode="edge")
    height, width = pixels.shape[:2]
    near = np.stack([wide[y : y + height, x : x + width] for y in range(3) for x in range(3)])
    return near.min(axis=0), near.max(axis=0)
