"""A picture -> what is drawn in it apart from one another, on ground that is one colour."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
import numpy.typing as npt

from riffler.color import Bytes
from riffler.encode.tiles import Place

#: Things are apart when so many lines of one colour are between them.
APART = 24

#: An edge between two colours has so many lines, and nothing else.
EDGE = 2

Mask = npt.NDArray[np.bool_]
"""(H, W) bool."""


def drawn(straight: Bytes) -> Mask:
    """Pixels that differ from one beside them; those that show through entirely are all alike.

    straight: (H, W, 4) uint8.
    """
    packed = np.ascontiguousarray(straight).view(np.uint32)[..., 0]
    clear = straight[..., 3] == 0
    if clear.any():
        packed = np.where(clear, 0, packed)
    result = np.zeros(packed.shape, bool)
    down, across = packed[1:] != packed[:-1], packed[:, 1:] != packed[:, :-1]
    result[1:] |= down
    result[:-1] |= down
    result[:, 1:] |= across
    result[:, :-1] |= across
    return result


def things(mask: Mask) -> list[Place]:
    """The boxes of what is `drawn`, cut apart along lines in which nothing is, from the top left.

    All of a picture of one colour.
    """
    height, width = mask.shape
    whole = (slice(0, height), slice(0, width))
    return [_tight(place, mask.shape) for place in _apart(mask, whole)] or [whole]


def _tight(place: Place, shape: tuple[int, ...]) -> Place:
    """A box without the line of ground around it, which is `drawn` as well: it differs, too."""
    rows, columns = (
        slice(line.start + (line.start > 0), line.stop - (line.stop < side))
        if line.stop - line.start > EDGE
        else line
        for line, side in zip(place, shape, strict=True)
    )
    return rows, columns


def _apart(mask: Mask, place: Place) -> Iterator[Place]:
    """The parts of a place, rows first."""
    rows, columns = place
    part = mask[place]
    lines = _runs(np.flatnonzero(part.any(axis=1)), rows.start)
    if len(lines) == 1:
        across = _runs(np.flatnonzero(part.any(axis=0)), columns.start)
        if len(across) == 1:
            yield lines[0], across[0]
            return
        for column in across:
            yield from _apart(mask, (lines[0], column))
        return
    for line in lines:
        yield from _apart(mask, (line, columns))


def _runs(numbers: npt.NDArray[np.intp], first: int) -> list[slice]:
    """Numbers in rows that are `APART`, as slices counted from `first`."""
    if not numbers.size:
        return []
    breaks = np.flatnonzero(np.diff(numbers) > APART)
    starts = numbers[np.r_[0, breaks + 1]]
    ends = numbers[np.r_[breaks, numbers.size - 1]] + 1
    return [
        slice(first + int(start), first + int(end)) for start, end in zip(starts, ends, strict=True)
    ]
