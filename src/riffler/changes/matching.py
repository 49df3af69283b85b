"""Two versions of a mockup -> which drawing of one is which of the other.

By what they paint, where they lie, what they are called and what became of those beside them, all
together: pairs are chosen so that they fit best in sum (the linear assignment problem; H. W. Kuhn,
"The Hungarian method", 1955), never by names alone.
"""

from __future__ import annotations

import re
from collections import defaultdict
from collections.abc import Callable, Iterable, Sequence
from statistics import median
from typing import TypeAlias

import numpy as np
import numpy.typing as npt

from riffler.changes.alike import Alike, Evidence, overlap, same_name
from riffler.changes.version import Thing, Version
from riffler.geometry import Rect

Pair: TypeAlias = tuple[Thing, Thing]
Shift: TypeAlias = tuple[float, float]

#: Nothing moved.
STILL: Shift = (0.0, 0.0)

#: CSS pixels from which one place is as far as any other.
FAR = 400.0

#: What is against a thing's having stayed while its group moved, or moved with others far away.
DOUBT = 0.1

#: More than can speak for a pair.
MOST = 4.0

#: Pairs up to which all that is left on both sides is compared, whatever it is called.
FEW = 4000


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

    def _pair(self, one: Thing, other: Thing) -> None:
        del self._left[one.number], self._come[other.number]
        self.pairs.append((one, other))
        self._may_have.clear()
        shift = self._shift(one, other)
        if shift is not None:
            group = one.group
            self._shifts[group].append(shift)
            while group:
                group = self._old.mockup.parents.get(group, "")
                self._shifts[group].append(shift)

    def _shift(self, one: Thing, other: Thing) -> Shift | None:
        if one.placed == other.placed and one.essence == other.essence:
            return STILL
        was, now = self._place(self._old, one), self._place(self._new, other)
        return (now.x - was.x, now.y - was.y) if was and now else None

    def _place(self, version: Version, thing: Thing) -> Rect | None:
        """Where a thing lies, of a layer of pixels as the file says it while it is all the same."""
        return version.stored(thing) or version.rect(thing)

    def unmistakable(self) -> None:
        """Pair what paints like nothing else in its version."""
        before, after = _by(self._left.values()), _by(self._come.values())
        for essence, ones in before.items():
            others = after.get(essence, [])
            if len(ones) == len(others) == 1:
                self._pair(ones[0], others[0])

    def alike(self) -> None:
        """Pair what is painted several times alike, by places and names."""
        before, after = _by(self._left.values()), _by(self._come.values())
        for essence, ones in before.items():
            if others := after.get(essence, []):
                self._assign(ones, others, self._far)

    def changed(self) -> None:
        """Pair what is left, where enough speaks for it."""
        ones, others = list(self._left.values()), list(self._come.values())
        if not ones or not others:
            return
        alike = Alike(self._old, self._new)
        is_few = len(ones) * len(others) <= FEW
        found: dict[tuple[int, int], Evidence] = {}
        there = {one.number: other.number for one, other in self.pairs}

        def score(one: Thing, other: Thing) -> float:
            name = same_name(one.layer, other.layer, one.address, other.address)
            place = self._near(one, other)
            if not (name or place or is_few):
                return 0.0
            content = alike.content(one, other)
            sides = (there.get(one.number + by) == other.number + by for by in (-1, 1))
            evidence = Evidence(name, place, content, sum(sides) / 2)
            found[one.number, other.number] = evidence
            return evidence.whole

        self._assign(
            ones, others, lambda one, other: MOST - score(one, other),
            lambda one, other: found.get((one.number, other.number), Evidence()).is_enough,
        )  # fmt: skip

    def _assign(
        self, ones: Sequence[Thing], others: Sequence[Thing], cost: Callable[[Thing, Thing], float],
        may: Callable[[Thing, Thing], bool] | None = None,
    ) -> None:  # fmt: skip
        """Pair things so that the costs are least in sum, where a pair may be."""
        from scipy.optimize import linear_sum_assignment

        costs: npt.NDArray[np.float64] = np.array(
            [[cost(one, other) for other in others] for one in ones], np.float64
        )
        rows, columns = linear_sum_assignment(costs)
        for row, column in zip(rows.tolist(), columns.tolist(), strict=True):
            if may is None or may(ones[row], others[column]):
                self._pair(ones[row], others[column])

    def _far(self, one: Thing, other: Thing) -> float:
        """How little speaks for a pair that paints alike: 0 at its place and by its name."""
        was, now = self._place(self._old, one), self._place(self._new, other)
        far = 1.0
        if was and now:
            far = min(
                (abs(now.x - was.x - x) + abs(now.y - was.y - y)) / FAR + doubt
                for (x, y), doubt in self._expected(one)
            )
        name = same_name(one.layer, other.layer, one.address, other.address)
        group = _unnumbered(one.group) == _unnumbered(other.group)
        shown = self._old.shows(one) == self._new.shows(other)
        return min(1.0, far) + 0.2 * (1 - name) + 0.05 * (not group) + 0.1 * (not shown)

    def _near(self, one: Thing, other: Thing) -> float:
        was, now = self._old.rect(one), self._new.rect(other)
        if was is None or now is None:
            return float(was is now)
        return max(overlap(was, now, shift) - doubt for shift, doubt in self._expected(one))

    def _expected(self, thing: Thing) -> tuple[tuple[Shift, float], ...]:
        """How far it may have moved, and how doubtful that is, by the pairs there are.

        As most of what is in its group did; or not at all, which is likelier where that is known of
        a wider group alone.
        """
        if thing.number not in self._may_have:
            self._may_have[thing.number] = self._found(thing)
        return self._may_have[thing.number]

    def _found(self, thing: Thing) -> tuple[tuple[Shift, float], ...]:
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


def _unnumbered(at: str) -> str:
    return re.sub(r"#\d+(?=/|$)", "", at)


def _by(things: Iterable[Thing]) -> dict[str, list[Thing]]:
    """Things by what they paint."""
    found: dict[str, list[Thing]] = defaultdict(list)
    for thing in things:
        found[thing.essence].append(thing)
    return found
