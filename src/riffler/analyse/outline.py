"""The alpha of a layer -> its outline: rectangle, rounded, ellipse or odd; its soft surround."""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum

import numpy as np
import numpy.typing as npt

from riffler.color import LUMA, Pixels
from riffler.geometry import Box
from riffler.render.painted import painted_box

#: Share of a box's pixels that an outline may miss and still be called by its name, beside
#: half a pixel all along its edge.
MISSED = 0.002

#: The same for a rectangle, which has no curve to be half a pixel off.
MISSED_SQUARE = 0.0003

#: By how much 8 bits of a colour times 8 bits of alpha are off, at the most, in 0..1.
ROUNDING = 1.5 / 255

Mask = npt.NDArray[np.bool_]


class Shape(StrEnum):
    """What the outline is."""

    RECTANGLE = "rectangle"
    ROUNDED = "rounded"
    ELLIPSE = "ellipse"
    ODD = "odd"


@dataclass(frozen=True)
class Outline:
    """The outline of the solid part. `box` and `radius` are in pixels of the picture.

    `has_shadow`: something soft lies around it, of one colour, as a plain shadow does.
    """

    shape: Shape
    box: Box
    radius: float = 0.0
    has_shadow: bool = False
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
    shape, radius = _shape(mask)
    soft = (alpha > 2 / 255) & ~solid
    soft[box.y : box.bottom, box.x : box.right] = False
    around = int(soft.sum()) > 0.25 * (box.width + box.height)
    is_plain = around and _is_one_color(pixels[soft])
    return Outline(shape, box, radius, around and is_plain, around and not is_plain)


def _shape(mask: Mask) -> tuple[Shape, float]:
    height, width = mask.shape
    missing = float((~mask).sum())
    if missing <= max(2.0, MISSED_SQUARE * mask.size):
        return Shape.RECTANGLE, 0.0
    # A corner of radius r lacks r² (1 - π/4); four of them.
    radius = math.sqrt(missing / (4 - math.pi))
    radius = min(radius, min(width, height) / 2)
    if _fits(mask, _rounded(width, height, radius)):
        return Shape.ROUNDED, radius
    if _fits(mask, _ellipse(width, height)):
        return Shape.ELLIPSE, min(width, height) / 2
    return Shape.ODD, 0.0


def _fits(mask: Mask, ideal: Mask) -> bool:
    allowed = MISSED * mask.size + 0.5 * sum(mask.shape)
    return float((mask != ideal).sum()) <= allowed


def _rounded(width: int, height: int, radius: float) -> Mask:
    """Pixels whose centre lies in a rounded rectangle; CSS Backgrounds and Borders 3, section 5."""
    x = np.abs(np.arange(width) + 0.5 - width / 2) - (width / 2 - radius)
    y = np.abs(np.arange(height) + 0.5 - height / 2) - (height / 2 - radius)
    across, down = np.maximum(x, 0)[None, :], np.maximum(y, 0)[:, None]
    return np.asarray(across**2 + down**2 <= radius**2)


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
