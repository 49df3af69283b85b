"""The alpha of a layer -> its outline: rectangle, rounded, ellipse or odd; its soft surround."""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum

import numpy as np
import numpy.typing as npt

from riffler.analyse.style import SQUARE, Radii, Shadow
from riffler.color import LUMA, Pixels, hex_of_pixel
from riffler.geometry import Box
from riffler.render.painted import marked_box, painted_box

#: Share of a box's pixels that an outline may miss and still be called by its name, beside
#: half a pixel all along its edge.
MISSED = 0.002

#: The same for a rectangle, which has no curve to be half a pixel off.
MISSED_SQUARE = 0.0003

#: Pixels that a square corner may lack.
SQUARE_CORNER = 2

#: Radii of one outline that differ by more than this, in pixels, are meant to.
UNLIKE = 2.5

#: By how much 8 bits of a colour times 8 bits of alpha are off, at the most, in 0..1.
ROUNDING = 1.5 / 255

Mask = npt.NDArray[np.bool_]
"""(H, W): which pixels are inside."""


class OutlineShape(StrEnum):
    """What the outline is."""

    RECTANGLE = "rectangle"
    ROUNDED = "rounded"
    ELLIPSE = "ellipse"
    ODD = "odd"


@dataclass(frozen=True)
class Outline:
    """The outline of the solid part. `box`, `radii` and `shadow` are in pixels of the picture.

    `shadow` is what lies softly around it in one colour, as a plain shadow does; `has_glow` says
    that what lies there is of more than one.
    """

    shape: OutlineShape
    box: Box
    radii: Radii = SQUARE
    shadow: Shadow | None = None
    has_glow: bool = False


def outline_of(pixels: Pixels) -> Outline | None:
    """The outline of what is more than half as opaque as the layer gets; None for an empty layer.

    pixels: (H, W, 4) float32, premultiplied, 0..1.
    """
    alpha = pixels[..., 3]
    most = float(alpha.max(initial=0))
    if most < 1 / 16:
        return None
    solid = alpha > most / 2
    box = painted_box(pixels, most / 2)
    if box is None:
        return None
    mask = solid[box.y : box.bottom, box.x : box.right]
    shape, radii = _shape(mask)
    soft = (alpha > 2 / 255) & ~solid
    soft[box.y : box.bottom, box.x : box.right] = False
    around = int(soft.sum()) > 0.25 * (box.width + box.height)
    is_plain = around and _is_one_color(pixels[soft])
    shadow = _shadow(pixels, soft, box) if is_plain else None
    return Outline(shape, box, radii, shadow, around and not is_plain)


def only_corners(pixels: Pixels) -> Radii | None:
    """The radii of a picture that is opaque but for its rounded corners; None for any other.

    pixels: (H, W, 4) float32, premultiplied, 0..1. Radii in pixels of the picture.
    """
    height, width = pixels.shape[:2]
    outline = outline_of(pixels)
    if (
        outline is None
        or outline.shape is not OutlineShape.ROUNDED
        or outline.box != Box(0, 0, width, height)
    ):
        return None
    reach = math.ceil(max(outline.radii.listed)) + 1
    alpha = pixels[..., 3]
    edges = alpha[reach : height - reach], alpha[:, reach : width - reach]
    is_opaque = all(edge.size and edge.min() > 1 - ROUNDING for edge in edges)
    return outline.radii if is_opaque else None


def _shadow(pixels: Pixels, soft: Mask, box: Box) -> Shadow:
    """The shadow by how far it reaches beyond each side: half of what two sides differ is offset.

    A blur of b fades from half a b inside its edge to half a b outside (CSS Backgrounds and
    Borders 3, section 7.2), and is seen over about that.
    """
    whole = marked_box(soft) or box
    left, right = max(0, box.x - whole.x), max(0, whole.right - box.right)
    top, bottom = max(0, box.y - whole.y), max(0, whole.bottom - box.bottom)
    colors = pixels[soft]
    strongest = colors[np.argsort(-colors[:, 3], kind="stable")[: max(1, len(colors) // 20)]]
    color = hex_of_pixel(np.median(strongest, axis=0))
    return Shadow((right - left) / 2, (bottom - top) / 2, (left + right + top + bottom) / 4, color)


def _shape(mask: Mask) -> tuple[OutlineShape, Radii]:
    height, width = mask.shape
    missing = float((~mask).sum())
    if missing <= max(2.0, MISSED_SQUARE * mask.size):
        return OutlineShape.RECTANGLE, SQUARE
    longest = min(width, height) / 2
    radii = [_corner(corner, longest) for corner in _quarters(mask)]
    if max(radii) - min(radii) > UNLIKE and _fits(mask, _rounded(width, height, Radii(*radii))):
        return OutlineShape.ROUNDED, Radii(*radii)
    same = Radii(*[min(_radius(missing / 4), longest)] * 4)
    if _fits(mask, _rounded(width, height, same)):
        return OutlineShape.ROUNDED, same
    if _fits(mask, _ellipse(width, height)):
        return OutlineShape.ELLIPSE, SQUARE
    return OutlineShape.ODD, SQUARE


def _radius(missing: float) -> float:
    """The radius of one corner by the pixels that it lacks: r² (1 - π/4)."""
    return math.sqrt(missing / (1 - math.pi / 4))


def _corner(quarter: Mask, longest: float) -> float:
    """The radius of the corner in a quarter of the outline; a pixel or two are no curve."""
    missing = float((~quarter).sum())
    return 0.0 if missing <= SQUARE_CORNER else min(_radius(missing), longest)


def _quarters(mask: Mask) -> tuple[Mask, Mask, Mask, Mask]:
    """The quarters of an outline in the order in which CSS names corners."""
    y, x = mask.shape[0] // 2, mask.shape[1] // 2
    return mask[:y, :x], mask[:y, x:], mask[y:, x:], mask[y:, :x]


def _fits(mask: Mask, ideal: Mask) -> bool:
    allowed = MISSED * mask.size + 0.5 * sum(mask.shape)
    return float((mask != ideal).sum()) <= allowed


def _rounded(width: int, height: int, radii: Radii) -> Mask:
    """Pixels whose centre lies in a rounded rectangle; CSS Backgrounds and Borders 3, section 5."""
    inside = np.ones((height, width), bool)
    for quarter, radius, turn in zip(
        _quarters(inside), radii.listed, ((1, 1), (1, -1), (-1, -1), (-1, 1)), strict=True
    ):
        corner = quarter[:: turn[0], :: turn[1]]
        y, x = (radius - 0.5 - np.arange(side) for side in corner.shape)
        across, down = np.maximum(x, 0)[None, :], np.maximum(y, 0)[:, None]
        corner &= across**2 + down**2 <= radius**2
    return inside


def _ellipse(width: int, height: int) -> Mask:
    x = (np.arange(width) + 0.5 - width / 2) / (width / 2)
    y = (np.arange(height) + 0.5 - height / 2) / (height / 2)
    return np.asarray(x[None, :] ** 2 + y[:, None] ** 2 <= 1)


def _is_one_color(pixels: npt.NDArray[np.float32]) -> bool:
    """Whether soft pixels are one colour in different strengths; faint ones carry too little.

    Judged by luma: programs that blur in linear light leave dark blues several steps off.
    """
    strong = pixels[pixels[:, 3] > 0.08]
    if len(strong) < 4:
        return True
    alpha = strong[:, 3:]
    off = np.abs(strong[:, :3] - alpha * np.median(strong[:, :3] / alpha, axis=0)) @ LUMA
    return bool(np.quantile(off / (0.06 * alpha[:, 0] + ROUNDING), 0.9) < 1)
