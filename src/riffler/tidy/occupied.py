"""Boxes that are taken, and a further one -> whether it meets any, without asking each of them."""

from __future__ import annotations

import math
from collections.abc import Iterator
from itertools import product
from typing import TypeAlias

Edges: TypeAlias = tuple[float, float, float, float]
"""Left, top, right, bottom."""

Cell: TypeAlias = tuple[int, int]


class Occupied:
    """Boxes by size and by place: each lies in at most four cells of a grid about as wide as it."""

    def __init__(self) -> None:
        self._levels: dict[int, dict[Cell, list[Edges]]] = {}

    def add(self, box: Edges) -> None:
        """One more box."""
        level = math.ceil(math.log2(max(box[2] - box[0], box[3] - box[1], 1e-6)))
        cells = self._levels.setdefault(level, {})
        for cell in _cells(box, level):
            cells.setdefault(cell, []).append(box)

    def meets(self, box: Edges) -> bool:
        """Whether a box meets one of them, be it at an edge."""
        return any(
            _meet(box, other)
            for level, cells in self._levels.items()
            for cell in _near(box, level, cells)
            for other in cells.get(cell, ())
        )


def _near(box: Edges, level: int, cells: dict[Cell, list[Edges]]) -> Iterator[Cell]:
    """Cells in which what meets a box may lie: those that it covers, or all if these are fewer."""
    across, down = _spans(box, level)
    return iter(cells) if len(across) * len(down) > len(cells) else product(across, down)


def _cells(box: Edges, level: int) -> Iterator[Cell]:
    return product(*_spans(box, level))


def _spans(box: Edges, level: int) -> tuple[range, range]:
    """The columns and the rows of cells that a box covers."""
    left, top, right, bottom = (math.floor(edge / 2.0**level) for edge in box)
    return range(left, right + 1), range(top, bottom + 1)


def _meet(first: Edges, second: Edges) -> bool:
    return not (
        first[0] > second[2] or first[2] < second[0] or first[1] > second[3] or first[3] < second[1]
    )
