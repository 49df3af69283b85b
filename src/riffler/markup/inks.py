"""A line of text and its face -> the ink that it lays, and how browsers let the face rise."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import TypeAlias

from riffler.mockup.font_book import Face, laid_out_with
from riffler.webfonts.facts import facts_of

#: Of a glyph its step, and left, top, right and bottom of its ink.
Shaping: TypeAlias = tuple[float, ...]

#: Metrics of a face that nobody has, in font sizes: what most come near.
ASCENT, DESCENT = 0.93, 0.25


@dataclass(frozen=True)
class Ink:
    """A line: how far its pen goes, and the edges of its ink from where the pen began."""

    advance: float
    left: float
    right: float
    top: float
    bottom: float


@lru_cache(1024)
def line_ink(face: Face | None, text: str, size: float, spacing: float) -> Ink:
    """The ink of a line; without a face what letters take on the whole."""
    if face is None:
        advance = sum(0.3 if sign in " .,ilt'" else 0.55 for sign in text) * size
        return Ink(advance, 0.05 * size, advance - 0.05 * size, -0.72 * size, 0.0)
    result = _shaped(face, text, bool(spacing))
    pen = 0.0
    edges = []
    for advance, left, top, right, bottom in result:
        if right > left:
            edges.append((pen + left * size, top * size, pen + right * size, bottom * size))
        pen += advance * size + spacing
    if not edges:
        return Ink(pen, 0.0, pen, -0.7 * size, 0.0)
    lefts, tops, rights, bottoms = zip(*edges, strict=True)
    return Ink(pen, min(lefts), max(rights), min(tops), max(bottoms))


@lru_cache(4096)
def _shaped(face: Face, text: str, is_spaced: bool) -> tuple[Shaping, ...]:
    """Of each glyph its step and the edges of its ink from the pen, in font sizes, y downwards."""
    import uharfbuzz

    font, units = _font(face)
    buffer = uharfbuzz.Buffer()
    buffer.add_str(text)
    buffer.guess_segment_properties()
    uharfbuzz.shape(font, buffer, {"liga": not is_spaced, "clig": not is_spaced})
    result = []
    for info, place in zip(buffer.glyph_infos, buffer.glyph_positions, strict=True):
        seen = font.get_glyph_extents(info.codepoint)
        left = place.x_offset + (seen.x_bearing if seen else 0)
        top = -(place.y_offset + (seen.y_bearing if seen else 0))
        wide, high = (seen.width, -seen.height) if seen else (0, 0)
        result.append(
            tuple(value / units for value in (place.x_advance, left, top, left + wide, top + high))
        )
    return tuple(result)


def has_all(face: Face | None, text: str) -> bool:
    """Whether a face has every letter of a text: others come from a face that nobody named."""
    if face is None:
        return False
    characters = facts_of(face).characters
    return all(ord(letter) in characters for letter in text if letter.strip())


_font = lru_cache(64)(lambda face: laid_out_with(face.path, face.weight))


@lru_cache(64)
def metrics(face: Face | None) -> tuple[float, float]:
    """How far browsers let a face rise and hang, in font sizes."""
    if face is None:
        return ASCENT, DESCENT
    facts = facts_of(face)
    return facts.ascent, facts.descent
