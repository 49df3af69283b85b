"""Areas as they were measured -> areas on whole CSS pixels, as people lay out pages.

Where something lies is rounded, and never how far it is from something else: nothing adds up.
"""

from __future__ import annotations

import math
from dataclasses import replace

from riffler.analyse.style import Radii, Style
from riffler.geometry import Rect
from riffler.markup.area import Area, Piece
from riffler.markup.extents import hugs

#: How far a length may be from half a pixel and still be one.
HALF = 0.05


def on_pixels(area: Area) -> Area:
    """An area with all that is in it, each edge, baseline and radius on a whole pixel.

    How wide words are is no whole number: where they begin beside others, and where a plate ends
    that is as wide as its label, stays what it is.
    """
    parts = tuple(map(on_pixels, area.parts))
    setting = area.setting and replace(area.setting, baseline=float(round(area.setting.baseline)))
    ground = area.ground and _rounded(area.ground, area.box)
    if setting is not None:
        box = setting.box
    elif area.is_frame and parts:
        box = Rect.around(part.box for part in parts) or area.box
    else:
        box = _box(area.box, has_border=bool(area.ground and area.ground.border))
        if hugs(area):
            box = replace(box, x=area.box.x, width=area.box.width)
    piece = area.piece and _placed(area.piece)
    return replace(area, box=box, parts=parts, setting=setting, ground=ground, piece=piece)


def _box(box: Rect, *, has_border: bool) -> Rect:
    left, right = _span(box.x, box.right, has_border=has_border)
    top, bottom = _span(box.y, box.bottom, has_border=has_border)
    return Rect(left, top, right - left, bottom - top)


def _span(start: float, end: float, *, has_border: bool) -> tuple[float, float]:
    """From where to where something goes: what has a border drawn on its edge ends inside of it."""
    first, last = float(round(start)), float(round(end))
    if _is_half(start) and _is_half(end):
        first = float(math.ceil(start - HALF) if has_border else math.floor(start))
        last = float(math.floor(end + HALF)) if has_border else first + round(end - start)
    return first, max(last, first + 1)


def _is_half(length: float) -> bool:
    return abs(length % 1 - 0.5) <= HALF


def _placed(piece: Piece) -> Piece:
    """A picture of its own size that begins on a whole pixel."""
    paint = piece.paint
    return replace(piece, paint=replace(paint, x=float(round(paint.x)), y=float(round(paint.y))))


def _rounded(ground: Style, box: Rect) -> Style:
    """A ground with whole radii: those of a pill go on to the middle of its side."""
    if ground.radii is None:
        return ground
    side = min(box.width, box.height)
    radii = [
        float(math.ceil(radius) if 2 * radius >= side - 1 else math.floor(radius + 0.5 - HALF))
        for radius in ground.radii.listed
    ]
    return replace(ground, radii=Radii(*radii))
