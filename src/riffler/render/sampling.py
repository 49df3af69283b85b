"""A box of a mockup -> an even sample of its pixels, however large the box is."""

from __future__ import annotations

import numpy as np

from riffler.color import Pixels
from riffler.geometry import Box
from riffler.render.renderer import Renderer

#: Pixels in a box up to which every one of them is drawn before a sample is taken.
WHOLE = 600_000


#: The fewest samples along the shorter side, so that its edges are seen.
FEWEST = 24


def sample(renderer: Renderer, box: Box, shown: frozenset[str], side: int = 256) -> Pixels:
    """Pixels of the box at equal steps, about `side` along the longer side, not averaged.

    Returns (H, W, 4) float32, premultiplied, 0..1. Vectors are drawn small instead: there an even
    sample and a small drawing differ at edges alone.
    """
    step = _step(box.width, box.height, side)
    if box.area <= WHOLE:
        return thinned(renderer.render(box, 1.0, shown), side)
    if renderer.mockup.is_vector:
        return renderer.render(box, 1 / step, shown)
    rows = [
        renderer.render(Box(box.x, y, box.width, 1), 1.0, shown)[:, ::step]
        for y in range(box.y, box.bottom, step)
    ]
    return np.concatenate(rows)


def thinned(pixels: Pixels, side: int = 256) -> Pixels:
    """An even sample of pixels that are drawn already, as `sample` takes it.

    pixels: (H, W, 4) float32, premultiplied, 0..1.
    """
    step = _step(pixels.shape[1], pixels.shape[0], side)
    return pixels[::step, ::step]


def _step(width: int, height: int, side: int) -> int:
    shorter, longer = sorted((width, height))
    return max(1, min(longer // side, shorter // FEWEST))


def crop(box: Box, side: int) -> Box:
    """The middle of a box, at most `side` x `side` pixels."""
    width, height = min(box.width, side), min(box.height, side)
    return Box(box.x + (box.width - width) // 2, box.y + (box.height - height) // 2, width, height)
