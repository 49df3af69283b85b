"""Pixels -> the bytes of a file in one of the formats."""

from __future__ import annotations

from riffler.color import Pixels, on_ground, to_bytes
from riffler.encode import jpeg, png


def encode(
    pixels: Pixels,
    format_name: str,
    *,
    quality: int = 88,
    ground: tuple[float, float, float] | None = None,
) -> bytes:
    """The picture as `format_name`. `ground` goes under it where the format has no alpha.

    pixels: (H, W, 4) float32, premultiplied, 0..1. `quality`: 1..100, for lossy formats.
    """
    match format_name:
        case "png":
            return png.encode(to_bytes(pixels))
        case "jpeg":
            flat = on_ground(pixels, ground or (1.0, 1.0, 1.0))
            return jpeg.encode(to_bytes(flat), quality)
    raise ValueError(f"unknown format {format_name}")
