"""The pixels of a layer -> a flat box with a hard shadow: the box again, moved, in another ink."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from riffler.analyse.outline import OutlineShape, outline_of
from riffler.analyse.style import Shadow, Stop, Style
from riffler.color import Pixels, hex_of_pixel
from riffler.geometry import Box, union
from riffler.render.painted import marked_box

#: By how much pixels of one colour may differ, in 0..1, and the share of those that are covered
#: wholly which has one of the two colours.
ONE_INK, TWO_INKS = 0.02, 0.97

#: The share of the shadow's pixels that may lie otherwise: where curves meet pixels.
ASTRAY = 0.2

Mask = npt.NDArray[np.bool_]


def stamped_of(pixels: Pixels) -> tuple[Style, Box] | None:
    """The style, and the box without its shadow; None for anything else.

    pixels: (H, W, 4) float32, premultiplied, 0..1. Lengths are in pixels of the picture.
    """
    whole = pixels[..., 3] > 0.99
    first = _ink(pixels, whole)
    if first is None:
        return None
    second = _ink(pixels, whole & ~first)
    if second is None or (first | second).sum() < TWO_INKS * whole.sum():
        return None
    for over, under in ((first, second), (second, first)):
        if stamped := _stamped(pixels, over, under):
            return stamped
    return None


def _stamped(pixels: Pixels, over: Mask, under: Mask) -> tuple[Style, Box] | None:
    plate = np.zeros_like(pixels)
    plate[over] = 1
    outline, around = outline_of(plate), marked_box(over | under)
    if outline is None or around is None or outline.shape is OutlineShape.ODD:
        return None
    box = outline.box
    dx = around.right - box.right if box.x == around.x else around.x - box.x
    dy = around.bottom - box.bottom if box.y == around.y else around.y - box.y
    if (dx, dy) == (0, 0) or union([box, box.moved(dx, dy)]) != around:
        return None
    cast = np.zeros_like(over)
    inside = over[box.y : box.bottom, box.x : box.right]
    cast[box.y + dy : box.bottom + dy, box.x + dx : box.right + dx] = inside
    off = int(((cast & ~over) != under).sum())
    if off > ASTRAY * under.sum():
        return None
    fill, shadow = (hex_of_pixel(np.median(pixels[mask], axis=0))[:7] for mask in (over, under))
    radii = None if outline.shape is OutlineShape.ELLIPSE else outline.radii
    return Style((Stop(0.0, fill),), radii=radii, shadows=(Shadow(dx, dy, 0.0, shadow),)), box


def _ink(pixels: Pixels, among: Mask) -> Mask | None:
    """Where the usual colour of some pixels is; None where there are too few of them."""
    if among.sum() < 12:
        return None
    colors = np.round(255 * pixels[among][:, :3]).astype(np.int64) @ [1, 256, 65536]
    kinds, counts = np.unique(colors, return_counts=True)
    usual = int(kinds[counts.argmax()])
    color = np.array([usual % 256, usual // 256 % 256, usual // 65536]) / 255
    return np.asarray(among & (np.abs(pixels[..., :3] - color).max(axis=2) <= ONE_INK))
