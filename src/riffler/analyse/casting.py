"""What lies softly around a box -> the shadows that it casts: offsets, blur, spread, colour.

A shadow is the box, larger by its spread, blurred by a Gaussian of half the blur as standard
deviation, and seen outside the box alone; CSS Backgrounds and Borders 3, section 7.2.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from riffler.analyse.style import Radii, Shadow
from riffler.color import Pixels, hex_of
from riffler.geometry import Box

Floats = npt.NDArray[np.float64]

#: Alpha, in 0..1, from which a shadow is seen, and how far off a fit may be in the mean.
SEEN, GOOD = 2 / 255, 0.6 / 255

#: So many columns, and rows, of the surroundings on each side are looked at.
LINES = 20

#: The widest spread, in pixels; what is so little may be none, and how many times less well the
#: shadow without it may lie.
WIDEST, LITTLE, AS_WELL = 120.0, 1.2, 1.25

#: Bands that a round corner is cut into at the most: an eighth of a level of 255 off at a radius of
#: 200 pixels.
ARCS = 96

#: The sharpest blur, as a standard deviation in pixels: what smooth edges have by themselves.
SHARPEST = 0.25


@dataclass(frozen=True)
class Surroundings:
    """Some pixels outside a box: where they are, and what is there, premultiplied, 0..1.

    `x` (N,) and `y` (M,) are columns and rows, counted from the corner of the box in pixels; `seen`
    (M, N) says which of their crossings lie outside of it, `colors` (M, N, 4) what is there.
    """

    x: Floats
    y: Floats
    seen: npt.NDArray[np.bool_]
    colors: Floats
    width: int
    height: int
    radii: Radii


def shadows_of(pixels: Pixels, box: Box, radii: Radii) -> tuple[Shadow, ...] | None:
    """The shadows around a box, the topmost first; None where what is there is no plain shadow.

    pixels: (H, W, 4) float32, premultiplied, 0..1; the box and its corners are opaque in it.
    """
    around = _surroundings(pixels, box, radii)
    reach = _reach(pixels[..., 3], box)
    if reach is None or not around.seen.any():
        return ()
    first = _without_spread(around, _best(around, [[start] for start in _starts(reach)]))
    if first.off <= 2 * GOOD:
        return first.shadows
    better = _best(around, _pairs(first, reach))
    best = better if better.off < 0.7 * first.off else first
    return best.shadows if best.off <= 4 * GOOD else None


def _without_spread(around: Surroundings, fit: _Fit) -> _Fit:
    """The fit of one shadow with no spread, where hardly any was found and that lies as well."""
    x, y, deviation, spread, alpha = (float(value) for value in fit.numbers)
    if abs(spread) > LITTLE:
        return fit
    plain = _best(around, [[[x, y, max(deviation + spread / 2, SHARPEST), 0.0, alpha]]], widest=0.0)
    return plain if plain.off <= max(GOOD, AS_WELL * fit.off) else fit


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
    left = np.maximum(_cut(middles, corners[0]), _cut(height - middles, corners[3]))
    right = width - np.maximum(_cut(middles, corners[1]), _cut(height - middles, corners[2]))
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


def _cut(middles: Floats, radius: float) -> Floats:
    """How much a round corner takes off rows that lie so far from the edge."""
    off = np.clip(radius - middles, 0, None)
    return np.asarray(radius - np.sqrt(np.maximum(0, radius * radius - off * off))) * (off > 0)


def _step(at: Floats, deviation: float) -> Floats:
    """The integral of the blur: of three boxes two deviations wide each, as browsers blur.

    It is near a Gaussian's, of the same deviation, and ends three of them out.
    """
    value = np.clip(at / (2 * deviation), -1.5, 1.5)
    outer = (1.5 - np.abs(value)) ** 3 / 6
    inner = 0.75 * value - value**3 / 3
    return np.asarray(np.where(value > 0.5, 1 - outer, np.where(value < -0.5, outer, 0.5 + inner)))


@dataclass(frozen=True)
class _Fit:
    """Numbers of one shadow or two (offsets, deviation, spread, alpha each), their colours."""

    numbers: Floats
    colors: Floats
    off: float

    @property
    def shadows(self) -> tuple[Shadow, ...]:
        found_shadows = []
        for (x, y, deviation, spread, alpha), color in zip(
            self.numbers.reshape(-1, 5), self.colors, strict=True
        ):
            straight = np.clip(np.round(255 * np.append(color, alpha)), 0, 255).astype(np.uint8)
            found_shadows.append(Shadow(x, y, 2 * deviation, hex_of(straight), spread))
        return tuple(found_shadows)


def _best(
    around: Surroundings, starts: Sequence[Sequence[Sequence[float]]], widest: float = WIDEST
) -> _Fit:
    """The best of the fits that begin with some numbers for each shadow, spread no wider."""
    from scipy.optimize import least_squares

    def rest(numbers: Floats) -> Floats:
        return _rest(around, numbers)[0].ravel()

    low = np.array([-200.0, -200, SHARPEST, -widest / 2 - 1e-5, 0.0])
    high = np.array([200.0, 200, 120, widest + 1e-5, 1.0])
    best: _Fit | None = None
    for start in starts:
        first = np.concatenate([np.asarray(group, float) for group in start])
        lows, highs = np.tile(low, len(start)), np.tile(high, len(start))
        solution = least_squares(
            rest,
            np.clip(first, lows + 1e-6, highs - 1e-6),
            bounds=(lows, highs),
            x_scale=np.tile([4.0, 4, 4, 4, 0.3], len(start)),
            max_nfev=40,
            ftol=1e-4,
            xtol=1e-3,
        )
        left, colors = _rest(around, solution.x)
        off = float(np.sqrt((left**2).mean()))
        if best is None or off < best.off:
            best = _Fit(solution.x, colors, off)
        if best.off <= GOOD:
            break
    assert best is not None
    return best


def _rest(around: Surroundings, numbers: Floats) -> tuple[Floats, Floats]:
    """What shadows leave unexplained of each pixel, and the colours that leave least."""
    weights: list[Floats] = []
    through = np.ones(int(around.seen.sum()))
    for x, y, deviation, spread, alpha in numbers.reshape(-1, 5):
        size = (around.width, around.height)
        mask = cast(around.x, around.y, size, around.radii.listed, (x, y, deviation, spread))
        own = through * alpha * mask[around.seen]
        through = through - own
        weights.append(own)
    basis, there = np.stack(weights, axis=1), around.colors[around.seen]
    square = basis.T @ basis + 1e-9 * np.eye(len(weights))
    colors = np.clip(np.linalg.solve(square, basis.T @ there[:, :3]), 0, 1)
    model = np.concatenate([basis @ colors, basis.sum(axis=1, keepdims=True)], axis=1)
    return _unrounded(there - model, there), colors


def _unrounded(rest: Floats, there: Floats) -> Floats:
    """What is left when 8 bits are allowed for, which some programs cut off and do not round.

    Up to a step is taken from every channel where anything is, and where nothing is up to one and a
    half may be missing.
    """
    painted = there[:, 3] > 0
    rest[~painted] = np.minimum(0, rest[~painted] + 1.5 / 255)
    if painted.any():
        rest[painted] -= np.clip(rest[painted].mean(axis=0), -1 / 255, 0)
    return rest


def _starts(reach: tuple[float, float, float, float]) -> list[list[float]]:
    """Numbers to begin with: all of the reach is blur, or half of it spread, or most of it."""
    left, top, right, bottom = reach
    mean = max(1.0, (left + top + right + bottom) / 4)
    x, y = (right - left) / 2, (bottom - top) / 2
    return [
        [x, y, max(0.5, mean * blur), mean * spread, alpha]
        for blur, spread, alpha in ((0.4, 0.0, 0.4), (0.2, 0.5, 0.5), (0.5, -0.3, 0.6))
    ]


def _pairs(first: _Fit, reach: tuple[float, float, float, float]) -> list[list[list[float]]]:
    """Numbers of two shadows to begin with: the one that was found, with a near and a far one."""
    x, y, deviation, spread, alpha = (float(value) for value in first.numbers)
    wide = _starts(reach)[0]
    near = [x / 4, y / 4, max(0.6, deviation / 4), 0.0, alpha / 2]
    return [
        [near, wide],
        [wide, near],
        [[x, y, deviation / 2, spread, alpha], [x, y, 1.5 * deviation, spread, alpha / 2]],
        [
            [0.0, 0.0, max(0.6, deviation / 3), max(0.0, spread), alpha / 2],
            [x, y, deviation, 0.0, alpha],
        ],
    ]


def _reach(alpha: npt.NDArray[np.float32], box: Box) -> tuple[float, float, float, float] | None:
    """How far anything is seen beyond the left, top, right and bottom; None where nothing is."""
    outside = alpha > SEEN
    outside[box.y : box.bottom, box.x : box.right] = False
    if not outside.any():
        return None
    rows, columns = np.flatnonzero(outside.any(axis=1)), np.flatnonzero(outside.any(axis=0))
    return (
        float(max(0, box.x - columns[0])),
        float(max(0, box.y - rows[0])),
        float(max(0, columns[-1] + 1 - box.right)),
        float(max(0, rows[-1] + 1 - box.bottom)),
    )


def _surroundings(pixels: Pixels, box: Box, radii: Radii) -> Surroundings:
    height, width = pixels.shape[:2]
    inner = int(max(radii.listed)) + 2
    x = _chosen(width, box.x, box.right, inner)
    y = _chosen(height, box.y, box.bottom, inner)
    at_x = np.asarray(x - box.x + 0.5, np.float64)
    at_y = np.asarray(y - box.y + 0.5, np.float64)
    colors = pixels[np.ix_(y, x)].astype(np.float64)
    covered = _inside(at_x, at_y, box, radii)
    return Surroundings(at_x, at_y, ~covered, colors, box.width, box.height, radii)


def _chosen(count: int, start: int, end: int, inner: int) -> npt.NDArray[np.int64]:
    """Some columns: before and behind the box and where its corners are, few between."""
    parts = [
        (0, start),
        (start, min(start + inner, end)),
        (max(start, end - inner), end),
        (end, count),
    ]
    result = [np.linspace(a, b - 1, min(LINES, b - a)) for a, b in parts if b > a]
    result.append(np.linspace(start, end - 1, 5))
    return np.unique(np.round(np.concatenate(result)).astype(np.int64))


def _inside(x: Floats, y: Floats, box: Box, radii: Radii) -> npt.NDArray[np.bool_]:
    """Which crossings the box covers, wholly or in part."""
    across, down = np.meshgrid(x, y)
    inside = (
        (across > -0.5) & (across < box.width + 0.5) & (down > -0.5) & (down < box.height + 0.5)
    )
    for radius, (right, lower) in zip(radii.listed, ((0, 0), (1, 0), (1, 1), (0, 1)), strict=True):
        off_x = radius - (box.width - across if right else across)
        off_y = radius - (box.height - down if lower else down)
        inside &= ~((off_x > 0) & (off_y > 0) & (np.hypot(off_x, off_y) > radius + 1))
    return np.asarray(inside)
