"""Sizes -> places for them side by side in as small a rectangle as is found.

Bottom-left placement on a skyline, tall ones first, tried for many widths: Jylänki 2010, "A
thousand ways to pack the bin", section 2.4.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

from riffler.geometry import Box, Size

#: How many widths are tried between the narrowest that can be and a row of all.
WIDTHS = 48

Skyline = list[tuple[int, int, int]]
"""Pieces of the upper edge from left to right: where each begins, how high it is, how wide."""


def pack(sizes: Sequence[Size], gap: int = 0) -> tuple[Size, list[Box]]:
    """The size of the sheet, and a box for each of the sizes, in their order; `gap` between them.

    The same sizes give the same places, whatever else.
    """
    if not sizes:
        return Size(0, 0), []
    order = sorted(range(len(sizes)), key=lambda i: (-sizes[i].height, -sizes[i].width, i))
    best: tuple[int, int, Size, list[Box]] | None = None
    for width in _widths(sizes, gap):
        sheet, boxes = _placed(sizes, order, width, gap)
        rank = (sheet.width * sheet.height, max(sheet.width, sheet.height))
        if best is None or rank < best[:2]:
            best = (*rank, sheet, boxes)
    assert best is not None
    return best[2], best[3]


def _widths(sizes: Sequence[Size], gap: int) -> list[int]:
    """Widths to try, with room for a gap after each."""
    least = max(size.width for size in sizes) + gap
    most = sum(size.width + gap for size in sizes)
    square = math.isqrt(sum((s.width + gap) * (s.height + gap) for s in sizes))
    steps = {least + (most - least) * step // WIDTHS for step in range(WIDTHS + 1)}
    near = {max(least, square + square * step // 24) for step in range(-8, 13)}
    rows = {max(least, sum(s.width + gap for s in sizes[:count])) for count in range(1, 13)}
    return sorted(width for width in steps | near | rows if least <= width <= most)


def _placed(
    sizes: Sequence[Size], order: Sequence[int], width: int, gap: int
) -> tuple[Size, list[Box]]:
    skyline: Skyline = [(0, 0, width)]
    boxes: dict[int, Box] = {}
    for index in order:
        size = Size(sizes[index].width + gap, sizes[index].height + gap)
        x, y = _lowest(skyline, size, width)
        boxes[index] = Box(x, y, sizes[index].width, sizes[index].height)
        skyline = _raised(skyline, x, y + size.height, size.width)
    found_boxes = [boxes[index] for index in range(len(sizes))]
    return Size(max(b.right for b in found_boxes), max(b.bottom for b in found_boxes)), found_boxes


def _lowest(skyline: Skyline, size: Size, width: int) -> tuple[int, int]:
    """Where a size lies lowest, and of such places furthest left."""
    best = None
    for at, (x, _, _) in enumerate(skyline):
        if x + size.width > width:
            break
        y, right = 0, x + size.width
        for begin, height, wide in skyline[at:]:
            if begin >= right:
                break
            if begin + wide > x:
                y = max(y, height)
        if best is None or (y, x) < best:
            best = (y, x)
    assert best is not None
    return best[1], best[0]


def _raised(skyline: Skyline, x: int, height: int, width: int) -> Skyline:
    """The upper edge with a piece of it raised."""
    result: Skyline = []
    right = x + width
    for begin, high, wide in skyline:
        end = begin + wide
        if end <= x or begin >= right:
            result.append((begin, high, wide))
            continue
        if begin < x:
            result.append((begin, high, x - begin))
        if not result or result[-1][:2] != (x, height):
            result.append((x, height, width))
        if end > right:
            result.append((right, high, end - right))
    return result
