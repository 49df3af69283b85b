"""Pictures that marks are drawn on -> pale ones, laid side by side or below one another, a PNG."""

from __future__ import annotations

import io
from collections.abc import Sequence

from PIL import Image

from riffler.color import Bytes
from riffler.project.target import Target

#: Where a thing should be or was, where it is, and what lies around pictures.
WAS, NOW, PAPER = "#46652a", "#c0440f", "#fbf8f1"

#: Pixels between pictures.
GAP = 24


def faded(pixels: Bytes, shows: float) -> Image.Image:
    """A picture on white of which so much shows through; (H, W, 4) uint8, straight RGBA."""
    image = Image.fromarray(pixels)
    page = Image.new("RGB", image.size, "white")
    page.paste(image, (0, 0), image)
    return Image.blend(Image.new("RGB", page.size, PAPER), page, shows)


def beside(images: Sequence[Image.Image]) -> Image.Image:
    """All from left to right."""
    width = sum(image.width for image in images) + GAP * (len(images) - 1)
    sheet, x = Image.new("RGB", (width, max(image.height for image in images)), PAPER), 0
    for image in images:
        sheet.paste(image, (x, 0))
        x += image.width + GAP
    return sheet


def below(images: Sequence[Image.Image]) -> Image.Image:
    """All from top to bottom."""
    height = sum(image.height for image in images) + GAP * (len(images) - 1)
    sheet, y = Image.new("RGB", (max(image.width for image in images), height), PAPER), 0
    for image in images:
        sheet.paste(image, (0, y))
        y += image.height + GAP
    return sheet


def write(image: Image.Image, target: Target) -> None:
    """Write it."""
    data = io.BytesIO()
    image.save(data, "PNG")
    target.write(data.getvalue())
