"""A mockup -> its density, told by the file, the edges of its boxes, and its letters."""

from __future__ import annotations

from riffler.mockup.density import Density, by_edges, by_letters, settled, signs
from riffler.mockup.model import Kind
from riffler.reading.reading import Reading

#: Drawings at least so wide or high, in mockup pixels, have edges that were set and not drawn.
PLATE = 160


def likely(reading: Reading) -> Density:
    """What most speaks for; nothing that depends on the reading's own density is asked."""
    renderer = reading.renderer
    found = signs(renderer.mockup)
    edges: list[int] = []
    heights = []
    for layer in reading.drawings():
        box = renderer.own_box(layer.address) if renderer.mockup.shows(layer) else None
        if box is None:
            continue
        if text := reading.seen_text(layer):
            heights += [text.height] * len(text.lines)
        elif layer.kind is not Kind.WORDS and max(box.width, box.height) >= PLATE:
            edges += (box.x, box.y, box.right, box.bottom)
    more = [by_edges(edges)]
    if not renderer.mockup.is_vector:
        more.append(by_letters(heights, renderer.mockup.size.width))
    return settled([*found, *(sign for sign in more if sign)])
