"""The pixels inside a box -> the shadow that falls into it, and the fill without that shadow.

An inner shadow is all that lies outside of the box, which its spread makes smaller; moved, blurred,
and seen where it falls inside. CSS Backgrounds and Borders 3, section 7.2.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from riffler.analyse.cast_box import SHARPEST, cast
from riffler.analyse.style import Radii, Shadow
from riffler.color import Pixels, hex_of

Floats = npt.NDArray[np.float64]
Mask = npt.NDArray[np.bool_]

#: Columns and rows that are looked at near each edge, and between.
NEAR, BETWEEN = 26, 8

#: How far a fit may be off, in the mean, and the least that a shadow changes, both in 0..1.
GOOD, LEAST = 1.1 / 255, 5 / 255

#: Offsets and deviations, as shares of the reach, that a fit may begin with, and how many do.
TRIED = 2
_STARTS = ((0.0, 0.0, 0.4), (0.4, 0.4, 0.35), (-0.4, -0.4, 0.35), (0.0, 0.5, 0.4), (0.0, -0.5, 0.4))


@dataclass(frozen=True)
class Sunken:
    """An inner shadow, lengths in pixels, and the pixels as they are without it."""

    shadow: Shadow
    fill: Pixels


def sunken_of(inner: Pixels, inside: Mask, radii: Radii) -> Sunken | None:
    """The shadow inside a box of one colour or a straight gradient; None where there is none.

    inner: (H, W, 4) float32, premultiplied, 0..1, opaque where `inside` (H, W).
    """
    height, width = inner.shape[:2]
    if min(height, width) < 12 or float(inner[..., 3][inside].min(initial=1)) < 0.99:
        return None
    x, y = _chosen(width), _chosen(height)
    few, among = inner[np.ix_(y, x)].astype(np.float64), inside[np.ix_(y, x)]
    at = _middles(x), _middles(y)
    fit = _best(few, among, at, (width, height), radii)
    if fit is None:
        return None
    numbers, coefficients = fit
    color, alpha = _ink(coefficients)
    if alpha * float(np.abs(coefficients[3]).max()) == 0:
        return None
    across, down, deviation, spread = numbers.tolist()
    every = _middles(np.arange(width)), _middles(np.arange(height))
    plain = _basis(every, (width, height), np.zeros((height, width)))[..., :3] @ coefficients[:3]
    fill = np.dstack([plain, np.ones((height, width))]).clip(0, 1).astype(np.float32)
    fill[~inside] = 0
    straight = np.clip(np.round(255 * np.append(color, alpha)), 0, 255).astype(np.uint8)
    shadow = Shadow(across, down, 2 * deviation, hex_of(straight), spread, is_inner=True)
    return Sunken(shadow, fill)


def _chosen(count: int) -> npt.NDArray[np.int64]:
    """Pixels near both ends, and some between."""
    near = min(NEAR, count // 2)
    between = np.linspace(near, count - near - 1, BETWEEN)
    result = np.concatenate((np.arange(near), between, np.arange(count - near, count)))
    return np.unique(np.round(result).astype(np.int64))


def _middles(pixels: npt.NDArray[np.int64]) -> Floats:
    return np.asarray(pixels + 0.5, np.float64)


def _mask(
    at: tuple[Floats, Floats], size: tuple[int, int], radii: Radii, numbers: Floats
) -> Floats:
    """How much of the shadow falls on the crossings of columns and rows: (M, N), 0..1."""
    across, down, deviation, spread = numbers.tolist()
    return 1 - cast(*at, size, radii.listed, (across, down, deviation, -spread))


def _basis(at: tuple[Floats, Floats], size: tuple[int, int], mask: Floats) -> Floats:
    """What the fill and the shadow on it are sums of: (M, N, 6)."""
    x, y = np.meshgrid(at[0] / size[0] - 0.5, at[1] / size[1] - 0.5)
    return np.stack([np.ones_like(x), x, y, mask, mask * x, mask * y], axis=2)


def _best(
    few: Floats, among: Mask, at: tuple[Floats, Floats], size: tuple[int, int], radii: Radii
) -> tuple[Floats, Floats] | None:
    """Offsets, deviation and spread, and the sums' coefficients (6, 3); None where none fits."""
    from scipy.optimize import least_squares

    there = few[among][:, :3]

    def solved(numbers: Floats) -> tuple[Floats, Floats]:
        basis = _basis(at, size, _mask(at, size, radii, numbers))[among]
        square = basis.T @ basis + 1e-7 * np.eye(6)
        coefficients = np.linalg.solve(square, basis.T @ there)
        return there - basis @ coefficients, np.asarray(coefficients)

    def left(numbers: Floats) -> Floats:
        return solved(numbers)[0].ravel()

    reach = _reach(few, among)
    low, high = np.array([-60.0, -60, SHARPEST, -10]), np.array([60.0, 60, 60, 60])
    best: tuple[float, Floats] | None = None
    starts = [
        np.array([across * reach, down * reach, max(0.6, blur * reach), 0.0])
        for across, down, blur in _STARTS
    ]
    for start in sorted(starts, key=lambda start: float(np.square(left(start)).sum()))[:TRIED]:
        solution = least_squares(
            left,
            start,
            bounds=(low, high),
            x_scale=[2.0, 2, 2, 2],
            max_nfev=30,
            ftol=1e-5,
        )
        off = float(np.sqrt(2 * solution.cost / there.size))
        if best is None or off < best[0]:
            best = off, solution.x
        if off <= GOOD / 2:
            break
    if best is None or best[0] > GOOD:
        return None
    coefficients = solved(best[1])[1]
    plain = _basis(at, size, np.zeros_like(_mask(at, size, radii, best[1])))[among]
    changed = np.abs(there - plain @ coefficients).max()
    return (best[1], coefficients) if changed >= LEAST else None


def _reach(few: Floats, among: Mask) -> float:
    """About how far from the edges anything changes, in pixels."""
    middle = np.median(few[among], axis=0)
    off = np.abs(few - middle).max(axis=2) * among
    changed = off > 0.25 * off.max()
    rows, columns = changed.mean(axis=1) > 0.3, changed.mean(axis=0) > 0.3
    counts = [int(np.argmin(one)) for one in (rows, rows[::-1], columns, columns[::-1])]
    return float(max(2, *counts)) if max(counts) else 4.0


def _ink(coefficients: Floats) -> tuple[Floats, float]:
    """The colour and the alpha of the shadow: the least that explains it, black or white mostly."""
    fill, change = coefficients[0], coefficients[3]
    room = np.where(change < 0, np.maximum(fill, 1e-6), np.maximum(1 - fill, 1e-6))
    alpha = float(np.clip((np.abs(change) / room).max(), 0.0, 1.0))
    color = np.clip(fill + change / max(alpha, 1e-6), 0, 1)
    return np.where(color < 4 / 255, 0.0, np.where(color > 251 / 255, 1.0, color)), alpha
