"""Role `tile`: a chunk that CSS repeats; on request its edges fade into those opposite."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from riffler.color import Pixels, within_alpha
from riffler.cutlist.roles import Tile
from riffler.geometry import Box, Scale
from riffler.roles.picture import DrawnPicture


def drawn_box(box: Box, tile: Tile) -> Box:
    """What is drawn for a tile: its box, and what lies beyond that its first edge fades from."""
    right = tile.soften if tile.goes_across else 0
    down = tile.soften if tile.goes_down else 0
    return Box(box.x, box.y, box.width + right, box.height + down)


def tile(box: Box, picture: DrawnPicture, scale: Scale) -> DrawnPicture:
    """The chunk of the slice's own size, cut from the picture of its `drawn_box`.

    What follows the chunk in the mockup comes first and fades into what the chunk begins with: the
    last column and the first are then neighbours of the mockup.
    """
    size = box.size.scaled(scale)
    pixels = picture.pixels
    for axis, whole in ((1, size.width), (0, size.height)):
        turned = pixels if axis == 1 else pixels.swapaxes(0, 1)
        beyond = turned[:, whole:]
        turned = _faded(beyond, turned[:, :whole]) if beyond.shape[1] else turned
        pixels = turned if axis == 1 else turned.swapaxes(0, 1)
    return replace(picture, pixels=np.ascontiguousarray(pixels), place=box)


def _faded(beyond: Pixels, chunk: Pixels) -> Pixels:
    """The chunk, its first columns fading in from what lies beyond its last one.

    A mean of two unlike pieces of texture is flatter than either: the deviation from their common
    colour is strengthened by as much as they are unlike, so that no dull stripe is left.
    """
    count = beyond.shape[1]
    first = chunk[:, :count]
    step = (np.arange(count, dtype=np.float32) + 1) / (count + 1)
    coming = (step * step * (3 - 2 * step))[:, None]
    going = 1 - coming
    common = (first.mean(axis=(0, 1)) + beyond.mean(axis=(0, 1))) / 2
    near, far = first - common, beyond - common
    likeness = float((near * far).sum() / max(1e-9, np.sqrt((near**2).sum() * (far**2).sum())))
    kept = np.sqrt(coming**2 + going**2 + 2 * coming * going * max(0.0, likeness))
    mixed = within_alpha(common + (coming * near + going * far) / kept)
    return np.concatenate((mixed, chunk[:, count:]), axis=1)
