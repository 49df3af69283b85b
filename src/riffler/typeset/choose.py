"""Pixels of text, what it says, and faces -> how it was set: the face that lies best on it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from statistics import median
from typing import Literal, TypeAlias

import numpy as np

from riffler.color import Pixels
from riffler.errors import RifflerError
from riffler.mockup.font_book import Face
from riffler.typeset.fit import TypeFit, fitted, rough, settled
from riffler.typeset.glyphs import Plane, Typeface
from riffler.typeset.ink import Ink, InkLine, ink_of, lines_of

Align: TypeAlias = Literal["left", "center", "right"]

#: Faces that are fitted closely, after a look at all; those of them that are drawn.
CLOSELY, DRAWN = 6, 3

#: How many times worse than the best a first guess may lie and still be the one, of a text of so
#: many letters: of 290 texts none did by more than 2.2 times. Fewer letters say less.
HOPELESS, LONG = 3.0, 8

#: Lines are fitted in larger pixels from twice so many pixels of height on.
LARGE = 32

#: Variable faces that are tried in other weights.
VARIED = 2

#: The share of ink on letters from which a face is taken for the one: of the smallest text, of text
#: from so many pixels on; and the share from which it is sure.
SIZES, LIKELY, SURE = (11.0, 24.0), (0.6, 0.75), 0.84


@dataclass(frozen=True)
class Candidate:
    """A face, and the share of ink and letters that lie on one another."""

    face: Face
    score: float


@dataclass(frozen=True)
class TypeFound:
    """How text was set; lengths are pixels of what was looked at.

    `line_step` is None for one line. `runners` are the next best of other families.
    """

    face: Face
    size: float
    letter_spacing: float
    line_step: float | None
    align: Align
    color: str
    score: float
    runners: tuple[Candidate, ...]

    @property
    def is_sure(self) -> bool:
        """Whether it lies well, and better than others do."""
        others = max((candidate.score for candidate in self.runners), default=0.0)
        return self.score >= SURE and self.score - others > 0.02


def type_of_pixels(pixels: Pixels, words: Sequence[str], faces: Sequence[Face]) -> TypeFound | None:
    """The type of text by itself, or on one colour; None where no face fits.

    pixels: (H, W, 4) float32, premultiplied, 0..1. `words` are its lines from the top.
    """
    texts = tuple(line for line in words if line.strip())
    lines, by, ink = inked(pixels, len(texts))
    if ink is None or not texts or len(lines) != len(texts):
        return None
    fits = _fits(lines, texts, faces)
    if not fits or fits[0].score < _least(fits[0].size):
        return None
    best = fits[0]
    return TypeFound(
        best.typeface.face,
        by * best.size,
        by * best.spacing,
        _step([by * y for y in best.ys]),
        _align(best, lines),
        ink.color,
        best.score,
        _runners(fits),
    )


def inked(pixels: Pixels, count: int) -> tuple[list[InkLine], int, Ink | None]:
    """So many lines of ink, as large as they are fitted: in pixels of so many; and all of the ink.

    pixels: (H, W, 4) float32, premultiplied, 0..1. There may be fewer lines than `count`.
    """
    ink = ink_of(pixels)
    lines = lines_of(ink, count) if ink and count else []
    if ink is None or len(lines) != count:
        return [], 1, ink
    by = max(1, int(median(line.bottom - line.top for line in lines) // LARGE))
    return (lines_of(Ink(_reduced(ink.cover, by), ink.color), count) if by > 1 else lines), by, ink


def fit_of(lines: Sequence[InkLine], words: Sequence[str], faces: Sequence[Face]) -> TypeFit | None:
    """How lines of ink lie in the best of some faces; None where none fits."""
    fits = _fits(lines, tuple(words), faces)
    return fits[0] if fits and fits[0].score >= _least(fits[0].size) else None


def _reduced(cover: Plane, by: int) -> Plane:
    """Ink in larger pixels: large letters are fitted as well by half of theirs."""
    height, width = (-(-side // by) * by for side in cover.shape)
    padded = np.pad(cover, ((0, height - cover.shape[0]), (0, width - cover.shape[1])))
    return np.asarray(padded.reshape(height // by, by, width // by, by).mean(axis=(1, 3)))


def _least(size: float) -> float:
    """The score from which a face of a size is taken for the one: small letters are blurred."""
    return float(np.interp(size, SIZES, LIKELY))


def _fits(lines: Sequence[InkLine], words: tuple[str, ...], faces: Sequence[Face]) -> list[TypeFit]:
    """Fits of the faces that have the letters, the best first."""
    first = [guess for face in faces if (guess := _rough(face, lines, words))]
    first.sort(key=_loss)
    first += [other_fit for fit in first[:VARIED] for other_fit in _weighed(fit, lines, words)]
    close = sorted((fitted(fit, lines, words) for fit in _likely(first, words)), key=_loss)
    return sorted((settled(fit, lines, words) for fit in close[:DRAWN]), key=lambda fit: -fit.score)


def _likely(fits: Sequence[TypeFit], words: Sequence[str]) -> list[TypeFit]:
    """The best, of each family no more than three: a first guess is rough.

    Of a text of some length those that lie far worse are none, but for the next best family.
    """
    kept_fits: dict[str, list[TypeFit]] = {}
    for fit in sorted(fits, key=_loss):
        kept_fits.setdefault(fit.typeface.face.family, []).append(fit)
    best = [fit for family in kept_fits.values() for fit in family[:3]]
    best = sorted(best, key=_loss)[:CLOSELY]
    if not best or sum(map(len, words)) < LONG:
        return best
    family = best[0].typeface.face.family
    runner = next((fit for fit in best if fit.typeface.face.family != family), None)
    return [fit for fit in best if fit is runner or fit.loss <= HOPELESS * best[0].loss]


def _rough(face: Face, lines: Sequence[InkLine], words: tuple[str, ...]) -> TypeFit | None:
    """A first guess with a face; None where it is damaged or lacks letters."""
    try:
        typeface = Typeface.of(face)
    except RifflerError:
        return None
    if not typeface.has(words):
        return None
    typeface.prepare(words)
    return rough(typeface, lines, words)


def _weighed(fit: TypeFit, lines: Sequence[InkLine], words: tuple[str, ...]) -> Iterator[TypeFit]:
    """A variable face in other weights: bolder where there is more ink, until it lies worse."""
    low, high = fit.typeface.weights or (0, 0)
    face = fit.typeface.face
    steps = range(100, 1000, 100) if fit.dark > 1 else range(900, 0, -100)
    for weight in steps:
        is_further = weight > face.weight if fit.dark > 1 else weight < face.weight
        if not is_further or not low <= weight <= high:
            continue
        other_fit = _rough(replace(face, weight=weight), lines, words)
        if other_fit is None:
            return
        yield other_fit
        if other_fit.loss > fit.loss:
            return
        fit = other_fit


def _loss(fit: TypeFit) -> float:
    return fit.loss


def _step(ys: Sequence[float]) -> float | None:
    """From one baseline to the next."""
    if len(ys) < 2:
        return None
    steps = [second - first for first, second in pairwise(ys)]
    return (ys[-1] - ys[0]) / (len(ys) - 1) if max(steps) < 1.5 * min(steps) else median(steps)


def _align(fit: TypeFit, lines: Sequence[InkLine]) -> Align:
    """By which edges agree best; one line stands at the left."""
    if len(lines) < 2:
        return "left"
    ends = [line.right for line in lines]
    lefts = list(fit.xs)
    spread: dict[Align, float] = {
        "left": max(lefts) - min(lefts),
        "center": max(a + b for a, b in zip(lefts, ends, strict=True)) / 2
        - min(a + b for a, b in zip(lefts, ends, strict=True)) / 2,
        "right": max(ends) - min(ends),
    }
    best = min(spread, key=lambda name: spread[name])
    return "left" if spread["left"] <= spread[best] + 1 else best


def _runners(fits: Sequence[TypeFit]) -> tuple[Candidate, ...]:
    """The best of each other family, at most two."""
    best = fits[0].typeface.face
    candidates: dict[str, Candidate] = {}
    for fit in fits[1:]:
        face = fit.typeface.face
        if face.family != best.family:
            candidates.setdefault(face.family, Candidate(face, fit.score))
    return tuple(candidates.values())[:2]
