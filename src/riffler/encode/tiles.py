"""Where to look at a large picture: pieces that stand for the whole."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import TypeAlias

import numpy as np
import numpy.typing as npt

from riffler.color import Bytes
from riffler.encode.blocks import by_blocks

#: Codecs work on blocks of so many pixels.
GRID = 16

#: What happens on calm ground, of 255: where there is no more, the same error is as bad.
FEW = 3.0

Place: TypeAlias = tuple[slice, slice]
"""Rows and columns."""


def painted(straight: Bytes, margin: int) -> Place:
    """The box of what is not clear, with a margin; all of a picture that is clear.

    straight: (H, W, 4) uint8.
    """
    alpha = straight[..., 3]
    height, width = alpha.shape
    if alpha.min(initial=255) == 255 or not alpha.any():
        return slice(0, height), slice(0, width)
    rows, columns = np.flatnonzero(alpha.any(axis=1)), np.flatnonzero(alpha.any(axis=0))
    return (
        slice(max(0, int(rows[0]) - margin), min(height, int(rows[-1]) + 1 + margin)),
        slice(max(0, int(columns[0]) - margin), min(width, int(columns[-1]) + 1 + margin)),
    )


def tiles(within: Place, side: int, shape: tuple[int, ...]) -> list[Place]:
    """Squares that cover a place of a picture of some shape: one around what is far smaller.

    They lie on the grid of the codecs' own blocks: `side` is a multiple of 16.
    """
    lines = []
    for line, length in zip(within, shape, strict=False):
        last = (length - side) // GRID * GRID
        room = side - (line.stop - line.start)
        if room >= 2 * GRID:
            firsts = [(line.start - room // 2) // GRID * GRID]
        else:
            firsts = list(range(line.start // GRID * GRID, line.stop - GRID, side))
        lines.append(dict.fromkeys(max(0, min(first, last)) for first in firsts))
    down, across = lines
    return [(slice(y, y + side), slice(x, x + side)) for y in down for x in across]


def different(every: Iterable[Place]) -> list[Place]:
    """Squares of one size, each of them once."""
    return list({corner(place): place for place in every}.values())


def corner(place: Place) -> tuple[int, int]:
    """The first row and the first column."""
    return place[0].start, place[1].start


def telling(straight: Bytes, every: Sequence[Place], count: int) -> list[Place]:
    """`count` of some places: half of them those with most in them, the others evenly spread.

    straight: (H, W, 4) uint8.
    """
    if len(every) <= count:
        return list(every)
    busy = sorted(every, key=lambda place: -_much(straight[place]))[: count // 2]
    rest = [place for place in every if place not in busy]
    spread = [rest[int(n)] for n in np.linspace(0, len(rest) - 1, count - len(busy))]
    return sorted([*busy, *spread], key=corner)


def worst(first: Bytes, second: Bytes, side: int, count: int) -> list[Place]:
    """The squares about where two pictures differ most for how much happens there.

    first, second: (H, W, 3) uint8.
    """
    off = np.abs(first.astype(np.int16) - second)
    happens = np.zeros_like(off)
    happens[:, 1:] = np.abs(np.diff(first.astype(np.int16), axis=1))
    bad = _means(off) / (FEW + _means(happens))
    result: list[Place] = []
    for _ in range(count):
        row, column = np.unravel_index(int(bad.argmax()), bad.shape)
        if bad[row, column] <= 0:
            break
        reach = side // 2 // GRID
        bad[max(0, row - reach) : row + reach + 1, max(0, column - reach) : column + reach + 1] = 0
        block = (slice(int(n) * GRID, int(n + 1) * GRID) for n in (row, column))
        result += tiles(tuple(block), side, first.shape)  # type: ignore[arg-type]
    return different(result)


def _means(values: npt.NDArray[np.int16]) -> npt.NDArray[np.float32]:
    """Means over blocks of the grid, all channels together."""
    sums = by_blocks(values, GRID, np.add, np.int32).sum(axis=2)
    return np.asarray(sums / np.float32(GRID * GRID * values.shape[2]))


def stacked(straight: Bytes, places: Sequence[Place], margin: int) -> Bytes:
    """Places of one width below one another, each with so many rows above and below it.

    At the edges of the picture these are its first and last row again.

    straight: (H, W, 4) uint8.
    """
    last = len(straight) - 1
    around = [np.arange(rows.start - margin, rows.stop + margin) for rows, _ in places]
    rows = [np.clip(every, 0, last) for every in around]
    return np.concatenate(
        [straight[every, columns] for every, (_, columns) in zip(rows, places, strict=True)]
    )


def _much(piece: Bytes) -> float:
    """How much happens in a piece: the spread of its green, and of its alpha."""
    few = piece[::2, ::2].astype(np.float32)
    return float(few[..., 1].std() + few[..., 3].std())
