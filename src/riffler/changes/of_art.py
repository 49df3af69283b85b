"""A picture in both versions -> whether it is recoloured or drawn anew, and how far it moved."""

from __future__ import annotations

from typing import TypeAlias

import numpy as np
import numpy.typing as npt
from PIL import Image
from scipy import ndimage

from riffler.analyse.thumbnails import content
from riffler.changes.change import Aspect, ChangeKind
from riffler.changes.version import Art, Both
from riffler.color import Bytes, hex_of

Plane: TypeAlias = npt.NDArray[np.float64]
"""(H, W, 4) float64, premultiplied, 0..255."""

Found: TypeAlias = tuple[tuple[ChangeKind, tuple[Aspect, ...]], ...]

#: Levels of 255 by which a pixel may be off, after a blur, when a picture is the same; and the
#: share of painted pixels that may be further off.
SAME, FEW = 20, 0.002

#: Levels of 255 between neighbours where a picture is flat, and by which flat parts may be off.
STEP, FLAT = 4, 1.5

#: How different thumbnails are, 0..1, of a picture that was only made larger or smaller.
RESIZED = 0.02

#: Pixels along the shorter side of a drawing whose edges are most of it, and the same for it.
SMALL, SMUDGED = 64, 0.07

#: Colours, and how far one may spread in levels of 255, that a recoloured drawing has at the most.
COLORS, SPREAD = 24, 10

#: Pixels that are enough to tell which colours a drawing has.
LOOKED = 100_000

#: The share of a drawing that a colour covers at the least to be told of: less are mixed edges.
NOTED = 0.05

#: Levels of alpha by which two drawings of one shape may be off in the mean.
ONE_SHAPE = 2.5


def differences(both: Both) -> tuple[Found, tuple[float, float] | None]:
    """What of a picture changed, and how far it moved in CSS pixels where its pixels tell that."""
    old, new = both.old, both.new
    was, now = old.art(both.one), new.art(both.other)
    if was is None or now is None:
        return (() if was is now else ((ChangeKind.REDRAWN, ()),)), None
    is_one_size = old.density == new.density and was.pixels.shape == now.pixels.shape
    if is_one_size and np.array_equal(was.pixels, now.pixels):
        return (), None
    is_near = all(abs(a - b) <= 1 for a, b in zip(was.pixels.shape, now.pixels.shape, strict=True))
    if is_near and old.density == new.density and _is_same(was.pixels, now.pixels):
        shift = None if old.mockup.is_vector else _shift(was, now)
        return (), shift and _on_page(was, now, shift, new.density)
    is_scaled = not is_one_size and _is_scaled(was, now)
    return (() if is_scaled else _redrawn(was, now)), None


def _is_scaled(was: Art, now: Art) -> bool:
    """Whether it shows the same, larger or smaller."""
    is_small = min(*was.pixels.shape[:2], *now.pixels.shape[:2]) < SMALL
    return content(was.pixels, now.pixels) < (SMUDGED if is_small else RESIZED)


def _on_page(was: Art, now: Art, shift: tuple[float, float], density: float) -> tuple[float, float]:
    x, y = now.box.x - was.box.x + shift[0], now.box.y - was.box.y + shift[1]
    return x / density, y / density


def _shift(was: Art, now: Art) -> tuple[float, float] | None:
    """How far the middle of the paint moved within the box, right and down, in pixels."""
    middles = [ndimage.center_of_mass(art.pixels[..., 3].astype(np.float64)) for art in (was, now)]
    if not np.isfinite(middles).all():
        return None
    (y, x), (down, right) = middles
    return float(right - x), float(down - y)


