"""A text of the mockup -> its lines as a browser will set them: where pens begin and baselines lie.

The ink of a text tells where it stands; what lies between the ink and the edges of a line box comes
from the face: CSS Inline Layout 3, section 5, and how browsers round it.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import pairwise
from typing import Literal, TypeAlias

from riffler.geometry import Rect
from riffler.mockup.fonts import Face, FontBook, laid_out_with
from riffler.mockup.model import Layer, Words
from riffler.reading.layer_names import humanised
from riffler.reading.reading import Reading
from riffler.tokens.palette import apart
from riffler.typeset.ink import ink_of, lines_of
from riffler.typeset.layers import pixels_of
from riffler.webfonts.facts import facts_of

#: Of a glyph its step, and left, top, right and bottom of its ink.
Shaping: TypeAlias = tuple[float, ...]

Align: TypeAlias = Literal["left", "center", "right"]

#: The line height of a single line, in font sizes, by the least size in CSS pixels.
STEPS = ((28, 1.2), (20, 1.3), (0, 1.5))

#: Metrics of a face that nobody has, in font sizes: what most come near.
ASCENT, DESCENT, SMALL = 0.93, 0.25, 0.5

#: How far the edges of lines may be off one another, in CSS pixels: letters have room beside them.
NEAR_EDGE = 4

#: Letters are as high as others within this share; capitals and stems in font sizes.
ALIKE, CAPITAL = 0.1, 0.72

_ALIGNED: dict[str, Align] = {"middle": "center", "end": "right"}


@dataclass(frozen=True)
class Type:
    """How letters are set; `size` and `spacing` in CSS pixels. `family` is empty when not known."""

    family: str
    generic: str
    size: float
    weight: int
    is_italic: bool
    spacing: float
    color: str


@dataclass(frozen=True)
class Line:
    """A line: its words, where its pen begins, how far it goes, in CSS pixels."""

    text: str
    x: float
    width: float


@dataclass(frozen=True)
class Setting:
    """A text as it is set. `baseline` is that of its first line; `step` leads to the next.

    `is_step_known` says that the step was seen between two lines. `ascent` and `descent` are what
    browsers make of the face, whole pixels. `next_words` is how far each line would go with the
    first word of the next. `is_said` tells words that somebody said from a layer's name, of which
    `seen_lines` were seen.
    """

    lines: tuple[Line, ...]
    type: Type
    align: Align
    baseline: float
    step: float
    is_step_known: bool
    ascent: int
    descent: int
    next_words: float = math.inf
    is_said: bool = True
    seen_lines: int = 0

    @property
    def rows(self) -> int:
        """How many lines it takes: those that are said, or seen where nothing is."""
        return max(len(self.lines), self.seen_lines)

    @property
    def text(self) -> str:
        """All that it says, in one line."""
        return " ".join(line.text for line in self.lines)

    @property
    def width(self) -> float:
        """How far the widest line goes."""
        return max(line.width for line in self.lines)

    @property
    def box(self) -> Rect:
        """Its line boxes, one upon the other, in CSS pixels."""
        rise = math.floor((self.step - self.ascent - self.descent) / 2) + self.ascent
        left = min(line.x for line in self.lines)
        return Rect(left, self.baseline - rise, self.width, self.step * self.rows)

    def stepped(self, step: float) -> Setting:
        """The same with another line height."""
        return replace(self, step=step)


def settings(
    reading: Reading, fonts: FontBook, said: dict[str, tuple[str, ...]], layers: Sequence[Layer]
) -> dict[str, Setting]:
    """How texts are set, by address; `said` are words that a cutlist has for texts in pixels."""
    found = {}
    for layer in layers:
        setting = _of_layer(reading, fonts, said.get(layer.address, ()), layer)
        if setting is not None:
            found[layer.address] = setting
    _liken(reading, found)
    steps = {
        _kind(one.type): one.step / one.type.size for one in found.values() if one.is_step_known
    }
    return {
        address: one if one.is_step_known or _kind(one.type) not in steps
        else one.stepped(_whole(steps[_kind(one.type)] * one.type.size))
        for address, one in found.items()
    }  # fmt: skip


def _liken(reading: Reading, found: dict[str, Setting]) -> None:
    """Texts of no known face are set as those known ones whose letters are as high, and as dark."""
    by_address = reading.mockup.by_address
    known = [
        (seen.height, seen.color, setting) for address, setting in found.items()
        if setting.type.family and (seen := reading.lettering(by_address[address]))
    ]  # fmt: skip
    for address, setting in found.items():
        seen = reading.lettering(by_address[address]) if not setting.type.family else None
        alike = [] if seen is None else [
            (apart(color, seen.color), one) for height, color, one in known
            if abs(height - seen.height) <= ALIKE * seen.height
        ]  # fmt: skip
        if not alike:
            continue
        _, one = min(alike, key=lambda pair: pair[0])
        size = one.type.size
        ink = reading.box(by_address[address])
        assert ink is not None
        first = ink.y / reading.density
        step = setting.step if setting.rows > 1 else one.step
        found[address] = replace(
            setting, type=replace(one.type, color=seen.color if seen else one.type.color),
            baseline=first + CAPITAL * size, step=step, ascent=one.ascent, descent=one.descent,
        )  # fmt: skip


def _kind(type_: Type) -> tuple[str, float, int]:
    return type_.family, type_.size, type_.weight


def _of_layer(
    reading: Reading, fonts: FontBook, said: tuple[str, ...], layer: Layer
) -> Setting | None:
    words = reading.words(layer)
    if words is None or not any(line.strip() for line in words.lines):
        return _unknown(reading, said, layer)
    ink = _ink(reading, layer)
    if ink is None:
        return None
    density = reading.density
    lines = tuple(" ".join(line.split()) for line in words.lines if line.strip())
    size = words.size / density
    face = _face(words, fonts)
    inks = [_line_ink(face, line, size, words.letter_spacing / density) for line in lines]
    align = _ALIGNED.get(words.anchor) or _seen_align(reading, layer, inks)
    baseline = ink.y - inks[0].top
    step = words.line_step / density if words.line_step and len(lines) > 1 else None
    if step is None and len(lines) > 1:
        step = (ink.bottom - inks[-1].bottom - baseline) / (len(lines) - 1)
    ascent, descent = _metrics(face)
    type_ = Type(
        words.families[0] if words.families else "", _generic(words, face),
        round(size, 2), words.weight, words.style != "normal",
        round(words.letter_spacing / density, 2), words.color,
    )  # fmt: skip
    return Setting(
        tuple(_placed(lines, inks, ink, align)), type_, align, baseline,
        step or _usual_step(size), step is not None,
        round(ascent * size), round(descent * size),
        _with_next(face, lines, type_),
    )  # fmt: skip


def _seen_align(reading: Reading, layer: Layer, inks: Sequence[_Ink]) -> Align:
    """How lines stand that a document places one by one: by their edges, where these differ."""
    pixels = pixels_of(reading, layer) if len(inks) > 1 and layer.words is not None else None
    ink = ink_of(pixels) if pixels is not None else None
    found = lines_of(ink, len(inks)) if ink is not None else []
    if len(found) != len(inks):
        return "left"
    near = NEAR_EDGE * reading.density
    lefts = [line.left for line in found]
    if max(lefts) - min(lefts) <= near:
        return "left"
    rights = [line.right for line in found]
    if max(rights) - min(rights) <= near:
        return "right"
    middles = [line.left + line.right for line in found]
    return "center" if max(middles) - min(middles) <= 2 * near else "left"


def _ink(reading: Reading, layer: Layer) -> Rect | None:
    """The box of the letters, in CSS pixels: exact in a vector mockup."""
    exact = reading.renderer.exact_box(layer.address) if reading.mockup.is_vector else None
    box = exact or (Rect.of(whole) if (whole := reading.box(layer)) else None)
    by = reading.density
    return box and Rect(box.x / by, box.y / by, box.width / by, box.height / by)


@dataclass(frozen=True)
class _Ink:
    """A line: how far its pen goes, and the edges of its ink from where the pen began."""

    advance: float
    left: float
    right: float
    top: float
    bottom: float


def _placed(
    lines: Sequence[str], inks: Sequence[_Ink], ink: Rect, align: Align
) -> list[Line]:  # fmt: skip
    """The lines where their ink says that they begin."""
    match align:
        case "left":
            start = ink.x - min(one.left for one in inks)
            starts = [start] * len(inks)
        case "center":
            middle = ink.x + max(one.advance / 2 - one.left for one in inks)
            starts = [middle - one.advance / 2 for one in inks]
        case "right":
            end = ink.right + max(one.advance - one.right for one in inks)
            starts = [end - one.advance for one in inks]
    return [
        Line(text, x, one.advance)
        for text, x, one in zip(lines, starts, inks, strict=True)
    ]  # fmt: skip


@lru_cache(1024)
def _line_ink(face: Face | None, text: str, size: float, spacing: float) -> _Ink:
    """The ink of a line; without a face what letters take on the whole."""
    if face is None:
        advance = sum(0.3 if sign in " .,ilt'" else 0.55 for sign in text) * size
        return _Ink(advance, 0.05 * size, advance - 0.05 * size, -0.72 * size, 0.0)
    found = _shaped(face, text, bool(spacing))
    pen = 0.0
    edges = []
    for advance, left, top, right, bottom in found:
        if right > left:
            edges.append((pen + left * size, top * size, pen + right * size, bottom * size))
        pen += advance * size + spacing
    if not edges:
        return _Ink(pen, 0.0, pen, -0.7 * size, 0.0)
    lefts, tops, rights, bottoms = zip(*edges, strict=True)
    return _Ink(pen, min(lefts), max(rights), min(tops), max(bottoms))


@lru_cache(4096)
def _shaped(face: Face, text: str, is_spaced: bool) -> tuple[Shaping, ...]:
    """Of each glyph its step and the edges of its ink from the pen, in font sizes, y downwards."""
    import uharfbuzz

    font, units = _font(face)
    buffer = uharfbuzz.Buffer()
    buffer.add_str(text)
    buffer.guess_segment_properties()
    uharfbuzz.shape(font, buffer, {"liga": not is_spaced, "clig": not is_spaced})
    found = []
    for info, place in zip(buffer.glyph_infos, buffer.glyph_positions, strict=True):
        seen = font.get_glyph_extents(info.codepoint)
        left = place.x_offset + (seen.x_bearing if seen else 0)
        top = -(place.y_offset + (seen.y_bearing if seen else 0))
        wide, high = (seen.width, -seen.height) if seen else (0, 0)
        found.append(
            tuple(value / units for value in (place.x_advance, left, top, left + wide, top + high))
        )
    return tuple(found)


_font = lru_cache(64)(lambda face: laid_out_with(face.path, face.weight))


@lru_cache(64)
def _metrics(face: Face | None) -> tuple[float, float]:
    """How far browsers let a face rise and hang, in font sizes."""
    if face is None:
        return ASCENT, DESCENT
    facts = facts_of(face)
    return facts.ascent, facts.descent


def _face(words: Words, fonts: FontBook) -> Face | None:
    family, _ = fonts.choose(words.families)
    return fonts.nearest(family, words.weight, is_italic=words.style != "normal")


def _generic(words: Words, face: Face | None) -> str:
    """The word that CSS has for the kind of a face."""
    said = [family for family in words.families if family in ("serif", "sans-serif", "monospace")]
    if said:
        return said[0]
    if face is None:
        return "sans-serif"
    return {"mono": "monospace", "serif": "serif"}.get(facts_of(face).manner, "sans-serif")


def _with_next(face: Face | None, lines: Sequence[str], type_: Type) -> float:
    """The least width at which a word would move up to the line before."""
    widths = [
        _line_ink(face, f"{line} {after.split()[0]}", type_.size, type_.spacing).advance
        for line, after in pairwise(lines)
    ]
    return min(widths, default=math.inf)


def _usual_step(size: float) -> float:
    share = next(share for least, share in STEPS if size >= least)
    return _whole(share * size)


def _whole(step: float) -> float:
    return float(round(step))


def _unknown(reading: Reading, said: tuple[str, ...], layer: Layer) -> Setting | None:
    """A text in pixels of which no face is known: its lines as high and far as they are seen."""
    ink = _ink(reading, layer)
    text = reading.lettering(layer)
    if ink is None:
        return None
    density = reading.density
    seen = len(text.lines) if text else 1
    height = text.height / density if text else ink.height * 0.6
    size = float(max(8, round(height / SMALL)))
    lines = said or (humanised(layer.name) or "Words",)
    step = text.line_step / density if text and text.line_step else _usual_step(size)
    type_ = Type("", "sans-serif", size, 400, False, 0.0, text.color if text else "#000000")
    first = ink.y + (ink.height - step * (seen - 1)) if seen > 1 else ink.bottom
    baseline = first - (0.2 * size if ink.height / seen > 0.9 * size else 0)
    return Setting(
        tuple(Line(line, ink.x, ink.width) for line in lines), type_, "left",
        baseline, step, seen > 1, round(ASCENT * size), round(DESCENT * size),
        is_said=bool(said), seen_lines=0 if said else seen,
    )  # fmt: skip
