"""Pixels and colours: the one array type everywhere inside, and the way in and out of 8 bits."""

from __future__ import annotations

from functools import cache
from typing import TypeAlias

import numpy as np
import numpy.typing as npt

from riffler.hexcolor import hex_text

Pixels: TypeAlias = npt.NDArray[np.float32]
"""(height, width, 4) float32: red, green, blue premultiplied by alpha, sRGB-encoded, 0..1.

The order in memory is not promised: what is composed lies plane by plane, since arithmetic on long
rows is several times faster than on four channels at a time.
"""

Bytes: TypeAlias = npt.NDArray[np.uint8]
"""(height, width, 4) uint8: red, green, blue not premultiplied, alpha, sRGB."""

#: Alpha below which a pixel has no colour: far less than half a step of 8 bits.
CLEAR = 1e-4

#: Weights of red, green and blue in luma; ITU-R BT.709, item 3.2.
LUMA = np.array((0.2126, 0.7152, 0.0722), np.float32)

#: Ottosson 2020: linear sRGB to cone responses, and their cube roots to Oklab.
_TO_CONES = np.array(
    (
        (0.4122214708, 0.5363325363, 0.0514459929),
        (0.2119034982, 0.6806995451, 0.1073969566),
        (0.0883024619, 0.2817188376, 0.6299787005),
    ),
    np.float32,
)
_TO_LAB = np.array(
    (
        (0.2104542553, 0.7936177850, -0.0040720468),
        (1.9779984951, -2.4285922050, 0.4505937099),
        (0.0259040371, 0.7827717662, -0.8086757660),
    ),
    np.float32,
)

#: What a step of 8 bits is worth.
TO_UNIT = np.float32(1 / 255)


def empty(height: int, width: int) -> Pixels:
    """Clear pixels, plane by plane in memory."""
    return np.zeros((4, height, width), np.float32).transpose(1, 2, 0)


def by_planes(straight: Bytes) -> Bytes:
    """The same pixels, plane by plane in memory.

    straight: (H, W, 4) uint8, straight RGBA.
    """
    return np.ascontiguousarray(straight.transpose(2, 0, 1)).transpose(1, 2, 0)


def by_pixels(straight: Bytes) -> Bytes:
    """The same pixels, pixel by pixel in memory, as codecs want them.

    straight: (H, W, 4) uint8, straight RGBA.
    """
    if straight.flags.c_contiguous:
        return straight
    result = np.empty(straight.shape, np.uint8)
    for channel in range(straight.shape[2]):
        result[..., channel] = straight[..., channel]  # several times as fast as one copy of all
    return result


def from_bytes(straight: Bytes) -> Pixels:
    """Straight 8-bit RGBA to premultiplied float pixels.

    straight: (H, W, 4) uint8, straight RGBA.
    """
    pixels: Pixels = straight.astype(np.float32)
    pixels[..., 3:] *= TO_UNIT
    pixels[..., :3] *= pixels[..., 3:] * TO_UNIT
    return pixels


def to_bytes(pixels: Pixels) -> Bytes:
    """Premultiplied float pixels to straight 8-bit RGBA, rounded to nearest.

    Where alpha rounds to 0 the colour is black, so that equal pictures give equal bytes.

    pixels: (H, W, 4) float32, premultiplied, 0..1.
    """
    alpha = pixels[..., 3:]
    if alpha.size and alpha.min() >= 1:  # the most of all pixels, in a third of the time
        scaled = np.clip(pixels, 0, 1)
        scaled *= 255
        scaled += 0.5
        return scaled.astype(np.uint8)
    straight = np.empty_like(pixels)
    straight[..., 3:] = alpha
    straight[..., :3] = 0
    np.divide(pixels[..., :3], alpha, out=straight[..., :3], where=alpha > CLEAR)
    np.clip(straight, 0, 1, out=straight)
    straight *= 255
    straight += 0.5
    result = straight.astype(np.uint8)
    result[result[..., 3] == 0] = 0
    return result


def on_ground(pixels: Pixels, ground: tuple[float, float, float]) -> Bytes:
    """The pixels laid over an opaque colour (red, green, blue in 0..1), in straight 8 bits.

    pixels: (H, W, 4) float32, premultiplied, 0..1.
    """
    height, width = pixels.shape[:2]
    planes = np.empty((4, height, width), np.uint8)
    planes[3] = 255
    through = None if is_opaque(pixels) else 255 * (1 - pixels[..., 3])
    scaled = np.empty((height, width), np.float32)
    for index, under in enumerate(ground):
        np.multiply(pixels[..., index], 255, out=scaled)
        if through is not None:
            scaled += through * np.float32(under)
        scaled += 0.5
        np.clip(scaled, 0, 255, out=scaled)
        planes[index] = scaled
    return planes.transpose(1, 2, 0)


