"""Where to look at a large picture: pieces that stand for the whole."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TypeAlias

import numpy as np

from riffler.color import Bytes

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


def places(straight: Bytes, within: Place, side: int, count: int) -> list[Place]:
    """`count` squares of a picture: half of them those with most in them, the others evenly spread.

    They lie on the grid of the codecs' own blocks: `side` is a multiple of 16. All of `within`
    where it has no room for one, or no more than `count` of them.

    straight: (H, W, 4) uint8.
    """
    down, across = (range(-(-line.start // 16) * 16, line.stop - side + 1, side) for line in within)
    if len(down) * len(across) <= count or not (down and across):
        return [within]
    every = [(slice(y, y + side), slice(x, x + side)) for y in down for x in across]
    busy = sorted(every, key=lambda place: -_much(straight[place]))[: count // 2]
    rest = [place for place in every if place not in busy]
    spread = [rest[int(n)] for n in np.linspace(0, len(rest) - 1, count - len(busy))]
    return sorted([*busy, *spread], key=lambda place: (place[0].start, place[1].start))


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
