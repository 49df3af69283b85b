"""Pixels -> the same picture at another size.

Scaling averages in linear light: whole-number reductions by area, others by Lanczos.
"""

from __future__ import annotations

from typing import TypeAlias

import numpy as np
import numpy.typing as npt

from riffler.color import CLEAR, Pixels, to_encoded, to_linear
from riffler.geometry import Size

Plane: TypeAlias = npt.NDArray[np.float32]
"""(H, W) float32: one channel in linear light."""

#: Rows that are brought back from linear light at a time: that takes six times their memory.
BAND = 256


def resized(pixels: Pixels, size: Size) -> Pixels:
    """The picture at `size`, filtered in linear light so that fine detail keeps its brightness.

    A reduction averages areas, at any ratio: each pixel is what lay under it, so that outlines keep
    their colour and get no rim. An enlargement uses a Lanczos window of three lobes, clipped to
    what premultiplied colours allow.

    pixels: (H, W, 4) float32, premultiplied, 0..1.
    """
    height, width = pixels.shape[:2]
    if (width, height) == (size.width, size.height):
        return pixels
    is_smaller = size.width <= width and size.height <= height
    linear = _linear(pixels)
    resize = _averaged if is_smaller else _enlarged
    planes = [resize(np.ascontiguousarray(linear[..., plane]), size) for plane in range(4)]
    result = np.empty((size.height, size.width, 4), np.float32)
    for top in range(0, size.height, BAND):
        rows = slice(top, top + BAND)
        result[rows] = _encoded(np.stack([plane[rows] for plane in planes], axis=-1))
    return result


def _averaged(plane: Plane, size: Size) -> Plane:
    """The mean of the area under each pixel, (H, W) to (size.height, size.width)."""
    if plane.shape[0] % size.height == 0 and plane.shape[1] % size.width == 0:
        return _resampled(plane, size, "BOX")
    return _means(_means(plane, size.height).T, size.width).T


def _means(plane: Plane, count: int) -> Plane:
    """The means of `count` equal parts of the rows, exact where a part ends within a row.

    Sums of whole rows, and at both ends the share of a row that belongs to the part.
    """
    height = plane.shape[0]
    edges = np.linspace(0, height, count + 1)
    row = edges.astype(np.intp)
    row[-1] = 0  # all of the last row belongs to the last part
    share = (edges - row).astype(np.float32)
    share[-1] = 0
    ends = share[:, None] * plane[row]
    means: Plane = np.add.reduceat(plane, row[:-1], axis=0)
    means -= ends[:-1]
    means += ends[1:]
    means *= np.float32(count / height)
    return means


def _enlarged(plane: Plane, size: Size) -> Plane:
    return _resampled(plane, size, "LANCZOS")


def _resampled(plane: Plane, size: Size, window: str) -> Plane:
    from PIL import Image

    wanted = (size.width, size.height)
    return np.asarray(Image.fromarray(plane).resize(wanted, Image.Resampling[window]))


def _linear(pixels: Pixels) -> Pixels:
    """Premultiplied encoded pixels to premultiplied linear ones."""
    alpha = pixels[..., 3:]
    result = pixels.copy()
    straight = np.zeros_like(pixels[..., :3])
    np.divide(pixels[..., :3], alpha, out=straight, where=alpha > CLEAR)
    result[..., :3] = to_linear(straight) * alpha
    return result


def _encoded(pixels: Pixels) -> Pixels:
    """Premultiplied linear pixels back to premultiplied encoded ones."""
    alpha = np.clip(pixels[..., 3:], 0, 1)
    straight = np.zeros_like(pixels[..., :3])
    np.divide(pixels[..., :3], alpha, out=straight, where=alpha > CLEAR)
    result = np.empty_like(pixels)
    result[..., :3] = to_encoded(np.clip(straight, 0, 1)) * alpha
    result[..., 3:] = alpha
    return result
