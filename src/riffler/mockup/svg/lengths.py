"""Lengths and viewBoxes as SVG writes them -> CSS pixels. CSS Values 3, section 6.2."""

from __future__ import annotations

import re

#: CSS pixels in one of each absolute unit, and the usual ratios for those of the font.
UNITS = {
    "": 1.0,
    "px": 1.0,
    "in": 96.0,
    "cm": 96 / 2.54,
    "mm": 9.6 / 2.54,
    "q": 2.4 / 2.54,
    "pt": 96 / 72,
    "pc": 16.0,
    "em": 16.0,
    "rem": 16.0,
    "ex": 8.0,
    "ch": 8.0,
}

#: Larger than this a number is none: what is reckoned with it would soon be infinite.
BEYOND = 1e30

#: No length is written with more characters; to read on would take their square.
LONGEST = 200

_LENGTH = re.compile(r"\s*([-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?)\s*([a-zA-Z]*|%)\s*$")
_NUMBER = re.compile(r"[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?")


def length(text: str | None, whole: float | None = None, em: float = 16.0) -> float | None:
    """A length in CSS pixels; `whole` is what 100 % means. None when it can't be told."""
    match = _LENGTH.match(text) if text and len(text) <= LONGEST else None
    if match is None:
        return None
    value, unit = float(match[1]), match[2].lower()
    if unit == "%":
        return None if whole is None else value * whole / 100
    if unit not in UNITS:
        return None
    scale = UNITS[unit] * (em / 16 if unit in ("em", "ex", "ch") else 1)
    result = value * scale
    return result if abs(result) < BEYOND else None


def numbers(text: str | None) -> list[float]:
    """The numbers in an attribute, whatever separates them; what is beyond all ends there."""
    lengths = (float(number) for number in _NUMBER.findall(text or ""))
    return [min(max(number, -BEYOND), BEYOND) for number in lengths]


def view_box(text: str | None) -> tuple[float, float, float, float] | None:
    """A viewBox as x, y, width, height; None when it is missing or empty."""
    values = numbers(text)
    if len(values) != 4 or values[2] <= 0 or values[3] <= 0 or max(map(abs, values)) >= BEYOND:
        return None
    return values[0], values[1], values[2], values[3]
