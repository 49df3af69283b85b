"""A style -> the pixels that a browser would draw of it, and whether those seen are the same.

CSS Backgrounds and Borders 3: corners (5), borders (4), shadows (7.2); CSS Images 3 for gradients.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
import numpy.typing as npt

from riffler.analyse.cast_box import cast, cut
from riffler.analyse.gradient import place_of
from riffler.analyse.radial import distance_of
from riffler.analyse.raster import parts_of, worn
from riffler.analyse.style import Shadow, Style
from riffler.color import Pixels
from riffler.geometry import Box

Floats = npt.NDArray[np.float64]
Corners = tuple[tuple[float, float], ...]
"""How far each corner is rounded, across and down, in CSS's order."""

#: Columns and rows that are held against the style at each edge beside its curves, and between.
NEAR, BETWEEN = 32, 16

#: How many pixels around a box are looked at, too: its shadows.
AROUND = 24

#: The blur, in pixels, under which the edge of a shadow is like that of a box.
HARD = 2

#: Rows that each pixel is cut into where a curve meets it.
FINE = 8

#: Steps of 8 bits that a pixel may be off: blends of 8 bits, dithering; and outside of the box,
#: where programs blur by rules of their own.
OFF, SOFT = 6, 12

#: Pixels in one patch that may be further off, and the part of all.
PATCH, SHARE = 6, 0.004

#: Steps of 8 bits that curves may be off in the mean of a square of so many pixels.
CURVED, SQUARE = 24, 6


def holds(pixels: Pixels, style: Style, box: Box) -> bool:
    """Whether a browser would draw what is seen, along edges and corners and in every patch.

    pixels: (H, W, 4) float32, premultiplied, 0..1, of a layer with what is around it, in which the
    style's box lies at `box`.
    """
    height, width = pixels.shape[:2]
    near = NEAR + round(max(style.radii.listed)) if style.radii else max(box.width, box.height)
    x, y = _chosen(box.x, box.right, width, near), _chosen(box.y, box.bottom, height, near)
    size = (box.width, box.height)
    painted = _Painted(style, size, x - box.x, y - box.y)
    more = 255 * (pixels[np.ix_(y, x)] - painted.pixels())
    off = np.abs(more).max(axis=2)
    curved = painted.is_curved()
    outside = painted.covers[0] == 0
    wrong = (
        (off > np.where(outside, SOFT, OFF))
        & ~curved
        & ~_between(pixels[np.ix_(y, x)][..., 3], box, x, y)
    )
    if wrong.sum() > SHARE * wrong.size or parts_of(wrong).sizes.max(initial=0) > PATCH:
        return False
    return _mean(np.where(curved[..., None], more, 0)) <= CURVED


def _between(
    alpha: npt.NDArray[np.float32], box: Box, x: npt.NDArray[np.int64], y: npt.NDArray[np.int64]
) -> npt.NDArray[np.bool_]:
    """Where a box that ends between pixels covers the lines at its edges in part."""
    at_x = np.isin(x, (box.x - 1, box.x, box.right - 1, box.right))
    at_y = np.isin(y, (box.y - 1, box.y, box.bottom - 1, box.bottom))
    part = (alpha > OFF / 255) & (alpha < float(alpha.max(initial=0)) - OFF / 255)
    return np.asarray((at_x[None] | at_y[:, None]) & part)


def _chosen(begin: int, end: int, side: int, inwards: int) -> npt.NDArray[np.int64]:
    """Pixels near both ends of a box, outside too, and some between, of so many."""
    near = np.concatenate((
        np.arange(begin - AROUND, min(begin + inwards, end)),
        np.linspace(begin, end - 1, BETWEEN).round(),
        np.arange(max(begin, end - inwards), end + AROUND),
    )).astype(np.int64)  # fmt: skip
    return np.unique(near[(near >= 0) & (near < side)])


def _mean(off: Floats) -> float:
    """How far the means of all squares are off at the most: edges that are not smooth are not."""
    from scipy import ndimage

    means = ndimage.uniform_filter(off, (SQUARE, SQUARE, 1), mode="constant")
    return float(np.abs(means).max(initial=0))


