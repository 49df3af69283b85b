"""Text on its ground -> the contrast that it has, and what WCAG 2.2 asks for."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from riffler.color import Bytes, hex_of, on_ground
from riffler.geometry import Box
from riffler.hexcolor import parse_hex
from riffler.mockup.model import Layer
from riffler.reading.reading import Reading
from riffler.render.sampling import sample
from riffler.sides import meeting, sides_of
from riffler.tokens.palette import contrast, over
from riffler.tokens.token import Contrast, Place

#: WCAG 2.2, 1.4.3: large text begins at 18 point, bold text at 14; a point is 4/3 CSS pixels.
LARGE, LARGE_BOLD, BOLD = 24.0, 14 * 4 / 3, 700

#: What level AA asks of text, and of large text.
NEEDED, NEEDED_LARGE = 4.5, 3.0

#: Share of the ground that may be worse than what is told: grain and the rims of things.
STRAY = 0.02

#: Capitals are about so many times as high as small letters, and a size so many times as large.
SIZE_OF_SMALL = 2.0

_WHITE = (1.0, 1.0, 1.0)


def contrasts(reading: Reading, mockup: str) -> Iterator[Contrast]:
    """Of every text that shows."""
    texts = [layer for layer in reading.drawings() if reading.is_words(layer)]
    below = reading.mockup.drawn - {inner.address for text in texts for inner in text.walk()}
    sides = sides_of(_grounds(reading))
    for layer in texts:
        if not reading.mockup.shows(layer):
            continue
        box = reading.box(layer)
        color, is_large = _text(reading, layer)
        if box is None or parse_hex(color[:7]) is None:
            continue
        is_over = meeting(sides, box).any()
        ratio, ground = _worst(reading, below if is_over else frozenset(), box, color)
        needed = NEEDED_LARGE if is_large else NEEDED
        yield Contrast(color, ground, ratio, needed, (Place(mockup, layer.address, "text"),))


def _grounds(reading: Reading) -> Iterator[Box]:
    """The boxes of what is no text."""
    layers = (layer for layer in reading.drawings() if not reading.is_words(layer))
    return (box for layer in layers if (box := reading.painted(layer)))


def _text(reading: Reading, layer: Layer) -> tuple[str, bool]:
    """The colour of text with its opacity, and whether it counts as large."""
    if (words := reading.words(layer)) is not None:
        size, color = words.size / reading.density, words.color
        is_large = size >= LARGE or (size >= LARGE_BOLD and words.weight >= BOLD)
    else:
        text = reading.lettering(layer)
        color = text.color if text else ""
        is_large = bool(text and SIZE_OF_SMALL * text.height / reading.density >= LARGE)
    if layer.opacity < 1 and len(color) == 7:
        color = f"{color}{round(255 * layer.opacity):02x}"
    return color, is_large


def _worst(reading: Reading, below: frozenset[str], box: Box, color: str) -> tuple[float, str]:
    """The lowest contrast on what lies under the text, and the colour that gives it."""
    if not below:  # on nothing but the white of the page
        white = np.full((1, 3), 255, np.uint8)
        return round(float(contrast(over(color, white), white)[0]), 2), hex_of(white[0])
    pixels = sample(reading.renderer, box, below)
    grounds: Bytes = on_ground(pixels, _WHITE)[..., :3].reshape(-1, 3)
    keys = grounds.astype(np.uint32) @ np.array((1 << 16, 1 << 8, 1), np.uint32)
    _, first, counts = np.unique(keys, return_index=True, return_counts=True)
    kinds = grounds[first]
    ratios = contrast(over(color, kinds), kinds)
    order = np.argsort(ratios, kind="stable")
    reached = np.searchsorted(np.cumsum(counts[order]), STRAY * counts.sum())
    worst = order[min(int(reached), len(order) - 1)]
    return round(float(ratios[worst]), 2), hex_of(np.array(kinds[worst], np.uint8))


def gathered(pairs: Iterator[Contrast]) -> tuple[Contrast, ...]:
    """Texts of one colour on one ground as one, the lowest contrast first."""
    kinds: dict[tuple[str, str, float], Contrast] = {}
    for pair in pairs:
        key = (pair.color, pair.ground, pair.needed)
        before = kinds[key].places if key in kinds else ()
        kinds[key] = Contrast(
            pair.color,
            pair.ground,
            pair.ratio,
            pair.needed,
            (*before, *pair.places),
        )
    return tuple(sorted(kinds.values(), key=lambda pair: (pair.ratio / pair.needed, pair.color)))
