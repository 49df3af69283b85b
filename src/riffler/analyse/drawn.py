"""The pixels of a whole box -> the style that draws them again: everything fitted, and checked.

Styles are read twice: quickly from a sample of every layer, and for who asks for one thing by
fitting all of its pixels: shadows by least squares on a model of the blurred box, radial gradients
by the point about which rings are most even. What is fitted draws the same in a browser, or is
refused.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import numpy.typing as npt

from riffler.analyse.casting import shadows_of
from riffler.analyse.cornering import cover, one_for_all, rounded_again
from riffler.analyse.exact_edges import border_of
from riffler.analyse.fill import ENOUGH, Filling, fill_of
from riffler.analyse.gradient import stops_of
from riffler.analyse.radial import radial_of
from riffler.analyse.raster import worn
from riffler.analyse.style import SIDES, Border, Radii, Shadow, Style
from riffler.analyse.sunken import Sunken, sunken_of
from riffler.color import Pixels, hex_of_pixel, to_bytes
from riffler.geometry import Box
from riffler.render.painted import marked_box

Mask = npt.NDArray[np.bool_]
Alpha = npt.NDArray[np.float32]

#: How far alpha may be below its most, in 0..1, where a box is whole.
WHOLE = 2.5 / 255

#: The part of a pixel that is covered where it counts as whole, and the steps of radii.
COVERED, STEP = 0.99, 0.25

#: A radius so near half of the shorter side, as a part of it, is that of a pill.
NEARLY_HALF = 0.96

#: By how much a box has to be more opaque than the shadow at its corner, in 0..1.
CONTRAST = 0.1

#: The least of a line of pixels that the tip of a curve covers which belongs to the box, 0..1; and
#: the part of that line up to which it is a tip, and no straight side.
TIP, POINTED = 0.75, 0.5

#: How deep a border is looked for, and the largest radius, in pixels.
DEEPEST, ROUNDEST = 24, 160

#: The standard deviation, in pixels, from which browsers blur by boxes.
GAUSSIAN = 2.0


def style_of(pixels: Pixels) -> tuple[Style, Box] | None:
    """The style of a box with all that lies around it, and the box; None for anything else.

    pixels: (H, W, 4) float32, premultiplied, 0..1, with everything that the layer paints. Lengths
    are pixels of the picture. The box is whole where the layer is as opaque as it gets.
    """
    alpha = pixels[..., 3]
    most = float(alpha.max(initial=0))
    whole = alpha >= most - WHOLE
    box = marked_box(whole)
    if most < 16 / 255 or box is None or min(box.width, box.height) < 6:
        return None
    box = _with_tips(alpha, box, most)
    inside = whole[box.y : box.bottom, box.x : box.right]
    part = pixels[box.y : box.bottom, box.x : box.right]
    radii = _radii(part[..., 3], most)
    if float((~inside).mean()) > _missing(radii, box) + 0.004:
        return None
    border = _border(part, radii)
    style = _filled(part, radii, border)
    if style is None:
        return None
    shadows = shadows_of(pixels, box, radii)
    if shadows is None:
        return None
    is_round = any(radii.listed)
    if shadows and most > 1 - WHOLE:
        radii = one_for_all(rounded_again(alpha, box, radii, shadows))
        style = replace(style, radii=radii)
    if radii.is_one and box.width == box.height <= 2 * radii.top_left / NEARLY_HALF:
        style = replace(style, radii=None)
    shadows = (*shadows, *style.shadows)
    return replace(style, shadows=tuple(_as_written(shadow, is_round) for shadow in shadows)), box


def _with_tips(alpha: Alpha, box: Box, most: float) -> Box:
    """The box with the lines outside it that the tips of its curves nearly fill.

    No pixel at the end of a pill need be covered wholly.
    """
    columns, rows = alpha[box.y : box.bottom].T, alpha[:, box.x : box.right]
    return Box.from_edges(
        box.x - _is_tip(columns, box.x - 1, -1, most),
        box.y - _is_tip(rows, box.y - 1, -1, most),
        box.right + _is_tip(columns, box.right, 1, most),
        box.bottom + _is_tip(rows, box.bottom, 1, most),
    )


def _is_tip(lines: Alpha, at: int, step: int, most: float) -> bool:
    """Whether a line outside a box is nearly covered where a curve ends in it, and there alone.

    The next one, a `step` on, tells what lies beneath; beyond the picture is nothing.
    """
    nothing = np.zeros(lines.shape[1], lines.dtype)
    line, beyond = (lines[n] if 0 <= n < len(lines) else nothing for n in (at, at + step))
    beneath = float(beyond.max(initial=0))
    if most - beneath < CONTRAST:
        return False
    covered = (line - beneath) / (most - beneath)
    return bool(covered.max() >= TIP and (covered >= 0.5).mean() < POINTED)


def _sunken(inner: Pixels, radii: Radii) -> Sunken | None:
    """A shadow that falls into the fill; not looked for in pictures, which have no calm middle."""
    height, width = inner.shape[:2]
    calm = inner[height // 3 : -(-2 * height // 3), width // 3 : -(-2 * width // 3)]
    if fill_of(calm).filling is Filling.MORE:
        return None
    return sunken_of(inner, inner[..., 3] > 0, radii)


def _as_written(shadow: Shadow, is_round: bool) -> Shadow:
    """The shadow by the blur that browsers make it of: round shapes they blur by whole pixels.

    Of the blurs that then look alike, people write even ones, or whole ones.
    """
    if not is_round:
        return shadow
    blurs = np.arange(0, 1.3 * shadow.blur + 2, 0.25)
    off = np.abs(np.array([2 * _seen(blur / 2) for blur in blurs]) - shadow.blur)
    alike = blurs[off <= off.min() + 0.01]
    middle = float(np.median(alike))
    for step in (2, 1):
        if (rounder := alike[alike % step == 0]).size:
            return replace(shadow, blur=float(rounder[np.argmin(np.abs(rounder - middle))]))
    return replace(shadow, blur=middle)


def _seen(deviation: float) -> float:
    """The standard deviation of three boxes of whole pixels instead of a Gaussian.

    They are as wide as SVG's; Filter Effects 1, section 9.7. Sharp blurs are Gaussians.
    """
    if deviation < GAUSSIAN:
        return deviation
    wide = int(deviation * 3 * np.sqrt(2 * np.pi) / 4 + 0.5)
    widths = (wide,) * 3 if wide % 2 else (wide, wide, wide + 1)
    return float(np.sqrt(sum(width * width - 1 for width in widths) / 12))


def _radii(alpha: Alpha, most: float) -> Radii:
    """Each corner by the pixels that it lacks; one for all where they agree."""
    turned = (alpha, alpha[:, ::-1], alpha[::-1, ::-1], alpha[::-1])
    return one_for_all(Radii(*(_radius(corner, most) for corner in turned)))


def _radius(alpha: Alpha, most: float) -> float:
    """The radius of the top left corner, by the pixels that are less than half covered.

    Half is between the box and what lies right outside its corner. Where that is hardly lighter
    than the box, the pixels that are not wholly covered are counted.
    """
    side = min(ROUNDEST, -(-min(alpha.shape) // 2))
    corner, largest = alpha[:side, :side], min(alpha.shape) / 2
    whole = corner >= most - WHOLE
    lacking = int((~whole).sum())
    if lacking == 0:
        return 0.0
    near = _wider(whole)
    beside = corner[_wider(near) & ~near]
    beneath = float(np.median(beside)) if beside.size else float(corner[0, 0])
    if most - beneath > CONTRAST:
        missing = int((corner < (most + beneath) / 2).sum())
        radius = float(np.sqrt(missing / (1 - np.pi / 4)))
        return radius if radius < NEARLY_HALF * largest else largest
    guess = np.sqrt(lacking / (1 - np.pi / 4))
    tried = np.arange(max(STEP, guess - 6), guess + 2, STEP)
    off = [abs(_left_out(radius) - lacking) for radius in tried]
    return float(min(tried[int(np.argmin(off))], largest))


def _wider(mask: Mask) -> Mask:
    """A mask with the pixels that touch it."""
    around = np.pad(mask, 1)
    return np.asarray(~worn(~around)[1:-1, 1:-1] | mask)


def _left_out(radius: float) -> int:
    """How many pixels a quarter of a disc does not cover wholly."""
    return int((cover(radius, int(np.ceil(radius))) < COVERED).sum())


def _rounded(shape: tuple[int, ...], radii: list[float]) -> Mask:
    """What lies well inside a rounded box of this size."""
    inside = np.ones(shape, bool)
    turned = (inside, inside[:, ::-1], inside[::-1, ::-1], inside[::-1])
    for radius, whole in zip(radii, turned, strict=True):
        corner = whole[: int(np.ceil(radius)), : int(np.ceil(radius))]
        off_y, off_x = (radius - 0.5 - np.arange(side) for side in corner.shape)
        off = np.hypot(np.maximum(off_x, 0)[None], np.maximum(off_y, 0)[:, None])
        corner &= (off_x <= 0)[None] | (off_y <= 0)[:, None] | (off < radius - 1)
    return inside


def _missing(radii: Radii, box: Box) -> float:
    """The share of a box that its corners leave out, whole pixels counted."""
    lacking = sum(_left_out(radius) for radius in radii.listed if radius)
    return lacking / box.area


def _border(own_pixels: Pixels, radii: Radii) -> Border | None:
    """The line along all four edges."""
    sides = sides_of(own_pixels, radii)
    widths = [line_of(side) for side in sides]
    if any(width == 0 for width in widths) or max(widths) - min(widths) > 1:
        return None
    wide = int(np.median(widths))
    ring = np.concatenate([side[:, :wide].reshape(-1, 4) for side in sides])
    color = np.median(ring, axis=0)
    if np.abs(ring - color).max() > 4 / 255:
        return None
    fitted = border_of([side[:, : min(side.shape[1], 2 * wide + 3)] for side in sides])
    return Border(fitted.color if fitted else hex_of_pixel(color), float(wide))


def _barred(own_pixels: Pixels, radii: Radii) -> Style | None:
    """A box with a line along one of its sides, and nothing else in its fill."""
    sides = sides_of(own_pixels, radii)
    lines = [(at, wide) for at, side in enumerate(sides) if (wide := line_of(side))]
    if len(lines) != 1:
        return None
    at, wide = lines[0]
    height, width = own_pixels.shape[:2]
    top, right, bottom, left = (wide if side == at else 0 for side in range(len(SIDES)))
    fill = fill_of(own_pixels[top : height - bottom, left : width - right])
    if fill.filling is Filling.MORE or len(fill.stops) > 2:
        return None
    color = hex_of_pixel(np.median(sides[at][:, :wide].reshape(-1, 4), axis=0))
    return Style(fill.stops, fill.angle, radii, Border(color, float(wide), SIDES[at]))


def sides_of(own_pixels: Pixels, radii: Radii) -> tuple[Pixels, Pixels, Pixels, Pixels]:
    """Lines from each edge inwards, between the corners, in the order in which CSS names sides."""
    height, width = own_pixels.shape[:2]
    clear = int(np.ceil(max(radii.listed))) + 4
    depth = min(DEEPEST, height // 2, width // 2)
    middle_y, middle_x = slice(clear, height - clear), slice(clear, width - clear)
    if height - 2 * clear < 2 or width - 2 * clear < 2:
        middle_y, middle_x = slice(height // 2, height // 2 + 1), slice(width // 2, width // 2 + 1)
    return (
        own_pixels[:depth, middle_x].transpose(1, 0, 2),
        own_pixels[middle_y, ::-1][:, :depth],
        own_pixels[::-1, middle_x][:depth].transpose(1, 0, 2),
        own_pixels[middle_y, :depth],
    )


def line_of(side: Pixels) -> int:
    """How many pixels from the edge inwards are of the edge's colour, before it jumps."""
    same = np.abs(side - np.median(side[:, :1], axis=0)).max(axis=(0, 2)) <= 3 / 255
    count = int(np.argmin(same)) if not same.all() else 0
    if count == 0 or count + 1 >= side.shape[1]:
        return 0
    jump = np.abs(np.median(side[:, count + 1] - side[:, count - 1], axis=0)).max()
    return count if jump > 6 / 255 else 0


