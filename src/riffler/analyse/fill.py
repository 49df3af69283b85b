"""The pixels of a layer -> how it is filled: one colour, a gradient in one direction, or more."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

import numpy as np
import numpy.typing as npt

from riffler.color import Bytes, Pixels, hex_of, to_bytes

#: Steps of 8 bits by which a flat colour may vary: rounding in one or two blends.
FLAT = 3

#: The same along the lines of a gradient, where dithering is usual.
EVEN = 4

#: Share of pixels that may be further off: anti-aliased edges.
STRAY = 0.02

#: Samples along the longer side that are enough to tell a fill.
ENOUGH = 128

#: Steps of 8 bits between neighbouring samples from which a change is an edge, not a gradient.
STEEP = 48

#: Steps of 8 bits from which a change along the gradient is one.
CHANGE = 6


class Filling(StrEnum):
    """What a style sheet would need to draw it."""

    FLAT = "flat"
    GRADIENT = "gradient"
    MORE = "more"


@dataclass(frozen=True)
class Fill:
    """How a layer is filled. `angle` is CSS's, in degrees; `colors` are at both ends.

    `border` is the colour along the edge of a flat layer where it is another one.
    """

    filling: Filling
    colors: tuple[str, ...] = ()
    angle: int | None = None
    border: str = ""


def fill_of(pixels: Pixels, rim: int = 0) -> Fill:
    """How the solid part is filled, its outermost `rim` pixels left out (a border is no fill).

    pixels: (H, W, 4) float32, premultiplied, 0..1.
    """
    step = max(1, max(pixels.shape[:2]) // ENOUGH)
    few = to_bytes(pixels[::step, ::step])
    among = _inner(few[..., 3], -(-rim // step))
    if among is None:
        return Fill(Filling.MORE)
    colors = few[among].astype(np.int16)
    middle = np.median(colors, axis=0)
    if _share_beyond(np.abs(colors - middle).max(axis=1), FLAT) <= STRAY:
        color = hex_of(middle.astype(np.uint8))
        return Fill(Filling.FLAT, (color,), border=_border(few, among, middle))
    for angle, turned, mask in (
        (180, few, among),
        (90, few.transpose(1, 0, 2), among.T),
    ):
        if (ends := _gradient(turned, mask)) is not None:
            return Fill(Filling.GRADIENT, ends, angle)
    return Fill(Filling.MORE)


def _inner(alpha: npt.NDArray[np.uint8], rim: int) -> npt.NDArray[np.bool_] | None:
    """Where the layer is as solid as it gets, `rim` pixels in; None when that is hardly anywhere.

    A layer at half opacity is solid where it reaches that half.
    """
    from scipy import ndimage

    most = int(alpha.max(initial=0))
    if most < 16:
        return None
    solid = alpha >= most - 2
    if solid.sum() < 0.25 * (alpha > 8).sum():
        return None
    if rim and min(solid.shape) > 4 * rim:
        padded = np.pad(solid, 1)
        worn = ndimage.binary_erosion(padded, np.ones((3, 3), bool), rim)[1:-1, 1:-1]
        solid = worn if worn.any() else solid
    return np.asarray(solid)


def _border(straight: Bytes, inner: npt.NDArray[np.bool_], middle: npt.NDArray[np.float64]) -> str:
    """The usual colour around the fill when it is another one than the fill's; else nothing."""
    ring = (straight[..., 3] >= 250) & ~inner
    if ring.sum() < sum(inner.shape) // 2:
        return ""
    usual = np.median(straight[ring].astype(np.int16), axis=0)
    return hex_of(usual.astype(np.uint8)) if np.abs(usual - middle).max() > CHANGE else ""


def _gradient(straight: Bytes, mask: npt.NDArray[np.bool_]) -> tuple[str, str] | None:
    """First and last colour when every row is one colour and the rows differ; None otherwise."""
    rows = np.flatnonzero(mask.sum(axis=1) >= max(2, mask.shape[1] // 20))
    if rows.size < 3:
        return None
    values, kept = straight[rows].astype(np.float32), mask[rows]
    middles = (values * kept[..., None]).sum(axis=1) / kept.sum(axis=1)[:, None]
    off = np.abs(values - middles[:, None]).max(axis=2)
    if _share_beyond(off[kept], EVEN) > STRAY:
        return None
    if np.ptp(middles, axis=0).max() < CHANGE or np.abs(np.diff(middles, axis=0)).max() > STEEP:
        return None
    first, last = (hex_of(np.round(middles[end]).astype(np.uint8)) for end in (0, -1))
    return first, last


def _share_beyond(off: npt.NDArray[np.floating | np.integer], most: float) -> float:
    return float((off > most).mean()) if off.size else 1.0


def colors_in(pixels: Pixels) -> float:
    """Different colours, to 5 bits a channel, as a share of painted pixels: photos have many."""
    step = max(1, max(pixels.shape[:2]) // ENOUGH)
    straight = to_bytes(pixels[::step, ::step])
    painted = straight[straight[..., 3] > 8].astype(np.uint32) >> 3
    if not len(painted):
        return 0.0
    keys = painted[:, 0] << 10 | painted[:, 1] << 5 | painted[:, 2]
    return len(np.unique(keys)) / len(painted)
