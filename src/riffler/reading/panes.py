"""A layer of pixels -> the style of a box that is no plain one, and whether any style is so.

Of a border with nothing in it, a hard shadow, a pane that shows what is below, a box that fades.
"""

from __future__ import annotations

from dataclasses import replace
from typing import TypeAlias

from riffler.analyse.fading import fading_of
from riffler.analyse.frame import frame_of
from riffler.analyse.glass import glass_of
from riffler.analyse.outline import Outline, OutlineShape
from riffler.analyse.repainted import AROUND, holds
from riffler.analyse.stamped import stamped_of
from riffler.analyse.style import Style
from riffler.color import Pixels, is_opaque
from riffler.geometry import Box, Rect
from riffler.mockup.model import Layer
from riffler.render.renderer import Renderer

#: Boxes of more pixels are not drawn again to be held against what is seen.
HELD = 4_000_000

#: Layers of more pixels are not looked at closely for a thin border.
FRAMED = 2_000_000

Pane: TypeAlias = tuple[Style, Box | None]
"""A style in mockup pixels, and the box on the canvas where it is not the solid one."""


def held(renderer: Renderer, layer: Layer, style: Style, box: Box | None = None) -> bool:
    """Whether a style draws the layer again, pixel by pixel, in the solid box or another."""
    box = box or renderer.solid_box(layer.address)
    if box is None or box.area > HELD:
        return True
    place = box.grown(AROUND) & renderer.mockup.box
    pixels = renderer.render(place, 1.0, renderer.mockup.alone(layer.address))
    if layer.opacity < 1:
        pixels = pixels / layer.opacity
    return holds(pixels, replace(style, opacity=1.0), box.moved(-place.x, -place.y))


def pane_of(
    renderer: Renderer, layer: Layer, box: Box, pixels: Pixels, outline: Outline
) -> Pane | None:
    """The style of a box that is no plain one; None for anything else.

    `box` is what the layer paints. pixels: (H, W, 4) float32, premultiplied, 0..1, a sample of it.
    """
    is_solid, step = is_opaque(pixels), box.width / pixels.shape[1]
    whole = None if is_solid or box.area > FRAMED else pixels
    if whole is not None and step > 1:  # thin borders want every pixel
        whole = renderer.render(box, 1.0, renderer.mockup.alone(layer.address))
    if outline.shape is OutlineShape.ODD:
        frame = frame_of(pixels if whole is None else whole)
        if frame is not None:
            return (frame.scaled(step) if whole is None else frame), None
    if not layer.is_group and (stamped := _stamped(renderer, layer, box, pixels)):
        return stamped
    if is_solid:
        return None
    glass = None if whole is None else glass_of(whole)
    if glass and held(renderer, layer, glass):
        return glass, None
    return _fading(renderer, layer, box, pixels, whole)


def _stamped(renderer: Renderer, layer: Layer, box: Box, pixels: Pixels) -> Pane | None:
    """A flat box with a hard shadow."""
    step, stamped = box.width / pixels.shape[1], stamped_of(pixels)
    if stamped is None:
        return None
    style = stamped[0].scaled(step)
    plate = Rect.of(stamped[1]).scaled(step).outward().moved(box.x, box.y)
    return (style, plate) if held(renderer, layer, style, plate) else None


def _fading(
    renderer: Renderer, layer: Layer, box: Box, pixels: Pixels, whole: Pixels | None
) -> Pane | None:
    """A box that fades away, which is all of what is painted; corners want every pixel."""
    fading, step = fading_of(pixels), box.width / pixels.shape[1]
    if fading and step > 1:
        if whole is None:
            whole = renderer.render(box, 1.0, renderer.mockup.alone(layer.address))
        fading = fading_of(whole) or fading.scaled(step)
    return (fading, box) if fading else None
