"""Pieces of a scale, twice -> maps of what is unlike, what rings and what is lost, by cells."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

#: Keeps similarity steady where there is next to nothing, as in Wang et al. 2004, C2.
STEADY = np.float32(0.03**2)

#: Pixels that are worked on at a time: they and what is made of them stay in the processor's cache.
BAND = 32_768

#: How far a blur reaches, in pixels: boxes of three, three times.
REACH = 3

#: The side of a cell, by which maps are summed up, in pixels of the finest scale.
CELL = 16

Stack = npt.NDArray[np.float32]
"""(pieces, H, W) float32: a channel of the opponent space, or what is made of it."""

Cells = npt.NDArray[np.float64]
"""(6, pieces, rows, columns) float64: sums over cells of three maps, and of their fourth powers."""


@dataclass(frozen=True)
class Strip:
    """Rows of some pieces, with those that a blur needs around them, and where they lie there."""

    pieces: slice
    rows: slice
    outer: slice
    inner: slice


def parts(stack: Stack, cell: int = 1) -> Iterator[Strip]:
    """All of a stack in parts that are small enough to work on at a time, of whole cells."""
    count, height, width = stack.shape
    together = max(1, BAND // (height * width))
    step = height if together > 1 else max(1, 8 // cell, BAND // width // cell) * cell
    for first in range(0, count, together):
        for top in range(0, height, step):
            rows = slice(top, min(height, top + step))
            outer = slice(max(0, top - REACH), min(height, rows.stop + REACH))
            inner = slice(top - outer.start, rows.stop - outer.start)
            yield Strip(slice(first, first + together), rows, outer, inner)


def blurred(stack: Stack) -> Stack:
    """About a Gaussian of 1.4 pixels: three boxes of three each way, the edge going on.

    All pieces lie with their margins in one row of memory, along which neighbours are added up:
    what comes out of the wrong ones ends in the margins.
    """
    count, height, width = stack.shape
    wide = width + 2 * REACH
    padded = np.empty((count, height + 2 * REACH, wide), np.float32)
    rows = padded[:, REACH:-REACH]
    rows[:, :, REACH:-REACH] = stack
    rows[:, :, :REACH], rows[:, :, -REACH:] = stack[:, :, :1], stack[:, :, -1:]
    padded[:, :REACH], padded[:, -REACH:] = rows[:, :1], rows[:, -1:]
    line, spare = padded.reshape(-1), np.empty(padded.size, np.float32)
    length = line.size
    for far in (1,) * REACH + (wide,) * REACH:
        length -= 2 * far
        np.add(line[:length], line[far : far + length], out=spare[:length])
        spare[:length] += line[2 * far : 2 * far + length]
        line, spare = spare, line
    result = line.reshape(padded.shape)[:, :height, :width]
    return np.asarray(result * np.float32(1 / 9**REACH))


@dataclass(frozen=True)
class Known:
    """A channel of a picture at a scale, and what comparing needs of it.

    `means` are blurred; `spreads` the variances around each pixel, kept from 0; `edges` are how far
    each pixel stands out from its mean, plus 1.
    """

    plane: Stack
    means: Stack
    spreads: Stack
    edges: Stack

    @classmethod
    def of(cls, plane: Stack) -> Known:
        """All that there is to know of a channel."""
        means, spreads = np.empty_like(plane), np.empty_like(plane)
        for part in parts(plane):
            outer = plane[part.pieces, part.outer]
            mean = blurred(outer)[:, part.inner]
            means[part.pieces, part.rows] = mean
            spread = blurred(outer * outer)[:, part.inner] - mean * mean
            spreads[part.pieces, part.rows] = spread + STEADY
        return cls(plane, means, spreads, np.abs(plane - means) + 1)


def compared(
    known: Known,
    other: Stack,
    difference: Stack,
    counting: npt.NDArray[np.bool_],
    cell: int,
) -> Cells:
    """Three maps of a channel, each as it is and to its fourth power, summed up by cells of a side.

    The maps: what is unlike (Wang et al. 2004, equation 13, the means without their steady term),
    what rings, and what is lost; only those that are `counting`. What the soft colours differ is
    added to `difference`.
    """
    count, height, width = other.shape
    sums = np.zeros((6, count, -(-height // cell), -(-width // cell)))

    def add(part: Strip, which: int, result: Stack) -> None:
        """Sum up what is above 0 of a map."""
        rows = slice(part.rows.start // cell, -(-part.rows.stop // cell))
        kept = np.maximum(result, 0)
        if counting[which]:
            sums[which, part.pieces, rows] = _by_cells(kept, cell)
        if counting[which + 1]:
            kept *= kept
            kept *= kept
            sums[which + 1, part.pieces, rows] = _by_cells(kept, cell)

    is_unlike, rings, is_lost = (bool(counting[n : n + 2].any()) for n in (0, 2, 4))
    for part in parts(other, cell):
        outer, rows = (part.pieces, part.outer), (part.pieces, part.rows)
        off = other[outer] - known.plane[outer]
        off_mean = blurred(off)[:, part.inner]
        difference[rows] += np.abs(off_mean)
        mean = known.means[rows] + off_mean
        if rings or is_lost:
            edges = np.subtract(other[rows], mean)
            np.abs(edges, out=edges)
            edges += 1
            edges /= known.edges[rows]
            edges -= 1
            if rings:
                add(part, 2, edges)
            if is_lost:
                add(part, 4, np.negative(edges, out=edges))
        if is_unlike:
            spread = blurred(other[outer] ** 2)[:, part.inner]
            spread -= mean * mean
            spread += known.spreads[rows]
            off_mean *= off_mean
            unlike = blurred(off * off)[:, part.inner]
            unlike -= off_mean
            unlike /= spread
            unlike *= 1 - off_mean
            unlike += off_mean
            add(part, 0, unlike)
    return sums


def _by_cells(stack: Stack, cell: int) -> Stack:
    """Sums by cells of a side; those at the far edges may be smaller."""
    if cell == 1:
        return stack
    rows = np.add.reduceat(stack, np.arange(0, stack.shape[1], cell), axis=1)
    return np.asarray(np.add.reduceat(rows, np.arange(0, stack.shape[2], cell), axis=2))
