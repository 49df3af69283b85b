"""A text -> how far its letters reach, by the shapes and steps in the font: HarfBuzz lays them out.

Follows the renderer's reading of SVG 2, section 11: runs of letters in chunks that begin where an x
or a y is said, each set by its anchor.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass, field
from functools import lru_cache
from pathlib import Path
from typing import Any

import uharfbuzz as harfbuzz
from fontTools.misc.transform import Transform
from fontTools.pens.svgPathPen import SVGPathPen
from fontTools.pens.transformPen import TransformPen
from lxml import etree

from riffler.mockup.font_book import Face, FontBook
from riffler.mockup.svg import lengths, style, text_element
from riffler.mockup.svg.shapes import Edges, UnmeasuredError
from riffler.mockup.xml import local_name

#: Properties with another value than these are for the renderer to draw.
_PLAIN = {
    "writing-mode": ("horizontal-tb", "lr", "lr-tb"),
    "baseline-shift": ("baseline", "0"),
    "dominant-baseline": ("auto", "alphabetic"),
    "alignment-baseline": ("auto", "baseline"),
    "text-decoration": ("none",),
    "word-spacing": ("normal", "0"),
    "font-variant": ("normal",),
    "font-stretch": ("normal",),
    "font-kerning": ("auto", "normal"),
    "font-feature-settings": ("normal",),
    "font-size-adjust": ("none",),
    "direction": ("ltr",),
    "white-space": ("normal",),
    "inline-size": ("auto", "0"),
    "shape-inside": ("auto",),
}

#: Attributes that set letters one by one.
_BY_LETTER = ("rotate", "textLength", "lengthAdjust")

_SPACE = "{http://www.w3.org/XML/1998/namespace}space"

#: Letters that are written from right to left, or that join: their order is the renderer's.
_COMPLEX = re.compile(
    "[\u0590-\u08ff\u0900-\u109f\u1780-\u17ff\u200b-\u200f\u202a-\u202e\ufb1d-\ufdff]"
)


@dataclass
class _Chunk:
    """Letters that are set by one anchor: where they begin, how far they go, what they paint."""

    x: float
    y: float
    anchor: str
    wide: float = 0.0
    edges: list[Edges] = field(default_factory=list)
    spacing: float = 0.0

    def corners(self) -> Iterator[tuple[float, float]]:
        wide = self.wide - self.spacing  # what follows the last letter does not count
        shift = {"middle": wide / 2, "end": wide}.get(self.anchor, 0.0)
        for left, top, right, bottom in self.edges:
            for x in (left, right):
                for y in (top, bottom):
                    yield x - shift, y


def lines_reach(text: etree._Element, matrix: Transform, fonts: FontBook) -> Edges | None:
    """Left, top, right, bottom after `matrix`; None when no letter is seen.

    Raises UnmeasuredError for what only the renderer knows: letters on a path, missing ones.
    """
    chunks = [_Chunk(0.0, 0.0, style.inherited(text, "text-anchor") or "start")]
    for run, element in _collapsed(text):
        _begin(chunks, element if run.begins else None)
        if run.words:
            _set(chunks[-1], run.words, element, fonts)
    points = [corner for chunk in chunks for corner in chunk.corners()]
    if not points:
        return None
    xs, ys = zip(*matrix.transformPoints(points), strict=True)
    return min(xs), min(ys), max(xs), max(ys)


def outline_of(text: etree._Element, fonts: FontBook) -> Iterator[tuple[str, etree._Element]]:
    """The letters of a text as path data in its own coordinates, with the element of each run.

    Raises UnmeasuredError as `lines_reach` does, and for outlines that a font does not give.
    """
    chunks: list[tuple[_Chunk, list[_Drawn]]] = [(_Chunk(0.0, 0.0, "start"), [])]
    for run, element in _collapsed(text):
        plain = [chunk for chunk, _ in chunks]
        _begin(plain, element if run.begins else None)
        chunks += [(chunk, []) for chunk in plain[len(chunks) :]]
        if run.words:
            chunk, drawn = chunks[-1]
            begun = chunk.wide
            _set(chunk, run.words, element, fonts)
            drawn.append(_Drawn(run.words, element, begun))
    for chunk, drawn in chunks:
        wide = chunk.wide - chunk.spacing
        shift = {"middle": wide / 2, "end": wide}.get(chunk.anchor, 0.0)
        for one_drawn in drawn:
            yield (
                _outlined(one_drawn, chunk.x + one_drawn.begun - shift, chunk.y, fonts),
                one_drawn.element,
            )


@dataclass(frozen=True)
class _Drawn:
    """A run that was set: its words, and how far from the chunk's beginning."""

    words: str
    element: etree._Element
    begun: float


