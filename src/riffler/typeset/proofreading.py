"""Lines as they were read, and faces -> the lines that lie best on their ink.

Reading takes a 3 for a 5 now and then, and a y for a u, and no dictionary tells. The letters do:
each line is set anew in its face, and where a letter does not lie on its ink the one that does is
looked for. What is put there makes the whole line lie better, or it stays as it was read.
"""

from __future__ import annotations

import re
import string
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from statistics import median

from riffler.color import Pixels
from riffler.mockup.font_book import Face
from riffler.typeset.choose import SURE, fit_of, inked
from riffler.typeset.fit import TypeFit, letters_on, said, signs_on
from riffler.typeset.ink import InkLine
from riffler.typeset.tesseract import Reading

#: What a letter may be instead.
SIGNS = string.ascii_letters + string.digits + "&€£$%!?.,:;'’“”()-–©"

#: Signs that are read for figures beside others.
MISTAKEN = {"]": "1", "|": "1", "l": "1", "O": "0", "S": "5", "B": "8"}

#: A letter that lies on its ink by less than this share of the usual is doubted, one by more than
#: that is none; how many of a line are doubted at the most.
DOUBTED, LIES, DOUBTS = 0.85, 0.92, 4

#: By how much more of its ink a letter lies on it than the one that was read there.
NEARER = 0.1

#: Letters that are tried in the place of one; by how much of a letter a line lies better then.
TRIED, BETTER = 3, 0.1

#: Mistakes in a line, at the most.
MISTAKES = 4

#: From which certainty of its words a text was read well, in percent; letters of a short one.
READ_WELL, SHORT = 90, 24

#: The faces that are tried first: those that most other texts are set in.
FIRST = 4

#: Where a space was left out, or put in.
_SPACE = re.compile(r"(?<=\d)\s?(?=%)")

#: The sign of a currency before its figures, or what is taken for one.
_MONEY, _CURRENCIES = re.compile(r"[ECce€£$] ?(?=\d)"), "€£$"

#: A mark in the middle of a sentence, which is none.
_CALL = re.compile(r"(?<=[a-z])!(?= [a-z])")

#: A year at the beginning, where the sign before it is seldom read.
_YEAR = re.compile(r"(?=(?:19|20)\d\d\b)")


@dataclass(frozen=True)
class Proof:
    """Lines as their ink has them, and whether all of it lies on letters of theirs."""

    lines: tuple[str, ...]
    is_sure: bool = False


