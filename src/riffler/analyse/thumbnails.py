"""Two pictures of any sizes -> how different they look."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from riffler.color import Bytes

Thumbs = npt.NDArray[np.float64]
"""(grounds, THUMB, THUMB, 3) float64: small pictures on each ground, 0..255."""

#: Pixels along each side of the thumbnail by which pictures are told apart.
THUMB = 24

#: Grounds on which pieces with alpha are compared.
GROUNDS = (255.0, 60.0)

#: How different thumbnails are, 0..1, that have nothing in common.
STRANGE = 0.25

#: The shape of all thumbnails of one picture.
SHAPE = (len(GROUNDS), THUMB, THUMB, 3)


def content(first: Bytes, second: Bytes) -> float:
    """How different two pictures look, whatever their sizes: 0 the same, 1 black and white.

    first, second: (H, W, 4) uint8, straight RGBA.
    """
    return unlike(thumbs(first), thumbs(second))


def unlike(first: Thumbs, second: Thumbs) -> float:
    """How different two pictures look by their thumbnails: the worse of the grounds counts."""
    return float(np.abs(first - second).mean(axis=(1, 2, 3)).max()) / 255


def likeness(first: Thumbs, second: Thumbs) -> float:
    """How alike two pictures look by their thumbnails: 1 the same, 0 nothing in common."""
    return max(0.0, 1 - unlike(first, second) / STRANGE)


def thumbs(pixels: Bytes) -> Thumbs:
    """(grounds, THUMB, THUMB, 3): means of areas, on each ground.

    pixels: (H, W, 4) uint8, straight RGBA.
    """
    from PIL import Image

    straight = Image.fromarray(np.ascontiguousarray(pixels))
    mean = straight.convert("RGBa").resize((THUMB, THUMB), Image.Resampling.BOX)
    small = np.array(mean, dtype=np.float64)
    return np.stack([small[..., :3] + ground * (1 - small[..., 3:] / 255) for ground in GROUNDS])
