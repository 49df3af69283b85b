"""Groups of many shapes that are one drawing, as an illustration is."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial

from riffler.geometry import Box
from riffler.mockup.model import Layer, drawings
from riffler.reading.judgement import Becomes
from riffler.reading.reading import Reading

#: Shapes that an illustration has at least, and of how many vectors no page is made without a word.
FEWEST, MANY = 12, 150

#: The share of them that no style sheet draws.
DRAWN = 0.5

#: One in so many may lie apart from the others.
APART = 6


def is_illustration(reading: Reading, layers: Sequence[Layer]) -> bool:
    """Whether layers are the shapes of one drawing: many, without words, on one another."""
    shapes = [part for part in drawings(layers) if part.visible]
    if len(shapes) < FEWEST or any(part.words is not None for part in shapes):
        return False
    if len(shapes) < MANY or not reading.mockup.is_vector:
        if any(map(reading.is_words, shapes)):
            return False
        drawn = sum(map(partial(_is_shape, reading), shapes))
        if drawn < DRAWN * len(shapes):
            return False
    boxes = [box for part in shapes if (box := reading.rough(part))]
    return _clumps(boxes) <= max(1, len(shapes) // APART)


def _is_shape(reading: Reading, part: Layer) -> bool:
    """Whether a part must be drawn, and has no straight edges as pictures by themselves have."""
    judgement = reading.judgement(part)
    return judgement.becomes is Becomes.PICTURE and not judgement.is_rectangle


def _clumps(boxes: Sequence[Box]) -> int:
    """How many heaps of boxes there are that meet one another."""
    heaps: list[list[Box]] = []
    for box in boxes:
        met = [heap for heap in heaps if any(box.meets(other_box) for other_box in heap)]
        heaps = [heap for heap in heaps if all(heap is not boxes for boxes in met)]
        heaps.append([box, *(other_box for heap in met for other_box in heap)])
    return len(heaps)
