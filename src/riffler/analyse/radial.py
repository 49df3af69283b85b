"""Colours that change with the distance from a point -> the centre, and the stops outwards."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import numpy.typing as npt

from riffler.analyse.gradient import STRAY, Bend, Values, along, bends_of, share_beyond
from riffler.analyse.style import Radial

Mask = npt.NDArray[np.bool_]
Floats = npt.NDArray[np.float64]

#: Steps of 8 bits by which colours may be off along rings.
EVEN = 3.0

#: Rounds in which the shape of ellipses settles, rings that are told apart, and the fewest pixels.
ROUNDS, RINGS, ENOUGH = 4, 160, 50

#: The centre is looked for in every so many rows and columns, unless colours are so far off in the
#: mean where the steepest ways meet: those of photographs are.
COARSE, HOPELESS = 2, 40.0

#: The first and the last step in which a better centre is looked for, in shares of the box.
FIRST, LAST = 0.04, 0.002


def radial_of(values: Values, mask: Mask) -> tuple[Radial, list[Bend]] | None:
    """The radial gradient of a box, to its farthest corner; None where colours change otherwise.

    values: (H, W, 4) in steps of 8 bits; `mask` says which pixels count. The centre is where the
    steepest ways meet, by least squares; CSS Images 3, section 3.2.
    """
    best: tuple[float, Radial] | None = None
    for is_circle in (True, False):
        start = _centre(values.astype(np.float64), mask, is_circle=is_circle)
        settled = start and _settled(values, mask, start)
        if settled and (best is None or settled[0] < best[0]):
            best = settled
    if best is None:
        return None
    line, middles, off = _rings(values, mask, best[1])
    bends = None if share_beyond(off, EVEN) > STRAY else bends_of(line, middles)
    return None if bends is None else (best[1], bends)


def _settled(values: Values, mask: Mask, start: Radial) -> tuple[float, Radial]:
    """The centre near a first one about which rings are most even, in whole per cent where it can.

    Going the way that is better, in steps that get smaller: Hooke and Jeeves, 1961.
    """
    few, among = values[::COARSE, ::COARSE], mask[::COARSE, ::COARSE]
    best, step = (_uneven(few, among, start), start), FIRST
    if best[0] > HOPELESS:
        return best
    while step > LAST:
        ways = ((step, 0.0), (-step, 0.0), (0.0, step), (0.0, -step))
        tried = [
            (_uneven(few, among, near), near)
            for near in (replace(best[1], x=best[1].x + x, y=best[1].y + y) for x, y in ways)
        ]
        better = min(tried, key=lambda pair: pair[0])
        if better[0] < best[0]:
            best = better
        else:
            step /= 2
    whole = replace(best[1], x=round(best[1].x, 2), y=round(best[1].y, 2))
    uneven = _uneven(few, among, whole)
    return (uneven, whole) if uneven <= 1.1 * best[0] + 0.05 else best


def _uneven(values: Values, mask: Mask, radial: Radial) -> float:
    """How far colours are from those of their rings, in the mean."""
    return float(_rings(values, mask, radial)[2].mean())


def distances(height: int, width: int, radial: Radial) -> Floats:
    """How far out each pixel's middle lies, (H, W): 1 on the ring through the farthest corner."""
    return distance_of(np.arange(width) + 0.5, np.arange(height) + 0.5, (width, height), radial)


def distance_of(
    x: npt.NDArray[np.floating],
    y: npt.NDArray[np.floating],
    size: tuple[float, float],
    radial: Radial,
) -> Floats:
    """The same at the crossings of columns and rows, counted from the corner of the box: (M, N)."""
    width, height = size
    across, down = _radii(height, width, radial)
    off_x, off_y = (x - radial.x * width) / across, (y - radial.y * height) / down
    return np.asarray(np.hypot(off_x[None], off_y[:, None]))


def _radii(height: float, width: float, radial: Radial) -> tuple[float, float]:
    """Of the ending shape: a circle, or an ellipse shaped as the one to the farthest sides."""
    far_x = max(radial.x, 1 - radial.x) * width
    far_y = max(radial.y, 1 - radial.y) * height
    if radial.is_circle:
        return (math.hypot(far_x, far_y),) * 2
    return far_x * math.sqrt(2), far_y * math.sqrt(2)


def _centre(values: Floats, mask: Mask, *, is_circle: bool) -> Radial | None:
    """Where the steepest ways meet: each pixel's line through it, weighted by how steep it is."""
    height, width = mask.shape
    kept = mask[1:-1, 1:-1] & mask[:-2, 1:-1] & mask[2:, 1:-1] & mask[1:-1, :-2] & mask[1:-1, 2:]
    right = (values[1:-1, 2:] - values[1:-1, :-2])[kept] / 2
    lower = (values[2:, 1:-1] - values[:-2, 1:-1])[kept] / 2
    if len(right) < ENOUGH:
        return None
    channel = int((np.abs(right) + np.abs(lower)).sum(axis=0).argmax())
    rows, columns = np.nonzero(kept)
    x, y = columns + 1.5, rows + 1.5
    ratio, centre = 1.0, (0.5, 0.5)
    for _ in range(1 if is_circle else ROUNDS):
        slopes = right[:, channel], lower[:, channel] * ratio
        normal = np.stack((-slopes[1], slopes[0]), axis=1)  # lines: normal . (point - centre) = 0
        square = normal.T @ normal
        if np.linalg.cond(square) > 1e6:
            return None
        places = np.stack((x, y / ratio), axis=1)
        point = np.linalg.solve(square, normal.T @ (normal * places).sum(axis=1))
        centre = (float(point[0]) / width, float(point[1]) * ratio / height)
        if not all(-1 <= part <= 2 for part in centre):
            return None
        if not is_circle:
            far_x, far_y = (max(part, 1 - part) for part in centre)
            ratio = far_y * height / (far_x * width)
    return Radial(centre[0], centre[1], is_circle)


def _rings(
    values: Values, mask: Mask, radial: Radial
) -> tuple[npt.NDArray[np.float32], Floats, Floats]:
    """The colour of each ring, how far out it is, and how far off each pixel is from its own."""
    height, width = mask.shape
    place = distances(height, width, radial)[mask]
    at = np.minimum((place * RINGS).astype(int), 4 * RINGS)
    return along(values[mask], place, at)
