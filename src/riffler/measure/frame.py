"""The grid and guides of a page -> its content width, and the columns that a box spans."""

from __future__ import annotations

from dataclasses import dataclass

from riffler.cutlist.file import CutlistFile
from riffler.geometry import Rect
from riffler.reading.look import ColumnGrid, grid
from riffler.workspace import Opened

#: How far an edge may be off its column, in CSS pixels.
NEAR = 1.0

#: What guides at the sides of the content are called.
SIDES = ("left", "right")


@dataclass(frozen=True)
class Span:
    """Columns of a grid from the first to the last, counted from 1, `of` so many."""

    first: int
    last: int
    of: int


@dataclass(frozen=True)
class Frame:
    """Where the content lies on the page, in mockup pixels; `columns` are (start, end) of each."""

    left: float
    width: float
    columns: tuple[tuple[float, float], ...] = ()
    density: float = 1.0

    def span(self, box: Rect) -> Span | None:
        """The columns that a box begins and ends with; None when its edges are on no column's."""
        near = NEAR * self.density
        starts = [n for n, (at, _) in enumerate(self.columns) if abs(at - box.x) <= near]
        ends = [n for n, (_, at) in enumerate(self.columns) if abs(at - box.right) <= near]
        if not starts or not ends or ends[0] < starts[0]:
            return None
        return Span(starts[0] + 1, ends[0] + 1, len(self.columns))


def frame_of(opened: Opened, density: float) -> Frame:
    """By the cutlist's grid, its outer guides, the grid that the mockup shows, or the canvas."""
    file = opened.cutlist
    if file and (columns := _written(file)):
        left, right = columns[0][0], columns[-1][1]
        return Frame(left, right - left, columns, density)
    if file and all(side in file.ruler("x").guides for side in SIDES):
        left, right = (file.ruler("x").position(side) for side in SIDES)
        if right > left:
            return Frame(left, right - left, (), density)
    column_grid = grid(opened, density)
    if column_grid is not None:
        columns = _seen(column_grid)
        return Frame(columns[0][0], columns[-1][1] - columns[0][0], columns, density)
    return Frame(0.0, float(opened.mockup.size.width), (), density)


def _written(file: CutlistFile) -> tuple[tuple[float, float], ...]:
    """The cells of the cutlist's grid with the most columns."""
    ruler = file.ruler("x")
    best = max(ruler.grids, key=lambda name: ruler.grids[name].count, default=None)
    if best is None:
        return ()
    cells = (ruler.cell(best, number) for number in range(1, ruler.grids[best].count + 1))
    return tuple((start, start + width) for start, width in cells)


def _seen(column_grid: ColumnGrid) -> tuple[tuple[float, float], ...]:
    step = column_grid.column + column_grid.gutter
    starts = [column_grid.left + step * number for number in range(column_grid.columns)]
    return tuple((start, start + column_grid.column) for start in starts)
