"""Masks of pixels -> their connected parts, their holes, what is left of them after wearing off.

These four take a third of a second less to be loaded than a library of all that can be done with
images, which is more than a draft needs for everything else that they do.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TypeAlias

import numpy as np
import numpy.typing as npt

Mask: TypeAlias = npt.NDArray[np.bool_]
Ints: TypeAlias = npt.NDArray[np.int64]


@dataclass(frozen=True)
class Parts:
    """The connected parts of a mask, in the order of their first pixels.

    `boxes` are (top, bottom, left, right) of each, ends exclusive; `sizes` count pixels. `row`,
    `left`, `right` and `part` are of each run of pixels in a row.
    """

    boxes: Ints
    sizes: Ints
    row: Ints
    left: Ints
    right: Ints
    part: Ints

    def mask_of(self, chosen: Mask, shape: tuple[int, int]) -> Mask:
        """The pixels of the parts that are chosen, one truth for each part."""
        steps = np.zeros((shape[0], shape[1] + 1), np.int8)
        runs = chosen[self.part]
        steps[self.row[runs], self.left[runs]] += 1
        steps[self.row[runs], self.right[runs]] -= 1
        return np.asarray(np.cumsum(steps, axis=1, dtype=np.int8)[:, :-1] > 0)


def parts_of(mask: Mask, *, diagonal: bool = True) -> Parts:
    """The parts of a mask (H, W) whose pixels touch, at corners too if `diagonal`.

    Runs of pixels that touch are joined by their lowest number until nothing changes: Shiloach and
    Vishkin, An O(log n) parallel connectivity algorithm, 1982.
    """
    width = mask.shape[1] + 2
    padded = np.zeros((mask.shape[0], width), np.int8)
    padded[:, 1:-1] = mask
    change = np.diff(padded, axis=1).ravel()
    starts, ends = np.flatnonzero(change == 1), np.flatnonzero(change == -1)
    row, left, right = starts // (width - 1), starts % (width - 1), ends % (width - 1)
    reach = int(diagonal)
    low = np.searchsorted(row * width + right, (row + 1) * width + left + 1 - reach)
    high = np.searchsorted(row * width + left, (row + 1) * width + right + reach)
    count = np.maximum(0, high - low)
    above = np.repeat(np.arange(len(row)), count)
    below = np.arange(len(above)) - np.repeat(np.cumsum(count) - count, count) + low[above]
    _, part = np.unique(_joined(len(row), above, below), return_inverse=True)
    many = int(part.max(initial=-1)) + 1
    boxes = np.empty((many, 4), np.int64)
    boxes[:, (0, 2)] = mask.shape
    boxes[:, (1, 3)] = 0
    for column, values, better in (
        (0, row, np.minimum),
        (1, row + 1, np.maximum),
        (2, left, np.minimum),
        (3, right, np.maximum),
    ):
        better.at(boxes[:, column], part, values)
    sizes = np.bincount(part, weights=right - left, minlength=many).astype(np.int64)
    return Parts(boxes, sizes, row, left, right, part)


def _joined(count: int, first: Ints, second: Ints) -> Ints:
    """The lowest number that each of so many is connected to by the pairs."""
    home = np.arange(count)
    while True:
        a, b = home[first], home[second]
        if np.array_equal(a, b):
            return home
        np.minimum.at(home, np.maximum(a, b), np.minimum(a, b))
        while not np.array_equal(home, shorter := home[home]):
            home = shorter


def filled(mask: Mask) -> Mask:
    """A mask with its holes: what cannot be reached from the rim, around corners."""
    outside = parts_of(~np.pad(mask, 1), diagonal=False)
    shape = (mask.shape[0] + 2, mask.shape[1] + 2)
    reached = outside.mask_of(np.arange(len(outside.sizes)) == 0, shape)
    return np.asarray(~reached[1:-1, 1:-1])


def worn(mask: Mask, by: int = 1) -> Mask:
    """A mask without so many pixels at its rim, corners counted; beyond the picture is nothing."""
    for axis in (0, 1):
        padded = np.pad(mask, [(by, by) if axis == value else (0, 0) for value in (0, 1)])
        windows = np.lib.stride_tricks.sliding_window_view(padded, 2 * by + 1, axis=axis)
        mask = np.asarray(windows.all(axis=-1))
    return mask


def depths(mask: Mask, most: int) -> npt.NDArray[np.float64]:
    """How far each pixel of a mask is from the nearest that is not in it, up to `most` pixels.

    Along rows first, then over rows: Rosenfeld and Pfaltz, Distance functions on digital pictures,
    1968. Exact up to `most`; beyond the picture is nothing.
    """
    solid = np.pad(mask, 1)
    place = np.arange(solid.shape[1])
    before = np.maximum.accumulate(np.where(solid, 0, place), axis=1)
    behind = np.minimum.accumulate(np.where(solid, place[-1], place)[:, ::-1], axis=1)[:, ::-1]
    along = np.minimum(np.minimum(place - before, behind - place), most).astype(np.int64) ** 2
    result = along.copy()
    for far in range(1, min(most, solid.shape[0] - 1) + 1):
        if far * far >= result.max():
            break
        np.minimum(result[far:], along[:-far] + far * far, out=result[far:])
        np.minimum(result[:-far], along[far:] + far * far, out=result[:-far])
    return np.sqrt(result[1:-1, 1:-1])
