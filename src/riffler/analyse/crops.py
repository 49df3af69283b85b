"""Two pictures of any sizes -> whether they show the same, be it in another crop."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt
from PIL import Image

from riffler.analyse.thumbnails import likeness, thumbs
from riffler.color import Bytes

#: Pixels along the side that two crops of one picture have in common.
SIDE = 48

#: Sides whose ratios differ by less than this are of one shape.
SHAPE = 1.06

#: The share of a picture that is opaque at least for crops of it to be looked for.
OPAQUE = 0.9

#: How far the least of two crops may be cut, as a share of the larger one.
SHORTEST = 0.3

Plane = npt.NDArray[np.float64]


def same_picture(first: Bytes, second: Bytes) -> float:
    """How much speaks for two pictures being one: 1 all, 0 nothing.

    first, second: (H, W, 4) uint8, straight RGBA. Of one shape they are held against each other
    whole; else as crops that share a height or a width, by normalised cross-correlation at every
    place: J. P. Lewis, "Fast Normalized Cross-Correlation", 1995.
    """
    shapes = [picture.shape[1] / picture.shape[0] for picture in (first, second)]
    is_one_shape = max(shapes) <= SHAPE * min(shapes)
    whole = likeness(thumbs(first), thumbs(second)) if is_one_shape else 0.0
    if min(_opaque(first), _opaque(second)) < OPAQUE:
        return whole
    return max(whole, *(_along(first, second, is_across=is_across) for is_across in (True, False)))


def _opaque(pixels: Bytes) -> float:
    return float((pixels[..., 3] > 250).mean())


def _along(first: Bytes, second: Bytes, *, is_across: bool) -> float:
    """The likeness where both show all of one direction, at the place where it is greatest."""
    long, short = sorted(
        (_small(picture, is_across=is_across) for picture in (first, second)),
        key=lambda plane: -plane.shape[1],
    )
    if short.shape[1] < SHORTEST * long.shape[1]:
        return 0.0
    places = range(long.shape[1] - short.shape[1] + 1)
    return max(_correlation(long[:, at : at + short.shape[1]], short) for at in places)


def _small(pixels: Bytes, *, is_across: bool) -> Plane:
    """Three channels, one side `SIDE` long, the other along the rows: (SIDE, N, 3)."""
    height, width = pixels.shape[:2]
    other = max(1, round(SIDE * (width / height if is_across else height / width)))
    size = (other, SIDE) if is_across else (SIDE, other)
    image = Image.fromarray(np.ascontiguousarray(pixels[..., :3])).resize(
        size, Image.Resampling.BOX
    )
    values = np.asarray(image, np.float64)
    return values if is_across else values.transpose(1, 0, 2)


def _correlation(first: Plane, second: Plane) -> float:
    a, b = first - first.mean(axis=(0, 1)), second - second.mean(axis=(0, 1))
    power = float(np.sqrt((a * a).sum() * (b * b).sum()))
    return float((a * b).sum()) / power if power > 1e-6 else 0.0
