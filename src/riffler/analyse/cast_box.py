"""A box, and how it is moved, grown and blurred -> how much of its shadow is where.

CSS Backgrounds and Borders 3, section 7.2; blurred as browsers do it.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import numpy.typing as npt

Floats = npt.NDArray[np.float64]

#: Bands that a round corner is cut into at the most: an eighth of a level of 255 off at a radius of
#: 200 pixels.
ARCS = 96

#: The sharpest blur, as a standard deviation in pixels: what smooth edges have by themselves.
SHARPEST = 0.25


def cast(
    x: Floats, y: Floats, size: tuple[float, float], radii: Sequence[float], place: Sequence[float]
) -> Floats:
    """How much of a shadow is at the crossings of columns and rows: (M, N), 0..1.

    `size` is the box's, `place` the offset right and down, the standard deviation and the spread.
    Each row of the shape is blurred across, and then all of them down; radii grow with the spread.
    """
    across, down, deviation, spread = place
    width, height = size[0] + 2 * spread, size[1] + 2 * spread
    if width <= 0 or height <= 0:
        return np.zeros((len(y), len(x)))
    deviation = max(deviation, SHARPEST)
    corners = [_grown(radius, spread, min(width, height) / 2) for radius in radii]
    rows = _bands(height, max(corners[0], corners[1]), max(corners[2], corners[3]))
    middles = (rows[:-1] + rows[1:]) / 2
    left = np.maximum(
        cut(middles, corners[0], corners[0]), cut(height - middles, corners[3], corners[3])
    )
    right = width - np.maximum(
        cut(middles, corners[1], corners[1]), cut(height - middles, corners[2], corners[2])
    )
    at_x, at_y = x + spread - across, y + spread - down
    flat = _step(at_x[None] - left[:, None], deviation) - _step(
        at_x[None] - right[:, None], deviation
    )
    edges = _step(at_y[:, None] - rows[None], deviation)
    return np.asarray((edges[:, :-1] - edges[:, 1:]) @ flat)


def _bands(height: float, upper: float, lower: float) -> Floats:
    """The edges of bands of a shape from its top: where corners are round, one between.

    They cut corners into equal arcs, so that they are thinnest where the outline is flattest.
    """
    edges = [np.array([0.0, height])]
    for radius, from_top in ((upper, True), (lower, False)):
        if radius >= 1:
            arcs = np.linspace(0, np.pi / 2, min(round(radius), ARCS) + 1)
            depths = radius * (1 - np.cos(arcs))
            edges.append(depths if from_top else height - depths)
    return np.unique(np.concatenate(edges))


def _grown(radius: float, spread: float, most: float) -> float:
    """The radius of a shadow's corner; CSS Backgrounds and Borders 3, section 7.1.1."""
    if radius <= 0:
        return 0.0
    if 0 <= radius < spread:
        spread *= 1 + (radius / spread - 1) ** 3
    return float(min(max(0.0, radius + spread), most))


def cut(rows: Floats, across: float, down: float) -> Floats:
    """How much a corner that is rounded so far takes off rows that lie so far from the edge."""
    if not across or not down:
        return np.zeros_like(rows)
    off = np.clip(down - rows, 0, None)
    depth = np.sqrt(np.maximum(0, down * down - off * off))
    return np.asarray(across - across / down * depth) * (off > 0)


def _step(at: Floats, deviation: float) -> Floats:
    """The integral of the blur: of three boxes two deviations wide each, as browsers blur.

    It is near a Gaussian's, of the same deviation, and ends three of them out.
    """
    value = np.clip(at / (2 * deviation), -1.5, 1.5)
    outer = (1.5 - np.abs(value)) ** 3 / 6
    inner = 0.75 * value - value**3 / 3
    return np.asarray(np.where(value > 0.5, 1 - outer, np.where(value < -0.5, outer, 0.5 + inner)))
