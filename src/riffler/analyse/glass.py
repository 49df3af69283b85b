"""The pixels of a pane that shows what lies below -> its fill, and the border upon it."""

from __future__ import annotations

import numpy as np

from riffler.analyse.drawn import line_of, sides_of
from riffler.analyse.outline import OutlineShape, outline_of
from riffler.analyse.raster import filled
from riffler.analyse.style import SQUARE, Border, Stop, Style
from riffler.color import Pixels, hex_of_pixel

#: By how much its fill may vary, in 0..1, and the share of pixels that may be further off.
FLAT, STRAY = 3 / 255, 0.02


def glass_of(pixels: Pixels) -> Style | None:
    """The style of a pane of one colour with a border, both of which may be thin; else None.

    The fill goes on below the border (CSS Backgrounds and Borders 3, section 3.7), so that what is
    seen there is both. pixels: (H, W, 4) float32, premultiplied, 0..1, a painted box.
    """
    most = float(pixels[..., 3].max(initial=0))
    whole = np.zeros_like(pixels)
    whole[filled(pixels[..., 3] > most / 2)] = 1
    outline = outline_of(whole) if min(pixels.shape[:2]) >= 12 else None
    if outline is None or outline.shape not in (OutlineShape.RECTANGLE, OutlineShape.ROUNDED):
        return None
    box = outline.box
    pane = pixels[box.y : box.bottom, box.x : box.right]
    sides = sides_of(pane, outline.radii)
    widths = [line_of(side) for side in sides]
    wide = min(widths)
    if not wide or max(widths) != wide:
        return None
    clear = wide + 1
    inner = pane[clear:-clear, clear:-clear].reshape(-1, 4)
    fill = np.median(inner, axis=0)
    if not len(inner) or (np.abs(inner - fill).max(axis=1) > FLAT).mean() > STRAY:
        return None
    seen = np.median(np.concatenate([side[:, :wide].reshape(-1, 4) for side in sides]), axis=0)
    if seen[3] < fill[3] or fill[3] >= 1 - FLAT:
        return None
    alpha = (seen[3] - fill[3]) / (1 - fill[3])
    border = np.clip(seen - (1 - alpha) * fill, 0, None)
    colors = [hex_of_pixel(color) for color in (fill, border)]
    stops = (Stop(0.0, colors[0]),)
    return Style(stops, radii=outline.radii or SQUARE, border=Border(colors[1], float(wide)))
