"""A mockup -> its density, told by the file, the edges of its boxes, and its letters."""

from __future__ import annotations

from collections.abc import Container

from riffler.mockup.density import Density, Sign, by_edges, by_letters, settled, signs
from riffler.mockup.model import Kind, drawings
from riffler.reading.reading import Reading
from riffler.render.renderer import Renderer

#: Drawings at least so wide or high, in mockup pixels, have edges that were set and not drawn.
PLATE = 160


def likely(reading: Reading) -> Density:
    """What most speaks for; nothing that depends on the reading's own density is asked."""
    mockup = reading.mockup
    texts = {
        layer.address: text for layer in reading.drawings()
        if mockup.shows(layer) and (text := reading.seen_text(layer))
    }  # fmt: skip
    more = [_by_edges(reading.renderer, texts)]
    if not mockup.is_vector:
        heights = [text.height for text in texts.values() for _ in text.lines]
        more.append(by_letters(heights, mockup.size.width))
    return settled([*signs(mockup), *(sign for sign in more if sign)])


def at_a_glance(renderer: Renderer) -> Density:
    """The same without a look at letters in pixels."""
    edges = _by_edges(renderer)
    return settled([*signs(renderer.mockup), *([edges] if edges else [])])


def _by_edges(renderer: Renderer, texts: Container[str] = ()) -> Sign | None:
    edges: list[int] = []
    for layer in drawings(renderer.mockup.layers):
        is_text = layer.kind is Kind.WORDS or layer.address in texts
        if is_text or not renderer.mockup.shows(layer):
            continue
        box = renderer.own_box(layer.address)
        if box is not None and max(box.width, box.height) >= PLATE:
            edges += (box.x, box.y, box.right, box.bottom)
    return by_edges(edges)
