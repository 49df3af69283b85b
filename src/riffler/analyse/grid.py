"""Boxes of layers -> the column grid that their edges lie on, and how sure that is."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from itertools import pairwise

from riffler.geometry import Box

#: How many columns a page may have; a grid of one column is a margin.
COLUMNS = range(2, 17)

#: An edge lies on the grid when it is at most this far from it, in pixels of one per CSS pixel.
TOLERANCE = 1

#: The narrowest column that anybody plans with, in CSS pixels.
NARROWEST = 24

#: Gutters that are considered, as a share of the canvas.
WIDEST_GUTTER = 0.08

#: Margins and gutters that are tried: the most usual ones of the mockup.
CANDIDATES = 12

#: The narrowest box of a row that shows a grid, in CSS pixels, and the fewest of them.
CARD, FEWEST = 96, 3

#: The narrowest gutter that is none between tabs, in CSS pixels; how many times wider than their
#: gutter two columns are that show a grid by themselves.
NARROWEST_GUTTER, PAIR = 8, 6

#: How far rows with the same margins may end apart, in tolerances: columns are whole pixels, each.
ROUNDED = 3

#: Bits of evidence below which a grid may well be chance; those of a row of boxes that shows one.
UNSURE, SURE = 16.0, 24.0


@dataclass(frozen=True)
class Grid:
    """A column grid. Lengths are mockup pixels; `on_grid` of `edges` different edges lie on it.

    `bits` is the evidence: how much less likely so many hits would be by chance, in powers of two.
    """

    columns: int
    column: float
    gutter: float
    left: float
    right: float
    on_grid: int
    edges: int
    bits: float

    @property
    def certainty(self) -> str:
        """In a word, how sure the grid is."""
        return "sure" if self.bits >= SURE else "a guess"

    @property
    def step(self) -> float:
        """From the start of one column to the start of the next."""
        return self.column + self.gutter

    @property
    def finer(self) -> tuple[int, float] | None:
        """Twelve columns with the same gutter and margins, where they come out whole."""
        if self.columns == 12 or 12 % self.columns:
            return None
        column = (self.columns * self.step - self.gutter - 11 * self.gutter) / 12
        return (12, column) if column > 0 and column == round(column) else None

    def span(self, box: Box, tolerance: float = TOLERANCE) -> tuple[int, int] | None:
        """The first column of a box and how many it covers; None for a box beside the grid."""
        first = (box.x - self.left) / self.step
        count = (box.width + self.gutter) / self.step
        for value in (first, count):
            if abs(value - round(value)) * self.step > tolerance:
                return None
        start, many = round(first), round(count)
        if start < 0 or many < 1 or start + many > self.columns:
            return None
        return start, many

    def share(self, box: Box, tolerance: float = TOLERANCE) -> Fraction | None:
        """Which part of the width a box takes: a half, a third; None beside the grid."""
        span = self.span(box, tolerance)
        return None if span is None else Fraction(span[1], self.columns)


def find_grid(
    boxes: Iterable[Box], width: int, density: float = 1.0, texts: Iterable[Box] = ()
) -> Grid | None:
    """The column grid of a page by the boxes on it; None where nothing speaks for one.

    A row of equal boxes with equal gaps shows it, when other boxes begin and end with the row or it
    stands in the middle, and no more of what lies on the page, `texts` too, begins further out;
    that is sure. Failing that, the grid that explains most edges is a guess when hardly any chance
    explains them.
    """
    boxes = list(boxes)
    starts = Counter(box.x for box in (*dict.fromkeys(boxes), *texts) if box.width < width)
    if (shown := _shown_by_a_row(boxes, width, density, starts)) is not None:
        return shown
    guessed = _explaining(boxes, width, density)
    if guessed is None or guessed.bits < UNSURE:
        return None
    return replace(guessed, bits=min(guessed.bits, SURE - 1))


def _shown_by_a_row(
    boxes: Sequence[Box], width: int, density: float, starts: Counter[int]
) -> Grid | None:
    """The grid that the most columns in a row show; `starts` is where all on the page begins."""
    near = TOLERANCE * density
    rows: dict[tuple[str, int, int], list[Box]] = {}
    for box in dict.fromkeys(boxes):
        if CARD * density <= box.width < width:
            wide = round(box.width / (2 * near))
            for side, at in (("top", box.y), ("bottom", box.bottom)):
                rows.setdefault((side, round(at / (2 * near)), wide), []).append(box)
    grids = [
        grid
        for row in rows.values()
        if (grid := _of_row(row, boxes, width, near))
        and grid.gutter >= NARROWEST_GUTTER * density
        and not _is_inside(grid, starts, near)
    ]
    best = max(grids, key=lambda grid: (grid.columns, grid.column), default=None)
    return best and _common(best, grids, near)


def _common(best: Grid, grids: Sequence[Grid], near: float) -> Grid:
    """The grid that a row shows, or the one that all rows between its margins lie on.

    Rows of three and of four with one gutter lie on twelve columns; with another they contradict
    each other, and the grid is a guess.
    """
    beside = [
        grid
        for grid in grids
        if max(abs(grid.left - best.left), abs(grid.right - best.right)) <= ROUNDED * near
    ]
    if any(abs(grid.gutter - best.gutter) > near for grid in beside):
        return replace(best, bits=SURE - 1)
    columns = math.lcm(*(grid.columns for grid in beside))
    if columns == best.columns:
        return best
    column = (best.columns * best.step - columns * best.gutter) / columns
    if columns not in COLUMNS or column <= 0:
        return replace(best, bits=SURE - 1)
    return replace(best, columns=columns, column=column)


def _is_inside(grid: Grid, starts: Counter[int], near: float) -> bool:
    """Whether more of the page begins at one place further out: the row stands within columns."""
    own = sum(count for x, count in starts.items() if abs(x - grid.left) <= near)
    outer = Counter({x: n for x, n in starts.items() if 0 < x < grid.left - near})
    return any(
        sum(n for x, n in outer.items() if abs(x - place) <= near) >= max(FEWEST, own)
        for place in outer
    )


def _of_row(row: list[Box], boxes: Sequence[Box], width: int, near: float) -> Grid | None:
    """The grid of boxes of one width in a row; None where they show none.

    Two have to stand in the middle with their gutter, wide as the text between the margins.
    """
    row = sorted(row, key=lambda box: box.x)
    gaps = [after.x - box.right for box, after in pairwise(row)]
    if not gaps or min(gaps) <= 0 or max(gaps) - min(gaps) > 2 * near:
        return None
    left, right = row[0].x, row[-1].right
    is_middle = abs(left - (width - right)) <= 2 * near
    other_boxes = [box for box in boxes if box not in row]
    if max(gaps) > row[0].width or not (is_middle or _share_sides(other_boxes, left, right, near)):
        return None
    if len(row) < FEWEST and not (is_middle and max(gaps) * PAIR <= row[0].width):
        return None
    gutter = round(sum(gaps) / len(gaps))
    column = (right - left - (len(row) - 1) * gutter) / len(row)
    edges = len({box.x for box in boxes}) + len({box.right for box in boxes})
    return Grid(len(row), column, gutter, left, width - right, 2 * len(row), edges, SURE)


def _share_sides(boxes: Sequence[Box], left: int, right: int, near: float) -> bool:
    """Whether some box begins at the one place and some box ends at the other."""
    begins = any(abs(box.x - left) <= near for box in boxes)
    return begins and any(abs(box.right - right) <= near for box in boxes)


def _explaining(boxes: Sequence[Box], width: int, density: float) -> Grid | None:
    """The grid that explains the boxes' left and right edges best; None when none does.

    A grid is worth the hits of its lines, each counted by how unlikely it is: the more columns a
    grid has, the easier an edge meets one of them by chance, and the less a hit says.
    """
    tolerance = TOLERANCE * density
    seen = [box for box in boxes if 0 < box.width < width and box.x >= 0 and box.right <= width]
    lefts, rights = Counter(box.x for box in seen), Counter(box.right for box in seen)
    if len(lefts) < 2:
        return None
    best: Grid | None = None
    for margin, gutter in _candidates(lefts, rights, width):
        for columns, column in _divisions(width - 2 * margin, gutter, NARROWEST * density):
            grid = _judged(lefts, rights, width, tolerance, columns, column, gutter, margin)
            if best is None or grid.bits > best.bits + 1e-9:
                best = grid
    return best if best is not None and best.bits > 0 else None


def _divisions(width: int, gutter: int, narrowest: float) -> Iterator[tuple[int, float]]:
    """How many columns of a whole width fit, no narrower than their gutter; and that width."""
    for columns in COLUMNS:
        column = (width - (columns - 1) * gutter) / columns
        if column >= max(gutter, narrowest) and abs(column - round(column)) <= 0.01:
            yield columns, column


def _candidates(lefts: Counter[int], rights: Counter[int], width: int) -> list[tuple[int, int]]:
    """Pairs of margin and gutter that occur in the mockup, the more usual ones first."""
    margins = Counter({x: count for x, count in lefts.items() if x < width / 4})
    margins.update({width - x: count for x, count in rights.items() if width - x < width / 4})
    gutters: Counter[int] = Counter()
    for right, count in rights.items():
        nexts = [left for left in lefts if 0 < left - right <= width * WIDEST_GUTTER]
        gutters.update({left - right: min(count, lefts[left]) for left in nexts})
    return [
        (margin, gutter)
        for margin, _ in margins.most_common(CANDIDATES)
        for gutter, _ in gutters.most_common(CANDIDATES)
    ]


def _judged(
    lefts: Counter[int],
    rights: Counter[int],
    width: int,
    tolerance: float,
    columns: int,
    column: float,
    gutter: float,
    margin: float,
) -> Grid:
    starts = [margin + index * (column + gutter) for index in range(columns)]
    ends = [start + column for start in starts]
    chance = min(0.9, columns * (2 * tolerance + 1) / width)
    hits = _hits(lefts, starts, tolerance) + _hits(rights, ends, tolerance)
    edges = len(lefts) + len(rights)
    lines = {line for line in starts if _meets(lefts, line, tolerance)}
    lines |= {line for line in ends if _meets(rights, line, tolerance)}
    bits = _evidence(hits, edges, chance) if len(lines) > 2 else 0.0
    met = len(lines) / (2 * columns)
    return Grid(columns, column, gutter, margin, margin, hits, edges, bits * met)


def _hits(edges: Counter[int], lines: Sequence[float], tolerance: float) -> int:
    return sum(any(abs(edge - line) <= tolerance for line in lines) for edge in edges)


def _meets(edges: Counter[int], line: float, tolerance: float) -> bool:
    return any(abs(edge - line) <= tolerance for edge in edges)


def _evidence(hits: int, edges: int, chance: float) -> float:
    """Bits against so many hits by chance: the divergence of the share of hits from `chance`.

    Chernoff's bound on the tail of a binomial distribution, in powers of two.
    """
    share = hits / edges
    if share <= chance:
        return 0.0
    missed = 0.0 if share == 1 else (1 - share) * math.log2((1 - share) / (1 - chance))
    return edges * (share * math.log2(share / chance) + missed)
