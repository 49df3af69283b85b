"""A mockup -> its density, told by the file, the edges of its boxes, and its letters.

Density is what most signs speak for: the file's resolution and name, its text, letters and edges.
No single one of them is sure.
"""

from __future__ import annotations

from collections.abc import Container

from riffler.mockup.density import Density, Sign, by_edges, by_letters, settled, signs
from riffler.mockup.model import Layer, LayerKind, drawings
from riffler.reading.reading import Reading
from riffler.render.renderer import Renderer

#: Drawings at least so wide or high, in mockup pixels, have edges that were set and not drawn.
PLATE = 160

#: Texts that are looked at, and how low a layer is that may be a line of text.
GLANCE, LOW = 24, 120


def likely(reading: Reading) -> Density:
    """What most speaks for; nothing that depends on the reading's own density is asked."""
    mockup = reading.mockup
    texts = {
        layer.address: text
        for layer in reading.drawings()
        if mockup.shows(layer) and (text := reading.seen_text(layer))
    }
    more = [_by_edges(reading.renderer, texts)]
    if not mockup.is_vector:
        heights = [text.height for text in texts.values() for _ in text.lines]
        more.append(by_letters(heights, mockup.size.width))
    return settled([*signs(mockup), *(sign for sign in more if sign)])


def at_a_glance(reading: Reading) -> Density:
    """The density by fewer signs: only some texts are drawn, the smallest of those in pixels."""
    mockup, renderer = reading.mockup, reading.renderer
    lines = [layer for layer in reading.drawings() if mockup.shows(layer) and _is_a_line(layer)]
    edges = _by_edges(renderer, {layer.address for layer in lines})
    found_signs = [*signs(mockup), *([edges] if edges else [])]
    if not mockup.is_vector:
        lines.sort(key=lambda layer: layer.box.area if layer.box else 0)
        texts = [text for layer in lines[:GLANCE] if (text := reading.seen_text(layer))]
        letters = by_letters([text.height for text in texts for _ in text.lines], mockup.size.width)
        if letters:  # edges of texts that are no lines say nothing, and are not told from others
            found_signs = [*signs(mockup), letters]
    return settled(found_signs)


def _is_a_line(layer: Layer) -> bool:
    """Whether a layer of pixels is as long and low as a line of text."""
    box = layer.box
    return box is not None and box.height <= LOW and box.width >= 2 * box.height


def _by_edges(renderer: Renderer, texts: Container[str] = ()) -> Sign | None:
    edges: list[int] = []
    for layer in drawings(renderer.mockup.layers):
        is_text = layer.kind is LayerKind.WORDS or layer.address in texts
        if is_text or not renderer.mockup.shows(layer):
            continue
        box = renderer.own_box(layer.address)
        if box is not None and max(box.width, box.height) >= PLATE:
            edges += (box.x, box.y, box.right, box.bottom)
    return by_edges(edges)
