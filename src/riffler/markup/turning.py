"""Rows in step, each set in a way of its own -> columns: a heading, its text, what stands below.

Rows that are set alike are a table, or a list; rows that are not belong together downwards.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise

from riffler.markup.area import Area, Shape
from riffler.markup.sections import framed

#: How far things of one column may begin beside one another, in CSS pixels.
BESIDE = 4


def turned(parts: Sequence[Area]) -> list[Area]:
    """Parts of a stack, with rows that are meant as columns turned into them."""
    result: list[Area] = []
    start = 0
    while start < len(parts):
        rows = _rows(parts, start)
        columns = _columns(rows) if len(rows) > 1 else []
        result.extend([_beside(columns)] if columns else parts[start : start + 1])
        start += len(rows) if columns else 1
    return result


def _rows(parts: Sequence[Area], start: int) -> list[Area]:
    """The rows from one on that follow one another: frames of nothing but what is in them."""
    rows: list[Area] = []
    for part in parts[start:]:
        if part.shape is not Shape.ROW or not part.is_frame:
            break
        rows.append(part)
    return rows


def _columns(rows: Sequence[Area]) -> list[Area]:
    """The columns that rows are, where all of them stand in step below headings."""
    heads = rows[0].parts
    if any(part.setting is None for part in heads) or _are_alike(rows):
        return []
    lefts = [part.box.x for part in heads]
    columns: list[list[Area]] = [[] for _ in lefts]
    for row in rows:
        cells: list[list[Area]] = [[] for _ in lefts]
        for part in row.parts:
            number = sum(left <= part.box.x + BESIDE for left in lefts) - 1
            cells[max(0, number)].append(part)
        for left, column, cell in zip(lefts, columns, cells, strict=True):
            if not cell or abs(cell[0].box.x - left) > BESIDE:
                return []
            column.append(cell[0] if len(cell) == 1 else _beside(cell))
    return [framed(column) for column in columns]


def _are_alike(rows: Sequence[Area]) -> bool:
    """Whether two rows that follow one another are set alike, or the first does not head them."""
    kinds = [[part.setting.type for part in row.parts if part.setting] for row in rows]
    if any(first == second for first, second in pairwise(kinds)):
        return True
    return not kinds[1] or kinds[0][0].size <= kinds[1][0].size


def _beside(parts: Sequence[Area]) -> Area:
    return replace(framed(parts), shape=Shape.ROW)
