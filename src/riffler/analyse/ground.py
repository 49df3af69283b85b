"""The right edge of a picture -> the ground that lies there, and how it would go on.

The other edges are the same, turned round (`turned`).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from riffler.color import Pixels
from riffler.geometry import EdgeName

#: Columns at the edge that may be read as ground, the widest first.
BANDS = (128, 64, 32, 16)

#: What is left over when the gradient is taken away counts as grain up to this spread: 4 of 255.
GRAIN = 4 / 255

#: A gradient that changes less than this within its band is none: half a step of 8 bits.
FAINT = 0.5 / 255

#: Rows over which the slope of a gradient is averaged, as the spread of a Gaussian.
CALM = 24.0

#: Columns in which what sets the edge apart from the ground fades, where it is no grain.
FADE = 12.0

Plane = npt.NDArray[np.float32]


@dataclass(frozen=True)
class Ground:
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


def at_edge(pixels: Pixels) -> Ground:
    """The ground at the right edge, from the widest band that holds nothing else.

    pixels: (H, W, 4) float32, premultiplied, 0..1.
    """
    width = pixels.shape[1]
    bands = [band for band in BANDS if band <= width] or [width]
    found = [_fitted(pixels[:, -band:]) for band in bands[-1:]]
    for band in bands[:-1]:
        wide = _fitted(pixels[:, -band:])
        if wide.is_plain:
            return wide
    return found[0]


def _fitted(band: Pixels) -> Ground:
    """A straight line through every row, by least squares; its slope is averaged over rows."""
    from scipy import ndimage

    width = band.shape[1]
    away = np.arange(width, dtype=np.float32) - (width - 1) / 2
    mean = band.mean(axis=1)
    slope = np.zeros_like(mean)
    if width > 1:
        slope = np.einsum("hwc,w->hc", band, away) / float((away**2).sum())
        slope = ndimage.gaussian_filter1d(slope, CALM, axis=0, mode="nearest")
        if float(np.abs(slope).max()) * width < FAINT:
            slope[:] = 0
    rest = band - (mean[:, None] + slope[:, None] * away[:, None])
    spread = float(np.quantile(np.abs(rest), 0.95)) / 2  # of a normal spread, 95 % lie within two
    if spread > GRAIN:
        return Ground(_float(mean), _float(0 * slope), _float(band - mean[:, None]), spread)
    value = mean + slope * ((width - 1) / 2)
    return Ground(_float(value), _float(slope), _float(rest), spread)


def _float(values: npt.NDArray[np.floating]) -> Plane:
    return np.asarray(values, np.float32)


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
    alpha = beyond[..., 3:].clip(0, 1)
    return np.concatenate((beyond[..., :3].clip(0, alpha), alpha), axis=2).astype(np.float32)


def _smeared(ground: Ground, columns: npt.NDArray[np.float32]) -> Plane:
    """What is no ground, going on: it fades into its rows' means, and these into each other."""
    from scipy import ndimage

    edge, rows = ground.rest[:, -1] + ground.value, ground.value
    soft = ndimage.gaussian_filter1d(rows, CALM, axis=0, mode="nearest")
    near, far = np.exp(-columns / FADE)[:, None], np.exp(-columns / (8 * FADE))[:, None]
    mixed = near * edge[:, None] + (far - near) * rows[:, None] + (1 - far) * soft[:, None]
    return np.asarray(mixed, np.float32)


def _mirrored(band: int, count: int) -> npt.NDArray[np.int64]:
    """Which columns of a band follow its last one when it is mirrored over and over."""
    turn = np.arange(count) % (2 * band)
    return np.where(turn < band, band - 1 - turn, turn - band)


def turned(pixels: Pixels, side: EdgeName) -> Pixels:
    """The picture with that side on the right; done twice, it is as it was."""
    match side:
        case "right":
            return pixels
        case "left":
            return pixels[:, ::-1]
        case "bottom":
            return pixels.swapaxes(0, 1)
        case "top":
            return pixels[::-1, ::-1].swapaxes(0, 1)
