"""One or two letters on a shape -> an SVG, plainer where it is small.

The letters are outlines, so that the icon needs no font where it is shown.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

from fontTools.misc.transform import Transform
from lxml import etree

from riffler.errors import RifflerError, nearest
from riffler.mockup.font_book import Face, FontBook
from riffler.mockup.svg.cubics import parse, reach
from riffler.mockup.svg.lettering import outlines_of
from riffler.mockup.svg.shapes import UnmeasuredError
from riffler.project.icon_settings import Favicon, Shape
from riffler.tidy.numbers import short

#: Side of the drawing, in its own units.
SIDE = 64.0

#: Sides up to which shadow and raised edge are left out: a pixel is too much for them.
PLAIN = 24

#: Where letters stand in each shape: left, top, right, bottom, in parts of the side.
_ROOM: dict[Shape, tuple[float, float, float, float]] = {
    "circle": (0.2, 0.2, 0.8, 0.8),
    "square": (0.14, 0.16, 0.86, 0.84),
    "rounded": (0.14, 0.17, 0.86, 0.83),
    "hexagon": (0.19, 0.22, 0.81, 0.78),
    "shield": (0.2, 0.16, 0.8, 0.68),
    "none": (0.02, 0.04, 0.98, 0.96),
}

_NS = 'xmlns="http://www.w3.org/2000/svg"'


def drawing(how: Favicon, fonts: FontBook, side: int) -> bytes:
    """The SVG for pictures of a side in pixels. Raises RifflerError without a font for it."""
    is_plain = side <= PLAIN
    inset = (1.5 if how.shadow and not is_plain else 0.0) + (0.04 * SIDE if how.outline else 0.0)
    shape = _shape(how.shape, inset)
    parts, definitions = [], []
    if shape:
        paint = how.color
        if how.gradient:
            definitions.append(_gradient(how.gradient, how.angle))
            paint = "url(#ground)"
        if how.shadow and not is_plain:
            definitions.append(
                '<filter id="soft" x="-.2" y="-.2" width="1.4" height="1.4">'
                '<feGaussianBlur stdDeviation="1.1"/></filter>'
            )
            parts.append(
                f'<path d="{shape}" transform="translate(0 1)" fill="#000" fill-opacity=".4" '
                'filter="url(#soft)"/>'
            )
        parts.append(f'<path d="{shape}" fill="{paint}"/>')
        if how.raised and not is_plain:
            definitions.append(f'<clipPath id="inside"><path d="{shape}"/></clipPath>')
            parts.append(_raised(shape))
        if how.outline:
            width = max(0.045 * SIDE, SIDE / side)
            parts.append(
                f'<path d="{shape}" fill="none" stroke="{how.outline}" '
                f'stroke-width="{short(width, 2)}" stroke-linejoin="round"/>'
            )
    parts.append(f'<path d="{_letters(how, fonts)}" fill="{how.ink}"/>')
    defs = f"<defs>{''.join(definitions)}</defs>" if definitions else ""
    text = f'<svg {_NS} width="64" height="64" viewBox="0 0 64 64">{defs}{"".join(parts)}</svg>'
    etree.fromstring(text)
    return text.encode()


def without_letters(svg: bytes) -> bytes:
    """A drawing of this module with nothing on its ground."""
    root = etree.fromstring(svg)
    root.remove(root[-1])
    return etree.tostring(root)


def _raised(shape: str) -> str:
    """Light on the upper edge, shade on the lower one, inside of the shape."""
    return (
        '<g clip-path="url(#inside)" fill="none" stroke-width="2.4">'
        f'<path d="{shape}" transform="translate(0 1.2)" stroke="#fff" stroke-opacity=".35"/>'
        f'<path d="{shape}" transform="translate(0 -1.2)" stroke="#000" stroke-opacity=".25"/></g>'
    )


def _gradient(colors: Sequence[str], angle: float) -> str:
    """A gradient at an angle as CSS counts it: 0 upwards, 90 to the right. CSS Images 3, 3.1."""
    turn = math.radians(angle)
    x, y = math.sin(turn), -math.cos(turn)
    half = SIDE * (abs(x) + abs(y)) / 2
    ends = (32 - x * half, 32 - y * half, 32 + x * half, 32 + y * half)
    x1, y1, x2, y2 = (short(value, 2) for value in ends)
    stops = "".join(
        f'<stop offset="{short(index / (len(colors) - 1), 3)}" stop-color="{color}"/>'
        for index, color in enumerate(colors)
    )
    place = f'x1="{x1}" y1="{y1}" x2="{x2}" y2="{y2}" gradientUnits="userSpaceOnUse"'
    return f'<linearGradient id="ground" {place}>{stops}</linearGradient>'


def _shape(shape: Shape, inset: float) -> str:
    """Path data of a shape in the square, so far from its edges; empty for none."""
    low, high = inset, SIDE - inset
    side, middle = high - low, SIDE / 2
    match shape:
        case "square":
            return f"M{low} {low}h{side}v{side}h-{side}z"
        case "circle":
            half = side / 2
            arc = f"a{half} {half} 0 1 1"
            return f"M{low} {middle}{arc} {side} 0{arc} -{side} 0z"
        case "rounded":
            radius = 0.22 * side
            flat, arc = side - 2 * radius, f"a{radius} {radius} 0 0 1"
            return (
                f"M{low + radius} {low}h{flat}{arc} {radius} {radius}"
                f"v{flat}{arc} -{radius} {radius}"
                f"h-{flat}{arc} -{radius} -{radius}v-{flat}{arc} {radius} -{radius}z"
            )
        case "hexagon":
            wide = side * math.sqrt(3) / 4
            points = [
                (0, -side / 2),
                (wide, -side / 4),
                (wide, side / 4),
                (0, side / 2),
                (-wide, side / 4),
                (-wide, -side / 4),
            ]
            pairs = (f"{middle + x} {middle + y}" for x, y in points)
            return f"M{'L'.join(pairs)}z"
        case "shield":
            # One half from the top, the other the same from right to left.
            edge = [(0.14, 0.13), (0.28, 0.16), (0.43, 0.16), (0.43, 0.52), (0.43, 0.78),
                    (0.18, 0.92), (0, 1)]  # fmt: skip
            right = [f"{middle + x * side} {low + y * side}" for x, y in edge]
            left = [f"{middle - x * side} {low + y * side}" for x, y in edge]
            top = f"{middle} {low + 0.04 * side}"
            return (
                f"M{top}C{right[0]} {right[1]} {right[2]}L{right[3]}"
                f"C{right[4]} {right[5]} {right[6]}C{left[5]} {left[4]} {left[3]}"
                f"L{left[2]}C{left[1]} {left[0]} {top}z"
            )
    return ""


def _letters(how: Favicon, fonts: FontBook) -> str:
    """Path data of the letters, as large as the room in the shape allows, in its middle."""
    face = _face(how, fonts)
    try:
        glyphs = outlines_of(face, how.letters or "", 100.0, Transform())
        result = reach(parse(glyphs), Transform(), None)
    except (UnmeasuredError, ValueError) as error:
        raise RifflerError(f"{face.path.name} has no outlines for “{how.letters}”.") from error
    if result is None:
        raise RifflerError(f"“{how.letters}” paints nothing in {face.path.name}.")
    (left, top), (right, bottom) = result
    x0, y0, x1, y1 = (SIDE * part for part in _ROOM[how.shape])
    scale = min((x1 - x0) / (right - left), (y1 - y0) / (bottom - top))
    middle = ((x0 + x1 - scale * (left + right)) / 2, (y0 + y1 - scale * (top + bottom)) / 2)
    return outlines_of(face, how.letters or "", 100.0, Transform(scale, 0, 0, scale, *middle))


def _face(how: Favicon, fonts: FontBook) -> Face:
    family, is_named = fonts.choose([how.font] if how.font else [])
    if how.font and not is_named:
        known = sorted({face.family for face in fonts.faces()})
        raise RifflerError(f'There is no font "{how.font}".', nearest(how.font, known, "Fonts are"))
    face = fonts.nearest(family, how.weight, is_italic=False)
    if face is None:
        raise RifflerError(
            "There is no font for the letters.", "Put one into the project's fonts folder."
        )
    return face
