"""Small shapes in pixels -> those of them that are words: a face has exactly these letters."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from riffler.color import Pixels
from riffler.mockup.font_book import Face
from riffler.mockup.model import Layer, LayerKind
from riffler.reading.reading import Reading
from riffler.typeset.choose import SURE
from riffler.typeset.layers import pixels_of
from riffler.typeset.signs import WIDE, figure_of, score
from riffler.typeset.tesseract import read_all


def signs_said(reading: Reading, faces: Sequence[Face], language: str) -> dict[str, str]:
    """What shapes say that nothing else shows to be text, by address.

    Raises RifflerError where Tesseract is not installed.
    """
    shapes = list(_shapes(reading))
    wide = [(layer, pixels) for layer, pixels in shapes if pixels.shape[1] >= WIDE * len(pixels)]
    said: dict[str, str] = {}
    answers = read_all([pixels for _, pixels in wide], language)
    for (layer, pixels), answer in zip(wide, answers, strict=True):
        if answer is not None and score(pixels, answer.text, faces) >= SURE:
            said[layer.address] = answer.text
    known: dict[str, str] = {}
    for layer, pixels in shapes:
        if pixels.shape[1] < WIDE * len(pixels):
            essence = reading.renderer.essence(layer.address)
            if essence not in known:
                known[essence] = figure_of(pixels, faces)
            if known[essence]:
                said[layer.address] = known[essence]
    return said


def _shapes(reading: Reading) -> Iterator[tuple[Layer, Pixels]]:
    """The shapes of one ink that show and are not known for text."""
    if reading.mockup.is_vector:
        return
    for layer in reading.drawings():
        if layer.kind is not LayerKind.PIXELS or not reading.mockup.shows(layer):
            continue
        if reading.is_words(layer) or reading.sign(layer) is None:
            continue
        pixels = pixels_of(reading, layer)
        if pixels is not None and pixels.size:
            yield layer, pixels
