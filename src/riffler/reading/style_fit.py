"""A layer of pixels -> the style that draws all of it again, with everything that it casts."""

from __future__ import annotations

from dataclasses import replace

from riffler.analyse.drawn import style_of
from riffler.analyse.style import Style
from riffler.mockup.model import Layer
from riffler.reading.reading import VEIL, Reading

#: Layers of more pixels are not fitted.
LARGEST = 12_000_000


def fitted(reading: Reading, layer: Layer) -> Style | None:
    """The style of a box of pixels, fitted to every one; lengths are mockup pixels.

    None for vectors, and for what no style sheet draws. It may take seconds: a reading's judgement
    is the quick look.
    """
    box = reading.painted(layer)
    if box is None or reading.mockup.is_vector or box.area > LARGEST or layer.opacity <= VEIL:
        return None
    shown = reading.mockup.alone(layer.address)
    pixels = reading.renderer.render(box.grown(2), 1.0, shown)
    style = style_of((pixels / layer.opacity).clip(0, 1))
    return style and replace(style[0], opacity=layer.opacity, blend=layer.blend)
