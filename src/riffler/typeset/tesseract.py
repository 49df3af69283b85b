"""Pixels of text -> what it says, read by Tesseract where that is installed."""

from __future__ import annotations

import os
import re
from collections.abc import Iterator, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace
from tempfile import TemporaryDirectory
from typing import Any

import numpy as np
from PIL import Image

from riffler import processes
from riffler.color import Pixels
from riffler.errors import RifflerError
from riffler.typeset.dashes import with_dashes, with_spaces
from riffler.typeset.ink import Ink, InkLine, Plane, ink_of, lines_of

#: How high the ink of a line is made for reading, in pixels, and the white around it.
HIGH, RIM = 44, 24

#: Percent of certainty, as Tesseract says it, below which a word is marked.
CERTAIN = 60

#: Texts that are given to one Tesseract, and seconds by the clock that it may take: most texts take
#: hundredths, a busy machine many times that.
AT_ONCE, PATIENCE = 24, 240

#: The sign in an address for mail, which has room around it in many faces. RFC 5322, 3.4.1.
_ADDRESS = re.compile(r"(?<=\w) ?@ ?(?=[\w-]+\.\w)")

MISSING = (
    "Words in pixels are read by Tesseract, which is not installed here.",
    "Install it (Debian: apt install tesseract-ocr; macOS: brew install tesseract), then again.",
)


@dataclass(frozen=True)
class Reading:
    """What a text says, line by line from the top, and the words that are not sure.

    `least` is how certain the least certain word is, in percent.
    """

    lines: tuple[str, ...]
    unsure: tuple[str, ...]
    least: float = 100.0

    @property
    def text(self) -> str:
        """All lines, one below the other."""
        return "\n".join(self.lines)


def is_here() -> bool:
    """Whether Tesseract is installed."""
    return processes.program(["tesseract"]) is not None


def read(pixels: Pixels, language: str = "eng") -> Reading | None:
    """The words of a text by itself, or on one colour; None where none are seen.

    pixels: (H, W, 4) float32, premultiplied, 0..1. Raises RifflerError where Tesseract is not
    installed, or lacks the language.
    """
    return next(read_all([pixels], language))


def read_all(texts: Sequence[Pixels | None], language: str = "eng") -> Iterator[Reading | None]:
    """The words of each of several texts, as `read` has them, in their order; None says nothing.

    Tesseract is started once for many: it takes longer to start than to read a line.
    """
    pages = [None if pixels is None else _page_of(pixels) for pixels in texts]
    jobs: list[list[int]] = []
    for is_one in (True, False):
        numbers = [n for n, page in enumerate(pages) if page and page.is_one == is_one]
        jobs.extend(numbers[start : start + AT_ONCE] for start in range(0, len(numbers), AT_ONCE))
    readings: dict[int, Reading | None] = {}
    with ThreadPoolExecutor(os.cpu_count() or 1) as pool:
        answers = pool.map(lambda job: _asked([p for n in job if (p := pages[n])], language), jobs)
        for job, answer in zip(jobs, answers, strict=True):
            seen = map(_seen, answer, [pages[number] for number in job])
            readings.update(zip(job, seen, strict=True))
    return (readings.get(number) for number in range(len(texts)))


@dataclass(frozen=True)
class _Page:
    """A text as it is given to Tesseract, and the ink of its lines."""

    image: Image.Image
    lines: tuple[InkLine, ...]

    @property
    def is_one(self) -> bool:
        """Whether it has one line."""
        return len(self.lines) == 1


def _page_of(pixels: Pixels) -> _Page | None:
    """A text in black on white; None where no ink is seen."""
    ink = ink_of(pixels)
    lines = lines_of(ink) if ink else []
    if ink is None or not lines:
        return None
    height = float(np.median([line.bottom - line.top for line in lines]))
    return _Page(_page(ink, max(1.0, HIGH / max(height, 1.0))), tuple(lines))


def _seen(reading: Reading | None, page: _Page | None) -> Reading | None:
    """What was read, with the dashes and spaces that are seen."""
    if reading is None or page is None or len(reading.lines) != len(page.lines):
        return reading
    lines = map(with_dashes, reading.lines, page.lines)
    return replace(reading, lines=tuple(map(with_spaces, lines, page.lines)))


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


def _asked(pages: Sequence[_Page], language: str) -> list[Reading | None]:
    """What pages say that all have one line, or all more."""
    import pytesseract

    program = processes.program(["tesseract"])
    if program is None:
        raise RifflerError(*MISSING)
    pytesseract.pytesseract.tesseract_cmd = program
    os.environ.setdefault("OMP_THREAD_LIMIT", "1")  # one text is too little for several threads
    with TemporaryDirectory(prefix="riffler-words-") as folder:
        path = f"{folder}/pages.tiff"
        first, *others = (page.image for page in pages)
        first.save(path, save_all=True, append_images=others)
        try:
            result: dict[str, list[Any]] = pytesseract.image_to_data(
                path,
                lang=language,
                config=f"--psm {7 if pages[0].is_one else 6} --dpi 150",
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
            raise RifflerError(
                "Tesseract did not come to an end with some of the texts."
            ) from error
    return [_lines(result, number) for number in range(1, len(pages) + 1)]


def _lines(result: dict[str, list[Any]], page: int) -> Reading | None:
    lines: dict[tuple[int, int, int], list[str]] = {}
    unsure, least = [], 100.0
    for word, certain, number, *place in zip(
        result["text"],
        result["conf"],
        result["page_num"],
        result["block_num"],
        result["par_num"],
        result["line_num"],
        strict=True,
    ):
        text = str(word).strip()
        text = "I" if text == "|" else text  # a bar by itself is no word
        if not text or number != page:
            continue
        lines.setdefault((place[0], place[1], place[2]), []).append(text)
        least = min(least, float(certain))
        if float(certain) < CERTAIN:
            unsure.append(text)
    if not lines:
        return None
    texts = (_ADDRESS.sub("@", " ".join(words)) for words in lines.values())
    return Reading(tuple(texts), tuple(unsure), least)
