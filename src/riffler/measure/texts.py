"""A text of a mockup -> what it says and how it is set, however it is kept."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, TypeAlias

from riffler.color import Pixels
from riffler.errors import RifflerError
from riffler.measure.things import MeasuredThing
from riffler.mockup.model import Layer, LayerText
from riffler.reading.reading import Reading
from riffler.typeset.choose import TypeFound
from riffler.typeset.ink import ink_of, lines_of
from riffler.typeset.layers import as_words, pixels_of, seen_in, whole, written
from riffler.typeset.proofreading import Proofreader
from riffler.typeset.shape import TextShape
from riffler.typeset.tesseract import read
from riffler.workspace import Opened

Source: TypeAlias = Literal["document", "cutlist", "read"]


@dataclass(frozen=True)
class Said:
    """A text: its lines, where they are from, the words that were not sure to be read so.

    `words` are its type as a document has it, None where no face fits; `type` is how well the face
    lies on the pixels, `shape` what was measured instead. Lengths are mockup pixels.
    """

    lines: tuple[str, ...]
    source: Source
    words: LayerText | None
    unsure: tuple[str, ...] = ()
    type: TypeFound | None = None
    shape: TextShape | None = None
    line_step: float | None = None


def words_of(
    opened: Opened, reading: Reading, thing: MeasuredThing, layer: Layer | None, language: str
) -> Said:
    """The text of a layer, or what is seen in a box of the whole picture.

    Raises RifflerError for what holds no words, and where Tesseract is needed and not installed.
    """
    if layer is not None and layer.words is not None:
        return Said(layer.words.lines, "document", layer.words, line_step=layer.words.line_step)
    pixels = _pixels(opened, reading, thing, layer)
    lines, unsure = tuple[str, ...](), tuple[str, ...]()
    source: Source = "cutlist"
    if layer is not None:
        lines = next(
            (
                whole(texts)
                for one_layer, texts in written(reading, opened.cutlist)
                if one_layer == layer
            ),
            (),
        )
    if not lines:
        found_reading = read(pixels, language)
        if found_reading is None:
            raise RifflerError(f"There are no words in {thing.name}.")
        found_reading = Proofreader(opened.fonts.own_faces()).proved(pixels, found_reading)
        lines, source, unsure = found_reading.lines, "read", found_reading.unsure
    seen = seen_in(pixels, lines, opened.fonts)
    words = as_words(seen, reading.density)
    step = words.line_step if words else _step(pixels, len(lines))
    return Said(lines, source, words, unsure, seen.type, seen.shape, step)


def _pixels(opened: Opened, reading: Reading, thing: MeasuredThing, layer: Layer | None) -> Pixels:
    if layer is not None and not layer.is_group:
        if not reading.is_words(layer):
            raise RifflerError(
                f"{thing.name} is no text.", "Of a picture say a box: x,y,width,height --words"
            )
        pixels = pixels_of(reading, layer)
    else:
        box = thing.box.outward() & opened.mockup.box
        pixels = opened.renderer.render(box, 1.0, opened.mockup.drawn) if box else None
    if pixels is None or pixels.size == 0:
        raise RifflerError(f"{thing.name} shows nothing.")
    return pixels


def _step(pixels: Pixels, count: int) -> float | None:
    """From one line to the next, where no face tells: between the feet of their ink."""
    ink = ink_of(pixels)
    lines = lines_of(ink, count) if ink and count > 1 else []
    if len(lines) < 2:
        return None
    return (lines[-1].bottom - lines[0].bottom) / (len(lines) - 1)
