"""The pixels of a layer -> how it is filled: one colour, a gradient in one direction, or more."""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum

import numpy as np
import numpy.typing as npt

from riffler.analyse.gradient import (
    CHANGE,
    EVEN,
    STRAIGHT,
    STRAY,
    Bend,
    bends_of,
    direction,
    share_beyond,
    sloping,
    stops_of,
)
from riffler.analyse.raster import worn
from riffler.analyse.style import Border, Stop
from riffler.color import Bytes, Pixels, hex_of, to_bytes

#: Steps of 8 bits by which a flat colour may vary: rounding in one or two blends.
FLAT = 3

#: Samples along the longer side that are enough to tell a fill.
ENOUGH = 128


class Filling(StrEnum):
    """What a style sheet would need to draw it."""

    FLAT = "flat"
    GRADIENT = "gradient"
    MORE = "more"


@dataclass(frozen=True)
class Fill:
    """How a layer is filled: the stops of its gradient, one alone for a flat colour.

    `angle` is CSS's, in degrees. `border` is what lies along the edge of a flat layer in another
    colour; its width is in pixels of the picture.
    """

    filling: Filling
    stops: tuple[Stop, ...] = ()
    angle: int | None = None
    border: Border | None = None

    @property
    def colors(self) -> tuple[str, ...]:
        """The flat colour, or those at both ends of the gradient."""
        return tuple(stop.color for stop in (*self.stops[:1], *self.stops[1:][-1:]))


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
    if share_beyond(np.abs(colors - middle).max(axis=1), FLAT) <= STRAY:
        stop = Stop(0.0, hex_of(middle.astype(np.uint8)))
        return Fill(Filling.FLAT, (stop,), border=_border(few, among, middle, step))
    angle = direction(few, among)
    if angle not in STRAIGHT and (bends := sloping(few, among, angle)) is not None:
        return Fill(Filling.GRADIENT, stops_of(bends), angle)
    for straight, turned, mask in (
        (180, few, among),
        (90, few.transpose(1, 0, 2), among.T),
    ):
        if (bends := _gradient(turned, mask)) is not None:
            return Fill(Filling.GRADIENT, stops_of(bends), straight)
    return Fill(Filling.MORE)


def _inner(alpha: npt.NDArray[np.uint8], rim: int) -> npt.NDArray[np.bool_] | None:
    """Where the layer is as solid as it gets, `rim` pixels in; None when that is hardly anywhere.

    A layer at half opacity is solid where it reaches that half.
    """
    most = int(alpha.max(initial=0))
    if most < 16:
        return None
    solid = alpha >= most - 2
    if solid.sum() < 0.25 * (alpha > 8).sum():
        return None
    if rim and min(solid.shape) > 4 * rim:
        middle = worn(solid, rim)
        solid = middle if middle.any() else solid
    return np.asarray(solid)


def _border(
    straight: Bytes, inner: npt.NDArray[np.bool_], middle: npt.NDArray[np.float64], step: int
) -> Border | None:
    """What lies around the fill in another colour than the fill's; None when nothing does.

    A border of width w takes 2w (W + H) - 4w² pixels of a box of W x H, which gives its width.
    """
    solid = straight[..., 3] >= 250
    ring = solid & ~inner & ~worn(solid)
    if ring.sum() < sum(inner.shape) // 2:
        return None
    usual = np.median(straight[ring].astype(np.int16), axis=0)
    if np.abs(usual - middle).max() <= CHANGE:
        return None
    off = np.abs(straight.astype(np.int16) - usual).max(axis=2)
    taken = float((solid & (off <= CHANGE)).sum())
    around = float(sum(inner.shape))
    width = (around - math.sqrt(max(0.0, around * around - 4 * taken))) / 4
    return Border(hex_of(usual.astype(np.uint8)), width * step)


def _gradient(straight: Bytes, mask: npt.NDArray[np.bool_]) -> list[Bend] | None:
    """The bends when every row is one colour and the rows differ; None otherwise."""
    rows = np.flatnonzero(mask.sum(axis=1) >= max(2, mask.shape[1] // 20))
    if rows.size < 3:
        return None
    values, kept = straight[rows].astype(np.float32), mask[rows]
    middles = (values * kept[..., None]).sum(axis=1) / kept.sum(axis=1)[:, None]
    off = np.abs(values - middles[:, None]).max(axis=2)
    if share_beyond(off[kept], EVEN) > STRAY:
        return None
    places = (rows + 0.5) / len(straight)
    return bends_of(middles.astype(np.float32), places)


def colors_in(pixels: Pixels) -> float:
    """Different colours, to 5 bits a channel, as a share of painted pixels: photos have many.

    pixels: (H, W, 4) float32, premultiplied, 0..1.
    """
    step = max(1, max(pixels.shape[:2]) // ENOUGH)
    straight = to_bytes(pixels[::step, ::step])
    painted = straight[straight[..., 3] > 8].astype(np.uint32) >> 3
    if not len(painted):
        return 0.0
    keys = painted[:, 0] << 10 | painted[:, 1] << 5 | painted[:, 2]
    return len(np.unique(keys)) / len(painted)
