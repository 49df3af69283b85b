"""Pixels -> the bytes of a file in one of the formats, at a setting."""

from __future__ import annotations

import io

import numpy as np

from riffler.color import Bytes, Pixels, on_ground, to_bytes
from riffler.encode import jpeg, modern, png
from riffler.formats import FORMATS


def prepared(
    pixels: Pixels, format_name: str, ground: tuple[float, float, float] | None = None
) -> Bytes:
    """The picture in straight 8-bit RGBA, on its ground where the format has no alpha.

    pixels: (H, W, 4) float32, premultiplied, 0..1. Without a ground it is laid on white.
    """
    if not FORMATS[format_name].has_alpha:
        pixels = on_ground(pixels, ground or (1.0, 1.0, 1.0))
    return np.ascontiguousarray(to_bytes(pixels))


def encode(straight: Bytes, format_name: str, quality: int) -> bytes:
    """The picture as `format_name`; `quality`, 1..100, is for the lossy ones."""
    match format_name:
        case "png":
            return png.encode(straight)
        case "jpeg":
            hues = "full" if quality >= jpeg.FULL_HUES_FROM else "half"
            return jpeg.encode(straight, quality, hues=hues)
        case "webp":
            return modern.webp(straight, quality)
        case "avif":
            return modern.avif(straight, quality)
    raise ValueError(f"unknown format {format_name}")


def decoded(data: bytes) -> Bytes:
    """What a browser would show of a file that we made, as straight RGBA."""
    from PIL import Image

    with Image.open(io.BytesIO(data)) as picture:
        return np.asarray(picture.convert("RGBA"))
