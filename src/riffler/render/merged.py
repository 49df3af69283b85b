"""The merged picture in an OpenRaster file, held against our own composition of its layers."""

from __future__ import annotations

from dataclasses import dataclass
from typing import cast

import numpy as np

from riffler.color import to_bytes
from riffler.errors import MockupError
from riffler.geometry import Box
from riffler.mockup.archive import Archive
from riffler.mockup.model import Nature
from riffler.mockup.openraster import MERGED
from riffler.project.limits import DEFAULT_LIMITS, Limits
from riffler.render.decode import unpacked
from riffler.render.painted import marked_box
from riffler.render.renderer import Renderer

#: Differences up to this many steps of 8 bits are rounding.
ROUNDING = 2


@dataclass(frozen=True)
class PictureDifference:
    """How far two pictures of the same mockup are apart.

    `furthest` is in steps of 8 bits (0..255), composed on white; `share` is the share of pixels
    that are further apart than rounding; `place` is the box around those.
    """

    furthest: int
    share: float
    place: Box | None


def against_merged(renderer: Renderer, limits: Limits = DEFAULT_LIMITS) -> PictureDifference | None:
    """The difference from the archive's merged picture; None when there is none that fits."""
    mockup = renderer.mockup
    if mockup.nature is not Nature.LAYERED:
        return None
    archive = cast("Archive", mockup.source)
    if MERGED not in archive.names():
        return None
    shown = mockup.drawn
    furthest, count, top = 0, 0, 0
    place = Box(0, 0, 0, 0)
    try:
        for theirs in unpacked(archive.read(MERGED), MERGED, limits, ("PNG",)).strips():
            height, width = theirs.shape[:2]
            band = Box(0, top, width, height)
            if not mockup.box.contains(band):
                return None
            ours = to_bytes(renderer.render(band, 1.0, shown))
            away = np.abs(_on_white(ours) - _on_white(theirs)).max(axis=-1)
            far = away > ROUNDING
            furthest, count, top = (
                max(furthest, int(away.max())),
                count + int(far.sum()),
                top + height,
            )
            if box := marked_box(far):
                place = place | box.moved(band.x, band.y)
    except MockupError:
        return None
    if top != mockup.size.height:
        return None
    return PictureDifference(furthest, count / mockup.box.area, place or None)


def _on_white(straight: np.ndarray) -> np.ndarray:
    """Straight 8-bit RGBA on white: (H, W, 3) of whole numbers in 0..255."""
    color, alpha = straight[..., :3].astype(np.int32), straight[..., 3:].astype(np.int32)
    return (color * alpha + 255 * (255 - alpha) + 127) // 255
