"""The right edge of a picture -> the ground that lies there, and how it would go on.

The other edges are the same, turned round (`turned`).

A hero's ground is read from the widest band at the edge that holds nothing but a calm colour, a
gradient or bars, with grain on it. A gradient must stand well above the texture and be alike in
both halves of the band: the slow ups and downs of paper are none.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
import numpy.typing as npt

from riffler.color import Pixels, within_alpha
from riffler.geometry import EdgeName

#: Columns at the edge that may be read as ground, the widest first.
BANDS = (128, 64, 32, 16)

#: What is left over when the ground is taken away counts as grain up to this spread: 4 of 255.
GRAIN = 4 / 255

#: A gradient that changes less than this within its band is none: half a step of 8 bits.
FAINT = 0.5 / 255

#: Rows over which the ground's own colour is averaged, as the spread of a Gaussian, and rows of
#: which a gradient is read at once.
CALM, ROWS = 40.0, 16

#: A gradient rises by so many times the spread of what it leaves, and half as fast in one half of
#: its band as in the other at the least.
RISES, ALIKE = 4.0, 0.5

#: Columns in which what sets the edge apart from the ground fades, where it is no grain.
FADE = 12.0

Plane = npt.NDArray[np.float32]
"""(H, 4) or (H, W, 4) float32: rows of red, green, blue, alpha, premultiplied, 0..1."""


@dataclass(frozen=True)
class EdgeGround:
    """What lies at the right edge of a picture, row by row.

    value: (H, 4), the colour at the edge; slope: (H, 4), its change with each column to the right;
    rest: (H, band, 4), what is left of the band without both. `spread` is that of the rest, as a
    part of the whole range.
    """

    value: Plane
    slope: Plane
    rest: Plane
    spread: float

    @property
    def is_plain(self) -> bool:
        """Whether nothing but grain is left: the ground can go on unseen."""
        return self.spread <= GRAIN


def at_edge(pixels: Pixels) -> EdgeGround:
    """The ground at the right edge, from the widest band that holds nothing else.

    pixels: (H, W, 4) float32, premultiplied, 0..1. It is a calm colour that may change along the
    edge and across it, or failing that bars that run out of the picture.
    """
    width = pixels.shape[1]
    bands = [pixels[:, -band:] for band in BANDS if band <= width] or [pixels]
    ground = None
    for read in (_calm, _bars):
        for band in bands:
            ground = read(band)
            if ground.is_plain:
                return ground
    assert ground is not None
    return ground


def _calm(band: Pixels) -> EdgeGround:
    """A colour that changes slowly along the edge, with a gradient across it."""
    height, width = band.shape[:2]
    away = np.arange(width, dtype=np.float32) - (width - 1) / 2
    mean = band.mean(axis=1)
    line = _line(np.arange(height), mean)
    value = line + _softened(mean - line)
    level = _ground(value, np.zeros_like(value), band - value[:, None])
    slope = _gradient(_slopes(band))
    rest = band - (value[:, None] + slope[:, None] * away[:, None])
    ground = _ground(value + slope * ((width - 1) / 2), slope, rest)
    return ground if _is_gradient(band, slope, ground.spread) else level


def _softened(lines: npt.NDArray[Any]) -> npt.NDArray[Any]:
    """Rows under a Gaussian of `CALM`, the first and the last going on; (H, 4)."""
    reach = round(4 * CALM)
    bell = np.exp(-0.5 * (np.arange(-reach, reach + 1) / CALM) ** 2)
    padded = np.pad(lines, ((reach, reach), (0, 0)), "edge")
    soft = [np.convolve(line, bell / bell.sum(), "valid") for line in padded.T]
    return np.stack(soft, axis=1).astype(lines.dtype)


def _slopes(band: Pixels) -> npt.NDArray[Any]:
    """How much each row changes from column to column, by least squares; (H, 4)."""
    width = band.shape[1]
    away = np.arange(width, dtype=np.float32) - (width - 1) / 2
    return np.asarray(np.einsum("hwc,w->hc", band, away) / max(1e-9, float((away**2).sum())))


def _is_gradient(band: Pixels, slope: npt.NDArray[Any], spread: float) -> bool:
    """Whether a slope is more than the texture's own ups and downs.

    It has to rise well above what is left when it is taken away, and alike in both halves.
    """
    width = band.shape[1]
    rise = float(np.abs(slope).max()) * width
    if width < 4 or rise < max(FAINT, RISES * spread):
        return False
    halves = [_gradient(_slopes(part)).mean(axis=0) for part in np.array_split(band, 2, axis=1)]
    return bool((np.abs(halves[0] - halves[1]).max() * width) <= ALIKE * rise)


def _bars(band: Pixels) -> EdgeGround:
    """Every row a colour of its own."""
    mean = band.mean(axis=1)
    return _ground(mean, np.zeros_like(mean), band - mean[:, None])


def _ground(value: npt.NDArray[Any], slope: npt.NDArray[Any], rest: npt.NDArray[Any]) -> EdgeGround:
    spread = float(np.quantile(np.abs(rest), 0.99)) / 2.58  # of a normal spread, 99 % lie within
    spread = max(spread, _strongest(rest))
    value, slope, rest = (np.asarray(part, np.float32) for part in (value, slope, rest))
    return EdgeGround(value, slope, rest, spread)


def _strongest(rest: npt.NDArray[Any]) -> float:
    """Half the spread in the block that has most: a thing is not hidden by what is around it."""
    height, width = (side // ROWS * ROWS for side in rest.shape[:2])
    if min(height, width) == 0:
        return 0.0
    blocks = (rest[:height, :width] ** 2).reshape(height // ROWS, ROWS, width // ROWS, ROWS, 4)
    return float(np.sqrt(blocks.mean(axis=(1, 3)).max())) / 2


def _gradient(slopes: npt.NDArray[Any]) -> npt.NDArray[Any]:
    """The slopes of all rows as one line along the edge, what stands at the edge left aside."""
    height = len(slopes)
    count = max(1, height // ROWS)
    parts = np.array_split(slopes, count)
    middles = np.array([np.median(part, axis=0) for part in parts])
    at = (np.arange(count) + 0.5) * height / count - 0.5
    for _ in range(2):
        line = _line(at, middles) if count > 3 else np.median(middles, axis=0)[None]
        off = np.abs(middles - line).max(axis=1)
        kept = off <= 3 * np.median(off) + 1e-9
        at, middles, count = at[kept], middles[kept], int(kept.sum())
    if count <= 3:
        return np.broadcast_to(np.median(middles, axis=0), slopes.shape).copy()
    return _line(at, middles, np.arange(height))


def _line(
    at: npt.NDArray[Any], values: npt.NDArray[Any], wanted: npt.NDArray[Any] | None = None
) -> npt.NDArray[Any]:
    """The straight line through values (N, 4) at places, by least squares, where it is wanted."""
    if len(at) < 2:
        return np.broadcast_to(values.mean(axis=0), (len(at if wanted is None else wanted), 4))
    rise, start = np.polyfit(at, values, 1)
    return np.asarray(start + np.outer(at if wanted is None else wanted, rise))


def continued(pixels: Pixels, count: int) -> Pixels:
    """The ground at the right edge going on for `count` more columns, (H, count, 4).

    A gradient goes on and levels off over the width of the picture; grain goes on mirrored. What is
    more than grain is no ground: it is smeared, so that there is no step at the seam.
    """
    ground = at_edge(pixels)
    reach = float(pixels.shape[1])
    columns = np.arange(1, count + 1, dtype=np.float32)
    level = reach * (1 - np.exp(-columns / reach))
    beyond = ground.value[:, None] + ground.slope[:, None] * level[:, None]
    if ground.is_plain:
        beyond += ground.rest[:, _mirrored(ground.rest.shape[1], count)]
    else:
        beyond = _smeared(ground, columns)
    return within_alpha(beyond)


def _smeared(ground: EdgeGround, columns: npt.NDArray[np.float32]) -> Plane:
    """What is no ground, going on: it fades into its rows' means, and these into each other."""
    edge, rows = ground.rest[:, -1] + ground.value, ground.value
    soft = _softened(rows)
    near, far = np.exp(-columns / FADE)[:, None], np.exp(-columns / (8 * FADE))[:, None]
    mixed = near * edge[:, None] + (far - near) * rows[:, None] + (1 - far) * soft[:, None]
    return np.asarray(mixed, np.float32)


def _mirrored(band: int, count: int) -> npt.NDArray[np.int64]:
    """Which columns of a band follow its last one when it is mirrored over and over."""
    turn = np.arange(count) % (2 * band)
    return np.where(turn < band, band - 1 - turn, turn - band)


def turned(pixels: Pixels, side: EdgeName) -> Pixels:
    """The picture with that side on the right; done twice, it is as it was.

    pixels: (H, W, 4) float32, premultiplied, 0..1; for the top and bottom (W, H, 4) comes back.
    """
    match side:
        case "right":
            return pixels
        case "left":
            return pixels[:, ::-1]
        case "bottom":
            return pixels.swapaxes(0, 1)
        case "top":
            return pixels[::-1, ::-1].swapaxes(0, 1)