def within_alpha(pixels: Pixels) -> Pixels:
    """The nearest pixels that premultiplied ones can be: alpha 0..1, no colour above it.

    pixels: (H, W, 4) float32, premultiplied, 0..1.
    """
    alpha = pixels[..., 3:].clip(0, 1)
    return np.concatenate((pixels[..., :3].clip(0, alpha), alpha), axis=2).astype(np.float32)


def is_opaque(pixels: Pixels) -> bool:
    """Whether nothing shows through, to within half a step of 8 bits.

    pixels: (H, W, 4) float32, premultiplied, 0..1.
    """
    return bool(pixels[..., 3].min() > 1 - 0.5 / 255)


def is_solid(straight: Bytes) -> bool:
    """Whether nothing shows through; straight: (H, W, 4) uint8."""
    return bool(straight[..., 3].min(initial=255) == 255)


def to_linear(encoded: Pixels) -> Pixels:
    """Encoded sRGB values to linear light; IEC 61966-2-1, 5.2.

    encoded: any shape, float32, 0..1; so is what comes back.
    """
    low = encoded / np.float32(12.92)
    high = np.power((np.maximum(encoded, 0) + np.float32(0.055)) / np.float32(1.055), 2.4)
    return np.where(encoded <= 0.04045, low, high).astype(np.float32)


def linear_planes(rgb: Bytes) -> Pixels:
    """(..., 3 or 4) uint8 sRGB to linear red, green and blue, (3, ...) float32; alpha is left."""
    planes = np.empty((3, *rgb.shape[:-1]), np.float32)
    for channel, plane in enumerate(planes):
        np.take(_linear_steps(), rgb[..., channel], out=plane, mode="clip")
    return planes


@cache
def _linear_steps() -> Pixels:
    """Linear light of every 8-bit value."""
    return to_linear((np.arange(256) / 255).astype(np.float32))


def luminance(colors: Pixels) -> npt.NDArray[np.float64]:
    """Relative luminance of sRGB colours, (..., 3) to (...), 0..1. WCAG 2.2, its definition."""
    linear = to_linear(np.asarray(colors, np.float32)).astype(np.float64)
    return np.asarray(linear @ LUMA.astype(np.float64))


def contrast(first: Pixels, second: Pixels) -> npt.NDArray[np.float64]:
    """The contrast ratio of sRGB colours, 1..21. WCAG 2.2, "contrast ratio"."""
    here, there = (luminance(colors) + 0.05 for colors in (first, second))
    return np.asarray(np.maximum(here, there) / np.minimum(here, there))


def oklab(rgb: Bytes) -> Pixels:
    """(H, W, 3) uint8 sRGB to Oklab: lightness 0..1, two hues about -0.3..0.3.

    Equal steps look about equally large: Ottosson 2020.
    """
    height, width = rgb.shape[:2]
    linear = linear_planes(rgb).reshape(3, -1)
    lab: npt.NDArray[np.float32] = _TO_LAB @ np.cbrt(_TO_CONES @ linear)
    return np.asarray(lab.reshape(3, height, width).transpose(1, 2, 0))


def to_encoded(linear: Pixels) -> Pixels:
    """Linear light to encoded sRGB values; IEC 61966-2-1, 5.2.

    linear: any shape, float32, 0..1; so is what comes back.
    """
    low = linear * np.float32(12.92)
    high = 1.055 * np.power(np.maximum(linear, 0), 1 / 2.4) - 0.055
    return np.where(linear <= 0.0031308, low, high).astype(np.float32)


def hex_of(straight: Bytes) -> str:
    """One straight RGBA pixel as `#rrggbb`, with two more digits unless it is opaque.

    straight: (4,) uint8, or (3,) of one that is opaque.
    """
    return hex_text(*map(int, straight))


def hex_of_pixel(pixel: npt.NDArray[np.floating]) -> str:
    """One premultiplied pixel, (4,), 0..1, as `#rrggbb`, with two more digits unless opaque."""
    return hex_of(to_bytes(pixel[None, None])[0, 0])
