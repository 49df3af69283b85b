"""A layer of pixels -> the style that draws all of it again, with everything that it casts."""

from __future__ import annotations

from dataclasses import replace

from riffler.analyse.drawn import style_of
from riffler.analyse.style import Radii, Style
from riffler.geometry import Box
from riffler.mockup.model import Layer
from riffler.render.renderer import Renderer

#: Layers of more pixels are not fitted.
LARGEST = 12_000_000

#: Opacity up to which what a layer shows is too faint to tell a style by.
VEIL = 1 / 16

#: A length so near a whole CSS pixel was meant to be one.
NEARLY = 1 / 3


def fitted(renderer: Renderer, layer: Layer, box: Box | None) -> Style | None:
    """The style of a box, fitted to every pixel; lengths are mockup pixels.

    `box` is what the layer paints. None for what no style sheet draws.
    """
    mockup = renderer.mockup
    if box is None or box.area > LARGEST or layer.opacity <= VEIL:
        return None
    place = box.grown(2) & mockup.box  # what lies beyond the canvas is not known
    pixels = renderer.render(place, 1.0, mockup.alone(layer.address))
    style = style_of((pixels / layer.opacity).clip(0, 1))
    return style and replace(style[0], opacity=layer.opacity, blend=layer.blend)


def by_hand(style: Style, density: float) -> Style:
    """A style that was measured in pixels, in lengths as people write them: halves of a CSS pixel.

    What is within a third of a whole pixel is one.
    """

    def told(length: float) -> float:
        value = length / density
        whole = abs(value - round(value)) < NEARLY
        return (round(value) if whole else round(2 * value) / 2) * density

    return replace(
        style,
        radii=style.radii and Radii(*map(told, style.radii.listed)),
        border=style.border and replace(style.border, width=told(style.border.width)),
        shadows=tuple(
            replace(
                shadow,
                x=told(shadow.x),
                y=told(shadow.y),
                blur=told(shadow.blur),
                spread=told(shadow.spread),
            )
            for shadow in style.shadows
        ),
    )
