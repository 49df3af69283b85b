"""Straight RGBA -> a palette of at most 256 colours and which of them each pixel takes.

Clustering (Lloyd 1982) in Oklab and alpha, each colour weighted by how many pixels have it and how
calm their surroundings are: an error shows on smooth ground and hides in texture.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from riffler.color import Bytes, oklab

#: Different colours that are clustered at the most; the rest is as near to these as makes no odds.
SAMPLED = 16_000

#: Rounds of moving the colours to the middle of what takes them; more would give up rare colours.
ROUNDS = 3

#: What a step of alpha and one of a hue are worth beside one of lightness: found by trial on the
#: example's graphics and the pictures in `benchmarks/`, so that the visible loss becomes least.
ALPHA_COUNTS, HUES_COUNT = 0.6, 1.6

_COUNTS = np.array((1, HUES_COUNT, HUES_COUNT), np.float32)

#: How much the number of pixels counts in the choice of colours to begin with, as a power.
NUMBERS_COUNT = 0.8

#: The side of the square whose spread is a pixel's, and the colours compared with all at a time.
AROUND, AT_ONCE = 5, 4096

#: How quickly weight falls with the spread of lightness around a pixel.
TEXTURE_HIDES = 40.0

Features = npt.NDArray[np.float32]
"""(N, 4) float32: lightness, two hues and alpha of colours, each as it counts."""


@dataclass(frozen=True)
class Palette:
    """colors: (N, 4) uint8, what shows through first; indexes: (H, W)."""

    colors: npt.NDArray[np.uint8]
    indexes: npt.NDArray[np.int64]

    @property
    def straight(self) -> Bytes:
        """The picture as it will look."""
        return np.asarray(self.colors[self.indexes])


@dataclass(frozen=True)
class Counted:
    """A picture's different colours, and how much each of them counts.

    straight: (H, W, 4) uint8, and how much an error `calm` tells of at each pixel; colors: (N, 4)
    uint8, with their weights; indexes: (H, W), the colour of each pixel.
    """

    straight: Bytes
    calm: npt.NDArray[np.float64]
    colors: npt.NDArray[np.uint8]
    weights: npt.NDArray[np.float64]
    indexes: npt.NDArray[np.int64]
    features: Features

    @classmethod
    def of(cls, straight: Bytes) -> Counted:
        """Count them. straight: (H, W, 4) uint8."""
        packed = np.ascontiguousarray(straight).view(np.uint32)[..., 0]
        calm = _calm(straight)
        result, inverse = np.unique(packed, return_inverse=True)
        weights = np.bincount(inverse.ravel(), calm.ravel(), len(result)).astype(np.float64)
        colors = result.view(np.uint8).reshape(-1, 4)
        indexes = inverse.reshape(packed.shape)
        return cls(straight, calm, colors, weights, indexes, _features(colors))


def palette(picture: Counted, count: int, *, dither: bool = False) -> Palette:
    """The best `count` colours (at most 256) for a picture; with `dither` errors are handed on.

    Errors go to the row below alone and not on calm ground, where their pattern would show more
    than they do.
    """
    colors, features, weights = picture.colors, picture.features, picture.weights
    centres = _clustered(features, weights, count)
    chosen = _colors_of(colors, features, weights, centres)
    order = np.lexsort((_features(chosen)[:, 0], chosen[:, 3]))
    chosen = chosen[order]
    if dither:
        return Palette(chosen, _dithered(picture.straight, chosen, picture.calm))
    return Palette(chosen, _nearest(_features(chosen), features)[picture.indexes])


def _features(colors: npt.NDArray[np.uint8]) -> Features:
    """Oklab and alpha, (N, 4); colour counts less the more it shows through."""
    alpha = colors[:, 3:].astype(np.float32) / 255
    lab = oklab(np.ascontiguousarray(colors[None, :, :3]))[0] * _COUNTS
    return np.concatenate((lab * np.sqrt(alpha), alpha * ALPHA_COUNTS), axis=1).astype(np.float32)


def _calm(straight: Bytes) -> npt.NDArray[np.float64]:
    """How much an error at each pixel counts, 0..1: all on smooth ground, little in texture."""
    light = oklab(np.ascontiguousarray(straight[..., :3]))[..., 0] * (straight[..., 3] / 255)
    mean = _mean(light)
    spread = np.sqrt(np.maximum(0, _mean(light * light) - mean * mean))
    return np.asarray(1 / (1 + TEXTURE_HIDES * spread), np.float64)


def _mean(plane: npt.NDArray[np.float64]) -> npt.NDArray[np.float64]:
    """The mean of the square of `AROUND` pixels around each, the picture mirrored at its edges."""
    padded = np.pad(plane, AROUND // 2, "symmetric")
    for _ in range(2):
        lines = len(padded) - AROUND + 1
        total = padded[:lines].copy()
        for shift in range(1, AROUND):
            total += padded[shift : shift + lines]
        padded = total.T
    return np.asarray(padded / AROUND**2)


def _clustered(features: Features, weights: npt.NDArray[np.float64], count: int) -> Features:
    if len(features) <= count:
        return features
    if len(features) > SAMPLED:
        kept = np.argsort(-weights, kind="stable")[: SAMPLED // 2]
        spread = np.linspace(0, len(features) - 1, SAMPLED // 2).astype(np.int64)
        chosen = np.union1d(kept, spread)
        features, weights = features[chosen], weights[chosen]
    centres = _farthest(features, weights, count)
    for _ in range(ROUNDS):
        owner = _nearest(centres, features)
        total = np.bincount(owner, weights, len(centres))
        sums = np.stack(
            [np.bincount(owner, weights * features[:, n], len(centres)) for n in range(4)], axis=1
        )
        moved = np.where(total[:, None] > 0, sums / np.maximum(total, 1e-12)[:, None], centres)
        centres = moved.astype(np.float32)
    return centres


def _farthest(features: Features, weights: npt.NDArray[np.float64], count: int) -> Features:
    """Colours to begin with: each the one that those before serve worst (Gonzalez 1985).

    So a colour of few pixels far from all others has its own; how many pixels a colour has counts
    for less than it does later.
    """
    counts = (weights**NUMBERS_COUNT).astype(np.float32)
    chosen = [int(np.argmax(weights))]
    away = _squares(features, features[chosen[0]])
    while len(chosen) < count:
        worst = int(np.argmax(away * counts))
        if away[worst] <= 0:
            break
        chosen.append(worst)
        np.minimum(away, _squares(features, features[worst]), out=away)
    return features[chosen]


def _squares(features: Features, centre: Features) -> Features:
    off = features - centre
    return np.asarray(np.einsum("nf,nf->n", off, off))


def _colors_of(
    colors: npt.NDArray[np.uint8],
    features: Features,
    weights: npt.NDArray[np.float64],
    centres: Features,
) -> npt.NDArray[np.uint8]:
    """The 8-bit colours for the clusters: the mean of what belongs to each, alpha counted."""
    owner = _nearest(centres, features)
    alpha = colors[:, 3].astype(np.float64) / 255
    total = np.bincount(owner, weights, len(centres))
    mean_alpha = np.bincount(owner, weights * alpha, len(centres)) / np.maximum(total, 1e-12)
    covered = np.maximum(np.bincount(owner, weights * alpha, len(centres)), 1e-12)
    result = np.zeros((len(centres), 4))
    for channel in range(3):
        sums = np.bincount(owner, weights * alpha * colors[:, channel], len(centres))
        result[:, channel] = sums / covered
    result[:, 3] = 255 * mean_alpha
    kept = np.round(result[total > 0]).clip(0, 255).astype(np.uint8)
    kept[kept[:, 3] == 0] = 0
    return np.unique(kept, axis=0)


def _nearest(centres: Features, features: Features) -> npt.NDArray[np.int64]:
    """Which centre is nearest to each colour: the one that |c|^2 - 2 c f is least for."""
    every = np.vstack((-2 * centres.T.astype(np.float64), (centres.astype(np.float64) ** 2).sum(1)))
    nearest = np.empty(len(features), np.int64)
    for first in range(0, len(features), AT_ONCE):
        part = slice(first, first + AT_ONCE)
        wide = np.pad(features[part].astype(np.float64), ((0, 0), (0, 1)), constant_values=1)
        nearest[part] = (wide @ every).argmin(axis=1)
    return nearest


def _dithered(
    straight: Bytes, colors: npt.NDArray[np.uint8], calm: npt.NDArray[np.float64]
) -> npt.NDArray[np.int64]:
    """Every row as near as the palette allows, its error handed to the three pixels below.

    After Floyd and Steinberg 1976, without the part to the right, so that a row is one step.
    """
    centres = _features(colors)
    height, width = straight.shape[:2]
    indexes = np.empty((height, width), np.int64)
    carried = np.zeros((width, 4))
    handed = np.clip(1.25 - calm, 0, 1)[..., None] * 0.9
    for y in range(height):
        wanted = straight[y] + carried
        row = np.clip(np.round(wanted), 0, 255).astype(np.uint8)
        indexes[y] = _nearest(centres, _features(row))
        off = (np.clip(wanted, 0, 255) - colors[indexes[y]]) * handed[y]
        carried = off * (5 / 11)
        carried[1:] += off[:-1] * (3 / 11)
        carried[:-1] += off[1:] * (3 / 11)
    return indexes