def _is_same(first: Bytes, second: Bytes) -> bool:
    """Whether two pictures of nearly one size show the same, moved by parts of a pixel at most."""
    shape = [max(sides) + 4 for sides in zip(first.shape[:2], second.shape[:2], strict=True)]
    planes = [_framed(pixels, shape) for pixels in (first, second)]
    middles = [ndimage.center_of_mass(plane[..., 3]) for plane in planes]
    by = [there - here for here, there in zip(*middles, strict=True)]
    if max(map(abs, by)) > 0.02:
        planes[0] = ndimage.shift(planes[0], (*by, 0), order=1)
    off = ndimage.uniform_filter(np.abs(planes[0] - planes[1]), (3, 3, 1)).max(axis=2)
    painted = max(1, int((planes[1][..., 3] > 0).sum()))
    if float((off > SAME).sum()) > FEW * painted:
        return False
    flat = _flat(planes[0]) & _flat(planes[1])
    return not flat.any() or float(off[flat].mean()) <= FLAT


def _flat(plane: Plane) -> npt.NDArray[np.bool_]:
    """Where nothing changes from pixel to pixel: there the least difference is one of colour."""
    spread = ndimage.maximum_filter(plane, (3, 3, 1)) - ndimage.minimum_filter(plane, (3, 3, 1))
    return np.asarray((spread.max(axis=2) < STEP) & (plane[..., 3] > 250))


def _framed(pixels: Bytes, shape: list[int]) -> Plane:
    """Premultiplied pixels in the corner of a larger, clear picture, two pixels inside."""
    plane = np.zeros((*shape, 4))
    height, width = pixels.shape[:2]
    plane[2 : 2 + height, 2 : 2 + width] = pixels
    plane[..., :3] *= plane[..., 3:] / 255
    return plane


def _fitted(first: Bytes, second: Bytes) -> Bytes:
    """The first picture as large as the second."""
    if first.shape == second.shape:
        return first
    size = (second.shape[1], second.shape[0])
    image = Image.fromarray(np.ascontiguousarray(first)).convert("RGBa")
    return np.array(image.resize(size, Image.Resampling.BILINEAR).convert("RGBA"))


def _redrawn(was: Art, now: Art) -> Found:
    """Whether one picture is the other in other colours, or drawn anew."""
    first, second = _fitted(was.pixels, now.pixels), now.pixels
    shape = np.abs(first[..., 3].astype(np.int16) - second[..., 3]).mean()
    if shape > ONE_SHAPE:
        return ((ChangeKind.REDRAWN, ()),)
    solid = (first[..., 3] > 250) & (second[..., 3] > 250)
    before, after = first[solid][:, :3], second[solid][:, :3]
    if not len(before):
        return ((ChangeKind.REDRAWN, ()),)
    aspects = []
    for color, share in _colors(before):
        there = after[(np.abs(before.astype(np.int16) - color) <= 3).all(axis=1)]
        middle = np.median(there, axis=0).astype(np.uint8)
        spread = np.abs(there.astype(np.int16) - middle).max(axis=1)
        if float((spread > SPREAD).mean()) > 0.1:
            return ((ChangeKind.REDRAWN, ()),)
        if int(np.abs(middle.astype(np.int16) - color).max()) > 1 and share > NOTED:
            aspects.append(Aspect("colour", hex_of(color), hex_of(middle)))
    return ((ChangeKind.RECOLOURED, tuple(aspects)),) if aspects else ((ChangeKind.REDRAWN, ()),)


def _colors(pixels: Bytes) -> list[tuple[Bytes, float]]:
    """The colours of nearly all pixels, with their shares; none of what has as many as a photo."""
    some = pixels[:: max(1, len(pixels) // LOOKED)].astype(np.uint32)
    packed, counts = np.unique(some[:, 0] << 16 | some[:, 1] << 8 | some[:, 2], return_counts=True)
    kept, covered = [], 0.0
    for at in np.argsort(-counts, kind="stable")[:COLORS]:
        share = float(counts[at] / len(some))
        color = [int(packed[at]) >> shift & 255 for shift in (16, 8, 0)]
        kept.append((np.array(color, np.uint8), share))
        covered += share
    return kept if covered > 0.7 else []
