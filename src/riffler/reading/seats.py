"""Icons in pixels that head things made alike -> the boxes that they were put into.

Of an icon in pixels only the ink is left, and that is of another height in each of several cards,
while their titles follow at one distance from what the icons were drawn on. Boxes that begin at one
place of each thing, and end at one distance above its title, hold all of the ink and put everything
where it was.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from riffler.geometry import Box, Rect
from riffler.mockup.model import Layer, LayerKind, drawings
from riffler.reading.judgement import Becomes
from riffler.reading.reading import Reading
from riffler.reading.short_words import kin

#: The longest side of an icon, in CSS pixels.
LARGEST = 96

#: How much of the highest ink the heights of boxes differ at the most.
UNEVEN = 0.6

#: How far from the middle of what holds it an icon is that stands there, in CSS pixels.
CENTRED = 3

#: How far below an icon its title begins at the most, in CSS pixels.
BELOW = 40


@dataclass(frozen=True)
class _Head:
    """An icon in one of the things: its ink, the box of the thing, where its title begins."""

    icon: Layer
    ink: Box
    thing: Box
    title: int


def seats(reading: Reading) -> dict[str, Box]:
    """The box of each such icon in mockup pixels, by its address."""
    boxes: dict[str, Box] = {}
    if reading.mockup.is_vector:
        return boxes
    for layer in reading.drawings():
        if layer.address not in boxes and _is_icon(reading, layer):
            heads = list(_heads(reading, layer))
            boxes |= _seated(reading, heads) if len(heads) > 1 else {}
    return boxes


def _is_icon(reading: Reading, layer: Layer) -> bool:
    if layer.kind is not LayerKind.PIXELS or not reading.mockup.shows(layer):
        return False
    ink = reading.painted(layer)
    return ink is not None and is_small_picture(reading, layer, ink)


def is_small_picture(reading: Reading, layer: Layer, box: Box | Rect) -> bool:
    """Whether a drawing in this box, in mockup pixels, is as small as icons are, and a picture."""
    if max(box.width, box.height) > LARGEST * reading.density or reading.is_words(layer):
        return False
    return reading.judgement(layer).becomes is Becomes.PICTURE


def _heads(reading: Reading, layer: Layer) -> Iterator[_Head]:
    """What an icon and those at its place in things made alike head; nothing where one does not."""
    heads = [_head(reading, icon, group) for icon, group in kin(reading.mockup, layer)]
    yield from (head for head in heads if head is not None and None not in heads)


def _head(reading: Reading, icon: Layer, group: Layer) -> _Head | None:
    ink = reading.painted(icon)
    if ink is None or not _is_icon(reading, icon):
        return None
    parts = [
        (part, box)
        for part in drawings([group])
        if part is not icon and reading.mockup.shows(part) and (box := reading.box(part))
    ]
    below = ink.bottom + BELOW * reading.density
    tops = [box.y for part, box in parts if reading.is_words(part) and ink.bottom <= box.y <= below]
    plates = [box for part, box in parts if box.contains(ink) and not reading.is_words(part)]
    if not tops or not plates:
        return None
    return _Head(icon, ink, max(plates, key=lambda box: box.area), min(tops))


def _seated(reading: Reading, heads: Sequence[_Head]) -> dict[str, Box]:
    """Boxes for the icons of things made alike; none where their ink tells as much."""
    tops = [head.ink.y - head.thing.y for head in heads]
    gaps = [head.title - head.ink.bottom for head in heads]
    top, gap = min(tops), min(gaps)
    heights = [head.title - gap - head.thing.y - top for head in heads]
    highest = max(head.ink.height for head in heads)
    is_even = len({*tops}) == len({*gaps}) == 1
    if is_even or max(heights) - min(heights) > UNEVEN * highest:
        return {}
    left, right = _sides(heads, CENTRED * reading.density)
    boxes = {
        head.icon.address: Box(head.thing.x + left, head.thing.y + top, right - left, height)
        for head, height in zip(heads, heights, strict=True)
    }
    return boxes if all(map(reading.mockup.box.contains, boxes.values())) else {}


def _sides(heads: Sequence[_Head], near: float) -> tuple[int, int]:
    """From where to where the boxes go across, from the left of each thing."""
    left = min(head.ink.x - head.thing.x for head in heads)
    right = max(head.ink.right - head.thing.x for head in heads)
    width = heads[0].thing.width
    offs = [head.ink.x + head.ink.right - 2 * head.thing.x - head.thing.width for head in heads]
    if len({head.thing.width for head in heads}) == 1 and max(map(abs, offs)) <= 2 * near:
        room = min(left, width - right)
        return room, width - room
    return left, right
