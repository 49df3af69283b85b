"""A style read from a sample -> the same with corners and borders from the pixels themselves."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from riffler.analyse.drawn import NEARLY_HALF
from riffler.analyse.exact_edges import border_of, corner_radius
from riffler.analyse.style import Radii, Style
from riffler.color import Pixels
from riffler.geometry import Box
from riffler.mockup.model import Layer
from riffler.render.renderer import Renderer

#: The largest corner that is measured, and how deep a border is looked for, in CSS pixels.
CORNER, DEPTH = 64, 6

#: Lines across each edge that a border is looked for in.
LINES = 9


def measured(renderer: Renderer, layer: Layer, style: Style, density: float) -> Style:
    """The style of a box with straight edges, its lengths in mockup pixels."""
    box = renderer.solid_box(layer.address)
    if style.radii is None or box is None or min(box.width, box.height) < 4:
        return style
    shown = renderer.mockup.alone(layer.address)
    side = max(2, min(round(CORNER * density), box.width // 2, box.height // 2))
    radii = Radii(*(corner_radius(crop) for crop in _corners(renderer, box, side, shown)))
    depth = min(round(DEPTH * density), min(box.width, box.height) // 2)
    border = border_of([_profile(renderer, box, depth, shown, turn) for turn in range(4)])
    if border is not None and border.width > depth / 2:
        border = None
    return replace(style, radii=_rounded(_evened(radii), box), border=border)


def _evened(radii: Radii) -> Radii:
    """One radius where all four are nearly the same."""
    listed = np.array(radii.listed)
    return Radii(*[float(listed.mean())] * 4) if np.ptp(listed) <= 1 else radii


def _rounded(radii: Radii, box: Box) -> Radii:
    """A pill's radius is half of its shorter side, which no pixel shows exactly."""
    half = min(box.width, box.height) / 2
    return Radii(*[half] * 4) if radii.is_one and radii.top_left >= NEARLY_HALF * half else radii


def _corners(renderer: Renderer, box: Box, side: int, shown: frozenset[str]) -> list[Pixels]:
    """The four corners as if each were the top left one, in the order in which CSS names them."""
    far_x, far_y = box.right - side, box.bottom - side
    left, top = box.x - 1, box.y - 1
    places = (
        (Box(left, top, side + 1, side + 1), (1, 1)),
        (Box(far_x, top, side + 1, side + 1), (1, -1)),
        (Box(far_x, far_y, side + 1, side + 1), (-1, -1)),
        (Box(left, far_y, side + 1, side + 1), (-1, 1)),
    )
    return [renderer.render(place, 1.0, shown)[:: turn[0], :: turn[1]] for place, turn in places]


def _profile(renderer: Renderer, box: Box, depth: int, shown: frozenset[str], turn: int) -> Pixels:
    """Some lines in the middle of an edge, from it inwards, (LINES, depth, 4)."""
    middle_x, middle_y = box.x + box.width // 2, box.y + box.height // 2
    lines_x, lines_y = min(LINES, box.width), min(LINES, box.height)
    place = (
        Box(box.x, middle_y - lines_y // 2, depth, lines_y),
        Box(box.right - depth, middle_y - lines_y // 2, depth, lines_y),
        Box(middle_x - lines_x // 2, box.y, lines_x, depth),
        Box(middle_x - lines_x // 2, box.bottom - depth, lines_x, depth),
    )[turn]
    pixels = renderer.render(place, 1.0, shown)
    if turn >= 2:
        pixels = pixels.transpose(1, 0, 2)
    return pixels[:, ::-1] if turn % 2 else pixels
