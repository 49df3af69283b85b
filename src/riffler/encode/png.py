"""Straight RGBA -> PNG bytes (PNG 3rd edition), without needless chunks."""

from __future__ import annotations

import io

from riffler.color import Bytes


def encode(straight: Bytes, *, keep_alpha: bool = False) -> bytes:
    """A lossless PNG; the alpha channel goes where nothing shows through, unless it is kept."""
    from PIL import Image

    picture = Image.fromarray(straight, "RGBA")
    if not keep_alpha and straight[..., 3].min() == 255:
        picture = picture.convert("RGB")
    out = io.BytesIO()
    picture.save(out, "PNG", optimize=True)
    return out.getvalue()
