"""A reading -> how the page is laid out: its hero, its pictures, its regions of live text."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from riffler.color import Pixels
from riffler.geometry import Box, Size, union
from riffler.mockup.model import Layer, drawings, is_drawing
from riffler.reading.icon_sets import ICON
from riffler.reading.illustration import is_illustration
from riffler.reading.judgement import Becomes, Evidence
from riffler.reading.reading import Reading
from riffler.reading.tiling import GROUND

#: Part of the canvas's width from which a box goes from side to side.
WHOLE_WIDTH = 0.95

#: Lines of text nearer than this, in CSS pixels, are read as one region.
NEAR = 28

#: Pictures of one group that share so much of the smaller one are one picture.
SHARED = 0.1

#: What is smaller than this share of a picture lies on it; what is larger is a part of it.
PART = 0.5

#: So many small drawings of one size on a picture are things strewn on it.
STREWN = 3

#: How far equal pictures may differ in a pixel, 0..1, and in how many of them by more than noise.
UNLIKE, NOISE, EDGES = 0.25, 0.02, 0.1


@dataclass(frozen=True)
class Region:
    """Text that is read together: its layers from the top, and the box around them.

    `column` is the number of the part of one layer that wide gaps set apart, where it is such.
    """

    layers: tuple[Layer, ...]
    box: Box
    column: int | None = None


def pictures(reading: Reading, left_out: set[str]) -> list[tuple[Layer, ...]]:
    """The drawings that must be pictures, with those of one group that lie on each other together.

    A photograph with edges of its own stays by itself, and so does what lies on it or breaks out.
    `left_out` are addresses that something else takes care of. From the top of the page.
    """
    parts: list[list[Layer]] = []
    for layers in _siblings(reading, reading.mockup.layers, parts, left_out):
        drawn = [
            layer
            for layer in layers
            if layer.address not in left_out and _is_picture(reading, layer)
        ]
        groups = _merged(reading, drawn)
        parts.extend(part for group in groups for part in _parted(reading, group))
    ordered = [tuple(sorted(group, key=lambda layer: _area(reading, layer))) for group in parts]
    return sorted((group[::-1] for group in ordered), key=lambda group: _corner(reading, group))


def grouped(reading: Reading, layer: Layer) -> list[list[Layer]]:
    """The pictures that a group shows, at any depth, with those that are one drawing together."""
    shown = (drawing for drawing in drawings([layer]) if drawing.visible)
    art = [part for part in shown if reading.judgement(part).becomes is Becomes.PICTURE]
    return [part for group in _merged(reading, art) for part in _parted(reading, group)]


def _parted(reading: Reading, group: list[Layer]) -> list[list[Layer]]:
    """Pictures that touch, as they are: one drawing, or a photograph and what is stuck on it.

    What is stuck on is small beside it; of an illustration several parts are large.
    """
    whole = whole_of(reading, group)
    under = [part for part in group if is_photograph(reading, [part], within=whole)]
    others = _merged(reading, [part for part in group if part not in under])
    small = PART * whole.area
    if not under or any(whole_of(reading, part).area >= small for part in others):
        return [group]
    return [under, *others]


def is_photograph(reading: Reading, group: Sequence[Layer], within: Box) -> bool:
    """Whether a picture by itself has straight edges and fills a box."""
    box = reading.box(group[0]) if len(group) == 1 else None
    if box is None or (box & within).area < WHOLE_WIDTH * within.area:
        return False
    return reading.judgement(group[0]).is_rectangle


def whole_of(reading: Reading, layers: Sequence[Layer]) -> Box:
    """The box around all that some layers paint."""
    return union(box for layer in layers if (box := reading.painted(layer)))


def _merged(reading: Reading, drawn: Sequence[Layer]) -> list[list[Layer]]:
    """Pictures of one group, with those that touch together."""
    result: list[list[Layer]] = []
    strewn = _strewn(reading, drawn)
    for layer in drawn:
        touching = [
            group
            for group in result
            if not strewn & {layer.address, *(other_layer.address for other_layer in group)}
            and any(_touch(reading, layer, other_layer) for other_layer in group)
        ]
        merged = [layer, *(other_layer for group in touching for other_layer in group)]
        result = [group for group in result if group not in touching] + [merged]
    return result


def _siblings(
    reading: Reading, layers: Sequence[Layer], whole: list[list[Layer]], left_out: set[str]
) -> Iterator[Sequence[Layer]]:
    """Every group of visible layers, outermost first; those of one drawing go into `whole`."""
    yield layers
    for layer in layers:
        if not layer.is_group or not layer.visible or is_drawing(layer):
            continue
        inside = {part.address for part in drawings([layer])}
        if not inside & left_out and is_illustration(reading, [layer]):
            whole.append([layer])
        else:
            yield from _siblings(reading, layer.children, whole, left_out)


def _is_picture(reading: Reading, layer: Layer) -> bool:
    if not layer.visible or [*drawings([layer])] != [layer]:
        return False
    return reading.judgement(layer).becomes is Becomes.PICTURE


def _touch(reading: Reading, layer: Layer, other_layer: Layer) -> bool:
    a, b = reading.painted(layer), reading.painted(other_layer)
    if a is None or b is None or any(map(reading.has_own_edges, (layer, other_layer))):
        return False
    if _is_veil(reading, layer) != _is_veil(reading, other_layer):
        return False
    return (a & b).area >= SHARED * min(a.area, b.area)


def _is_veil(reading: Reading, layer: Layer) -> bool:
    """Whether it lies over much of the page and is so faint that nothing can be told of it."""
    is_faint = reading.judgement(layer).evidence is Evidence.VEIL
    return is_faint and _area(reading, layer) >= GROUND * reading.mockup.box.area


def _strewn(reading: Reading, layers: Sequence[Layer]) -> set[str]:
    """Small drawings of one size, three and more, that lie on a picture: pins on a map."""
    boxes = {layer: box for layer in layers if (box := reading.painted(layer))}
    most = ICON * reading.density
    sizes = Counter(box.size for box in boxes.values())
    small = {
        layer: box
        for layer, box in boxes.items()
        if max(box.width, box.height) <= most and sizes[box.size] >= STREWN
    }
    under = [
        box
        for layer, box in boxes.items()
        if min(box.width, box.height) > most and reading.judgement(layer).is_rectangle
    ]
    return {
        layer.address
        for layer, box in small.items()
        if any(one_box.contains(box) for one_box in under)
    }


def _area(reading: Reading, layer: Layer) -> int:
    box = reading.painted(layer)
    return box.area if box else 0


def _corner(reading: Reading, layers: Sequence[Layer]) -> tuple[int, int]:
    box = union(box for box in map(reading.painted, layers) if box)
    return box.y, box.x


def regions(reading: Reading, left_out: set[str], grounds: Sequence[Box]) -> list[Region]:
    """The text that is not part of something else, in regions: on one ground, line by line.

    `grounds` are boxes that text lies on; text on two of them is never one region.
    """
    texts, parted = list[tuple[Box, Layer]](), list[Region]()
    for layer in reading.drawings():
        if layer.address in left_out or not reading.mockup.shows(layer):
            continue
        box = reading.box(layer) if reading.is_words(layer) else None
        parts = columns(reading, layer)
        parted.extend(Region((layer,), part, number) for number, part in enumerate(parts))
        if box is not None and not parts:
            texts.append((box, layer))
    texts.sort(key=lambda pair: (pair[0].y, pair[0].x))
    together = [
        Region(tuple(layer for _, layer in group), union(box for box, _ in group))
        for group in _together(reading, texts, grounds)
    ]
    return [*together, *parted]


def columns(reading: Reading, layer: Layer) -> tuple[Box, ...]:
    """The parts of a text in pixels that wide gaps set apart, where there are several."""
    if layer.words is not None or not reading.is_words(layer):
        return ()
    lettering = reading.lettering(layer)
    return lettering.columns if lettering is not None and len(lettering.columns) > 1 else ()


def _together(
    reading: Reading, texts: Sequence[tuple[Box, Layer]], grounds: Sequence[Box]
) -> list[list[tuple[Box, Layer]]]:
    """Texts in groups of those that follow one another on one ground."""
    on_ground: dict[Box | None, list[list[tuple[Box, Layer]]]] = {}
    result: list[list[tuple[Box, Layer]]] = []
    for box, layer in texts:
        groups = on_ground.setdefault(_ground(box, grounds), [])
        near = (
            group
            for group in groups
            if any(_is_next(reading, other_box, box) for other_box, _ in group)
        )
        home = next(near, None)
        if home is None:
            home = []
            groups.append(home)
            result.append(home)
        home.append((box, layer))
    return result


def _ground(box: Box, grounds: Sequence[Box]) -> Box | None:
    """The smallest ground that a box lies on."""
    under = [ground for ground in grounds if ground.contains(box)]
    return min(under, key=lambda ground: ground.area) if under else None


def _is_next(reading: Reading, above: Box, below: Box) -> bool:
    gap = below.y - above.bottom
    beside = min(above.right, below.right) - max(above.x, below.x)
    return gap <= NEAR * reading.density and beside > 0


def equal(
    reading: Reading, groups: Sequence[tuple[Layer, ...]], boxes: Mapping[tuple[Layer, ...], Box]
) -> list[list[tuple[Layer, ...]]]:
    """Pictures that look the same, in sets of two and more."""
    sizes: dict[Size, list[tuple[Layer, ...]]] = {}
    for layers in groups:
        sizes.setdefault(boxes[layers].size, []).append(layers)
    sets: list[list[tuple[Layer, ...]]] = []
    for members in sizes.values():
        kinds: list[tuple[Pixels, list[tuple[Layer, ...]]]] = []
        for layers in members if len(members) > 1 else ():
            pixels = _drawn(reading, layers, boxes[layers])
            kind = next(
                (members for known_pixels, members in kinds if _are_equal(known_pixels, pixels)),
                None,
            )
            if kind is None:
                kinds.append((pixels, [layers]))
            else:
                kind.append(layers)
        sets.extend(members for _, members in kinds if len(members) > 1)
    return sets


def _drawn(reading: Reading, layers: tuple[Layer, ...], box: Box) -> Pixels:
    shown = frozenset[str]().union(*(reading.mockup.alone(layer.address) for layer in layers))
    return reading.renderer.render(box, 1.0, shown)


def _are_equal(pixels: Pixels, other_pixels: Pixels) -> bool:
    """Whether one can stand for the other: edges may fall a little otherwise on the pixels."""
    painted = np.maximum(pixels[..., 3], other_pixels[..., 3]) > 0
    off = np.abs(pixels - other_pixels).max(axis=2)[painted]
    if not off.size:
        return True
    return float(off.max(initial=0)) <= UNLIKE and float((off > NOISE).mean()) <= EDGES
