"""The pixels of a layer -> the border that is all of it: one line around an empty box."""

from __future__ import annotations

import numpy as np

from riffler.analyse.outline import OutlineShape, outline_of
from riffler.analyse.raster import filled, worn
from riffler.analyse.style import CLEAR, Border, Style
from riffler.color import Pixels, hex_of_pixel

#: The share of the outline that is empty at least, and what is taken for nothing there.
HOLLOW, EMPTY = 0.4, 2 / 255

#: The least opaque line that is a border, 0..1.
FAINTEST = 0.05

#: By how much the thickness of the line, in pixels, and its colour, in 0..1, may vary.
UNEVEN, ONE_INK = 1, 0.04


def frame_of(pixels: Pixels) -> Style | None:
    """The style of a box with a border and no fill; None for anything else.

    pixels: (H, W, 4) float32, premultiplied, 0..1. Lengths are in pixels of the picture.
    """
    most = float(pixels[..., 3].max(initial=0))
    if most < FAINTEST:
        return None
    solid = pixels[..., 3] > most / 2
    outer = filled(solid)
    hole = outer & ~solid
    if hole.sum() < HOLLOW * max(1, outer.sum()):
        return None
    inside = worn(hole)
    if not inside.any() or float((pixels[..., 3][inside] > EMPTY).mean()) > 0.01:
        return None
    ink = pixels[pixels[..., 3] > 0.9 * most]
    if (
        not len(ink)
        or np.abs(ink[:, :3] - np.median(ink[:, :3], axis=0)).max(axis=1).mean() > ONE_INK
    ):
        return None
    whole = np.zeros_like(pixels)
    whole[outer] = 1
    outline = outline_of(whole)
    if outline is None or outline.shape is OutlineShape.ODD:
        return None
    widths = _widths(
        solid, outline.box.y + outline.box.height // 2, outline.box.x + outline.box.width // 2
    )
    if widths is None or max(widths) - min(widths) > UNEVEN:
        return None
    color = hex_of_pixel(np.median(ink, axis=0))
    radii = None if outline.shape is OutlineShape.ELLIPSE else outline.radii
    return Style((CLEAR,), radii=radii, border=Border(color, float(np.median(widths))))


def _widths(solid: np.ndarray, row: int, column: int) -> list[int] | None:
    """How thick the line is in the middle of each side; None where it is more than one line."""
    result = []
    for line in (solid[row], solid[:, column]):
        edges = np.flatnonzero(np.diff(np.concatenate([[0], line.astype(np.int8), [0]])))
        if len(edges) != 4:
            return None
        result += [int(edges[1] - edges[0]), int(edges[3] - edges[2])]
    return result
