"""A layer of text in pixels -> its words and its type, as text of a document has them.

Words read from pixels live in the cutlist, where a person mends them; `typeset/layers.learn` gives
a reading what it says, and everything that asks `Reading.words` knows it.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import accumulate

from riffler.analyse.lettering import Lettering
from riffler.color import Pixels
from riffler.cutlist.file import CutlistFile
from riffler.cutlist.resolve import resolve_one
from riffler.geometry import Box
from riffler.mockup.font_book import FontBook
from riffler.mockup.model import Layer, LayerText
from riffler.reading.reading import Reading
from riffler.typeset.choose import TypeFound, type_of_pixels
from riffler.typeset.ink import ink_of, lines_of
from riffler.typeset.shape import TextShape, shape_of

#: A size so near a whole CSS pixel, or a half, was meant to be one; a spacing so small is none.
NEARLY, NONE = 0.3, 0.06

#: From one line to the next, in heights of small letters, as most text is set.
STEP = 2.4

#: What stands between parts of a line that a wide gap sets apart, where a cutlist keeps them.
BESIDE = "\t"

#: Share of a text that lies in a slice which has its words.
INSIDE = 0.8

_ANCHORS = {"left": "start", "center": "middle", "right": "end"}


@dataclass(frozen=True)
class ReadText:
    """A text in pixels: its lines, and how it was set where a face fits, else what was measured."""

    lines: tuple[str, ...]
    type: TypeFound | None
    shape: TextShape | None


def pixels_of(reading: Reading, layer: Layer, part: Box | None = None) -> Pixels | None:
    """The text of a layer by itself, or a part of it; None where it paints nothing."""
    box = reading.painted(layer)
    if box is not None and part is not None:
        box = part.grown(1) & box
    if not box:
        return None
    return reading.renderer.render(box, 1.0, reading.mockup.alone(layer.address))


def seen_in(pixels: Pixels, lines: Sequence[str], fonts: FontBook) -> ReadText:
    """The type of pixels whose words are known."""
    texts = tuple(line for line in lines if line.strip())
    type_ = type_of_pixels(pixels, texts, fonts.faces())
    if type_ is not None:
        return ReadText(texts, type_, None)
    ink = ink_of(pixels)
    inked = lines_of(ink, len(texts) or None) if ink else []
    return ReadText(texts, None, shape_of(inked, texts))


def as_words(seen: ReadText, density: float) -> LayerText | None:
    """The type as a document says it, in lengths as people write them; None where no face fits."""
    type_ = seen.type
    if type_ is None:
        return None
    size = _told(type_.size / density) * density
    spacing = type_.letter_spacing / density
    step = type_.line_step and _step(type_.line_step / density) * density
    return LayerText(
        seen.lines,
        (type_.face.family,),
        size,
        type_.face.weight,
        "italic" if type_.face.is_italic else "normal",
        0.0 if abs(spacing) < NONE else round(spacing, 1) * density,
        step,
        _ANCHORS[type_.align],
        type_.color,
    )


def _told(size: float) -> float:
    """A size as it was meant: whole CSS pixels, or the half between two."""
    return float(round(size)) if abs(size - round(size)) < NEARLY else round(2 * size) / 2


def _step(step: float) -> float:
    """A line step as it was meant: browsers put baselines on whole pixels."""
    return float(round(step)) if abs(step - round(step)) < NEARLY else round(step, 1)


def written(reading: Reading, file: CutlistFile | None) -> Iterator[tuple[Layer, tuple[str, ...]]]:
    """The texts in pixels whose words a cutlist has, each with its lines.

    By their layers, or by the slices that they lie in.
    """
    if file is None:
        return
    texts, says = list(texts_in_pixels(reading)), file.cutlist.says
    for layer in texts:
        if text := says.get(layer.address):
            yield layer, tuple(line for line in text.splitlines() if line.strip())
    yield from _in_slices(reading, file, [layer for layer in texts if layer.address not in says])


def _in_slices(
    reading: Reading, file: CutlistFile, texts: Sequence[Layer]
) -> Iterator[tuple[Layer, tuple[str, ...]]]:
    """The texts that lie in slices which have their words, each with its lines."""
    for entry in file.entries:
        if entry.text is None:
            continue
        whole = resolve_one(file, reading.renderer, entry).box
        inside = [text for text in texts if (box := reading.box(text)) and _lies_in(box, whole)]
        yield from _shared(reading, inside, entry.text.splitlines())


def texts_in_pixels(reading: Reading) -> Iterator[Layer]:
    """The layers that show text and say nothing, from the top of the page."""
    texts = [
        (box.y, box.x, layer)
        for layer in reading.drawings()
        if layer.words is None
        and reading.mockup.shows(layer)
        and reading.is_words(layer)
        and (box := reading.box(layer))
    ]
    yield from (layer for _, _, layer in sorted(texts, key=lambda text: text[:2]))


def _lies_in(box: Box, whole: Box) -> bool:
    return (box & whole).area >= INSIDE * box.area


def _shared(
    reading: Reading, layers: Sequence[Layer], lines: Sequence[str]
) -> Iterator[tuple[Layer, tuple[str, ...]]]:
    """Lines among layers, each as many as it shows; all for a single one."""
    kept = [line for line in lines if line.strip()]
    if len(layers) == 1:
        yield layers[0], tuple(kept)
        return
    for layer, count in zip(layers, _counts(reading, layers, len(kept)), strict=True):
        if kept:
            yield layer, tuple(kept[:count])
            kept = kept[count:]


def _counts(reading: Reading, layers: Sequence[Layer], lines: int) -> list[int]:
    """How many lines each layer shows: as they are seen, or by its height where that adds up."""
    texts = [reading.lettering(layer) for layer in layers]
    seen = [len(text.lines) if text else 1 for text in texts]
    high = [
        max(1, round(box.height / (STEP * text.height))) if text and box else 1
        for text, box in zip(texts, map(reading.box, layers), strict=True)
    ]
    return high if sum(seen) != lines == sum(high) else seen


def whole(lines: Sequence[str]) -> tuple[str, ...]:
    """Lines as people read them, over wide gaps."""
    return tuple(line.replace(BESIDE, " ") for line in lines)


def learn(
    reading: Reading, file: CutlistFile | None, fonts: FontBook, only: str | None = None
) -> None:
    """Give a reading the words and the type of texts whose words its cutlist has.

    Of one layer `only` where that is said. Where no face fits, they stay pixels.
    """
    for layer, lines in written(reading, file):
        if only in (None, layer.address) and (words := typed(reading, layer, lines, fonts)):
            reading.said[layer.address] = words


def typed(
    reading: Reading, layer: Layer, lines: Sequence[str], fonts: FontBook
) -> LayerText | None:
    """The words and type of one text in pixels; None where no face fits.

    The type of what wide gaps set apart is that of its first part.
    """
    lettering, part = reading.lettering(layer), None
    first = tuple(line.partition(BESIDE)[0] for line in lines)
    if first != lines and lettering is not None:
        part = lettering.columns[0]
    pixels = pixels_of(reading, layer, part)
    words = as_words(seen_in(pixels, first, fonts), reading.density) if pixels is not None else None
    return words and replace(words, lines=whole(lines), stops=_stops(lines, lettering))


def _stops(lines: Sequence[str], lettering: Lettering | None) -> tuple[tuple[int, float], ...]:
    """Where the parts of a single line begin that wide gaps set apart."""
    parts = lines[0].split(BESIDE)
    if lettering is None or len(lines) > 1 or len(parts) != len(lettering.columns):
        return ()
    ends = accumulate(len(part) + len(BESIDE) for part in parts[:-1])
    first, *columns = lettering.columns
    return tuple(
        (end, float(column.x - first.x)) for end, column in zip(ends, columns, strict=True)
    )
