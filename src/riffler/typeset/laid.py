"""A line that is set, at some size and place -> the ink that it lays on pixels."""

from __future__ import annotations

import numpy as np
from PIL import Image

from riffler.typeset.glyphs import EM, Plane, Setting
from riffler.typeset.ink import InkLine
from riffler.typeset.squares import Numbers


def sums(
    setting: Setting, size: float, spacing: float, x: float, y: float, line: InkLine
) -> tuple[Plane, Plane]:
    """The ink of a set line by columns and rows of pixels."""
    height, width = line.cover.shape
    scale = size / EM
    lefts = x + size * setting.pens + spacing * setting.counts + setting.lefts * scale
    first = np.floor(lefts).astype(int)
    reach = int(setting.steps.max() * scale) + 3
    edges = first[:, None] + np.arange(reach + 1)
    inside = _between(setting, (edges - lefts[:, None]) / scale)
    places = np.minimum(np.maximum(edges[:, :-1], -1), width) + 1
    inked = inside[:, 1:] - inside[:, :-1]
    across = np.bincount(places.ravel(), inked.ravel(), minlength=width + 2)[1:-1]
    rows = (np.arange(height + 1) - y) / scale - setting.top
    down = np.interp(rows, np.arange(len(setting.down)), setting.down)
    return across * (scale * scale), (down[1:] - down[:-1]) * (scale * scale)


def _between(setting: Setting, places: Numbers) -> Numbers:
    """The sums of each glyph's columns up to places in its pixels, one row a glyph."""
    inside = np.minimum(np.maximum(places, 0), setting.steps[:, None])
    low = np.minimum(inside.astype(int), setting.steps[:, None] - 1)
    at = setting.starts[:, None] + low
    before = setting.sums[at]
    return np.asarray(before + (setting.sums[at + 1] - before) * (inside - low))


def cover(
    setting: Setting, size: float, spacing: float, x: float, y: float, line: InkLine
) -> Plane:
    """A set line as it covers the pixels of a piece."""
    height, width = line.cover.shape
    whole = np.zeros((height, width), np.float32)
    scale = size / EM
    lefts = x + size * setting.pens + spacing * setting.counts
    for glyph, pen in zip(setting.glyphs, lefts.tolist(), strict=True):
        left, top = pen + glyph.left * scale, y + glyph.top * scale
        deep, wide = glyph.picture.shape
        first, last = max(0, int(np.floor(left))), min(width, int(np.ceil(left + wide * scale)))
        upper, lower = max(0, int(np.floor(top))), min(height, int(np.ceil(top + deep * scale)))
        if last <= first or lower <= upper:
            continue
        box = (
            (first - left) / scale,
            (upper - top) / scale,
            (last - left) / scale,
            (lower - top) / scale,
        )
        whole[upper:lower, first:last] += _reduced(
            glyph.picture, box, (last - first, lower - upper)
        )
    return np.clip(whole, 0, 1)


def _reduced(
    picture: Plane, box: tuple[float, float, float, float], size: tuple[int, int]
) -> Plane:
    """A box of a picture, which may reach beyond it, averaged into so many pixels."""
    left, top = max(0, int(np.ceil(-box[0])) + 1), max(0, int(np.ceil(-box[1])) + 1)
    right = max(0, int(np.ceil(box[2] - picture.shape[1])) + 1)
    bottom = max(0, int(np.ceil(box[3] - picture.shape[0])) + 1)
    padded = np.pad(picture, ((top, bottom), (left, right)))
    moved = (box[0] + left, box[1] + top, box[2] + left, box[3] + top)
    image = Image.fromarray(padded).resize(size, Image.Resampling.BOX, box=moved)
    return np.asarray(image, np.float32)
