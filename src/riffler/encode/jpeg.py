"""Opaque RGBA -> JPEG bytes (ITU T.81)."""

from __future__ import annotations

import io

from riffler.color import Bytes

#: From this quality on colour is kept at full resolution: below it the loss does not show.
FULL_COLOR_FROM = 90


def encode(straight: Bytes, quality: int) -> bytes:
    """A progressive JPEG at `quality` (1..100); alpha is not looked at."""
    from PIL import Image

    out = io.BytesIO()
    picture = Image.fromarray(straight[..., :3].copy(), "RGB")
    picture.save(
        out,
        "JPEG",
        quality=quality,
        subsampling=0 if quality >= FULL_COLOR_FROM else 2,
        optimize=True,
        progressive=True,
    )
    return out.getvalue()
