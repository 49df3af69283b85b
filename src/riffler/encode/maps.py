"""Two planes of a scale -> maps of what is unlike, what rings and what is lost, summed up."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
import numpy.typing as npt

#: Keeps similarity steady where there is next to nothing, as in Wang et al. 2004, C2.
STEADY = np.float32(0.03**2)

#: Pixels that are worked on at a time: they and what is made of them stay in the processor's cache.
BAND = 32_768

#: How far a blur reaches, in pixels: boxes of three, three times.
REACH = 3

Plane = npt.NDArray[np.float32]
"""(H, W) float32: a channel of the opponent space, or what is made of it."""


def bands(plane: Plane) -> Iterator[tuple[slice, slice, slice]]:
    """Rows with those that a blur needs around them, where in these they lie, and the rows."""
    height, width = plane.shape
    step = max(8, BAND // width)
    for top in range(0, height, step):
        rows = slice(top, min(height, top + step))
        outer = slice(max(0, top - REACH), min(height, rows.stop + REACH))
        yield outer, slice(top - outer.start, rows.stop - outer.start), rows


def blurred(plane: Plane) -> Plane:
    """About a Gaussian of 1.4 pixels: three boxes of three each way, the edge going on."""
    height, width = plane.shape
    wide = np.empty((height, width + 2 * REACH), np.float32)
    wide[:, REACH:-REACH] = plane
    wide[:, :REACH], wide[:, -REACH:] = plane[:, :1], plane[:, -1:]
    for _ in range(REACH):
        total = wide[:, :-2] + wide[:, 1:-1]
        total += wide[:, 2:]
        wide = total
    high = np.empty((height + 2 * REACH, width), np.float32)
    high[REACH:-REACH] = wide
    high[:REACH], high[-REACH:] = wide[:1], wide[-1:]
    for _ in range(REACH):
        total = high[:-2] + high[1:-1]
        total += high[2:]
        high = total
    high *= np.float32(1 / 9**REACH)
    return np.asarray(high)


def compared(
    known: tuple[Plane, Plane, Plane],
    other: Plane,
    difference: Plane,
    counting: npt.NDArray[np.bool_],
) -> npt.NDArray[np.float64]:
    """Sums over a channel of three maps, each as it is and to its fourth power, (6,).

    The maps: what is unlike (Wang et al. 2004, equation 13, the means without their steady term),
    what rings, and what is lost; only those of which something is `counting`. What the soft colours
    differ is added to `difference`.
    """
    sums = np.zeros(6)
    plane, means, spreads = known
    for outer, inner, rows in bands(plane):
        mean = means[rows]
        off = other[outer] - plane[outer]
        off_mean = blurred(off)[inner]
        difference[rows] += np.abs(off_mean)
        if counting[2:].any():
            edges = np.abs(other[rows] - (mean + off_mean))
            edges += 1
            edges /= np.abs(plane[rows] - mean) + 1
            edges -= 1
            sums[2:4] += _pooled(edges)
            sums[4:] += _pooled(-edges)
        if counting[:2].any():
            spread = blurred(other[outer] ** 2)[inner]
            spread -= (mean + off_mean) ** 2
            spread += spreads[rows]
            spread += STEADY
            off_mean *= off_mean
            off_spread = blurred(off * off)[inner]
            off_spread -= off_mean
            sums[:2] += _pooled(1 - (1 - off_mean) * (1 - off_spread / spread))
    return sums


def _pooled(part: Plane) -> tuple[float, float]:
    """The sum of what is above 0, and that of its fourth powers."""
    kept = np.maximum(part, 0)
    total = float(kept.sum(dtype=np.float64))
    kept *= kept
    return total, float(np.einsum("yx,yx->", kept, kept))
