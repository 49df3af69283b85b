"""A mockup, small and pale, to draw on."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from riffler.color import on_ground
from riffler.render.renderer import Renderer

if TYPE_CHECKING:
    from PIL import Image

#: How much of the mockup's own colours is left.
DIMMED = 0.42


def dimmed(renderer: Renderer, width: int, height: int) -> Image.Image:
    """The mockup at the size of the sheet, its colours drawn back towards paper."""
    from PIL import Image

    mockup = renderer.mockup
    bands = []
    for band in mockup.box.bands(max(64, 2_000_000 // mockup.size.width)):
        pixels = renderer.render(band, 1.0, mockup.drawn)
        flat = on_ground(pixels, (1.0, 1.0, 1.0))[..., :3]
        rows = max(1, round(band.bottom * height / mockup.size.height)) - round(
            band.y * height / mockup.size.height
        )
        if rows > 0:
            piece = Image.fromarray(np.ascontiguousarray(flat), "RGB")
            bands.append(np.asarray(piece.resize((width, rows), Image.Resampling.BOX)))
    whole = np.concatenate(bands)[:height].astype(np.float32)
    grey = whole.mean(axis=2, keepdims=True)
    calm = grey + (whole - grey) * 0.6
    paper = np.array((244, 242, 238), np.float32)
    return Image.fromarray((paper + (calm - paper) * DIMMED).astype(np.uint8), "RGB")
