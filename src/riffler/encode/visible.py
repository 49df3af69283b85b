"""Two pictures -> what an eye sees of their difference: 0 for none, towards 1 for unlike pictures.

Multi-scale structural similarity (Wang, Simoncelli and Bovik 2003) on the lightness and, at half
the resolution, the two hues of Oklab (Ottosson 2020), where equal steps look about equally large.
What is transparent is laid on light and on dark, and the worse of the two counts; where nothing is
in either picture does not count, so that an icon is judged alike on a small and a large canvas.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from riffler.color import Bytes, Pixels, to_linear

#: How much each scale counts, the finest first; Wang, Simoncelli and Bovik 2003, section 3.2.
SCALES = (0.0448, 0.2856, 0.3001, 0.2363, 0.1333)

#: What keeps the terms steady, K1 and K2 of Wang et al. 2004 for a range of 1. Their 0.03 hides
#: the steps of a palette in a smooth gradient; at 0.01 a step of 2.5 in 255 is seen there.
STEADY_MEAN, STEADY_SPREAD = 0.01**2, 0.01**2

#: How much lightness counts beside the two hues together.
LIGHTNESS = 0.8

#: Side of the windows in which pictures are compared, and from each to the next, in pixels.
WINDOW, STEP = 8, 4

#: The part of a picture that is worst counts by itself, so that a halo round text is not averaged
#: away by empty ground; and how much it counts.
WORST, WORST_COUNTS = 0.05, 0.35

#: Red, green and blue of the grounds that transparent pictures are laid on.
GROUNDS = ((1.0, 1.0, 1.0), (0.12, 0.12, 0.12))

#: Unlikeness of a window that is no more than rounding.
ROUNDING = 1e-5

Plane = npt.NDArray[np.float32]
"""(H, W) float32: lightness or a hue of Oklab, or what windows of it give."""

Windows = npt.NDArray[np.bool_]
"""(windows down, windows across): whether anything is painted in each."""

#: Linear light of every 8-bit value.
_LINEAR = to_linear((np.arange(256) / 255).astype(np.float32))

#: Ottosson 2020: linear sRGB to cone responses, and their cube roots to Oklab.
_TO_CONES = np.array(
    ((0.4122214708, 0.5363325363, 0.0514459929),
     (0.2119034982, 0.6806995451, 0.1073969566),
     (0.0883024619, 0.2817188376, 0.6299787005)), np.float32)  # fmt: skip
_TO_LAB = np.array(
    ((0.2104542553, 0.7936177850, -0.0040720468),
     (1.9779984951, -2.4285922050, 0.4505937099),
     (0.0259040371, 0.7827717662, -0.8086757660)), np.float32)  # fmt: skip


@dataclass(frozen=True)
class _Stats:
    """One plane at one scale, with its means and squares in every window."""

    plane: Plane
    mean: Plane
    square: Plane


class Reference:
    """A picture that others are compared with; its side of the work is done once."""

    def __init__(self, straight: Bytes) -> None:
        """straight: (H, W, 4) uint8."""
        self._is_opaque = bool(straight[..., 3].min(initial=255) == 255)
        self._straight = straight
        self._grounds = GROUNDS[:1] if self._is_opaque else GROUNDS
        self._pyramids = [
            [[_stats(plane) for plane in scales] for scales in _planes(laid(straight, ground))]
            for ground in self._grounds
        ]
        self._painted = None if self._is_opaque else _painted(straight[..., 3])

    def loss(self, straight: Bytes) -> float:
        """What is seen of the difference to another picture of the same size, 0..1."""
        if np.array_equal(straight, self._straight):
            return 0.0
        if self._is_opaque and straight[..., 3].min(initial=255) < 255:
            return 1.0  # it shows through where the other does not
        return max(
            _loss(pyramid, _planes(laid(straight, ground)), self._painted)
            for pyramid, ground in zip(self._pyramids, self._grounds, strict=True)
        )


def loss(reference: Bytes, other: Bytes) -> float:
    """What is seen of the difference between two pictures of one size, 0..1."""
    return Reference(reference).loss(other)


def laid(straight: Bytes, ground: tuple[float, float, float]) -> Bytes:
    """Straight RGBA over an opaque colour, (H, W, 3) uint8, as a browser lays it down."""
    if straight[..., 3].min(initial=255) == 255:
        return straight[..., :3]
    alpha = straight[..., 3:].astype(np.float32) / 255
    under = np.array(ground, np.float32) * 255
    mixed = straight[..., :3] * alpha + under * (1 - alpha)
    return (mixed + 0.5).astype(np.uint8)


def oklab(rgb: Bytes) -> Pixels:
    """(H, W, 3) uint8 sRGB to Oklab: lightness 0..1, two hues about -0.3..0.3."""
    height, width = rgb.shape[:2]
    lab = _TO_LAB @ _roots(rgb)
    return np.asarray(lab.reshape(3, height, width).transpose(1, 2, 0))


def _roots(rgb: Bytes) -> npt.NDArray[np.float32]:
    """The cube roots of the cone responses, (3, pixels): what Oklab is a mixture of."""
    linear = np.empty((3, rgb.shape[0] * rgb.shape[1]), np.float32)
    for channel in range(3):
        np.take(_LINEAR, rgb[..., channel].ravel(), out=linear[channel], mode="clip")
    cones = _TO_CONES @ linear
    return np.cbrt(cones, out=cones)


def _planes(rgb: Bytes) -> list[list[Plane]]:
    """Lightness at every scale, then each hue from half the resolution on."""
    roots = _roots(rgb).reshape(3, *rgb.shape[:2])
    lightness = np.tensordot(_TO_LAB[0], roots, 1)
    few = np.stack([_halved(root) for root in roots])
    hues = np.tensordot(_TO_LAB[1:], few, 1)
    return [_pyramid(lightness, len(SCALES)), *(_pyramid(hue, len(SCALES) - 1) for hue in hues)]


def _pyramid(plane: Plane, most: int) -> list[Plane]:
    """A plane and its halves, as long as two windows fit."""
    scales = [plane]
    while len(scales) < most and min(scales[-1].shape) >= 2 * WINDOW:
        scales.append(_halved(scales[-1]))
    return [_whole_windows(scale) for scale in scales]


def _halved(plane: Plane) -> Plane:
    """Half the resolution, four pixels averaged; an odd last line is left out."""
    height, width = (max(1, side // 2 * 2) for side in plane.shape)
    if min(height, width) < 2:
        return plane
    four = plane[:height:2] + plane[1:height:2]
    return np.asarray((four[:, :width:2] + four[:, 1:width:2]) * np.float32(0.25))


def _whole_windows(plane: Plane) -> Plane:
    """The plane with its last lines repeated until windows fill it."""
    short = [max(WINDOW, -(-side // STEP) * STEP) - side for side in plane.shape]
    return np.pad(plane, [(0, count) for count in short], mode="edge") if any(short) else plane


def _windowed(plane: Plane) -> Plane:
    """The mean in every window: sums of blocks, then of four blocks side by side."""
    blocks = _summed(_summed(plane, STEP).T, STEP).T
    pairs = blocks[:-1] + blocks[1:]
    return np.asarray((pairs[:, :-1] + pairs[:, 1:]) * np.float32(1 / WINDOW**2))


def _summed(plane: Plane, step: int) -> Plane:
    total = plane[::step] + plane[1::step]
    for first in range(2, step):
        total += plane[first::step]
    return np.asarray(total)


def _stats(plane: Plane) -> _Stats:
    mean = _windowed(plane)
    return _Stats(plane, mean, _windowed(plane * plane) - mean * mean)


def _painted(alpha: npt.NDArray[np.uint8]) -> list[list[Windows]]:
    """The windows in which anything is painted, of every plane at every scale."""
    painted = (alpha > 0).astype(np.float32)
    every = _pyramid(painted, len(SCALES)), _pyramid(_halved(painted), len(SCALES) - 1)
    lightness, hue = ([_windowed(plane) > 0 for plane in scales] for scales in every)
    return [lightness, hue, hue]


def _loss(
    reference: Sequence[Sequence[_Stats]],
    other: Sequence[Sequence[Plane]],
    painted: Sequence[Sequence[Windows]] | None,
) -> float:
    """The loss of all planes together; hues share what lightness leaves."""
    counts = (LIGHTNESS, (1 - LIGHTNESS) / 2, (1 - LIGHTNESS) / 2)
    parts = [
        _plane_loss(scales, planes, painted[index] if painted else None)
        for index, (scales, planes) in enumerate(zip(reference, other, strict=True))
    ]
    return float(sum(count * part for count, part in zip(counts, parts, strict=True)))


def _plane_loss(
    scales: Sequence[_Stats], planes: Sequence[Plane], painted: Sequence[Windows] | None
) -> float:
    """The scales' likenesses multiplied, each to the power of how much it counts."""
    weights = np.array(SCALES[: len(scales)])
    weights /= weights.sum()
    total = 0.0
    for index, (weight, stats, plane) in enumerate(zip(weights, scales, planes, strict=True)):
        unlike = 1 - _likeness(stats, plane)
        flat = unlike.ravel()
        if painted is not None:
            flat = unlike[painted[index] | (unlike > ROUNDING)]
            if not flat.size:
                continue
        worst = max(1, int(flat.size * WORST))
        peak = float(np.partition(flat, flat.size - worst)[-worst:].mean())
        pooled = (1 - WORST_COUNTS) * float(flat.mean()) + WORST_COUNTS * peak
        total += weight * np.log(max(1e-6, 1 - min(1.0, pooled)))
    return float(1 - np.exp(total))


def _likeness(stats: _Stats, plane: Plane) -> Plane:
    """Structural similarity in every window; Wang et al. 2004, equation 13."""
    mean = _windowed(plane)
    square = _windowed(plane * plane) - mean * mean
    product = _windowed(stats.plane * plane) - stats.mean * mean
    means = (2 * stats.mean * mean + STEADY_MEAN) / (
        stats.mean * stats.mean + mean * mean + STEADY_MEAN
    )
    spread = (2 * product + STEADY_SPREAD) / (stats.square + square + STEADY_SPREAD)
    return np.asarray(means * spread)
