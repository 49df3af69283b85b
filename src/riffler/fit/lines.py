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
    return _joined(texts, lambda one, other: one.block == other.block)


def styles(texts: Sequence[SeenText]) -> list[SeenText]:
    """Texts of one block in one style, next to one another, as one."""
    return _joined(texts, lambda one, other: one.block == other.block and one.style == other.style)


def _joined(
    texts: Sequence[SeenText], belong: Callable[[SeenText, SeenText], bool]
) -> list[SeenText]:
    found: list[SeenText] = []
    for one in texts:
        if found and belong(found[-1], one):
            found[-1] = found[-1].with_(one)
        else:
            found.append(one)
    return found


def split(block: SeenText, boxes: Sequence[Rect]) -> list[SeenText]:
    """A text by what several boxes of the mockup have of its lines; itself where one has all."""
    if len(block.lines) < 2:
        return [block]
    near = [
        box for box in boxes if abs(box.x - block.box.x) < NEARBY and abs(box.y - block.box.y) < FAR
    ]
    found = _shares(block, sorted(near, key=lambda box: box.y))
    if len(found) < 2:
        return [block]
    parts = []
    for lines in found:
        of = next((part for part in block.made_of if part.lines[0] in lines), block)
        parts.append(replace(of, lines=lines, parts=()))
    return parts


def _shares(block: SeenText, boxes: Sequence[Rect]) -> list[tuple[SeenLine, ...]]:
    """The lines of a text that lie in each box.

    The boxes may all lie higher or lower, by the least with which each line has one; rather a box
    for all lines than several that happen to stand as they do.
    """
    each = [line.top + line.height / 2 for line in block.lines]
    last = each if len(each) <= FEW else each[-1:]
    middles = {*each, *((one + other) / 2 for one in each for other in last)}
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
