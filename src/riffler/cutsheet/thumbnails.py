"""Pixels -> pictures small enough to go into one file, the same bytes on every run."""

from __future__ import annotations

import io
from collections.abc import Iterator

import numpy as np
from PIL import Image

from riffler.color import by_pixels, is_solid, to_bytes
from riffler.cutsheet.content import SheetPicture
from riffler.geometry import Box
from riffler.render.renderer import Renderer

#: Rows of mockup pixels in one band: far below what the format can hold.
BAND = 2048

#: Pixels up to which the picture of a vector mockup is drawn at twice its size.
SHARP = 3_000_000

#: Quality of the picture and of what is laid over it, and the effort.
QUALITY, EFFORT = 86, 3

#: The longer side of a small picture of an asset.
SMALL = 168


def bands(renderer: Renderer, shown: frozenset[str]) -> Iterator[SheetPicture]:
    """The whole mockup from the top, band by band."""
    mockup = renderer.mockup
    scale = 2.0 if mockup.is_vector and mockup.box.area <= SHARP else 1.0
    for box in mockup.box.bands(BAND):
        yield picture(renderer, box, shown, scale)


def picture(
    renderer: Renderer, box: Box, shown: frozenset[str], scale: float = 1.0
) -> SheetPicture:
    """A box of the mockup with these layers on."""
    straight = to_bytes(renderer.render(box, scale, shown))
    image = Image.fromarray(by_pixels(straight))
    return SheetPicture(box, "webp", _webp(image.convert("RGB") if is_solid(straight) else image))


def thumbnail(data: bytes) -> SheetPicture | None:
    """A small picture of a file; None for what is no picture that can be read."""
    try:
        with Image.open(io.BytesIO(data)) as image:
            image.load()
            small = image.convert("RGBA")
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError):
        return None
    small.thumbnail((SMALL, SMALL), Image.Resampling.LANCZOS)
    solid = is_solid(np.asarray(small))
    return SheetPicture(
        Box(0, 0, *small.size), "webp", _webp(small.convert("RGB") if solid else small)
    )


def _webp(image: Image.Image) -> bytes:
    out = io.BytesIO()
    image.save(out, "WEBP", quality=QUALITY, method=EFFORT, exact=False)
    return out.getvalue()