def _outlined(run: _Drawn, x: float, y: float, fonts: FontBook) -> str:
    """Path data of a run whose first letter stands at a place."""
    size = text_element.font_size(run.element)
    face, spacing = _face(run.element, fonts), _spacing(run.element, size)
    return outlines_of(face, run.words, size, Transform(1, 0, 0, 1, x, y), spacing)


def outlines_of(face: Face, text: str, size: float, matrix: Transform, spacing: float = 0.0) -> str:
    """Path data of letters in one line from the origin, y downwards, under a matrix.

    Raises UnmeasuredError for letters that the font does not have.
    """
    font, units = _font(face.path)
    parts, unit, pen_x = [], size / units, 0.0
    for info, position in _shaped(font, text, is_spaced=bool(spacing)):
        if info.codepoint == 0:
            raise UnmeasuredError
        x, y = pen_x + position.x_offset * unit, -position.y_offset * unit
        pen = SVGPathPen(None)
        place = matrix.transform(Transform(unit, 0, 0, -unit, x, y))
        font.draw_glyph_with_pen(info.codepoint, TransformPen(pen, place))
        parts.append(pen.getCommands())
        pen_x += position.x_advance * unit + spacing
    return "".join(parts)


@dataclass
class _Run:
    words: str
    begins: bool


def _collapsed(text: etree._Element) -> Iterator[tuple[_Run, etree._Element]]:
    """Runs with one space wherever there is space, none at the ends. CSS Text 3, section 4.1."""
    runs = list(_runs(text))
    spaced, last = True, None
    for run, _ in runs:
        words = re.sub(r"[ \t\r\n]+", " ", run.words)
        if spaced:
            words = words.removeprefix(" ")
        run.words = words
        if words:
            spaced, last = words.endswith(" "), run
    if last is not None:
        last.words = last.words.removesuffix(" ")
    return iter(runs)


def _runs(element: etree._Element) -> Iterator[tuple[_Run, etree._Element]]:
    _refuse_odd(element)
    yield _Run(element.text or "", True), element
    for child in element:
        if not isinstance(child.tag, str):
            raise UnmeasuredError
        if local_name(child) == "tspan":
            yield from _runs(child)
        elif local_name(child) not in ("title", "desc"):
            raise UnmeasuredError
        yield _Run(child.tail or "", False), element


def _refuse_odd(element: etree._Element) -> None:
    if any(element.get(name) is not None for name in _BY_LETTER) or element.get(_SPACE):
        raise UnmeasuredError
    is_off = style.own(element, "display") == "none" and local_name(element) != "text"
    if is_off or style.own(element, "visibility"):
        raise UnmeasuredError
    for name, plain in _PLAIN.items():
        if (style.inherited(element, name) or plain[0]) not in plain:
            raise UnmeasuredError
    if local_name(element) == "tspan":
        for name in ("fill", "stroke", "opacity", "fill-opacity"):
            if style.own(element, name) in ("none", "transparent", "0"):
                raise UnmeasuredError


