"""Role `words`: no picture, but a box for live text with the colour that lies under it."""

from __future__ import annotations

import numpy as np

from riffler.color import Pixels, hex_of, to_bytes


def ground(pixels: Pixels) -> str:
    """The most usual colour, as `#rrggbb`; with two more digits where it shows through.

    pixels: (H, W, 4) float32, premultiplied, 0..1, drawn without the text. Colours are counted in
    steps of 8, and the mean of the fullest step is the answer, so that grain does not matter.
    """
    straight = to_bytes(pixels).reshape(-1, 4)
    steps = (straight >> 3).astype(np.uint32)
    keys = steps[:, 0] << 15 | steps[:, 1] << 10 | steps[:, 2] << 5 | steps[:, 3]
    kinds, counts = np.unique(keys, return_counts=True)
    usual = straight[keys == kinds[np.argmax(counts)]]
    return hex_of(np.round(usual.mean(axis=0)).astype(np.uint8))
