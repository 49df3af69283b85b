"""A colour -> the shortest way to write it that everything reads. CSS Color 4, section 6.1."""

from __future__ import annotations

from functools import cache, lru_cache

import tinycss2.color3

#: Values that are no colours, and are written as they are.
KEYWORDS = {
    "none": "none",
    "currentcolor": "currentColor",
    "inherit": "inherit",
    "context-fill": "context-fill",
    "context-stroke": "context-stroke",
    "transparent": "transparent",
}


#: Names of colours that take fewer characters than their digits.
_SHORT_NAMES = """azure beige bisque brown coral gold gray green indigo ivory khaki linen maroon
navy olive orange orchid peru pink plum purple red salmon sienna silver snow tan teal tomato violet
wheat"""


@lru_cache(4096)
def shortest(text: str) -> str:
    """A value of a colour property, as short as it goes; what is no plain colour stays.

    >>> shortest("rgb(255, 0, 0)"), shortest("#FFFFFF"), shortest("black"), shortest("#F0E68C")
    ('red', '#fff', '#000', 'khaki')
    """
    said_text = text.strip()
    if (keyword := KEYWORDS.get(said_text.lower())) is not None:
        return keyword
    color = tinycss2.color3.parse_color(said_text)
    if not isinstance(color, tuple) or color[3] != 1:
        return said_text
    steps = [round(min(1.0, max(0.0, value)) * 255) for value in color[:3]]
    digits = "".join(f"{step:02x}" for step in steps)
    if digits[::2] == digits[1::2]:
        digits = digits[::2]
    return _names().get(tuple(steps), f"#{digits}")


@cache
def _names() -> dict[tuple[int, ...], str]:
    """The names that are shorter than their digits."""
    result: dict[tuple[int, ...], str] = {}
    for name in _SHORT_NAMES.split():
        color = tinycss2.color3.parse_color(name)
        assert isinstance(color, tuple)
        result[tuple(round(value * 255) for value in color[:3])] = name
    return result
