"""A text -> how wide it is in a face, and in the faces that stand in for others everywhere.

Widths of Arial and Times New Roman, in 2048ths of the font size, are in `stand_ins.json`; those of
the free faces made to their measure are the same. All of Courier New are 1229.
"""

from __future__ import annotations

import json
from functools import cache, lru_cache
from importlib import resources
from pathlib import Path

import uharfbuzz as harfbuzz

from riffler.mockup.font_book import laid_out_with
from riffler.webfonts.facts import Manner

#: What the widths are parts of, and that of every letter of a typewriter.
UNITS, FIXED = 2048, 1229

#: From this weight on, the bold face stands in.
BOLD = 550


def width_in(path: Path, text: str) -> float:
    """How wide a text is in a face, in font sizes, as HarfBuzz lays it out.

    Raises RifflerError for a file that is no font.
    """
    if not text:
        return 0.0
    font, units = _font(path)
    buffer = harfbuzz.Buffer()
    buffer.add_str(text)
    buffer.guess_segment_properties()
    harfbuzz.shape(font, buffer)
    advances: list[int] = [position.x_advance for position in buffer.glyph_positions]
    return sum(advances) / units


@lru_cache(64)
def _font(path: Path) -> tuple[harfbuzz.Font, int]:
    return laid_out_with(path)


def width_of_stand_in(manner: Manner, text: str, weight: int, *, is_italic: bool) -> float:
    """How wide a text is in the face that stands in, in font sizes."""
    if manner == "mono":
        return len(text) * FIXED / UNITS
    name = manner + (" bold" if weight >= BOLD else "")
    if is_italic and manner == "serif":
        name += " italic"
    widths = _stand_ins()[name]
    usual = widths["n"]
    return sum(widths.get(letter, usual) for letter in text) / UNITS


@cache
def _stand_ins() -> dict[str, dict[str, int]]:
    text = resources.files("riffler.webfonts").joinpath("stand_ins.json").read_text("utf-8")
    data = json.loads(text)
    characters = data.pop("characters")
    return {name: dict(zip(characters, widths, strict=True)) for name, widths in data.items()}
