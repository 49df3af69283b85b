"""A picture of a page -> the colour with which it ends below, for what goes on under it."""

from __future__ import annotations

from dataclasses import replace

from riffler.color import hex_of_pixel
from riffler.reading.part import PagePart
from riffler.reading.reading import Reading
from riffler.render.sampling import sample

#: How high the strip is that the colour is taken from, in mockup pixels; how opaque it is at least.
STRIP, OPAQUE = 16, 0.9


def ending(reading: Reading, part: PagePart) -> str:
    """The mean colour of the lowest strip of a picture; empty where that is clear."""
    mockup = reading.mockup
    box = part.box & mockup.box
    strip = replace(box, y=max(box.y, box.bottom - STRIP), height=min(box.height, STRIP))
    shown = frozenset().union(*map(mockup.alone, part.layers))
    pixel = sample(reading.renderer, strip, shown).mean(axis=(0, 1))
    return hex_of_pixel(pixel / pixel[3]) if pixel[3] > OPAQUE else ""
