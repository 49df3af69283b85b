"""Single letters and figures in pixels: words by what stands at their place in things made alike.

A figure by itself is a shape like any other. In a row of buttons, bars or facts the same place
holds words in the others, or other figures of the same height.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from itertools import islice

from riffler.analyse.lettering import Lettering
from riffler.mockup.model import Layer, LayerKind, Mockup, drawings

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
    return [other_layer for other_layer, _ in kin(mockup, layer) if other_layer is not layer]


def kin(mockup: Mockup, layer: Layer) -> list[tuple[Layer, Layer]]:
    """A layer and its cousins, if it has several, each with the group that it stands in."""
    for around in islice(mockup.ancestors(layer.address), HIGHEST_UP):
        above = next(mockup.ancestors(around.address), None)
        beside = above.children if above else mockup.layers
        own = [part.address for part in drawings(around.children)]
        place = own.index(layer.address) if layer.address in own else None
        layers = []
        for group in beside:
            parts = list(drawings(group.children)) if group.is_group else []
            if place is not None and len(parts) == len(own):
                layers.append((parts[place], group))
        if len(layers) > 2 and all(part.kind is LayerKind.PIXELS for part, _ in layers):
            return layers
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
    other_layers = cousins(mockup, layer)
    own_lettering = sign_of(layer) if len(other_layers) > 1 else None
    if own_lettering is None or not LOWEST * density <= own_lettering.height <= HIGHEST * density:
        return None
    texts = [text for other_layer in other_layers if (text := text_of(other_layer))]
    seen = [
        lettering
        for other_layer in other_layers
        if (lettering := text_of(other_layer) or sign_of(other_layer))
    ]
    if len(seen) < len(other_layers) or not all(
        _is_near(lettering, own_lettering) for lettering in seen
    ):
        return None
    is_text = 2 * len(texts) >= len(other_layers)
    return own_lettering if is_text or _are_figures([own_lettering, *seen]) else None


def _is_near(first: Lettering, second: Lettering) -> bool:
    """Whether lines are about as high: a figure beside words with stems and tails."""
    return 0.6 <= first.lines[0].height / second.height <= 1.7


def _are_figures(signs: Sequence[Lettering]) -> bool:
    """Whether shapes are narrow, as high as each other, and not all the same."""
    heights = [sign.height for sign in signs]
    widths = [sign.lines[0].width for sign in signs]
    if max(heights) - min(heights) > max(1.0, UNLIKE * max(heights)):
        return False
    return sum(widths) <= NARROW * sum(heights) and 2 * len(set(widths)) > min(len(signs), 4)