class Proofreader:
    """Reads texts again; the faces that others were set in are tried first."""

    def __init__(self, faces: Sequence[Face]) -> None:
        self._faces = list(faces)

    def proved(self, pixels: Pixels, reading: Reading) -> Reading:
        """What was read of pixels with a doubt, or has figures, as `read` has it."""
        text = reading.text
        has_figures = len(text) <= SHORT and any(map(str.isdigit, text))
        if not reading.lines or (reading.least >= READ_WELL and not has_figures):
            return reading
        proof = self.read(pixels, reading.lines)
        words = {word for line in proof.lines for word in line.split()}
        unsure = () if proof.is_sure else tuple(word for word in reading.unsure if word in words)
        return replace(reading, lines=proof.lines, unsure=unsure)

    def read(self, pixels: Pixels, lines: Sequence[str]) -> Proof:
        """The lines as their ink has them; as they were read where no face fits.

        pixels: (H, W, 4) float32, premultiplied, 0..1, by itself or on one colour.
        """
        as_read = tuple(lines)
        pieces, _, _ = inked(pixels, len(lines))
        if len(pieces) != len(lines) or not all(map(str.strip, lines)):
            return Proof(as_read)
        fit = self._fit(pieces, lines)
        if fit is None and len(lines) > 1:
            return Proof(as_read)
        mended = [
            self._mended(piece, line, fit and self._in(fit, piece, line))
            for piece, line in zip(pieces, lines, strict=True)
        ]
        is_sure = all(fit is not None and fit.score >= SURE for fit, _ in mended)
        return Proof(tuple(line for _, line in mended), is_sure)

    def _fit(self, pieces: Sequence[InkLine], lines: Sequence[str]) -> TypeFit | None:
        """How lines lie in the first face that is sure, or else in the best."""
        for face in self._faces[:FIRST]:
            fit = fit_of(pieces, lines, (face,))
            if fit is not None and fit.score >= SURE:
                break
        else:
            fit = fit_of(pieces, lines, self._faces)
        if fit is not None and (face := fit.typeface.face) in self._faces:
            self._faces.remove(face)
            self._faces.insert(0, face)
        return fit

    def _in(self, fit: TypeFit, piece: InkLine, line: str) -> TypeFit | None:
        """How a line lies by itself, or as all of them do where that is better."""
        fits = [said(fit, piece, line), fit_of([piece], [line], (fit.typeface.face,))]
        return max(filter(None, fits), key=lambda fit: fit.score, default=None)

    def _mended(self, piece: InkLine, text: str, fit: TypeFit | None) -> tuple[TypeFit | None, str]:
        """One line, changed as long as that makes it lie better, and how it lies then."""
        for _ in range(MISTAKES):
            fits = list(self._others(piece, text, fit))
            if not fits:
                break
            best, other = max(fits, key=lambda pair: pair[0].score)
            if fit is not None and best.score < fit.score + BETTER / len(text):
                break
            fit, text = best, other
        return fit, text

    def _others(
        self, piece: InkLine, text: str, fit: TypeFit | None
    ) -> Iterator[tuple[TypeFit, str]]:
        """What a line may say otherwise, and how that lies."""
        faces = (fit.typeface.face,) if fit else self._faces
        for other in dict.fromkeys((*_respaced(text), *_resigned(text))):
            if other_fit := fit_of([piece], [other], faces):
                yield other_fit, other
        if fit is not None:
            yield from _relettered(piece, text, fit)


def _respaced(text: str) -> Iterator[str]:
    """What a line may say with one space more or less, or a sign that is seldom read."""
    for gap in _SPACE.finditer(text):
        yield text[: gap.start()] + ("" if gap[0] else " ") + text[gap.end() :]
    for mark in _CALL.finditer(text):
        yield f"{text[: mark.start()]} I{text[mark.end() :]}"
    if money := _MONEY.match(text):
        for sign in _CURRENCIES:
            yield from (f"{sign}{space}{text[money.end() :]}" for space in ("", " "))
    if year := _YEAR.match(text):
        yield "© " + text[year.start() :]


def _resigned(text: str) -> Iterator[str]:
    """What a line may say with one sign beside a figure otherwise."""
    for place, sign in enumerate(text):
        beside = text[max(0, place - 1) : place] + text[place + 1 : place + 2]
        if sign in MISTAKEN and any(map(str.isdigit, beside)):
            yield text[:place] + MISTAKEN[sign] + text[place + 1 :]


def _relettered(piece: InkLine, text: str, fit: TypeFit) -> Iterator[tuple[TypeFit, str]]:
    """What a line may say with one letter otherwise, where that lies on its ink as others do."""
    shares = letters_on(fit, piece, text)
    usual = median(shares.values()) if shares else 0.0
    doubted = [place for place, share in shares.items() if share < DOUBTED * usual]
    doubted = [place for place in doubted if not {place - 1, place + 1} <= {*doubted}]
    for place in sorted(doubted, key=lambda place: shares[place])[:DOUBTS]:
        likely = signs_on(fit, piece, text, place, SIGNS)
        for sign in sorted(likely, key=lambda sign: -likely[sign])[:TRIED]:
            other = text[:place] + sign + text[place + 1 :]
            other_fit = said(fit, piece, other) if sign != text[place] else None
            share = letters_on(other_fit, piece, other).get(place, 0.0) if other_fit else 0.0
            if other_fit and share >= max(LIES * usual, shares[place] + NEARER):
                yield other_fit, other