@dataclass(frozen=True)
class _Painted:
    """A box of a size, drawn at the crossings of columns and rows, counted from its corner."""

    style: Style
    size: tuple[int, int]
    x: npt.NDArray[np.int64]
    y: npt.NDArray[np.int64]

    def pixels(self) -> Floats:
        """(M, N, 4), premultiplied, 0..1."""
        inside, padded = self.covers
        result = np.zeros((len(self.y), len(self.x), 4))
        for shadow in reversed(self.style.shadows):
            if not shadow.is_inner:
                result = _over(_ink(shadow.color) * self._cast(shadow)[..., None], result)
        result *= (1 - inside)[..., None]  # shadows are seen outside of the box alone
        body = self._fill()
        for shadow in reversed(self.style.shadows):
            if shadow.is_inner:
                body = _over(_ink(shadow.color) * (1 - self._cast(shadow))[..., None], body)
        if border := self.style.border:
            body = _over(_ink(border.color) * (1 - padded)[..., None], body)
        return np.asarray(_over(body * inside[..., None], result) * self.style.opacity)

    def is_curved(self) -> npt.NDArray[np.bool_]:
        """Where pixels are covered in part, or lie beside such."""
        hard = [self._cast(shadow) for shadow in self.style.shadows if shadow.blur < HARD]
        covers = (*self.covers, *hard)
        partly = np.any([(cover > 0.002) & (cover < 0.998) for cover in covers], axis=0)
        return np.asarray(~worn(np.pad(~partly, 1, constant_values=True))[1:-1, 1:-1])

    @cached_property
    def covers(self) -> tuple[Floats, Floats]:
        """How much of each pixel the box covers, and how much what its border leaves: (M, N)."""
        whole = self._covered((0, 0, 0, 0))
        return whole, self._covered(self._rims) if self.style.border else whole

    @property
    def _rims(self) -> tuple[float, float, float, float]:
        return self.style.border.widths if self.style.border else (0.0, 0.0, 0.0, 0.0)

    def _covered(self, rims: Sequence[float]) -> Floats:
        """How much of each pixel the box covers, so far inside each of its edges: (M, N)."""
        over, beside, under, before = rims
        bottom, end = self.size[1] - under, self.size[0] - beside
        corners = _inner(self._corners(), rims)
        rows = (self.y[:, None] + (np.arange(FINE) + 0.5) / FINE).ravel()
        left = np.maximum(cut(rows - over, *corners[0]), cut(bottom - rows, *corners[3])) + before
        right = end - np.maximum(cut(rows - over, *corners[1]), cut(bottom - rows, *corners[2]))
        right[(rows < over) | (rows > bottom)] = -np.inf
        share = np.minimum(self.x + 1.0, right[:, None]) - np.maximum(self.x, left[:, None])
        return np.asarray(share.clip(0, 1).reshape(len(self.y), FINE, -1).mean(axis=1))

    def _corners(self) -> Corners:
        """As large as there is room for; CSS Backgrounds and Borders 3, section 5.5."""
        width, height = self.size
        if self.style.radii is None:
            return ((width / 2, height / 2),) * 4
        a, b, c, d = self.style.radii.listed
        sums = ((a + b, width), (c + d, width), (b + c, height), (a + d, height))
        share = min(1.0, *(side / both for both, side in sums if both > 0), 1.0)
        return tuple((radius * share, radius * share) for radius in (a, b, c, d))

    def _cast(self, shadow: Shadow) -> Floats:
        rims = self._rims if shadow.is_inner else (0.0, 0.0, 0.0, 0.0)
        x, y, size = self._padded(rims)
        radii = [min(corner) for corner in _inner(self._corners(), rims)]
        spread = -shadow.spread if shadow.is_inner else shadow.spread
        return cast(x, y, size, radii, (shadow.x, shadow.y, shadow.blur / 2, spread))

    def _padded(self, rims: Sequence[float]) -> tuple[Floats, Floats, tuple[float, float]]:
        """The middles of columns and rows, counted from inside the border, and the size there."""
        over, beside, under, before = rims
        size = self.size[0] - before - beside, self.size[1] - over - under
        x, y = (side.astype(np.float64) + 0.5 for side in (self.x, self.y))
        return x - before, y - over, size

    def _fill(self) -> Floats:
        """The ground, as if it went on everywhere: (M, N, 4)."""
        stops = self.style.stops
        if len(stops) == 1:
            return np.broadcast_to(_ink(stops[0].color), (len(self.y), len(self.x), 4))
        x, y, size = self._padded(self._rims)
        radial = self.style.radial
        place = (
            distance_of(x, y, size, radial)
            if radial
            else place_of(x, y, size, self.style.angle or 0)
        )
        at = [stop.position for stop in stops]
        inks = np.array([_ink(stop.color) for stop in stops])
        return np.stack([np.interp(place, at, inks[:, n]) for n in range(4)], axis=2)


def _inner(corners: Corners, rims: Sequence[float]) -> Corners:
    """The corners inside a border; CSS Backgrounds and Borders 3, section 5.2."""
    over, beside, under, before = rims
    taken = ((before, over), (beside, over), (beside, under), (before, under))
    pairs = zip(corners, taken, strict=True)
    return tuple((max(0.0, a - x), max(0.0, b - y)) for (a, b), (x, y) in pairs)


def _over(upper: Floats, lower: Floats) -> Floats:
    return np.asarray(upper + lower * (1 - upper[..., 3:]))


def _ink(color: str) -> Floats:
    """Premultiplied, 0..1: (4,)."""
    red, green, blue, alpha = bytes.fromhex(color.removeprefix("#").ljust(8, "f"))
    return np.array([red, green, blue, 255]) * alpha / 255**2
