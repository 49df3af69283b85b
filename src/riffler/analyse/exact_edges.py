"""Full-size crops of a box's corners and edges -> exact radii and borders."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
import numpy.typing as npt

from riffler.analyse.style import Border
from riffler.color import Pixels, hex_of, to_bytes

#: Steps of 8 bits by which a border's pixels may differ, and from which it differs from the fill.
ALIKE, OTHER = 5, 7

#: A corner that lacks less than this many pixels has none.
LEAST = 0.25


def corner_radius(crop: Pixels) -> float:
    """The radius of the corner at the top left of a box, by the pixels that it lacks, in pixels.

    A quarter of a disc leaves r² (1 - π/4) of its square. crop: (1 + H, 1 + W, 4) float32,
    premultiplied, 0..1, with one row and one column from beside the box, which tell how strong a
    shadow lies in the gap.
    """
    alpha = crop[..., 3]
    beneath, full = float(alpha[0, 0]), float(alpha[-1, -1])
    if full - beneath < 1 / 16:
        return 0.0
    inside = np.clip((alpha[1:, 1:] - beneath) / (full - beneath), 0, 1)
    edges = np.outer(inside[:, -1], inside[-1])  # soft where the box ends between pixels
    lacking = float(np.clip(edges - inside, 0, None).sum())
    return math.sqrt(lacking / (1 - math.pi / 4)) if lacking >= LEAST else 0.0


def border_of(profiles: Sequence[Pixels]) -> Border | None:
    """What lies along all four edges in another colour than further in; None when nothing does.

    profiles: for each edge (N, D, 4) float32, premultiplied: lines from the edge inwards.
    """
    result = [_border(profile) for profile in profiles]
    if not result or any(group is None for group in result):
        return None
    lines = [group for group in result if group is not None]
    colors = np.array([color for color, _ in lines])
    widths = np.array([width for _, width in lines])
    if np.ptp(colors, axis=0).max() > 2 * ALIKE or np.ptp(widths) > 1:
        return None
    color = np.median(colors, axis=0).astype(np.uint8)
    return Border(hex_of(color), float(np.median(widths)))


def _border(profile: Pixels) -> tuple[npt.NDArray[np.float64], float] | None:
    """The colour and the width of a line along one edge."""
    line = np.median(to_bytes(profile).astype(np.float64), axis=0)
    solid = line[:, 3] >= 0.95 * line[-1, 3]
    first = int(np.argmax(solid))
    if not solid[first] or first > 1 or first + 2 > len(line):
        return None
    color, inner = line[first], line[-1]
    if np.abs(color - inner)[:3].max() < OTHER:
        return None
    beyond = np.flatnonzero(np.abs(line[first:] - color)[:, :3].max(axis=1) > ALIKE)
    width = int(beyond[0]) if beyond.size else len(line)
    settled = np.abs(line[first + width + 1 :] - inner)[:, :3].max(axis=1, initial=0)
    if width == 0 or first + width + 1 >= len(line) or settled.max(initial=0) > 2 * OTHER:
        return None
    far = np.abs(inner - color)[:3]
    channel = int(far.argmax())
    share = abs(line[first + width][channel] - color[channel]) / far[channel]
    return color, width + max(0.0, 1.0 - share) + (0.0 if first == 0 else line[0][3] / 255)
