"""A box with the shadows that lie under its corners -> how far each corner is rounded."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import numpy.typing as npt

from riffler.analyse.cast_box import cast
from riffler.analyse.style import Radii, Shadow
from riffler.geometry import Box

Floats = npt.NDArray[np.float64]

#: How far radii are apart, in pixels, that were meant to be one.
AS_ONE = 1.6

#: How far from the first guess a radius is looked for, and in which steps, in pixels.
AWAY, STEP = 4.0, 0.25


def one_for_all(radii: Radii) -> Radii:
    """The middle one for all corners where they hardly differ."""
    result = radii.listed
    return Radii(*[float(np.median(result))] * 4) if max(result) - min(result) <= AS_ONE else radii


def rounded_again(
    alpha: npt.NDArray[np.float32], box: Box, radii: Radii, shadows: Sequence[Shadow]
) -> Radii:
    """The radii at which an opaque box and what it casts come nearest to the alpha at its corners.

    alpha: (H, W), 0..1, of box and shadows together.
    """
    part_alpha = alpha[box.y : box.bottom, box.x : box.right].astype(np.float64)
    under = _under(box, radii, shadows)
    ways = ((1, 1), (1, -1), (-1, -1), (-1, 1))
    result = [
        _radius(part_alpha[::down, ::across], under[::down, ::across], radius)
        for radius, (down, across) in zip(radii.listed, ways, strict=True)
    ]
    return Radii(*result)


def _under(box: Box, radii: Radii, shadows: Sequence[Shadow]) -> Floats:
    """The alpha of the shadows under the box: (H, W)."""
    x, y = (np.arange(side, dtype=np.float64) + 0.5 for side in (box.width, box.height))
    through = np.ones((box.height, box.width))
    for shadow in shadows:
        place = (shadow.x, shadow.y, shadow.blur / 2, shadow.spread)
        most = int(shadow.color[7:9] or "ff", 16) / 255
        through *= 1 - most * cast(x, y, (box.width, box.height), radii.listed, place)
    return 1 - through


def _radius(alpha: Floats, under: Floats, guess: float) -> float:
    """The radius of the top left corner."""
    side = int(min(guess + AWAY + 2, min(alpha.shape) / 2))
    corner, below = alpha[:side, :side], under[:side, :side]
    tried = np.arange(max(0.0, guess - AWAY), min(guess + AWAY, side) + STEP / 2, STEP)
    off = [
        float(np.abs(covered + (1 - covered) * below - corner).sum())
        for covered in (cover(radius, side) for radius in tried)
    ]
    return float(tried[int(np.argmin(off))])


def cover(radius: float, side: int) -> Floats:
    """How much of each pixel a rounded corner covers: of eight rows in each, exactly."""
    rows = (np.arange(8 * side) + 0.5) / 8
    off = np.maximum(radius - rows, 0)
    begins = radius - np.sqrt(np.maximum(radius * radius - off * off, 0))
    covered = np.clip(np.arange(1, side + 1) - begins[:, None], 0, 1)
    return np.asarray(covered.reshape(side, 8, side).mean(axis=1))
