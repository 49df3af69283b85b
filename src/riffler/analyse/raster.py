"""Masks of pixels -> their connected parts, their holes, what is left of them after wearing off."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TypeAlias

import numpy as np
import numpy.typing as npt

Mask: TypeAlias = npt.NDArray[np.bool_]
Ints: TypeAlias = npt.NDArray[np.int64]

#: A pixel and the eight around it.
AROUND = np.ones((3, 3), bool)


@dataclass(frozen=True)
class Parts:
    """The connected parts of a mask, in the order of their first pixels.

    `boxes` are (top, bottom, left, right) of each, ends exclusive; `sizes` count pixels.
    """

    boxes: Ints
    sizes: Ints


def parts_of(mask: Mask) -> Parts:
    """The parts of a mask (H, W) whose pixels touch, be it at corners."""
    from scipy import ndimage

    labels, count = ndimage.label(mask, AROUND)
    boxes = [
        (down.start, down.stop, across.start, across.stop)
        for down, across in ndimage.find_objects(labels)
    ]
    sizes = np.bincount(labels.ravel(), minlength=count + 1)[1:]
    return Parts(np.array(boxes, np.int64).reshape(-1, 4), sizes)


def filled(mask: Mask) -> Mask:
    """A mask with its holes: what cannot be reached from the rim, around corners."""
    from scipy import ndimage

    return np.asarray(ndimage.binary_fill_holes(mask))


def worn(mask: Mask, by: int = 1) -> Mask:
    """A mask without so many pixels at its rim, corners counted; beyond the picture is nothing."""
    from scipy import ndimage

    return np.asarray(ndimage.binary_erosion(mask, AROUND, by)) if by else mask


def depths(mask: Mask, most: int) -> npt.NDArray[np.float64]:
    """How far each pixel of a mask is from the nearest that is not in it, up to `most` pixels.

    Beyond the picture is nothing.
    """
    from scipy import ndimage

    depth = ndimage.distance_transform_edt(np.pad(mask, 1))[1:-1, 1:-1]
    return np.asarray(np.minimum(depth, most))
