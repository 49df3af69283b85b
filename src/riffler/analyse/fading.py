"""The pixels of a box that fades out -> its gradient, and the corners that still show."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from riffler.analyse.gradient import CHANGE, LEAST, Bend, direction, places, sloping, stops_of
from riffler.analyse.outline import OutlineShape, outline_of
from riffler.analyse.style import Radii, Style
from riffler.color import Pixels
from riffler.geometry import Box

#: Samples along the longer side that are enough to tell a fading box.
ENOUGH = 128

#: Alpha, in steps of 8 bits, under which neither colour nor coverage can be told.
VEIL = 16

#: The largest radius that corners have, as a share of the shorter side.
ROUNDEST = 1 / 4

#: Corners whose radii differ by no more than so many pixels are one.
ALIKE = 1.0


def fading_of(pixels: Pixels) -> Style | None:
    """The style of a box that fades out in one direction; None for anything else.

    Stops have their alpha; between them browsers mix what is premultiplied, too (CSS Images 3,
    section 3.4.2). pixels: (H, W, 4) float32, premultiplied, 0..1, a painted box.
    """
    step = max(1, max(pixels.shape[:2]) // ENOUGH)
    few = 255 * pixels[::step, ::step]
    middle = _without_corners(few.shape[:2])
    if min(middle.shape) < LEAST or np.ptp(few[..., 3]) < CHANGE:
        return None
    angle = direction(few, middle)
    bends = sloping(few, middle, angle)
    radii = None if bends is None else _radii(pixels[..., 3], angle, bends)
    if bends is None or radii is None:
        return None
    strong = pixels[pixels[..., 3] >= 0.5 * pixels[..., 3].max()]
    usual = np.median(strong[:, :3] / strong[:, 3:], axis=0)
    return Style(stops_of([_straightened(bend, usual) for bend in bends]), angle, radii)


def _without_corners(shape: tuple[int, ...]) -> npt.NDArray[np.bool_]:
    """All but the corners of a box, as far as they may be rounded."""
    reach = int(min(shape) * ROUNDEST)
    upright = np.zeros(shape, bool)
    lying = upright.copy()
    upright[:, reach : shape[1] - reach] = True
    lying[reach : shape[0] - reach] = True
    return upright | lying


def _radii(alpha: npt.NDArray[np.float32], angle: int, bends: list[Bend]) -> Radii | None:
    """The corners, by how much of the gradient's alpha is there; None for a box of another shape.

    Where the gradient is clear nobody sees the corners: they are taken to be as the others.
    """
    height, width = alpha.shape
    stops, colors = zip(*bends, strict=True)
    ideal = np.interp(places(height, width, angle), stops, [color[3] for color in colors])
    shows = ideal > VEIL
    covered = np.zeros((height, width, 4), np.float32)
    covered[..., 3] = np.where(shows, np.clip(255 * alpha / np.maximum(ideal, 1), 0, 1), 1)
    outline = outline_of(covered)
    if outline is None or outline.box != Box(0, 0, width, height):
        return None
    if outline.shape not in (OutlineShape.RECTANGLE, OutlineShape.ROUNDED):
        return None
    told = (shows[0, 0], shows[0, -1], shows[-1, -1], shows[-1, 0])
    seen = [radius for radius, is_told in zip(outline.radii.listed, told, strict=True) if is_told]
    if max(seen, default=0.0) - min(seen, default=0.0) <= ALIKE:
        return Radii(*[round(2 * float(np.mean(seen or [0]))) / 2] * 4)
    pairs = zip(outline.radii.listed, told, strict=True)
    return Radii(*(radius if is_told else 0.0 for radius, is_told in pairs))


def _straightened(bend: Bend, usual: npt.NDArray[np.float32]) -> Bend:
    """A colour that was read premultiplied, as CSS writes it; `usual` where nothing shows."""
    place, color = bend
    alpha = color[3:]
    rgb = 255 * color[:3] / alpha if alpha[0] > VEIL else 255 * usual
    return place, np.concatenate((rgb, alpha))
