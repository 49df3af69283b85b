"""Two versions of a mockup -> which drawing of one is which of the other.

By what they paint, where they lie, what they are called and what became of those beside them, all
together: pairs are chosen so that they fit best in sum (the linear assignment problem; H. W. Kuhn,
"The Hungarian method", 1955), never by names alone.

Versions are matched by what can be one: things of one name where few have it, and what lies in one
place once groups moved; parts that hang together by nothing are assigned apart. A text whose font
is missing lies where its letters would begin, and is compared as the document says it.
"""

from __future__ import annotations

import re
from collections import defaultdict
from collections.abc import Iterable, Iterator, Sequence
from statistics import median
from typing import TypeAlias

import numpy as np
import numpy.typing as npt

from riffler.changes.alike import FEW, Alike, Evidence, Labels, overlap
from riffler.changes.version import Version, VersionThing
from riffler.geometry import Rect
from riffler.sides import meeting, sides_of

Pair: TypeAlias = tuple[VersionThing, VersionThing]
Shift: TypeAlias = tuple[float, float]
Floats: TypeAlias = npt.NDArray[np.float64]

#: Nothing moved.
STILL: Shift = (0.0, 0.0)

#: CSS pixels from which one place is as far as any other.
FAR = 400.0

#: What is against a thing's having stayed while its group moved, or moved with others far away.
DOUBT = 0.1

#: More than can speak for a pair.
MOST = 4.0

#: What speaks for a pair that nothing speaks for.
NOTHING = Evidence()

#: CSS pixels around a thing in which another can be at its place.
AROUND = 4.0


def matched(old: Version, new: Version) -> list[Pair]:
    """The drawings that are in both versions, as pairs, in the order of the new one."""
    match = _Matching(old, new)
    match.unmistakable()
    match.alike()
    match.changed()
    return sorted(match.pairs, key=lambda pair: pair[1].number)


