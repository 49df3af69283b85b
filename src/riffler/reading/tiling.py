"""A layer of a texture, or of a pattern -> the piece of it that repeats; None for any other."""

from __future__ import annotations

from typing import Literal, TypeAlias

from riffler.analyse import texture
from riffler.color import Pixels, is_opaque
from riffler.geometry import Box
from riffler.mockup.model import Layer
from riffler.reading.judgement import Becomes, Evidence, Judgement
from riffler.reading.vectors import patterned
from riffler.render.renderer import Renderer
from riffler.render.sampling import crop

Repeat: TypeAlias = Literal["x", "y", "both"]

#: Part of the canvas from which a layer is large enough to be the ground of the page.
GROUND = 0.3

#: Pixels along each side of the piece in which a texture's period is looked for.
PERIOD_SIDE = 1400

#: The same, in CSS pixels, where a layer is no ground, and the smallest side that it has then.
PIECE_SIDE, TEXTURE = 320, 96

#: The side of the piece that is taken of a texture without a step, in CSS pixels.
CHUNK = 240

#: How many times longer than wide a strip is.
STRIP = 6


def pattern(renderer: Renderer, layer: Layer, box: Box) -> Judgement | None:
    """A box that the file itself fills with a pattern, by its step; it goes as far as the box."""
    step = patterned(renderer.mockup, layer)
    if step is None:
        return None
    across, down = min(round(step[0]), box.width), min(round(step[1]), box.height)
    repeat: Repeat = "both"
    if down == box.height or across == box.width:
        repeat = "x" if down == box.height else "y"
    return _tile(Evidence.PERIOD, (across, down), repeat, is_said=True)


def tile(
    renderer: Renderer, box: Box, shown: frozenset[str], pixels: Pixels, density: float
) -> Judgement | None:
    """A texture that repeats both ways, a strip that does along it, or a ground alike everywhere.

    pixels: (H, W, 4) float32, premultiplied, 0..1, a sample of the layer that is `shown` in `box`.
    """
    if max(box.width, box.height) >= STRIP * min(box.width, box.height):
        return _strip(renderer, box, shown)
    if min(box.width, box.height) < TEXTURE * density or not is_opaque(pixels):
        return None
    is_ground = box.area >= GROUND * renderer.mockup.box.area
    side = PERIOD_SIDE if is_ground else round(PIECE_SIDE * density)
    values = texture.grey(renderer.render(crop(box, side), 1.0, shown))
    if period := texture.period(values):
        return _tile(Evidence.PERIOD, period)
    if not is_ground or not texture.is_grain(values):
        return None
    side = round(CHUNK * density)
    return _tile(Evidence.GRAIN, (min(side, box.width // 2), min(side, box.height // 2)))


def _strip(renderer: Renderer, box: Box, shown: frozenset[str]) -> Judgement | None:
    """A strip by its step, with its other side; None where it does not repeat."""
    is_across = box.width > box.height
    piece = renderer.render(crop(box, PERIOD_SIDE), 1.0, shown)
    step = texture.strip_period(texture.grey(piece if is_across else piece.transpose(1, 0, 2)))
    if step is None:
        return None
    period = (step, box.height) if is_across else (box.width, step)
    return _tile(Evidence.PERIOD, period, "x" if is_across else "y")


def _tile(
    evidence: Evidence, period: tuple[int, int], repeat: Repeat = "both", *, is_said: bool = False
) -> Judgement:
    return Judgement(
        Becomes.TILE, evidence, period=period, repeat=repeat, is_rectangle=True, is_said=is_said
    )
