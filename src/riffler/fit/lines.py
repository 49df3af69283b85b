"""Texts of a page, joined by block or style, and split as a mockup has them."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace

from riffler.fit.seen import SeenLine, SeenText
from riffler.geometry import Rect

#: CSS pixels within which a thing is likely one of the page, and within which it is looked for.
NEARBY, FAR = 90.0, 400.0

#: CSS pixels further away that a box for all lines may lie than one for each.
RATHER = 30.0

#: Lines of a text up to which boxes are tried for any run of them, and not those up to the last.
FEW = 8


def blocks(texts: Sequence[SeenText]) -> list[SeenText]:
    """The texts of each block as one, whatever their styles."""
    return _joined(texts, lambda first, second: first.block == second.block)


def styles(texts: Sequence[SeenText]) -> list[SeenText]:
    """Texts of one block in one style, next to one another, as one."""
    return _joined(
        texts, lambda first, second: first.block == second.block and first.style == second.style
    )


def _joined(
    texts: Sequence[SeenText], belong: Callable[[SeenText, SeenText], bool]
) -> list[SeenText]:
    found_texts: list[SeenText] = []
    for text in texts:
        if found_texts and belong(found_texts[-1], text):
            found_texts[-1] = found_texts[-1].with_(text)
        else:
            found_texts.append(text)
    return found_texts


def split(block: SeenText, boxes: Sequence[Rect]) -> list[SeenText]:
    """A text by what several boxes of the mockup have of its lines; itself where one has all."""
    if len(block.lines) < 2:
        return [block]
    near = [
        box for box in boxes if abs(box.x - block.box.x) < NEARBY and abs(box.y - block.box.y) < FAR
    ]
    result = _shares(block, sorted(near, key=lambda box: box.y))
    if len(result) < 2:
        return [block]
    parts = []
    for lines in result:
        of = next((part for part in block.made_of if part.lines[0] in lines), block)
        parts.append(replace(of, lines=lines, parts=()))
    return parts


def _shares(block: SeenText, boxes: Sequence[Rect]) -> list[tuple[SeenLine, ...]]:
    """The lines of a text that lie in each box.

    The boxes may all lie higher or lower, by the least with which each line has one; rather a box
    for all lines than several that happen to stand as they do.
    """
    each_middles = [line.top + line.height / 2 for line in block.lines]
    last = each_middles if len(each_middles) <= FEW else each_middles[-1:]
    middles = {*each_middles, *((first + second) / 2 for first in each_middles for second in last)}
    shifts = {0.0} | {middle - box.y - box.height / 2 for middle in middles for box in boxes}
    shares = {
        by: [lines for box in boxes if (lines := _lines(block, replace(box, y=box.y + by)))]
        for by in shifts
    }
    if 2 * max(map(len, shares[0.0]), default=0) > len(block.lines):
        return shares[0.0]  # most of it is in its place: it has other lines, and is not moved

    def fits(by: float) -> tuple[bool, float]:
        counts = sum(len(lines) for lines in shares[by])
        is_whole = counts == len(block.lines) and len(set().union(*shares[by])) == counts
        happens = RATHER * len(shares[by][1:]) if by else 0.0
        return not is_whole, abs(by) + happens

    return shares[min(shifts, key=fits)]


def _lines(block: SeenText, box: Rect) -> tuple[SeenLine, ...]:
    """The lines of a text whose middle lies in a box."""
    return tuple(
        line for line in block.lines if box.y - 2 < line.top + line.height / 2 < box.bottom + 2
    )
