"""A point of a mockup -> the layers that paint there, topmost first."""

from __future__ import annotations

from dataclasses import dataclass

from riffler.color import hex_of, to_bytes
from riffler.errors import RifflerError
from riffler.geometry import Box
from riffler.mockup.model import Layer, LayerKind
from riffler.render.renderer import Renderer


@dataclass(frozen=True)
class Hit:
    """A layer that paints at the point: its address, its own colour, and whether it shows."""

    address: str
    color: str
    kind: LayerKind
    shown: bool


def layers_at(renderer: Renderer, x: int, y: int) -> tuple[str, list[Hit]]:
    """The colour that the mockup has at a pixel, and the layers that make it.

    Hidden layers that would paint there are among them. Raises RifflerError beyond the canvas.
    """
    mockup = renderer.mockup
    point = Box(x, y, 1, 1)
    if not mockup.box.contains(point):
        size = mockup.size
        raise RifflerError(
            f"{x}, {y} lies outside the canvas of {size.width} x {size.height} px.",
            "Points are counted in mockup pixels from the top left corner.",
        )
    hits = []
    for layer in mockup.walk():
        if layer.is_group or not _may_touch(layer, point):
            continue
        around = [group.address for group in mockup.ancestors(layer.address)]
        color = _color(renderer, point, frozenset((layer.address, *around)))
        if color is not None:
            hits.append(Hit(layer.address, color, layer.kind, mockup.shows(layer)))
    return _color(renderer, point, mockup.drawn) or "#00000000", hits


def _may_touch(layer: Layer, point: Box) -> bool:
    return layer.box is None or layer.box.contains(point)


def _color(renderer: Renderer, point: Box, shown: frozenset[str]) -> str | None:
    pixel = to_bytes(renderer.render(point, 1.0, shown))[0, 0]
    return hex_of(pixel) if pixel[3] else None
