"""Texts in pixels -> what they say, as Tesseract reads them."""

from __future__ import annotations

from collections.abc import Callable, Container, Sequence
from dataclasses import dataclass
from itertools import zip_longest
from typing import TypeAlias

from riffler.color import Pixels
from riffler.mockup.font_book import Face
from riffler.reading.layout import columns
from riffler.reading.reading import Reading
from riffler.typeset.layers import BESIDE, pixels_of, texts_in_pixels
from riffler.typeset.proofreading import Proofreader
from riffler.typeset.signs import WIDE, figure_of, score
from riffler.typeset.tesseract import Reading as Said
from riffler.typeset.tesseract import read_all

Progress: TypeAlias = Callable[[str, int, int], None]


@dataclass(frozen=True)
class SaidText:
    """What a text says, line by line, with tabs where wide gaps are; words that are not sure."""

    text: str
    unsure: tuple[str, ...] = ()


def read_texts(
    reading: Reading,
    language: str,
    known: Container[str],
    faces: Sequence[Face],
    progress: Progress | None = None,
) -> dict[str, SaidText]:
    """What every text in pixels that shows says, by address, but for those that are `known`.

    Letters are held against those of the `faces`.

    Raises RifflerError where Tesseract is not installed.
    """
    texts = [layer for layer in texts_in_pixels(reading) if layer.address not in known]
    places = [(layer, box) for layer in texts for box in columns(reading, layer) or (None,)]
    if progress:
        progress("words in pixels", 0, len(texts))
    pixels = [pixels_of(reading, *place) for place in places]
    said: dict[str, list[Said]] = {}
    answers, proofreader = read_all(pixels, language), Proofreader(faces)
    for (layer, _), text, answer in zip(places, pixels, answers, strict=True):
        seen = _seen(text, answer, faces, proofreader) if text is not None else Said((), ())
        said.setdefault(layer.address, []).append(seen)
    told = {address: _text(parts) for address, parts in said.items()}
    return {address: text for address, text in told.items() if text.text.strip()}


def _seen(
    pixels: Pixels, answer: Said | None, faces: Sequence[Face], proofreader: Proofreader
) -> Said:
    """What was read, held against letters; a single figure is seldom read, and found among them."""
    seen = proofreader.proved(pixels, answer) if answer else Said((), ())
    if len(seen.text) > 1 or pixels.shape[1] >= WIDE * len(pixels):
        return seen
    figure = figure_of(pixels, faces)
    if not figure:
        return seen
    if seen.text and score(pixels, seen.text, faces) >= score(pixels, figure, faces):
        return seen
    return Said((figure,), ())


def _text(columns: Sequence[Said]) -> SaidText:
    """Lines of several columns beside one another."""
    rows = zip_longest(*(column.lines for column in columns), fillvalue="")
    text = "\n".join(BESIDE.join(row).rstrip(BESIDE) for row in rows)
    return SaidText(text, tuple(word for column in columns for word in column.unsure))
