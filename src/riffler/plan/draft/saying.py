"""A draft -> the same with what its texts in pixels say, as Tesseract reads them."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import TypeAlias

from riffler.geometry import Box
from riffler.mockup.model import Layer
from riffler.plan.draft.drafted import Draft, DraftedSlice
from riffler.reading.reading import Reading
from riffler.typeset.layers import INSIDE, pixels_of
from riffler.typeset.tesseract import Reading as Said
from riffler.typeset.tesseract import read

Progress: TypeAlias = Callable[[str, int, int], None]


def with_words(draft: Draft, language: str, progress: Progress | None = None) -> Draft:
    """Read every text that shows and lies in a slice, and say it there.

    Raises RifflerError where Tesseract is not installed.
    """
    texts = _read_all(draft.reading, language, progress)
    homes = _homes(draft.slices, texts)
    slices = tuple(_saying(new, homes.get(n, {})) for n, new in enumerate(draft.slices))
    return replace(draft, slices=slices)


def _read_all(reading: Reading, language: str, progress: Progress | None) -> list[tuple[Box, Said]]:
    """What each text in pixels says, from the top of the page."""
    texts = [
        (layer, box)
        for layer in reading.drawings()
        if layer.words is None
        and reading.mockup.shows(layer)
        and reading.is_words(layer)
        and (box := reading.box(layer))
    ]
    result = []
    for done, (layer, box) in enumerate(sorted(texts, key=lambda pair: (pair[1].y, pair[1].x))):
        if progress:
            progress(layer.name or layer.address, done, len(texts))
        if said_reading := _read(reading, layer, language):
            result.append((box, said_reading))
    return result


def _read(reading: Reading, layer: Layer, language: str) -> Said | None:
    pixels = pixels_of(reading, layer)
    return read(pixels, language) if pixels is not None else None


def _boxes(new: DraftedSlice) -> list[Box]:
    """The boxes of a slice: one, or all that it is repeated in."""
    times = new.table.times
    if times is None or times.same or times.around:
        return [new.box]
    return [new.box.moved(*times.offset(index)) for index in range(times.total)]


def _homes(
    slices: Sequence[DraftedSlice], texts: Sequence[tuple[Box, Said]]
) -> dict[int, dict[int, list[Said]]]:
    """By slice and box, both by number, the texts in it: each in the smallest that holds it."""
    boxes = [
        (n, index, box)
        for n, new in enumerate(slices)
        if _shows_words(new)
        for index, box in enumerate(_boxes(new))
    ]
    result: dict[int, dict[int, list[Said]]] = {}
    for text_box, text in texts:
        holding = [box for box in boxes if (box[2] & text_box).area >= INSIDE * text_box.area]
        if holding:
            n, index, _ = min(holding, key=lambda entry: entry[2].area)
            result.setdefault(n, {}).setdefault(index, []).append(text)
    return result


def _shows_words(new: DraftedSlice) -> bool:
    """Whether words that lie in a slice belong to it: not to a texture, nor a layer by itself."""
    return new.table.role == "words" or (new.table.role != "tile" and not new.table.only)


def _saying(new: DraftedSlice, texts: dict[int, list[Said]]) -> DraftedSlice:
    if not texts:
        return new
    lines = {index: "\n".join(text.text for text in readings) for index, readings in texts.items()}
    unsure = [word for readings in texts.values() for text in readings for word in text.unsure]
    why = new.why
    if unsure:
        why += "\nNot sure how to read: " + ", ".join(f'"{word}"' for word in unsure)
    count = len(_boxes(new))
    is_row = new.table.times is not None and not new.table.times.same
    if is_row and count > 1:
        told: dict[str, str | list[str]] = {
            "texts": [lines.get(index, "") for index in range(count)]
        }
    elif not is_row:
        told = {"text": lines[0]}
    else:
        return new
    return replace(new, table=new.table.model_copy(update=told), why=why.lstrip("\n"))
