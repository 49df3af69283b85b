"""Rows of samples -> filtered rows, the filter of each row chosen in several ways.

PNG 3rd edition, chapter 9. No rule is best for all pictures, so the caller compresses what several
give and keeps the smallest.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import TypeAlias

import numpy as np
import numpy.typing as npt

from riffler.encode.png.kinds import Rows

#: (5, height, bytes of a row): every row after each filter type.
Filtered = npt.NDArray[np.uint8]

#: Rows worked on at a time.
BAND = 256

#: What a change of filter from one row to the next costs, in pairs of bytes.
CHANGE = 5


def filtered(rows: Rows, step: int) -> Filtered:
    """Every row after None, Sub, Up, Average and Paeth; section 9.2."""
    height, width = rows.shape
    result = np.empty((5, height, width), np.uint8)
    before = np.zeros((1, step + width), np.uint8)
    for band in _bands(height):
        part = np.zeros((1 + len(rows[band]), step + width), np.uint8)
        part[0], part[1:, step:] = before, rows[band]
        before = part[-1]
        here, left = part[1:, step:], part[1:, :width]
        above, corner = part[:-1, step:], part[:-1, :width]
        result[0, band] = here
        np.subtract(here, left, out=result[1, band])
        np.subtract(here, above, out=result[2, band])
        average = ((left.astype(np.uint16) + above) >> 1).astype(np.uint8)
        np.subtract(here, average, out=result[3, band])
        np.subtract(here, _paeth(left, above, corner), out=result[4, band])
    return result


def _bands(height: int) -> Iterator[slice]:
    """Rows that are worked on at a time: what is found on the way takes many times their memory."""
    for top in range(0, height, BAND):
        yield slice(top, top + BAND)


def _paeth(left: Rows, above: Rows, corner: Rows) -> Rows:
    """Of the three neighbours the one nearest to left + above - corner; section 9.4."""
    a, b, c = (samples.astype(np.int16) for samples in (left, above, corner))
    to_a, to_b, to_c = np.abs(b - c), np.abs(a - c), np.abs(a + b - 2 * c)
    is_a = (to_a <= to_b) & (to_a <= to_c)
    return np.where(is_a, left, np.where(to_b <= to_c, above, corner)).astype(np.uint8)


def plain_streams(every: Filtered) -> Iterator[bytes]:
    """What costs little to choose: no filter at all, and by the sum of differences."""
    return (chosen(every, way(every)) for way in PLAIN)


def searched_streams(every: Filtered, *, is_smooth: bool) -> Iterator[bytes]:
    """What costs more: rows chosen by what repeats, and in a smooth picture by their entropy."""
    return (chosen(every, way(every)) for way in searched(is_smooth=is_smooth))


def chosen(every: Filtered, types: npt.NDArray[np.int_]) -> bytes:
    """The rows with the filters that were chosen, each after its number."""
    _, height, width = every.shape
    out = np.empty((height, width + 1), np.uint8)
    out[:, 0] = types
    out[:, 1:] = every[types, np.arange(height)]
    return out.tobytes()


def unfiltered(every: Filtered) -> npt.NDArray[np.int_]:
    """No filter for any row."""
    return np.zeros(every.shape[1], np.int_)


def by_sum(every: Filtered) -> npt.NDArray[np.int_]:
    """The least sum of differences, taken as signed; section 12.7."""
    types = np.empty(every.shape[1], np.int_)
    for band in _bands(every.shape[1]):
        signed = every[:, band].view(np.int8).astype(np.int16)
        types[band] = np.abs(signed).sum(axis=2).argmin(axis=0)
    return types


def by_entropy(every: Filtered) -> npt.NDArray[np.int_]:
    """The least entropy (Shannon 1948) of a row's bytes."""
    costs = np.empty(every.shape[:2])
    for kind, rows in enumerate(every):
        height, width = rows.shape
        for band in _bands(height):
            part = rows[band]
            keys = part + (np.arange(len(part), dtype=np.int32) << 8)[:, None]
            counts = np.bincount(keys.ravel(), minlength=len(part) << 8).reshape(-1, 256)
            share = np.where(counts > 0, counts, 1) / width
            costs[kind, band] = -(counts * np.log2(share)).sum(axis=1)
    return np.asarray(costs.argmin(axis=0))


def by_repeats(every: Filtered) -> npt.NDArray[np.int_]:
    """The fewest different pairs of bytes in the rows, and few changes of filter between them.

    A row with few pairs holds what a search for repeats can find again, and rows of one filter find
    one another. The cheapest sequence is found as Viterbi's (1967): the best way to end with each
    filter, row by row.
    """
    best, came_from = [0] * len(every), []
    for pairs in _pairs(every).T.tolist():
        cheapest = best.index(min(best))
        changed = best[cheapest] + CHANGE
        came_from.append([kind if cost <= changed else cheapest for kind, cost in enumerate(best)])
        best = [min(cost, changed) + more for cost, more in zip(best, pairs, strict=True)]
    types = [best.index(min(best))]
    for before in reversed(came_from[1:]):
        types.append(before[types[-1]])
    return np.array(types[::-1])


def _pairs(every: Filtered) -> npt.NDArray[np.int_]:
    """How many different pairs of neighbouring bytes each row has after each filter."""
    counts = np.ones(every.shape[:2], np.int_)
    for number, rows in enumerate(every):
        for band in _bands(len(rows)):
            part = rows[band]
            pairs = np.sort(part[:, :-1].astype(np.uint16) << 8 | part[:, 1:], axis=1)
            counts[number, band] += (pairs[:, 1:] != pairs[:, :-1]).sum(axis=1)
    return counts


Way: TypeAlias = Callable[[Filtered], npt.NDArray[np.int_]]
"""How the filter of each row is chosen."""

#: The ways that cost little.
PLAIN: tuple[Way, ...] = (unfiltered, by_sum)


def searched(*, is_smooth: bool) -> tuple[Way, ...]:
    """Filters that take longer to choose; a picture is smooth where sums beat no filter at all."""
    return (by_repeats, by_entropy) if is_smooth else (by_repeats,)
