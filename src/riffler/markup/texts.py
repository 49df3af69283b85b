"""The texts of a mockup -> how each is set, as a browser will set it.

The ink of a text tells where it stands; what lies between the ink and the edges of a line box comes
from the face: CSS Inline Layout 3, section 5, and how browsers round it.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise

from riffler.geometry import Rect
from riffler.markup.inks import Ink, line_ink, metrics
from riffler.markup.setting import Align, SetLine, Setting, Type, usual_step, whole
from riffler.markup.unread import liken, unread
from riffler.mockup.font_book import Face, FontBook
from riffler.mockup.model import Layer, LayerText, TextRun
from riffler.reading.reading import Reading
from riffler.typeset.ink import ink_of, lines_of
from riffler.typeset.layers import pixels_of
from riffler.webfonts.facts import facts_of

#: How far the edges of lines may be off one another, in CSS pixels: letters have room beside them.
NEAR_EDGE = 4

#: Parts of a pixel that are none.
SLIGHT = 0.1

#: Gaps from which words of one line are texts of their own, in font sizes.
APART = 1.2

_ALIGNED: dict[str, Align] = {"middle": "center", "end": "right"}


def settings(
    reading: Reading, fonts: FontBook, values: dict[str, tuple[str, ...]], layers: Sequence[Layer]
) -> dict[str, Setting]:
    """How texts are set, by address; `values` are words that a cutlist has for texts in pixels."""
    found_settings = {}
    for layer in layers:
        setting = _of_layer(reading, fonts, values.get(layer.address, ()), layer)
        if setting is not None:
            found_settings[layer.address] = setting
    liken(reading, found_settings)
    steps = {
        _kind(setting.type): setting.step / setting.type.size
        for setting in found_settings.values()
        if setting.is_step_known
    }
    return {
        address: setting
        if setting.is_step_known or _kind(setting.type) not in steps
        else setting.stepped(whole(steps[_kind(setting.type)] * setting.type.size))
        for address, setting in found_settings.items()
    }


def _kind(type_: Type) -> tuple[str, float, int]:
    return type_.family, type_.size, type_.weight


def _of_layer(
    reading: Reading, fonts: FontBook, texts: tuple[str, ...], layer: Layer
) -> Setting | None:
    words = reading.words(layer)
    if words is None or not any(line.strip() for line in words.lines):
        return unread(reading, texts, layer, _ink(reading, layer))
    ink = _ink(reading, layer)
    if ink is None:
        return None
    density = reading.density
    lines = _lines(words)
    size = words.size / density
    face = _face(words, fonts)
    runs = words.runs if lines == words.lines else ()
    inks = [line_ink(face, line, size, words.letter_spacing / density) for line in lines]
    inks = [_with_runs(fonts, words, ink, number, runs) for number, ink in enumerate(inks)]
    align = _ALIGNED.get(words.anchor) or _seen_align(reading, layer, inks)
    ink = _on_pens(reading, ink, inks, align)
    baseline = ink.y - inks[0].top
    step = words.line_step / density if words.line_step and len(lines) > 1 else None
    if step is None and len(lines) > 1:
        step = (ink.bottom - inks[-1].bottom - baseline) / (len(lines) - 1)
    ascent, descent = metrics(face)
    type_ = Type(
        words.families[0] if words.families else "",
        _generic(words, face),
        round(size, 2),
        words.weight,
        words.style != "normal",
        round(words.letter_spacing / density, 2),
        words.color,
    )
    return Setting(
        tuple(_placed(lines, inks, ink, align)),
        type_,
        align,
        baseline,
        step or usual_step(size),
        step is not None,
        round(ascent * size),
        round(descent * size),
        _with_next(face, lines, type_),
        runs=runs,
        columns=_columns(words, face, type_, ink.x - inks[0].left, density),
    )


def _on_pens(reading: Reading, ink: Rect, inks: Sequence[Ink], align: Align) -> Rect:
    """The ink of a drawn text whose edges are known to a pixel alone, its pen on a whole one.

    With the ink that its letters have there, it begins somewhere in its first pixel.
    """
    edges, density = (ink.x, ink.y, ink.right, ink.bottom), reading.density
    if not reading.mockup.is_vector or any(
        abs(edge * density - round(edge * density)) > SLIGHT for edge in edges
    ):
        return ink
    left, top = min(one.left for one in inks), inks[0].top
    pens = [ink.x - left, ink.y - top]
    x, y = (math.ceil(pen * density - SLIGHT) / density - pen for pen in pens)
    return ink.moved(x if align == "left" else 0.0, y)


def _columns(
    words: LayerText, face: Face | None, type_: Type, left: float, density: float
) -> tuple[SetLine, ...]:
    """The parts of a single line that wide gaps set apart; `left` is where its pen begins."""
    if not words.stops or len(words.lines) > 1 or words.anchor != "start":
        return ()
    line = words.lines[0]
    starts = [(0, 0.0), *((start, away / density) for start, away in words.stops)]
    parts = [
        line[start:end].strip()
        for (start, _), end in zip(
            starts, [*(start for start, _ in words.stops), None], strict=True
        )
    ]
    wide = [line_ink(face, part, type_.size, type_.spacing).advance for part in parts]
    lines = [
        SetLine(part, left + away, width)
        for part, (_, away), width in zip(parts, starts, wide, strict=True)
    ]
    gaps = [after.x - before.x - before.width for before, after in pairwise(lines)]
    return tuple(lines) if min(gaps) > APART * type_.size else ()


def _with_runs(
    fonts: FontBook, words: LayerText, ink: Ink, line: int, runs: Sequence[TextRun]
) -> Ink:
    """The ink of a line in which some letters are heavier or slanted, and so take more room.

    A line under its first letters begins where the pen does.
    """
    runs = [run for run in runs if run.line == line]
    if not runs:
        return ink
    face, more = _face(words, fonts), 0.0
    if any(run.is_underlined and not run.start for run in runs):
        ink = replace(ink, left=min(ink.left, 0.0))
    for run in runs:
        text = words.lines[line][run.start : run.end]
        own = replace(words, weight=run.weight, style="italic" if run.is_italic else "normal")
        wide = line_ink(_face(own, fonts), text, 1.0, 0.0).advance
        more += wide - line_ink(face, text, 1.0, 0.0).advance
    plain = line_ink(face, words.lines[line], 1.0, 0.0).advance
    return replace(ink, advance=ink.advance * (1 + more / plain) if plain else ink.advance)


def _lines(words: LayerText) -> tuple[str, ...]:
    return tuple(" ".join(line.split()) for line in words.lines if line.strip())


def _seen_align(reading: Reading, layer: Layer, inks: Sequence[Ink]) -> Align:
    """How lines stand that a document places one by one: by their edges, where these differ."""
    pixels = pixels_of(reading, layer) if len(inks) > 1 and layer.words is not None else None
    ink = ink_of(pixels) if pixels is not None else None
    lines = lines_of(ink, len(inks)) if ink is not None else []
    if len(lines) != len(inks):
        return "left"
    near = NEAR_EDGE * reading.density
    lefts = [line.left for line in lines]
    if max(lefts) - min(lefts) <= near:
        return "left"
    rights = [line.right for line in lines]
    if max(rights) - min(rights) <= near:
        return "right"
    middles = [line.left + line.right for line in lines]
    return "center" if max(middles) - min(middles) <= 2 * near else "left"


def _ink(reading: Reading, layer: Layer) -> Rect | None:
    """The box of the letters, in CSS pixels: exact in a vector mockup."""
    exact = reading.renderer.exact_box(layer.address) if reading.mockup.is_vector else None
    box = exact or (Rect.of(whole) if (whole := reading.box(layer)) else None)
    by = reading.density
    return box and Rect(box.x / by, box.y / by, box.width / by, box.height / by)


def _placed(lines: Sequence[str], inks: Sequence[Ink], ink: Rect, align: Align) -> list[SetLine]:
    """The lines where their ink says that they begin."""
    match align:
        case "left":
            start = ink.x - min(ink.left for ink in inks)
            starts = [start] * len(inks)
        case "center":
            middle = ink.x + max(ink.advance / 2 - ink.left for ink in inks)
            starts = [middle - ink.advance / 2 for ink in inks]
        case "right":
            end = ink.right + max(ink.advance - ink.right for ink in inks)
            starts = [end - ink.advance for ink in inks]
    return [SetLine(text, x, ink.advance) for text, x, ink in zip(lines, starts, inks, strict=True)]


def _face(words: LayerText, fonts: FontBook) -> Face | None:
    family, _ = fonts.choose(words.families)
    return fonts.nearest(family, words.weight, is_italic=words.style != "normal")


def _generic(words: LayerText, face: Face | None) -> str:
    """The word that CSS has for the kind of a face."""
    texts = [family for family in words.families if family in ("serif", "sans-serif", "monospace")]
    if texts:
        return texts[0]
    if face is None:
        return "sans-serif"
    return {"mono": "monospace", "serif": "serif"}.get(facts_of(face).manner, "sans-serif")


def _with_next(face: Face | None, lines: Sequence[str], type_: Type) -> float:
    """The least width at which a word would move up to the line before."""
    widths = [
        line_ink(face, f"{line} {after.split()[0]}", type_.size, type_.spacing).advance
        for line, after in pairwise(lines)
    ]
    return min(widths, default=math.inf)
