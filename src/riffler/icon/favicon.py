"""A slice -> favicon.ico, drawn at each size rather than shrunk from one where vectors allow it."""

from __future__ import annotations

import numpy as np

from riffler.color import Pixels, to_bytes
from riffler.cutlist.resolved import ResolvedSlice
from riffler.encode import png
from riffler.geometry import Size
from riffler.icon import ico
from riffler.render.renderer import Renderer

#: The file that browsers ask for by themselves.
FILE = "favicon.ico"

#: Pixels along each side, for tabs at one and two times and for shortcuts.
SIDES = (16, 32, 48)


def favicon(mark: ResolvedSlice, renderer: Renderer) -> bytes:
    """The icon file with every size inside; a mark that is not square stands centred."""
    pictures = []
    for side in SIDES:
        scale = side / max(mark.box.width, mark.box.height)
        pixels = renderer.render(mark.box, scale, mark.rest.shown)
        square = to_bytes(_centred(pixels, side))
        pictures.append((Size(side, side), png.encode(square, keep_alpha=True)))
    return ico.pack(pictures)


def _centred(pixels: Pixels, side: int) -> Pixels:
    """The pixels in the middle of an empty square; whole pixels, so that edges stay sharp."""
    height, width = pixels.shape[:2]
    square = np.zeros((side, side, 4), np.float32)
    top, left = (side - height) // 2, (side - width) // 2
    square[top : top + height, left : left + width] = pixels
    return square