def _filled(own_pixels: Pixels, radii: Radii, border: Border | None) -> Style | None:
    """The fill inside the border, by which gradients are measured."""
    rim = round(border.width) if border else 0
    height, width = own_pixels.shape[:2]
    inner = own_pixels[rim : height - rim, rim : width - rim].copy()
    if min(inner.shape[:2]) < 4:
        return None
    if border is None and (barred := _barred(own_pixels, radii)):
        return barred
    inner[~_rounded(inner.shape[:2], [max(0.0, radius - rim) for radius in radii.listed])] = 0
    fill = fill_of(inner)
    if fill.filling is not Filling.MORE and len(fill.stops) <= 2:
        return Style(fill.stops, fill.angle, radii, border)
    step = max(1, max(inner.shape[:2]) // ENOUGH)
    few = to_bytes(inner)[step // 2 :: step, step // 2 :: step]
    among = few[..., 3] >= few[..., 3].max() - 2
    found_radial = radial_of(few, among) if fill.filling is Filling.MORE else None
    if found_radial is not None:
        radial, bends = found_radial
        return Style(stops_of(bends), None, radii, border, radial=radial)
    sunken = _sunken(inner, Radii(*(max(0.0, value - rim) for value in radii.listed)))
    if sunken and (lit := fill_of(sunken.fill)).filling is not Filling.MORE:
        return Style(lit.stops, lit.angle, radii, border, (sunken.shadow,))
    if fill.filling is Filling.MORE:
        return None
    return Style(fill.stops, fill.angle, radii, border)
