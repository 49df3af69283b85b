"""Pixels of text -> what it says, read by Tesseract where that is installed."""

from __future__ import annotations

import os
from dataclasses import dataclass
from typing import Any

import numpy as np
from PIL import Image

from riffler import processes
from riffler.color import Pixels
from riffler.errors import RifflerError
from riffler.typeset.ink import Ink, Plane, ink_of, lines_of

#: How high the ink of a line is made for reading, in pixels, and the white around it.
HIGH, RIM = 44, 24

#: Percent of certainty, as Tesseract says it, below which a word is marked.
CERTAIN = 60

#: Seconds by the clock that one text may take: most take tenths, a busy machine many times that.
PATIENCE = 120

MISSING = (
    "Words in pixels are read by Tesseract, which is not installed here.",
    "Install it (Debian: apt install tesseract-ocr; macOS: brew install tesseract), then again.",
)


@dataclass(frozen=True)
class Reading:
    """What a text says, line by line from the top, and the words that are not sure."""

    lines: tuple[str, ...]
    unsure: tuple[str, ...]

    @property
    def text(self) -> str:
        """All lines, one below the other."""
        return "\n".join(self.lines)


def read(pixels: Pixels, language: str = "eng") -> Reading | None:
    """The words of a text by itself, or on one colour; None where none are seen.

    pixels: (H, W, 4) float32, premultiplied, 0..1. Raises RifflerError where Tesseract is not
    installed, or lacks the language.
    """
    ink = ink_of(pixels)
    if ink is None:
        return None
    lines = lines_of(ink)
    if not lines:
        return None
    height = float(np.median([line.bottom - line.top for line in lines]))
    page = _page(ink, max(1.0, HIGH / max(height, 1.0)))
    result = _asked(page, language, is_one=len(lines) == 1)
    return _lines(result)


def _page(ink: Ink, scale: float) -> Image.Image:
    """Black on white with a rim, large enough to be read."""
    cover: Plane = ink.cover
    height, width = (max(1, round(side * scale)) for side in cover.shape)
    image = Image.fromarray((255 * (1 - cover)).astype(np.uint8))
    if scale > 1:
        image = image.resize((width, height), Image.Resampling.BICUBIC)
    page = Image.new("L", (image.width + 2 * RIM, image.height + 2 * RIM), 255)
    page.paste(image, (RIM, RIM))
    return page


def _asked(page: Image.Image, language: str, *, is_one: bool) -> dict[str, list[Any]]:
    import pytesseract

    program = processes.program(["tesseract"])
    if program is None:
        raise RifflerError(*MISSING)
    pytesseract.pytesseract.tesseract_cmd = program
    os.environ.setdefault("OMP_THREAD_LIMIT", "1")  # one text is too little for several threads
    try:
        result: dict[str, list[Any]] = pytesseract.image_to_data(
            page,
            lang=language,
            config=f"--psm {7 if is_one else 6} --dpi 150",
            output_type=pytesseract.Output.DICT,
            timeout=PATIENCE,
        )
    except pytesseract.TesseractError as error:
        if "language" in str(error):
            raise RifflerError(
                f'Tesseract here has no words of "{language}".',
                "tesseract --list-langs lists them.",
            ) from error
        raise RifflerError(f"Tesseract failed: {str(error).strip()[:200]}") from error
    except RuntimeError as error:  # its patience ran out
        raise RifflerError("Tesseract did not come to an end with one of the texts.") from error
    return result


def _lines(result: dict[str, list[Any]]) -> Reading | None:
    lines: dict[tuple[int, int, int], list[str]] = {}
    unsure = []
    for word, certain, *place in zip(
        result["text"],
        result["conf"],
        result["block_num"],
        result["par_num"],
        result["line_num"],
        strict=True,
    ):
        text = str(word).strip()
        text = "I" if text == "|" else text  # a bar by itself is no word
        if not text:
            continue
        lines.setdefault((place[0], place[1], place[2]), []).append(text)
        if float(certain) < CERTAIN:
            unsure.append(text)
    if not lines:
        return None
    return Reading(tuple(" ".join(words) for words in lines.values()), tuple(unsure))
