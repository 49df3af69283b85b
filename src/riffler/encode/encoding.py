"""Pixels -> what a format gets of them, and a file -> what a browser shows of it."""

from __future__ import annotations

import io
from typing import Any

import numpy as np

from riffler.color import Bytes, Pixels, by_pixels, is_opaque, is_solid, on_ground, to_bytes
from riffler.formats import FORMATS


def holds(pixels: Pixels, format_name: str) -> bool:
    """Whether a format can hold the transparency of a picture.

    pixels: (H, W, 4) float32, premultiplied, 0..1.
    """
    match FORMATS[format_name].alpha:
        case "full":
            return True
        case "on or off":
            alpha = pixels[..., 3]
            return bool(((alpha < 0.5 / 255) | (alpha >= 254.5 / 255)).all())
        case "none":
            return is_opaque(pixels)


def prepared(
    pixels: Pixels, format_name: str, ground: tuple[float, float, float] | None = None
) -> Bytes:
    """The picture in straight 8-bit RGBA, on its ground where the format can't hold its alpha.

    pixels: (H, W, 4) float32, premultiplied, 0..1. Without a ground it is laid on white. Where a
    format knows clear and opaque alone, what is quite clear stays so, and soft edges are laid on
    the ground.
    """
    if is_opaque(pixels) or not holds(pixels, format_name):
        straight = on_ground(pixels, ground or (1.0, 1.0, 1.0))
        if FORMATS[format_name].alpha == "on or off":
            straight[pixels[..., 3] < 0.5 / 255] = 0
        return by_pixels(straight)
    return by_pixels(to_bytes(pixels))


def saved(straight: Bytes, form: str, **settings: Any) -> bytes:  # noqa: ANN401 - the codec's own
    """A file by one of Pillow's codecs, without alpha where nothing shows through.

    straight: (H, W, 4) uint8, straight RGBA.
    """
    from PIL import Image

    picture = Image.fromarray(straight)
    out = io.BytesIO()
    (picture.convert("RGB") if is_solid(straight) else picture).save(out, form, **settings)
    return out.getvalue()


def decoded(data: bytes) -> Bytes:
    """What a browser would show of a file that we made, as straight RGBA."""
    from PIL import Image

    with Image.open(io.BytesIO(data)) as picture:
        return np.asarray(picture.convert("RGBA"))
