"""Colours that change in one direction -> the angle, and the stops where they change otherwise."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import TypeAlias

import numpy as np
import numpy.typing as npt

from riffler.analyse.style import Stop
from riffler.color import hex_of

#: Steps of 8 bits by which colours may vary along the lines of a gradient: dithering is usual.
EVEN = 4

#: Share of pixels that may be further off: anti-aliased edges.
STRAY = 0.02

#: Steps of 8 bits between neighbouring samples from which a change is an edge, not a gradient.
STEEP = 48

#: The angles across and down, and by how many degrees others may be off and be meant so.
STRAIGHT, SNAP = (90, 180), 2

#: Places along a gradient that tell one.
LEAST = 4

#: Steps of 8 bits from which a change along the gradient is one.
CHANGE = 6

Values: TypeAlias = npt.NDArray[np.uint8] | npt.NDArray[np.float32]
"""(H, W, 4) in steps of 8 bits."""

Bend: TypeAlias = tuple[float, npt.NDArray[np.float32]]
"""A place along a gradient, 0..1, and the colour there, (4,) in steps of 8 bits."""


def direction(values: Values, mask: npt.NDArray[np.bool_]) -> int:
    """The way in which colours change most, as CSS's angle: from 46 to 225 degrees.

    That of the planes that lie best on the channels, by least squares.
    """
    y, x = np.nonzero(mask)
    places = np.stack((x, y, np.ones(x.size)), axis=1).astype(np.float64)
    planes = np.linalg.lstsq(places, values[y, x].astype(np.float64), rcond=None)[0][:2]
    right, lower = np.linalg.eigh(planes @ planes.T)[1][:, -1]
    angle = round(math.degrees(math.atan2(right, -lower))) % 360
    angle = angle if 45 < angle <= 225 else (angle + 180) % 360
    return next((whole for whole in STRAIGHT if abs(angle - whole) <= SNAP), angle)


def places(height: int, width: int, angle: int) -> npt.NDArray[np.float64]:
    """How far along a gradient at an angle each pixel lies: (H, W).

    0 and 1 are where lines across the gradient meet the corners of the box; CSS Images 3, section
    3.1.
    """
    return place_of(np.arange(width) + 0.5, np.arange(height) + 0.5, (width, height), angle)


def place_of(
    x: npt.NDArray[np.floating],
    y: npt.NDArray[np.floating],
    size: tuple[float, float],
    angle: int,
) -> npt.NDArray[np.float64]:
    """The same at the crossings of columns and rows, counted from the corner of the box: (M, N)."""
    right, lower = math.sin(math.radians(angle)), -math.cos(math.radians(angle))
    length = abs(size[0] * right) + abs(size[1] * lower)
    across, down = x - size[0] / 2, y - size[1] / 2
    return np.asarray((across * right + down[:, None] * lower) / length + 0.5)


def sloping(values: Values, mask: npt.NDArray[np.bool_], angle: int) -> list[Bend] | None:
    """The bends of a gradient at an angle; None where colours change otherwise, too."""
    height, width = mask.shape
    turn = math.radians(angle)
    length = int(abs(width * math.sin(turn)) + abs(height * math.cos(turn)))
    place = places(height, width, angle)[mask]
    at = np.clip((place * length).astype(int), 0, length - 1)
    line, middles, off = along(values[mask], place, at)
    if len(line) < LEAST or share_beyond(off, EVEN) > STRAY:
        return None
    return bends_of(line, middles)


def along(
    pixels: Values, place: npt.NDArray[np.float64], at: npt.NDArray[np.int64]
) -> tuple[npt.NDArray[np.float32], npt.NDArray[np.float64], npt.NDArray[np.float64]]:
    """The colours along a gradient, where they are, and how far off each pixel is from its own.

    pixels: (N, 4) in steps of 8 bits; `place` (N,) is how far along each lies, `at` (N,) which of
    the steps along it falls to. Steps with a single pixel are left out.
    """
    counts = np.bincount(at)
    seen = np.flatnonzero(counts > 1)
    colors = pixels.astype(np.float64)
    sums = [np.bincount(at, colors[:, channel])[seen] for channel in range(4)]
    line = (np.stack(sums, axis=1) / counts[seen, None]).astype(np.float32)
    middles = np.bincount(at, place)[seen] / counts[seen]
    if not seen.size:
        return line, middles, np.full(len(colors), np.inf)
    ideal = np.stack([np.interp(place, middles, line[:, n]) for n in range(4)], axis=1)
    return line, middles, np.abs(colors - ideal).max(axis=1)


def bends_of(line: npt.NDArray[np.float32], middles: npt.NDArray[np.float64]) -> list[Bend] | None:
    """Where colours along a gradient bend, `middles` their places; None for what is no gradient."""
    if np.ptp(line, axis=0).max() < CHANGE or np.abs(np.diff(line, axis=0)).max() > STEEP:
        return None
    bends = _bends(line, 0, len(line) - 1)
    ends = {0: (0.0, bends[1]), len(line) - 1: (1.0, bends[-2])}
    result: list[Bend] = []
    for index in bends:
        color, place = line[index], float(middles[index])
        if index in ends:
            end, other = ends[index]
            slope = (line[other] - color) / (middles[other] - place)
            color, place = color + slope * (end - place), end
        result.append((place, color))
    return result


def stops_of(bends: Sequence[Bend]) -> tuple[Stop, ...]:
    """The bends as CSS writes them."""
    return tuple(
        Stop(round(place, 3), hex_of(np.clip(np.round(color), 0, 255).astype(np.uint8)))
        for place, color in bends
    )


def _bends(line: npt.NDArray[np.float32], first: int, last: int) -> list[int]:
    """Where colours between two ends leave the straight way, with both ends.

    Ramer 1972, Douglas and Peucker 1973, in steps of 8 bits.
    """
    share = np.linspace(0, 1, last - first + 1)[:, None]
    straight = line[first] + (line[last] - line[first]) * share
    off = np.abs(line[first : last + 1] - straight).max(axis=1)
    worst = first + int(off.argmax())
    if off.max() <= EVEN or worst in (first, last):
        return [first, last]
    return [*_bends(line, first, worst), *_bends(line, worst, last)[1:]]


def share_beyond(off: npt.NDArray[np.floating | np.integer], most: float) -> float:
    """The share of values that are more than `most`; all of none."""
    return float((off > most).mean()) if off.size else 1.0
