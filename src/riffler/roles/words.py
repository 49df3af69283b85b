"""Role `words`: no picture, but a box for live text with the colour that lies under it."""

from __future__ import annotations

import numpy as np

from riffler.color import Pixels, hex_of, to_bytes

#: Steps of 8 bits up to which a pixel is of a colour with grain, and the share of such pixels.
NEAR, MOST = 20, 0.7


def ground(pixels: Pixels) -> str | None:
    """The most usual colour, as `#rrggbb`; with two more digits where it shows through.

    pixels: (H, W, 4) float32, premultiplied, 0..1, drawn without the text. Colours are counted in
    steps of 8, and the mean of the fullest step is the answer, so that grain does not matter. None
    for a picture or a texture, most of which is not near any one colour.
    """
    straight = to_bytes(pixels).reshape(-1, 4)
    steps = (straight >> 3).astype(np.uint32)
    keys = steps[:, 0] << 15 | steps[:, 1] << 10 | steps[:, 2] << 5 | steps[:, 3]
    kinds, counts = np.unique(keys, return_counts=True)
    usual = straight[keys == kinds[np.argmax(counts)]].mean(axis=0)
    near = np.abs(straight - usual).max(axis=1) <= NEAR
    return hex_of(np.round(usual).astype(np.uint8)) if near.mean() >= MOST else None
