"""An edge as it is written, a number, a guide, a grid cell or a sum, -> mockup pixels."""

from __future__ import annotations

import re
from collections.abc import Mapping
from contextlib import AbstractContextManager, nullcontext
from dataclasses import dataclass, field

from riffler.cutlist.model import Edge, GridTable
from riffler.errors import WrittenError, nearest
from riffler.project.written import Written, said_at

#: A sign counts only with spaces round it, since guides have hyphens in their names.
SIGN = re.compile(r"\s+([+-])\s+")

_NUMBER = re.compile(r"-?\d+(\.\d+)?")

#: A cell of a grid: the grid's name and the cell's number.
CELL = re.compile(r"(.+)-([1-9]\d*)")


#: Guides that may lean on one another.
DEEPEST = 50


@dataclass(frozen=True)
class Ruler:
    """The guides and grids of one axis, which is "x" or "y"; `written` is where a guide stands."""

    axis: str
    guides: Mapping[str, Edge] = field(default_factory=dict)
    grids: Mapping[str, GridTable] = field(default_factory=dict)
    written: Mapping[str, Written] = field(default_factory=dict, repr=False)
    _known: dict[str, float] = field(default_factory=dict, compare=False, repr=False)

    def position(self, edge: Edge, *, is_end: bool = False, within: tuple[str, ...] = ()) -> float:
        """Where an edge lies. A grid's cell means its start, or its end for the second of two.

        `within` are the guides and grids that are being worked out. Raises WrittenError for a
        guide that isn't there, or that leads back to itself.
        """
        if not isinstance(edge, str):
            return edge
        first, *rest = SIGN.split(edge.strip())
        total = self._term(first, is_end, within)
        for sign, term in zip(rest[::2], rest[1::2], strict=True):
            value = self._term(term, is_end, within)
            total += value if sign == "+" else -value
        return total

    def _term(self, term: str, is_end: bool, within: tuple[str, ...]) -> float:
        if term in self._known:
            return self._known[term]
        self._refuse_loop(term, within)
        if term in self.guides:
            with self._said_at(term):
                value = self.position(self.guides[term], within=(*within, term))
            self._known[term] = value
            return value
        if _NUMBER.fullmatch(term):
            return float(term)
        cell = CELL.fullmatch(term)
        if cell and cell[1] in self.grids:
            start, width = self._cell(cell[1], int(cell[2]), within)
            return start + width if is_end else start
        known = [*self.guides, *(f"{name}-1" for name in self.grids)]
        if re.search(r"\w[+-]\d|[+-]\d+$", term) and nearest(re.split(r"[+-]", term)[0], known):
            raise WrittenError(
                f'There is no guide "{term}" in {self.axis}.',
                "In a sum the sign needs spaces round it.",
            )
        raise WrittenError(
            f'There is no guide "{term}" in {self.axis}.',
            nearest(term, known, "Guides are") or f"Guides stand under [guides.{self.axis}].",
        )

    def _said_at(self, guide: str) -> AbstractContextManager[None]:
        """For errors in a guide: its own line."""
        written = self.written.get(guide)
        return said_at(written, ("guides", self.axis, guide)) if written else nullcontext()

    def _refuse_loop(self, name: str, within: tuple[str, ...]) -> None:
        if name in within:
            loop = " -> ".join(
                f'"{edge_name}"' for edge_name in (*within[within.index(name) :], name)
            )
            raise WrittenError(f"The guide leads back to itself: {loop}.")
        if len(within) > DEEPEST:
            raise WrittenError(f"More than {DEEPEST} guides lean on one another.")

    def cell(self, name: str, number: int) -> tuple[float, float]:
        """Start and width of a grid's cell, counted from 1. Raises WrittenError beyond the last."""
        return self._cell(name, number, ())

    def _cell(self, name: str, number: int, within: tuple[str, ...]) -> tuple[float, float]:
        grid = self.grids[name]
        self._refuse_loop(name, within)
        within = (*within, name)
        if number > grid.count:
            raise WrittenError(
                f'There is no "{name}-{number}": the grid has {grid.count} cells.',
                f"The last one is {name}-{grid.count}.",
            )
        start = self.position(grid.from_, within=within)
        end = self.position(grid.to, is_end=True, within=within)
        width = (end - start - (grid.count - 1) * grid.gutter) / grid.count
        if width <= 0:
            raise WrittenError(
                f'The cells of "{name}" are empty: {grid.count} cells and '
                f"{grid.count - 1} gutters of {grid.gutter:g} px do not fit in {end - start:g} px."
            )
        return start + (number - 1) * (width + grid.gutter), width
