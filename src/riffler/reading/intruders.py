"""A box and the layers that show in it -> the neighbours whose paint reaches into it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from riffler.color import Pixels, to_bytes
from riffler.geometry import Box
from riffler.mockup.model import Layer
from riffler.reading.reading import Reading
from riffler.render.painted import marked_box

#: A neighbour covers less than this part of the box; what covers more is its ground.
LESS = 0.35

#: A neighbour has less than this part of its own box inside; what has more belongs here.
MOSTLY_OUT = 0.5

#: Steps of 8 bits from which a difference can be seen.
SEEN = 6


@dataclass(frozen=True)
class Intruder:
    """A neighbour's layer, and the box of the pixels that it changes."""

    layer: Layer
    place: Box
    pixels: int


def intruders(reading: Reading, box: Box, shown: frozenset[str]) -> Iterator[Intruder]:
    """The drawings that belong elsewhere and are seen in the box, from the top of the stack."""
    mockup = reading.mockup
    for layer, painted in reading.near(box):
        part = _reach(reading, layer, painted, box)
        if part is None or layer.address not in shown:
            continue
        if any(up.address not in shown for up in mockup.ancestors(layer.address)):
            continue
        if not _paints(reading, layer, part):
            continue
        inside = {below.address for below in layer.walk()}
        with_it = reading.renderer.render(part, 1.0, shown)
        without = reading.renderer.render(part, 1.0, shown - inside)
        changed = differs(with_it, without)
        if changed.any():
            yield Intruder(layer, place_of(changed, part), int(changed.sum()))


def _reach(reading: Reading, layer: Layer, painted: Box, box: Box) -> Box | None:
    """The part of the box that a neighbour may reach; None for what belongs in the box."""
    part = painted & box
    if part == painted or part.area >= LESS * box.area:
        return None
    spans_x = painted.x <= box.x and painted.right >= box.right
    spans_y = painted.y <= box.y and painted.bottom >= box.bottom
    if spans_x or spans_y:
        return None
    core = reading.renderer.solid_box(layer.address) or painted
    return part if (core & box).area < MOSTLY_OUT * core.area else None


def _paints(reading: Reading, layer: Layer, part: Box) -> bool:
    pixels = reading.renderer.render(part, 1.0, reading.mockup.alone(layer.address))
    return float(pixels[..., 3].max()) > SEEN / 255


def differs(first: Pixels, second: Pixels) -> np.ndarray:
    """Where two pictures of one size differ by what can be seen: (H, W) bool."""
    a, b = (np.asarray(to_bytes(pixels), np.int16) for pixels in (first, second))
    return np.asarray(np.abs(a - b).max(axis=2) >= SEEN)


def place_of(changed: np.ndarray, box: Box) -> Box:
    """The box around the marked pixels of a picture of `box`."""
    inner = marked_box(changed)
    assert inner is not None
    return inner.moved(box.x, box.y)
