"""A reading -> the head of the page: its picture, and what lies on the artwork."""

from __future__ import annotations

from collections.abc import Iterator, Sequence, Set
from functools import partial

from riffler.geometry import Box
from riffler.mockup.model import Layer, drawings, is_drawing
from riffler.reading import layer_names
from riffler.reading.judgement import Becomes
from riffler.reading.layout import PART, WHOLE_WIDTH, grouped, is_photograph, whole_of
from riffler.reading.reading import Reading

#: A hero begins in this upper part of the page, in CSS pixels, and is at least so high.
HERO_TOP, HERO_HEIGHT = 400, 120


def hero(reading: Reading, repeated: Set[str] = frozenset()) -> Layer | None:
    """The large picture at the head of the page: a layer or group, from side to side.

    A group with `repeated` things in it, by address, is a row of them and no picture.
    """
    candidates = []
    for layer in reading.mockup.layers:
        box = reading.renderer.solid_box(layer.address) if layer.visible else None
        box = box & reading.mockup.box if box else None
        if not box or not _is_at_the_head(reading, layer, box):
            continue
        if any(part.address in repeated for part in layer.walk()):
            continue
        if _is_artwork(reading, layer, box):
            named = layer_names.means(layer, layer_names.HERO)
            candidates.append((not named, box.y, layer))
    return min(candidates, key=lambda candidate: candidate[:2])[2] if candidates else None


def _is_artwork(reading: Reading, layer: Layer, box: Box) -> bool:
    """Whether the pictures of a head are one that fills most of it.

    Small ones on a ground that a style sheet draws are pictures by themselves.
    """
    return any(
        (whole_of(reading, group) & box).area >= PART * box.area and not _is_half(reading, group)
        for group in grouped(reading, layer)
    )


def _is_half(reading: Reading, group: Sequence[Layer]) -> bool:
    """Whether it is one picture with straight edges that ends beside something else."""
    if len(group) != 1 or not reading.judgement(group[0]).is_rectangle:
        return False
    return whole_of(reading, group).width < WHOLE_WIDTH * reading.mockup.box.width


def _is_at_the_head(reading: Reading, layer: Layer, box: Box) -> bool:
    """Whether a box goes from side to side at the head of the page, and is not most of it."""
    canvas, density = reading.mockup.box, reading.density
    if box.width < WHOLE_WIDTH * canvas.width:
        return False
    if box.height < HERO_HEIGHT * density or box.y > HERO_TOP * density:
        return False
    return box.height <= 0.6 * canvas.height or layer_names.means(layer, layer_names.HERO)


def upon(reading: Reading, head: Layer, box: Box) -> Iterator[Layer]:
    """What lies over a head and is no part of it, from the top of the stack: whole groups of it.

    But for text alone, which no picture shows.
    """
    mockup = reading.mockup
    chain = [head, *mockup.ancestors(head.address)]
    inside = {layer.address for layer in chain}
    rows = [*(layer.children for layer in chain[1:]), mockup.layers]
    for layers in reversed(rows):
        for layer in layers:
            if layer.address in inside:
                break
            drawn = [part for part in drawings([layer]) if mockup.shows(part)]
            if any(
                not reading.is_words(part) and (own := reading.painted(part)) and own.meets(box)
                for part in drawn
            ):
                yield layer


def beside_artwork(reading: Reading, head: Layer, box: Box) -> list[Layer]:
    """What lies on the artwork of a head and is no part of it, from the top of the stack.

    Groups with words and nothing large in them, such as logos and buttons; boxes under words;
    photographs with edges of their own; and any picture where the artwork is a photograph.
    """
    is_photo = any(map(partial(is_photograph, reading, within=box), grouped(reading, head)))
    texts = [
        own_box
        for part in drawings([head])
        if part.visible and reading.is_words(part) and (own_box := reading.box(part))
    ]

    def beside(layers: Sequence[Layer]) -> Iterator[Layer]:
        for layer in layers:
            if not layer.visible or reading.is_words(layer):
                continue
            if layer.is_group and not is_drawing(layer):
                if _is_label(reading, layer, box):
                    yield layer
                else:
                    yield from beside(layer.children)
            elif _is_on_artwork(reading, layer, box, texts, is_photo=is_photo):
                yield layer

    return list(beside(head.children))


def _is_label(reading: Reading, group: Layer, whole: Box) -> bool:
    """Whether a group in a head has words, and all else in it is small beside the head."""
    shown = [part for part in drawings(group.children) if part.visible]
    other_layers = [part for part in shown if not reading.is_words(part)]
    if not other_layers or len(other_layers) == len(shown):
        return False
    return all(
        (own_box := reading.box(part)) is None or own_box.area < PART * whole.area
        for part in other_layers
    )


def _is_on_artwork(
    reading: Reading, layer: Layer, whole: Box, texts: Sequence[Box], *, is_photo: bool
) -> bool:
    """Whether a drawing in a head is a box under words, or a picture by itself."""
    box = reading.box(layer)
    if box is None or box.area >= PART * whole.area:
        return False
    becomes = reading.judgement(layer).becomes
    if reading.has_own_edges(layer) or (is_photo and becomes is Becomes.PICTURE):
        return True
    is_box = becomes is Becomes.CSS
    return is_box and any(box.contains(text) for text in texts)
