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


def palette(straight: Bytes, count: int, *, dither: bool = False) -> Palette:
    """The best `count` colours (at most 256) for a picture; with `dither` errors are handed on.

    straight: (H, W, 4) uint8. Errors go to the row below alone and not on calm ground, where their
    pattern would show more than they do.
    """
    packed = np.ascontiguousarray(straight).view(np.uint32)[..., 0]
    calm = _calm(straight)
    found, inverse = np.unique(packed, return_inverse=True)
    weights = np.bincount(inverse.ravel(), calm.ravel(), len(found)).astype(np.float64)
    colors = found.view(np.uint8).reshape(-1, 4)
    features = _features(colors)
    centres = _clustered(features, weights, count)
    chosen = _colors_of(colors, features, weights, centres)
    order = np.lexsort((_features(chosen)[:, 0], chosen[:, 3]))
    chosen = chosen[order]
    nearest = _nearest(_features(chosen), features)
    indexes = nearest[inverse].reshape(packed.shape)
    if dither:
        indexes = _dithered(straight, chosen, calm)
    return Palette(chosen, indexes)


def _features(colors: npt.NDArray[np.uint8]) -> Features:
    """Oklab and alpha, (N, 4); colour counts less the more it shows through."""
    alpha = colors[:, 3:].astype(np.float32) / 255
    lab = oklab(np.ascontiguousarray(colors[None, :, :3]))[0] * _COUNTS
    return np.concatenate((lab * np.sqrt(alpha), alpha * ALPHA_COUNTS), axis=1).astype(np.float32)


def _calm(straight: Bytes) -> npt.NDArray[np.float64]:
    """How much an error at each pixel counts, 0..1: all on smooth ground, little in texture."""
    from scipy import ndimage

    light = oklab(np.ascontiguousarray(straight[..., :3]))[..., 0] * (straight[..., 3] / 255)
    mean = ndimage.uniform_filter(light, 5)
    spread = np.sqrt(np.maximum(0, ndimage.uniform_filter(light * light, 5) - mean * mean))
    return np.asarray(1 / (1 + TEXTURE_HIDES * spread), np.float64)


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
    from scipy.spatial import cKDTree

    return np.asarray(cKDTree(centres).query(features)[1], np.int64)


def _dithered(
    straight: Bytes, colors: npt.NDArray[np.uint8], calm: npt.NDArray[np.float64]
) -> npt.NDArray[np.int64]:
    """Every row as near as the palette allows, its error handed to the three pixels below.

    After Floyd and Steinberg 1976, without the part to the right, so that a row is one step.
    """
    from scipy.spatial import cKDTree

    tree = cKDTree(_features(colors))
    height, width = straight.shape[:2]
    indexes = np.empty((height, width), np.int64)
    carried = np.zeros((width, 4))
    handed = np.clip(1.25 - calm, 0, 1)[..., None] * 0.9
    for y in range(height):
        wanted = straight[y] + carried
        row = np.clip(np.round(wanted), 0, 255).astype(np.uint8)
        indexes[y] = tree.query(_features(row))[1]
        off = (np.clip(wanted, 0, 255) - colors[indexes[y]]) * handed[y]
        carried = off * (5 / 11)
        carried[1:] += off[:-1] * (3 / 11)
        carried[:-1] += off[1:] * (3 / 11)
    return indexes