def _begin(chunks: list[_Chunk], element: etree._Element | None) -> None:
    """Begin a new chunk where the element says a place, and shift what follows."""
    if element is None:
        return
    places = {key: _place(element, key) for key in ("x", "y", "dx", "dy")}
    chunk = chunks[-1]
    if places["x"] is not None or places["y"] is not None:
        here = chunk.x + chunk.wide
        x = here if places["x"] is None else places["x"]
        y = chunk.y if places["y"] is None else places["y"]
        anchor = style.inherited(element, "text-anchor") or "start"
        chunk = _Chunk(x, y, anchor)
        chunks.append(chunk)
    chunk.wide += places["dx"] or 0.0
    chunk.y += places["dy"] or 0.0


def _place(element: etree._Element, key: str) -> float | None:
    texts = (element.get(key) or "").replace(",", " ").split()
    if not texts:
        return None
    value = (
        lengths.length(texts[0], em=text_element.font_size(element)) if len(texts) == 1 else None
    )
    if value is None:
        raise UnmeasuredError
    return value


def _set(chunk: _Chunk, text: str, element: etree._Element, fonts: FontBook) -> None:
    """Set letters at the end of a chunk."""
    if _COMPLEX.search(text):
        raise UnmeasuredError
    size = text_element.font_size(element)
    spacing = _spacing(element, size)
    for advance, left, top, right, bottom in _letters(_face(element, fonts), text, bool(spacing)):
        if right > left and bottom > top:
            x, y = chunk.x + chunk.wide, chunk.y
            edges = x + left * size, y + top * size, x + right * size, y + bottom * size
            chunk.edges.append(edges)
        chunk.wide += advance * size + spacing
    chunk.spacing = spacing


def _spacing(element: etree._Element, size: float) -> float:
    text = style.inherited(element, "letter-spacing") or "normal"
    value = 0.0 if text == "normal" else lengths.length(text, em=size)
    if value is None:
        raise UnmeasuredError
    return value


def _face(element: etree._Element, fonts: FontBook) -> Face:
    """The face that the renderer draws the element's letters with."""
    families = text_element.families(style.inherited(element, "font-family"))
    family, _ = fonts.choose(families)
    weight = text_element.weight(style.inherited(element, "font-weight"))
    is_italic = (style.inherited(element, "font-style") or "normal") != "normal"
    face = fonts.nearest(family, weight, is_italic=is_italic)
    if face is None:
        raise UnmeasuredError
    return face


@lru_cache(4096)
def _letters(
    face: Face, text: str, is_spaced: bool
) -> tuple[tuple[float, float, float, float, float], ...]:
    """Of each letter its step and its edges from the pen, in font sizes, y downwards."""
    font, units = _font(face.path)
    result = list[tuple[float, float, float, float, float]]()
    for info, position in _shaped(font, text, is_spaced=is_spaced):
        extents = font.get_glyph_extents(info.codepoint)
        if info.codepoint == 0 or extents is None:
            raise UnmeasuredError
        left = position.x_offset + extents.x_bearing
        top = -(position.y_offset + extents.y_bearing)
        right, bottom = left + extents.width, top - extents.height
        step, *edges = (v / units for v in (position.x_advance, left, top, right, bottom))
        result.append((step, edges[0], edges[1], edges[2], edges[3]))
    return tuple(result)


def _shaped(font: harfbuzz.Font, text: str, *, is_spaced: bool) -> Iterator[tuple[Any, Any]]:
    """The glyphs of a run and their steps, in units of the font."""
    buffer = harfbuzz.Buffer()
    buffer.add_str(text)
    buffer.guess_segment_properties()
    harfbuzz.shape(font, buffer, {"liga": not is_spaced, "clig": not is_spaced})
    yield from zip(buffer.glyph_infos, buffer.glyph_positions, strict=True)


@lru_cache(64)
def _font(path: Path) -> tuple[harfbuzz.Font, int]:
    """A font and its units. Raises UnmeasuredError for a file of more than one face."""
    if path.suffix.lower() not in (".ttf", ".otf"):
        raise UnmeasuredError
    # Read, not mapped: a file that shrinks while it is mapped ends the process.
    face = harfbuzz.Face(path.read_bytes())
    if face.upem <= 0 or face.has_var_data:
        raise UnmeasuredError
    return harfbuzz.Font(face), face.upem
