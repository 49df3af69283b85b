"""Tabs -> the bar that they lie on, and their boxes: as high as it, meeting half-way between."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise

from riffler.analyse.repetition import TOLERANCE, lattice
from riffler.geometry import Box, union
from riffler.mockup.model import Layer, is_drawing
from riffler.reading.reading import Reading

#: What lies between the only tab there is and the next, in pixels.
USUAL_GAP = 40


def from_the_left(boxes: Sequence[Box]) -> list[int]:
    """The numbers of boxes in the order in which they stand."""
    return sorted(range(len(boxes)), key=lambda index: boxes[index].x)


def bar_of(reading: Reading, siblings: Sequence[Layer], members: list[Layer]) -> Layer | None:
    """The plain box that all the members lie on, from top to bottom."""
    boxes = [reading.extent(member) for member in members]
    whole = union(box for box in boxes if box)
    for layer in siblings:
        if not layer.visible or not is_drawing(layer) or layer in members:
            continue
        box = reading.box(layer)
        if box and box.contains(whole) and box.height <= 4 * whole.height + 40 * reading.density:
            return layer
    return None


def tab_boxes(reading: Reading, boxes: list[Box], bar: Layer) -> list[Box]:
    """Tabs as high as their bar; where only labels are drawn, they meet half-way between."""
    around = reading.box(bar)
    assert around is not None
    order = from_the_left(boxes)
    ordered = [boxes[index] for index in order]
    gaps = [b.x - a.right for a, b in pairwise(ordered)]
    step = lattice(ordered, round(TOLERANCE * reading.density))
    if step is not None and all(0 <= gap <= 4 * reading.density for gap in gaps):
        edges = _even_edges(ordered, step.step[0])
        tabs = [
            _on_css_pixels(Box(left, around.y, step.step[0], around.height), reading.density)
            for left in edges
        ]
    else:
        edges = _edges_between(ordered, around)
        tabs = [
            Box.from_edges(left, around.y, right, around.bottom) for left, right in pairwise(edges)
        ]
    placed = dict(zip(order, tabs, strict=True))
    return [placed[index] for index in range(len(boxes))]


def _even_edges(ordered: Sequence[Box], pitch: int) -> list[int]:
    """Where tabs of one width begin, that are as wide as from one to the next."""
    spare = pitch - max(box.width for box in ordered)
    return [ordered[0].x - spare // 2 + place * pitch for place in range(len(ordered))]


def _edges_between(ordered: Sequence[Box], bar: Box) -> list[int]:
    """Half-way between labels, and as far beyond the first and the last one, on the bar."""
    gaps = [b.x - a.right for a, b in pairwise(ordered)] or [USUAL_GAP]
    return [
        max(bar.x, ordered[0].x - gaps[0] // 2),
        *(a.right + (b.x - a.right) // 2 for a, b in pairwise(ordered)),
        min(bar.right, ordered[-1].right + gaps[-1] // 2),
    ]


def _on_css_pixels(box: Box, density: float) -> Box:
    """The box moved to whole CSS pixels; its size is kept."""
    step = max(1, round(density))
    return Box(box.x // step * step, box.y, box.width, box.height)
