"""Pixels that may be a letter, a figure or a short word -> whether a face has exactly these shapes.

An icon as small is one ink as well, and what stands around does not always tell. Faces do: a figure
that was set in one lies on its pixels all over, and an icon on no letter.
"""

from __future__ import annotations

from collections.abc import Sequence
from functools import cache

from riffler.color import Pixels
from riffler.errors import RifflerError
from riffler.mockup.font_book import Face
from riffler.typeset.choose import SURE, type_of_pixels
from riffler.typeset.glyphs import Typeface
from riffler.typeset.ink import ink_of, lines_of

#: What stands by itself in pages: steps, counts, the sign of a currency.
FIGURES = "0123456789€£$%"

#: How many times as wide as high a word is at the least; what is narrower is a single figure.
WIDE = 1.4

#: By how much the proportions of ink and of a letter differ at most, as a share.
UNLIKE = 0.15

#: How much better the best figure lies than the next.
AHEAD = 0.04


def figure_of(pixels: Pixels, faces: Sequence[Face]) -> str:
    """The single figure that pixels show as some face has it; empty where none lies on them.

    pixels: (H, W, 4) float32, premultiplied, 0..1, by itself or on one colour.
    """
    ink = ink_of(pixels)
    lines = lines_of(ink, 1) if ink else []
    if not lines:
        return ""
    (line,) = lines
    seen = (line.right - line.left) / max(line.bottom - line.top, 1.0)
    scores = [(0.0, "")]
    for figure in FIGURES:
        likely = [face for face in faces if _is_like(_proportion(face, figure), seen)]
        if likely:
            scores.append((score(pixels, figure, likely), figure))
    (best, figure), (next_best, _) = sorted([*scores, (0.0, "")], reverse=True)[:2]
    return figure if best >= SURE and best - next_best >= AHEAD else ""


def score(pixels: Pixels, words: str, faces: Sequence[Face]) -> float:
    """The share of ink and of words in the best face that lie on one another; 0 where none fits."""
    found_type = type_of_pixels(pixels, words.splitlines(), faces)
    return found_type.score if found_type else 0.0


def _is_like(proportion: float | None, seen: float) -> bool:
    return proportion is not None and abs(proportion / seen - 1) <= UNLIKE


@cache
def _proportion(face: Face, figure: str) -> float | None:
    """How many times as wide as high a figure is; None where a face lacks it."""
    try:
        typeface = Typeface.of(face)
    except RifflerError:
        return None
    if not typeface.has((figure,)):
        return None
    typeface.prepare((figure,))
    setting = typeface.set(figure, is_spaced=False)
    if setting is None:
        return None
    left, top, right, bottom = setting.edges
    return (right - left) / (bottom - top)
