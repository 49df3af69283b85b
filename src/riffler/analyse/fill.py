"""The pixels of a layer -> how it is filled: one colour, a gradient in one direction, or more."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from typing import TypeAlias

import numpy as np
import numpy.typing as npt

from riffler.analyse.raster import worn
from riffler.analyse.style import Border, Stop
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

#: The angles across and down, and by how many degrees others may be off and be meant so.
STRAIGHT, SNAP = (90, 180), 2

#: Alpha, in steps of 8 bits, under which a colour can't be told.
VEIL = 16

#: Places along a gradient that tell one.
LEAST = 4

#: Steps of 8 bits from which a change along the gradient is one.
CHANGE = 6


Values: TypeAlias = npt.NDArray[np.uint8] | npt.NDArray[np.float32]
"""(H, W, 4) in steps of 8 bits."""

Bend: TypeAlias = tuple[float, npt.NDArray[np.float32]]
"""A place along a gradient, 0..1, and the colour there, (4,) in steps of 8 bits."""


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
    if _share_beyond(np.abs(colors - middle).max(axis=1), FLAT) <= STRAY:
        stop = Stop(0.0, hex_of(middle.astype(np.uint8)))
        return Fill(Filling.FLAT, (stop,), border=_border(few, among, middle, step))
    angle = _direction(few, among)
    if angle not in STRAIGHT and (bends := _sloping(few, among, angle)) is not None:
        return Fill(Filling.GRADIENT, _stops(bends), angle)
    for straight, turned, mask in (
        (180, few, among),
        (90, few.transpose(1, 0, 2), among.T),
    ):
        if (bends := _gradient(turned, mask)) is not None:
            return Fill(Filling.GRADIENT, _stops(bends), straight)
    return Fill(Filling.MORE)


def fading_of(pixels: Pixels) -> Fill | None:
    """The gradient of a rectangle that fades out in one direction; None for anything else.

    Stops have their alpha; between them browsers mix what is premultiplied, too (CSS Images 3,
    section 3.4.2). pixels: (H, W, 4) float32, premultiplied, 0..1, a painted box.
    """
    step = max(1, max(pixels.shape[:2]) // ENOUGH)
    few = 255 * pixels[::step, ::step]
    every = np.ones(few.shape[:2], bool)
    if min(every.shape) < LEAST or np.ptp(few[..., 3]) < CHANGE:
        return None
    angle = _direction(few, every)
    bends = _sloping(few, every, angle)
    if bends is None:
        return None
    strong = pixels[pixels[..., 3] >= 0.5 * pixels[..., 3].max()]
    usual = np.median(strong[:, :3] / strong[:, 3:], axis=0)
    return Fill(Filling.GRADIENT, _stops([_straightened(bend, usual) for bend in bends]), angle)


def _straightened(bend: Bend, usual: npt.NDArray[np.float32]) -> Bend:
    """A colour that was read premultiplied, as CSS writes it; `usual` where nothing shows."""
    place, color = bend
    alpha = color[3:]
    rgb = 255 * color[:3] / alpha if alpha[0] > VEIL else 255 * usual
    return place, np.concatenate((rgb, alpha))


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
    if _share_beyond(off[kept], EVEN) > STRAY:
        return None
    places = (rows + 0.5) / len(straight)
    return _bends_of(middles.astype(np.float32), places)


def _direction(values: Values, mask: npt.NDArray[np.bool_]) -> int:
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


def _sloping(values: Values, mask: npt.NDArray[np.bool_], angle: int) -> list[Bend] | None:
    """The bends of a gradient at an angle; None where colours change otherwise, too.

    Positions are CSS's: 0 and 1 are where lines across the gradient meet the corners of the box;
    CSS Images 3, section 3.1.
    """
    height, width = mask.shape
    y, x = np.nonzero(mask)
    right, lower = math.sin(math.radians(angle)), -math.cos(math.radians(angle))
    length = abs(width * right) + abs(height * lower)
    along = (x - (width - 1) / 2) * right + (y - (height - 1) / 2) * lower
    place = along / length + 0.5
    at = np.clip((place * int(length)).astype(int), 0, int(length) - 1)
    counts = np.bincount(at)
    seen = np.flatnonzero(counts > 1)
    if seen.size < LEAST:
        return None
    colors = values[y, x].astype(np.float64)
    sums = [np.bincount(at, colors[:, channel])[seen] for channel in range(4)]
    line = (np.stack(sums, axis=1) / counts[seen, None]).astype(np.float32)
    middles = np.bincount(at, place)[seen] / counts[seen]
    ideal = np.stack([np.interp(place, middles, line[:, n]) for n in range(4)], axis=1)
    if _share_beyond(np.abs(colors - ideal).max(axis=1), EVEN) > STRAY:
        return None
    return _bends_of(line, middles)


def _bends_of(line: npt.NDArray[np.float32], middles: npt.NDArray[np.float64]) -> list[Bend] | None:
    """Where colours along a gradient bend, `middles` their places; None for what is no gradient."""
    if np.ptp(line, axis=0).max() < CHANGE or np.abs(np.diff(line, axis=0)).max() > STEEP:
        return None
    bends = _bends(line, 0, len(line) - 1)
    ends = {0: (0.0, bends[1]), len(line) - 1: (1.0, bends[-2])}
    found: list[Bend] = []
    for index in bends:
        color, place = line[index], float(middles[index])
        if index in ends:
            end, other = ends[index]
            slope = (line[other] - color) / (middles[other] - place)
            color, place = color + slope * (end - place), end
        found.append((place, color))
    return found


def _stops(bends: Sequence[Bend]) -> tuple[Stop, ...]:
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


def _share_beyond(off: npt.NDArray[np.floating | np.integer], most: float) -> float:
    return float((off > most).mean()) if off.size else 1.0


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
