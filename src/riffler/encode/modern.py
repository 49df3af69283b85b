"""Straight RGBA -> WebP and AVIF bytes, by the codecs' own libraries at their best effort."""

from __future__ import annotations

import io
from collections.abc import Mapping
from dataclasses import dataclass

from riffler.color import Bytes
from riffler.encode.codec import Effort, LossyCodec, Settled, tried
from riffler.encode.hidden import spread
from riffler.encode.visible import Reference

#: The codec's effort, 0 to 6: while a search looks around, and for the file itself.
QUICK, BEST = 4, 6

#: The codec's speed, 0 to 10: at 4 it takes six times as long for a twentieth of the bytes.
AVIF_SPEED = 6


def webp(straight: Bytes, quality: int, effort: int = BEST) -> bytes:
    """A lossy WebP at `quality` (1..100); alpha is kept exactly.

    Invisible pixels take the colours of their neighbours, which spares icons a fifth of the bytes.

    straight: (H, W, 4) uint8, straight RGBA.
    """
    hidden = straight[..., 3] == 0
    if hidden.any():
        straight = spread(straight, hidden)
    return _saved(straight, "WEBP", quality=quality, method=effort, alpha_quality=100)


def avif(straight: Bytes, quality: int) -> bytes:
    """An AVIF at `quality` (1..100).

    straight: (H, W, 4) uint8, straight RGBA.
    """
    return _saved(straight, "AVIF", quality=quality, speed=AVIF_SPEED, max_threads=1)


def _saved(straight: Bytes, form: str, **settings: int) -> bytes:
    from PIL import Image

    picture = Image.fromarray(straight, "RGBA")
    if straight[..., 3].min(initial=255) == 255:
        picture = picture.convert("RGB")
    out = io.BytesIO()
    picture.save(out, form, **settings)
    return out.getvalue()


class _Plain:
    """A codec with nothing to settle but the quality."""

    @property
    def setting(self) -> Mapping[str, str]:
        """Nothing."""
        return {}

    def settled(self: LossyCodec, straight: Bytes, reference: Reference, quality: int) -> Settled:
        """The codec as it is."""
        return Settled(self, tried(reference, self.quick(straight, quality)), 1)


@dataclass(frozen=True)
class WebP(_Plain):
    """The WebP codec."""

    name = "webp"
    begins = {"clear": 86, "fair": 50}  # noqa: RUF012 - never changed
    effort = Effort.PIXELS

    def quick(self, straight: Bytes, quality: int) -> bytes:
        """A file of less effort, whose pixels are a little other."""
        return webp(straight, quality, QUICK)

    def best(self, straight: Bytes, quality: int) -> bytes:
        """All effort."""
        return webp(straight, quality)


@dataclass(frozen=True)
class Avif(_Plain):
    """The AVIF codec, which has one effort."""

    name = "avif"
    begins = {"clear": 72, "fair": 45}  # noqa: RUF012 - never changed
    effort = Effort.NOTHING

    def quick(self, straight: Bytes, quality: int) -> bytes:
        """The file itself: more effort is not worth its time."""
        return avif(straight, quality)

    best = quick
