"""Single letters and figures in pixels: words by what stands at their place in things made alike.

A figure by itself is a shape like any other. In a row of buttons, bars or facts the same place
holds words in the others, or other figures of the same height.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from itertools import islice

from riffler.analyse.lettering import Lettering
from riffler.mockup.model import Kind, Layer, Mockup, drawings

#: How many groups around a layer are looked at.
HIGHEST_UP = 3

#: Heights of letters, in CSS pixels.
LOWEST, HIGHEST = 5, 72

#: Figures are taller than wide; as wide as this in the mean, and icons are not.
NARROW = 0.92

#: By how much figures of one size differ in height, at most.
UNLIKE = 0.12


def cousins(mockup: Mockup, layer: Layer) -> list[Layer]:
    """What stands at its place in the groups beside its own, or beside one around that.

    Such groups have as many parts; all of what stands there is pixels.
    """
    for around in islice(mockup.ancestors(layer.address), HIGHEST_UP):
        above = next(mockup.ancestors(around.address), None)
        beside = above.children if above else mockup.layers
        own = [part.address for part in drawings(around.children)]
        place = own.index(layer.address) if layer.address in own else None
        found = []
        for group in beside:
            parts = list(drawings(group.children)) if group.is_group else []
            if place is not None and group is not around and len(parts) == len(own):
                found.append(parts[place])
        if len(found) > 1 and all(other.kind is Kind.PIXELS for other in found):
            return found
    return []


def short_word(
    mockup: Mockup,
    layer: Layer,
    density: float,
    text_of: Callable[[Layer], Lettering | None],
    sign_of: Callable[[Layer], Lettering | None],
) -> Lettering | None:
    """The layer as text, if its cousins say so.

    `text_of` and `sign_of` tell what is seen of one by itself.
    """
    others = cousins(mockup, layer)
    own = sign_of(layer) if len(others) > 1 else None
    if own is None or not LOWEST * density <= own.height <= HIGHEST * density:
        return None
    texts = [text for other in others if (text := text_of(other))]
    seen = [one for other in others if (one := text_of(other) or sign_of(other))]
    if len(seen) < len(others) or not all(_is_near(one, own) for one in seen):
        return None
    is_text = 2 * len(texts) >= len(others)
    return own if is_text or _are_figures([own, *seen]) else None


def _is_near(one: Lettering, other: Lettering) -> bool:
    """Whether lines are about as high: a figure beside words with stems and tails."""
    return 0.6 <= one.lines[0].height / other.height <= 1.7


def _are_figures(signs: Sequence[Lettering]) -> bool:
    """Whether shapes are narrow, as high as each other, and not all the same."""
    heights = [sign.height for sign in signs]
    widths = [sign.lines[0].width for sign in signs]
    if max(heights) - min(heights) > max(1.0, UNLIKE * max(heights)):
        return False
    return sum(widths) <= NARROW * sum(heights) and 2 * len(set(widths)) > min(len(signs), 4)
