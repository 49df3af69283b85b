"""The dashes and spaces that a line of text was read with -> those that its ink has.

Tesseract tells no en dash from a hyphen, and leaves out the spaces around it now and then. The ink
tells both: a hyphen is about a third as wide as figures are high, an en dash about two thirds. The
space between a figure and a word is left out, too ("21June").
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from itertools import pairwise

import numpy as np

from riffler.typeset.ink import INKED, InkLine

#: Marks that may be any of the others.
_DASH = re.compile(r"(?<=\S)(\s*)[-–—](\s*)(?=\S)")

#: How many times as wide as those between letters the gaps between words are, at the least.
WIDER = 1.5

#: Between a figure and a word of some letters after it.
_FIGURE = re.compile(r"(?<=\d)(?=[^\W\d_]{3})")

#: Shares of the height of a line's ink: how high a dash is at the most, between where its middle
#: lies, from which width on it is an en dash, in a word and between words, and from which room on
#: both sides there are spaces that were not read.
FLAT, UPPER, LOWER, WIDE, BETWEEN, SPACED = 0.25, 0.3, 0.8, 0.56, 0.44, 0.2


def with_dashes(text: str, line: InkLine) -> str:
    """A line as it was read, with the dashes and the room around them that are seen.

    As it is where the ink has not as many.
    """
    marks, seen = list(_DASH.finditer(text)), list(_seen(line))
    if not marks or len(marks) != len(seen):
        return text
    parts, end = [], 0
    for mark, (width, room) in zip(marks, seen, strict=True):
        is_apart = bool(mark[1] or mark[2])
        is_en = width >= (WIDE if not is_apart and room < SPACED else BETWEEN)
        space = " " if is_apart or (is_en and room >= SPACED) else ""
        parts += [text[end : mark.start()], space, "–" if is_en else "-", space]
        end = mark.end()
    return "".join((*parts, text[end:]))


def with_spaces(text: str, line: InkLine) -> str:
    """A line as it was read, with the spaces between figures and words that are seen.

    As it is where the ink has not as many gaps that are wider than all others.
    """
    spaced = _FIGURE.sub(" ", text)
    gaps = sorted((after - right for (_, right), (after, _) in pairwise(line.spans)), reverse=True)
    count = len(spaced.split()) - 1
    if spaced == text or len(gaps) <= count:
        return text
    return spaced if gaps[count - 1] >= WIDER * gaps[count] else text


def _seen(line: InkLine) -> Iterator[tuple[float, float]]:
    """Each dash of a line: how wide it is, and the least room beside it, by the line's height."""
    ink = line.cover > INKED
    high = line.bottom - line.top
    spans = line.spans
    for number, (left, right) in enumerate(spans[1:-1], 1):
        rows = np.flatnonzero(ink[:, left:right].any(axis=1))
        middle = (line.y + (rows[0] + rows[-1] + 1) / 2 - line.top) / high
        is_flat = len(rows) <= FLAT * high and right - left > 1.2 * len(rows)
        if is_flat and UPPER <= middle <= LOWER:
            room = min(left - spans[number - 1][1], spans[number + 1][0] - right)
            yield (right - left) / high, room / high
