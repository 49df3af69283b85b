"""What lies softly around a box -> the shadows that it casts: offsets, blur, spread, colour.

A shadow is the box, larger by its spread, blurred by a Gaussian of half the blur as standard
deviation, and seen outside the box alone; CSS Backgrounds and Borders 3, section 7.2.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from riffler.analyse.cast_box import SHARPEST, cast
from riffler.analyse.style import Radii, Shadow
from riffler.color import Pixels, hex_of
from riffler.geometry import Box

Floats = npt.NDArray[np.float64]

#: How far off one shadow may be in the mean where two may lie better, in 0..1.
HOPELESS = 12 / 255

#: Alpha, in 0..1, from which a shadow is seen, and how far off a fit may be in the mean.
SEEN, GOOD = 2 / 255, 0.6 / 255

#: So many columns, and rows, of the surroundings on each side are looked at.
LINES = 20

#: The widest spread, in pixels; what is so little may be none, and how many times less well the
#: shadow without it may lie.
WIDEST, LITTLE, AS_WELL = 120.0, 1.2, 1.25

#: How far off colours may be in the mean, in steps of 8 bits, where shadows share one: people write
#: both in the ink of the page.
SHARED = 0.25

#: How wide the rim beside a box is, in pixels, and how far off alpha may be there in the mean, in
#: 0..1: a shadow that is there lies within a third of a step, one that is two is off by two.
RIM, AT_RIM = 2.0, 1 / 255


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
    if first.off <= 2 * GOOD and _off_at_rim(around, first) <= AT_RIM:
        return first.shadows
    if first.off > HOPELESS:
        return None
    better = _without_spread(around, _best(around, _pairs(first, reach)))
    best = better if better.off < 0.7 * first.off else first
    return best.shadows if best.off <= 4 * GOOD else None


def _without_spread(around: Surroundings, fit: _Fit) -> _Fit:
    """The fit of shadows with no spread, where hardly any was found and that lies as well."""
    shadows = fit.numbers.reshape(-1, 5).tolist()
    if any(abs(spread) > LITTLE for _, _, _, spread, _ in shadows):
        return fit
    start = [
        [x, y, max(deviation + spread / 2, SHARPEST), 0.0, alpha]
        for x, y, deviation, spread, alpha in shadows
    ]
    plain = _best(around, [start], widest=0.0)
    return plain if plain.off <= max(GOOD, AS_WELL * fit.off) else fit


def _off_at_rim(around: Surroundings, fit: _Fit) -> float:
    """How far off alpha is in the mean right beside the box, 0..1: a second shadow lies there."""
    x, y = (plane[around.seen] for plane in np.meshgrid(around.x, around.y))
    apart = np.maximum(np.maximum(-x, x - around.width), np.maximum(-y, y - around.height))
    beside = (apart > 0) & (apart <= RIM)
    left = _rest(around, fit.numbers)[0][beside, 3]
    return float(np.abs(left).mean()) if left.size else 0.0


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
    best: tuple[Floats, float] | None = None
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
        left, _ = _rest(around, solution.x)
        off = float(np.sqrt((left**2).mean()))
        if best is None or off < best[1]:
            best = solution.x, off
        if best[1] <= GOOD:
            break
    assert best is not None
    numbers, off = best
    return _Fit(numbers, _inks(around, numbers), off)


def _rest(around: Surroundings, numbers: Floats) -> tuple[Floats, Floats]:
    """What shadows leave unexplained of each pixel, and the colours that leave least."""
    basis, there = _basis(around, numbers), around.colors[around.seen]
    square = basis.T @ basis + 1e-9 * np.eye(basis.shape[1])
    colors = np.clip(np.linalg.solve(square, basis.T @ there[:, :3]), 0, 1)
    model = np.concatenate([basis @ colors, basis.sum(axis=1, keepdims=True)], axis=1)
    return _unrounded(there - model, there), colors


def _inks(around: Surroundings, numbers: Floats) -> Floats:
    """The colours of shadows, (shadows, 3), 0..1, by the 8 bits that each would have left.

    Programs round premultiplied colours, or cut them off: of faint paint that takes half a step
    from every pixel, and of its colour much more. One ink for all where that explains the pixels,
    by the alpha that is there; else shadow by shadow, by what each paints.
    """
    basis, there = _basis(around, numbers), around.colors[around.seen]
    painted = there[:, 3] > 0
    weights, seen = basis[painted], np.round(255 * there[painted, :3])
    nothing, alpha = np.zeros(len(weights)), there[painted, 3]
    shared = [
        min(
            _explained(alpha, nothing, seen[:, channel], 0.5),
            _explained(alpha + 0.5 / 255, nothing, seen[:, channel], 0.0),
        )
        for channel in range(3)
    ]
    if basis.shape[1] == 1 or max(off for off, _ in shared) <= SHARED:
        return np.tile([value for _, value in shared], (basis.shape[1], 1))
    _, colors = _rest(around, numbers)
    for number in range(basis.shape[1]):
        rest = 255 * (weights @ colors - weights[:, number : number + 1] * colors[number])
        own = weights[:, number]
        for channel in range(3):
            told = (
                _explained(own, rest[:, channel], seen[:, channel], half) for half in (0.5, 0.0)
            )
            colors[number, channel] = min(told)[1]
    return colors


def _explained(weights: Floats, rest: Floats, seen: Floats, half: float) -> tuple[float, float]:
    """How far off 8 bits are with the value that explains them best, and that value, 0..1.

    `half` a step is added before they are cut off; `rest` is what other shadows paint there.
    """
    steps = np.floor(np.outer(np.arange(256.0), weights) + rest + half + 1e-6)
    off = np.abs(steps - seen).mean(axis=1)
    return float(off.min()), float(np.median(np.flatnonzero(off <= off.min() + 1e-9)) / 255)


def _basis(around: Surroundings, numbers: Floats) -> Floats:
    """How much of each shadow is in every pixel: (N, shadows), 0..1."""
    weights: list[Floats] = []
    through = np.ones(int(around.seen.sum()))
    for x, y, deviation, spread, alpha in numbers.reshape(-1, 5):
        size = (around.width, around.height)
        mask = cast(around.x, around.y, size, around.radii.listed, (x, y, deviation, spread))
        own = through * alpha * mask[around.seen]
        through = through - own
        weights.append(own)
    return np.asarray(np.stack(weights, axis=1))


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
