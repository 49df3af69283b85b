"""Colours -> how alike they look, what hue they have, and how they stand out on one another."""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np

from riffler.color import Bytes, oklab
from riffler.color import contrast as encoded_contrast

#: Oklab's distance below which two colours look the same unless they touch.
ALIKE = 0.02

#: Hues by the angle at which each ends, in degrees of Oklab's plane.
HUES = (
    (18, "pink"),
    (42, "red"),
    (62, "orange"),
    (92, "amber"),
    (112, "yellow"),
    (134, "lime"),
    (164, "green"),
    (196, "teal"),
    (232, "cyan"),
    (272, "blue"),
    (304, "violet"),
    (342, "purple"),
    (360, "pink"),
)

#: Colours with a name of their own.
PURE = {"#ffffff": "white", "#000000": "black"}

#: Chroma up to which a colour is a grey, and up to which a warm light one is a sand.
GREY, SAND = 0.012, 0.075

#: Warm hues are browns below this lightness, and below this chroma a little above it.
BROWN = 0.56


@lru_cache(4096)
def lab(color: str) -> tuple[float, float, float]:
    """A colour's lightness and two hues in Oklab; its alpha is left out."""
    lightness, a, b = oklab(levels(color)[None, None, :3])[0, 0].tolist()
    return lightness, a, b


def levels(color: str) -> Bytes:
    """Red, green and blue, and alpha where it is said: 0..255."""
    return np.frombuffer(bytes.fromhex(color.removeprefix("#")), np.uint8)


def alpha(color: str) -> float:
    """How much of it covers: 0..1."""
    return int(color[7:9], 16) / 255 if len(color) > 7 else 1.0


def apart(first: str, second: str) -> float:
    """How different two colours look, in Oklab; alpha counts as much as lightness."""
    return math.hypot(math.dist(lab(first), lab(second)), alpha(first) - alpha(second))


def steps_apart(first: str, second: str) -> int:
    """How far two colours are apart in the channel that differs most, in levels of 255."""
    opaque = np.array((0, 0, 0, 255), np.int16)
    both = [np.append(levels(color), opaque[len(levels(color)) :]) for color in (first, second)]
    return int(np.abs(both[0].astype(np.int16) - both[1].astype(np.int16)).max())


def hue(color: str) -> str:
    """The word that people have for it."""
    lightness, a, b = lab(color)
    chroma, angle = math.hypot(a, b), math.degrees(math.atan2(b, a)) % 360
    if chroma < GREY:
        return "white" if lightness > 0.985 else "black" if lightness < 0.12 else "grey"
    name = next(name for end, name in HUES if angle <= end)
    if name in ("orange", "amber", "yellow", "red"):
        if lightness > 0.8 and chroma < SAND and name != "red":
            return "sand"
        if lightness < BROWN and chroma < 0.13:
            return "brown"
    return name


def name_of(color: str) -> str:
    """Hue, lightness in per cent, and alpha where it shows through: `amber-72`, `black-a20`."""
    word = hue(color)
    base = PURE.get(color[:7]) or f"{word}-{round(100 * lab(color)[0])}"
    return base if alpha(color) == 1 else f"{base}-a{round(100 * alpha(color))}"


def over(color: str, ground: Bytes) -> Bytes:
    """A colour laid on opaque ones; `ground` is (N, 3) uint8, so is what comes back."""
    top, share = levels(color)[:3].astype(np.float64), alpha(color)
    return np.round(share * top + (1 - share) * ground).astype(np.uint8)


def contrast(first: Bytes, second: Bytes) -> np.ndarray[tuple[int, ...], np.dtype[np.float64]]:
    """The contrast ratio of colours, 1..21; (N, 3) uint8 each. WCAG 2.2, "contrast ratio"."""
    return encoded_contrast(*((colors / 255).astype(np.float32) for colors in (first, second)))