class _Matching:
    """Pairs as they are found, and how far the things of a group have moved."""

    def __init__(self, old: Version, new: Version) -> None:
        self._old, self._new = old, new
        self.pairs: list[Pair] = []
        self._left = {thing.number: thing for thing in old.things}
        self._come = {thing.number: thing for thing in new.things}
        self._shifts: dict[str, list[Shift]] = defaultdict(list)
        self._may_have: dict[int, tuple[tuple[Shift, float], ...]] = {}

    def _pair(self, first: VersionThing, second: VersionThing) -> None:
        del self._left[first.number], self._come[second.number]
        self.pairs.append((first, second))
        self._may_have.clear()
        shift = self._shift(first, second)
        if shift is not None:
            group = first.group
            self._shifts[group].append(shift)
            while group:
                group = self._old.mockup.parents.get(group, "")
                self._shifts[group].append(shift)

    def _shift(self, first: VersionThing, second: VersionThing) -> Shift | None:
        if first.placed == second.placed and first.essence == second.essence:
            return STILL
        was, now = self._place(self._old, first), self._place(self._new, second)
        return (now.x - was.x, now.y - was.y) if was and now else None

    def _place(self, version: Version, thing: VersionThing) -> Rect | None:
        """Where a thing lies, of a layer of pixels as the file says it while it is all the same."""
        return version.stored(thing) or version.place(thing)

    def unmistakable(self) -> None:
        """Pair what paints like nothing else in its version."""
        before, after = _by(self._left.values()), _by(self._come.values())
        for essence, old_things in before.items():
            new_things = after.get(essence, [])
            if len(old_things) == len(new_things) == 1:
                self._pair(old_things[0], new_things[0])

    def alike(self) -> None:
        """Pair what is painted several times alike, by places and names."""
        before, after = _by(self._left.values()), _by(self._come.values())
        for essence, old_things in before.items():
            if new_things := after.get(essence, []):
                for row, column in _assigned(self._costs(old_things, new_things)):
                    self._pair(old_things[row], new_things[column])

    def changed(self) -> None:
        """Pair what is left, where enough speaks for it."""
        old_things, new_things = list(self._left.values()), list(self._come.values())
        if not old_things or not new_things:
            return
        alike = Alike(self._old, self._new)
        there = {first.number: second.number for first, second in self.pairs}
        evidence: dict[tuple[int, int], Evidence] = {}
        for row, column, name in self._candidates(old_things, new_things):
            first, second = old_things[row], new_things[column]
            sides = (there.get(first.number + by) == second.number + by for by in (-1, 1))
            evidence[row, column] = Evidence(
                name,
                self._near(first, second),
                alike.content(first, second),
                sum(sides) / 2,
            )
        for rows, columns in _parts(evidence, (len(old_things), len(new_things))):
            costs = np.full((len(rows), len(columns)), MOST)
            for row_number, row in enumerate(rows):
                for over, column in enumerate(columns):
                    costs[row_number, over] -= evidence.get((row, column), NOTHING).whole
            for row_number, over in _assigned(costs):
                row, column = rows[row_number], columns[over]
                if evidence.get((row, column), NOTHING).is_enough:
                    self._pair(old_things[row], new_things[column])

    def _candidates(
        self, old_things: Sequence[VersionThing], new_things: Sequence[VersionThing]
    ) -> Iterator[tuple[int, int, float]]:
        """Pairs that can be one, with what their names say: by name, by place, or among few."""
        is_few = len(old_things) * len(new_things) <= FEW
        labels = Labels(old_things, new_things)
        now = sides_of(map(self._new.place, new_things))
        for row, thing in enumerate(old_things):
            names = labels.alike(row)
            may = np.full(len(new_things), is_few) | (labels.are_telling(row) & (names > 0))
            if (was := self._old.place(thing)) is None:
                may |= np.isnan(now[:, 0])  # nowhere is one place, too
            else:
                for shift, _ in self._expected(thing):
                    may |= meeting(now, _around(was, shift))
            yield from ((row, int(column), float(names[column])) for column in np.flatnonzero(may))

    def _costs(
        self, old_things: Sequence[VersionThing], new_things: Sequence[VersionThing]
    ) -> Floats:
        """How little speaks for pairs that paint alike, (n, m): 0 at its place and by its name."""
        labels = Labels(old_things, new_things)
        was, now = (
            sides_of(self._place(version, thing) for thing in things)[:, :2]
            for version, things in ((self._old, old_things), (self._new, new_things))
        )
        groups = np.array([_unnumbered(other_thing.group) for other_thing in new_things], object)
        shown = np.array([self._new.shows(other_thing) for other_thing in new_things])
        costs = np.empty((len(old_things), len(new_things)))
        for row, thing in enumerate(old_things):
            far = np.ones(len(new_things))
            for shift, doubt in self._expected(thing):
                apart = np.abs(now - was[row] - np.array(shift)).sum(axis=1)
                far = np.fmin(far, apart / FAR + doubt)  # what is nowhere is as far as can be
            costs[row] = far + 0.2 * (1 - labels.alike(row))
            costs[row] += 0.05 * (groups != _unnumbered(thing.group))
            costs[row] += 0.1 * (shown != self._old.shows(thing))
        return costs

    def _near(self, first: VersionThing, second: VersionThing) -> float:
        was, now = self._old.place(first), self._new.place(second)
        if was is None or now is None:
            return float(was is now)
        return max(overlap(was, now, shift) - doubt for shift, doubt in self._expected(first))

    def _expected(self, thing: VersionThing) -> tuple[tuple[Shift, float], ...]:
        """How far it may have moved, and how doubtful that is, by the pairs there are.

        As most of what is in its group did; or not at all, which is likelier where that is known of
        a wider group alone.
        """
        if thing.number not in self._may_have:
            self._may_have[thing.number] = self._found(thing)
        return self._may_have[thing.number]

    def _found(self, thing: VersionThing) -> tuple[tuple[Shift, float], ...]:
        group = thing.group
        while group and not self._shifts[group]:
            group = self._old.mockup.parents.get(group, "")
        moves = self._shifts[group]
        if not moves:
            return ((STILL, 0.0),)
        usual = median(x for x, _ in moves), median(y for _, y in moves)
        if usual == STILL:
            return ((STILL, 0.0),)
        is_own = bool(group) and group == thing.group
        return ((usual, 0.0), (STILL, DOUBT)) if is_own else ((STILL, 0.0), (usual, DOUBT))


def _around(place: Rect, shift: Shift) -> Rect:
    """Where a thing that moved may lie, with some room."""
    x, y = place.x + shift[0] - AROUND, place.y + shift[1] - AROUND
    return Rect(x, y, place.width + 2 * AROUND, place.height + 2 * AROUND)


def _assigned(costs: Floats) -> Iterator[tuple[int, int]]:
    """Rows and columns in pairs whose costs are least in sum."""
    from scipy.optimize import linear_sum_assignment

    rows, columns = linear_sum_assignment(costs)
    yield from zip(rows.tolist(), columns.tolist(), strict=True)


def _parts(
    pairs: Iterable[tuple[int, int]], shape: tuple[int, int]
) -> Iterator[tuple[list[int], list[int]]]:
    """Rows and columns that hang together by pairs: each part can be assigned by itself."""
    from scipy.sparse import coo_array
    from scipy.sparse.csgraph import connected_components

    height, width = shape
    ends = np.array([(row, height + column) for row, column in pairs], np.int64).reshape(-1, 2)
    graph = coo_array((np.ones(len(ends)), (ends[:, 0], ends[:, 1])), (height + width,) * 2)
    _, parts = connected_components(graph, directed=False)
    inside = defaultdict[int, tuple[list[int], list[int]]](lambda: ([], []))
    for number, part in enumerate(parts.tolist()):
        inside[part][number >= height].append(number - height if number >= height else number)
    yield from (part for part in inside.values() if all(part))


def _unnumbered(at: str) -> str:
    return re.sub(r"#\d+(?=/|$)", "", at)


def _by(things: Iterable[VersionThing]) -> dict[str, list[VersionThing]]:
    """Things by what they paint."""
    found_things: dict[str, list[VersionThing]] = defaultdict(list)
    for thing in things:
        found_things[thing.essence].append(thing)
    return found_things
