"""Things that lie elsewhere -> which of them push, and which only follow.

An edge of a thing that lies elsewhere is explained by another thing when a page's flow carries that
one's own error there: what is around it moved along, what stands before it ends later, what is in
it grew. What nothing explains is a root.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, field
from functools import partial

from riffler.fit.fault import PLACE, SIZING, Fault, Placed
from riffler.fit.pairing import distance
from riffler.fit.seen import SeenPage
from riffler.fit.settling import with_swaps, without_shadows
from riffler.geometry import Rect

#: Two errors within so many CSS pixels are the same.
SAME = 0.75

#: A gap that goes with what is missing is no larger, in CSS pixels.
GAP = 120.0

#: The share of a push that the room between two things may take.
YIELDS = 0.2

#: The height of a line in which things are read from the left, in CSS pixels.
LINE = 12


@dataclass(frozen=True)
class Root:
    """A thing that is at fault itself; `followers` are others that only follow from it.

    `is_carried` says that its place follows from another, and something else is wrong with it.
    """

    placed: Placed
    followers: tuple[Placed, ...] = field(default=())
    is_carried: bool = False


@dataclass(frozen=True)
class _Axis:
    """Down or across: how far the near and the far edge of things are off, and where these are."""

    near: Callable[[Placed], float]
    far: Callable[[Placed], float]
    begins: Callable[[Rect], float]
    ends: Callable[[Rect], float]


_DOWN = _Axis(
    lambda placed: placed.dy,
    lambda placed: placed.dy + placed.dh,
    lambda box: box.y,
    lambda box: box.bottom,
)
_ACROSS = _Axis(
    lambda placed: placed.dx,
    lambda placed: placed.dx + placed.dw,
    lambda box: box.x,
    lambda box: box.right,
)


def roots(placed: Sequence[Placed], seen: SeenPage) -> list[Root]:
    """What is at fault by itself, the rest with it; in the order of the page."""
    things = without_shadows(with_swaps(placed))
    wrong = [placed for placed in things if placed.off > PLACE or placed.differences]
    pushing = _Pushing(wrong, [placed for placed in things if placed.off <= PLACE], seen)
    by: dict[int, Placed | None] = {placed.number: pushing.reason(placed) for placed in wrong}
    heads = {placed.number: _head(placed, by) for placed in wrong}
    found_roots = []
    for one_placed in sorted(wrong, key=_as_read):
        is_carried = heads[one_placed.number] is not one_placed
        if is_carried and all(
            other_difference.fault is Fault.BREAKS for other_difference in one_placed.differences
        ):
            continue
        followers = tuple(
            other_placed
            for other_placed in wrong
            if other_placed is not one_placed and heads[other_placed.number] is one_placed
        )
        found_roots.append(Root(one_placed, followers, is_carried))
    return found_roots


def _as_read(placed: Placed) -> tuple[float, float, int]:
    """Where a thing comes in reading: by lines, and in a line from the left."""
    return round(placed.thing.box.y / LINE), placed.thing.box.x, placed.number


def _head(placed: Placed, by: dict[int, Placed | None]) -> Placed:
    """The root that a thing leads to; of a ring of reasons it is what is read first."""
    placements = [placed]
    while (reason := by.get(placements[-1].number)) is not None:
        if reason in placements:
            ring = placements[placements.index(reason) :]
            return min(ring, key=_as_read)
        placements.append(reason)
    return placements[-1]


class _Pushing:
    """Reasons why things lie elsewhere, among all that do."""

    def __init__(self, wrong: Sequence[Placed], right: Sequence[Placed], seen: SeenPage) -> None:
        self._wrong, self._seen = wrong, seen
        self._still = {placed.element for placed in right if placed.element >= 0}
        self._together = list(self._moved_as_one())
        self._stretched = {
            placed.number: why for placed in wrong if (why := self._stretched_by(placed))
        }

    def reason(self, placed: Placed) -> Placed | None:
        """Another thing from which the place of one follows; None for a root."""
        if any(other_difference.fault in SIZING for other_difference in placed.differences):
            return self._wider(placed)  # what is set otherwise takes its room by itself
        if placed.number in self._stretched:
            return self._stretched[placed.number]
        reasons = []
        for axis in (_DOWN, _ACROSS):
            if max(abs(axis.near(placed)), abs(axis.far(placed))) <= PLACE:
                continue
            reason = self._first(placed, partial(self._explains, second=placed, axis=axis))
            if reason is None:
                return None
            reasons.append(reason)
        return reasons[0] if reasons else None

    def _wider(self, placed: Placed) -> Placed | None:
        """The thing around a text that breaks otherwise, where it has another width."""
        if any(
            other_difference.fault is not Fault.BREAKS for other_difference in placed.differences
        ):
            return None
        return self._first(
            placed,
            lambda other_placed: self._is_around(other_placed, placed) and other_placed.dw != 0,
        )

    def _first(self, placed: Placed, is_reason: Callable[[Placed], bool]) -> Placed | None:
        """The nearest thing that is a reason."""
        placements = [
            other_placed
            for other_placed in self._wrong
            if other_placed is not placed
            and other_placed.number not in self._stretched
            and is_reason(other_placed)
        ]
        return min(
            placements,
            key=lambda other_placed: distance(other_placed.thing.box, placed.thing.box),
            default=None,
        )

    def _stretched_by(self, placed: Placed) -> Placed | None:
        """What makes a box higher that only goes with the highest of its row.

        Nothing in it ends lower, and something beside it does, by as much at least.
        """
        if (
            placed.is_of_type
            or abs(placed.dy) > PLACE
            or placed.dh <= PLACE
            or abs(placed.dw) > PLACE
        ):
            return None
        if placed.element < 0 or self._ends_lower(placed.element, placed.dh):
            return None
        parent = self._seen.nodes[placed.element].parent
        beside = (
            n
            for n, node in enumerate(self._seen.nodes)
            if node.parent == parent and n != placed.element
        )
        placements = [
            other_placed
            for n in beside
            for other_placed in self._ends_lower(n, placed.dh)
            if _share(self._seen.nodes[n].box, placed.box, _DOWN)
        ]
        return min(placements, key=_as_read, default=None)

    def _ends_lower(self, element: int, by: float) -> list[Placed]:
        """The things in an element, not it itself, that end lower by so much at least."""
        return [
            other_placed
            for other_placed in self._wrong
            if other_placed.element >= 0
            and other_placed.element != element
            and self._seen.is_in(other_placed.element, element)
            and _DOWN.far(other_placed) >= by - SAME
        ]

    def _explains(self, first: Placed, second: Placed, axis: _Axis) -> bool:
        near, far = axis.near(second), axis.far(second)
        is_near = abs(near) <= PLACE or self._carries(first, second, axis, near)
        is_far = (
            abs(far) <= PLACE or abs(far - near) <= SAME or self._grows(first, second, axis, far)
        )
        return is_near and is_far

    def _carries(self, first: Placed, second: Placed, axis: _Axis, by: float) -> bool:
        """Whether the near edge of a thing is off because of another."""
        if first.is_missing:
            room = axis.ends(first.thing.box) - axis.begins(first.thing.box)
            return self._is_after(first, second, axis) and room - 2 <= -by <= room + GAP
        if self._is_around(first, second):
            near, far = axis.near(first), axis.far(first)
            ways = (near, far, (near + far) / 2) if axis is _ACROSS else (near,)
            return any(abs(by - way) <= SAME for way in ways)
        if self._is_before(first, second) and not self._is_held(second, first):
            if self._is_after(first, second, axis) and abs(axis.far(first) - by) <= SAME:
                return True
            if self._step_by_step(first, second, axis, by):
                return True
            if self._go_together(first, second) and abs(axis.near(first) - by) <= SAME:
                return True
            if self._gives_way(first, second, axis, by):
                return True
        return self._resizes_the_row(first, second, by, axis)

    def _gives_way(self, first: Placed, second: Placed, axis: _Axis, by: float) -> bool:
        """Whether another pushes a thing, and the room between them takes a part of it."""
        far = axis.far(first)
        is_pushed = far * by > 0 and (1 - YIELDS) * abs(far) <= abs(by) <= abs(far)
        return is_pushed and self._is_after(first, second, axis) and self._are_near(first, second)

    def _resizes_the_row(self, first: Placed, second: Placed, by: float, axis: _Axis) -> bool:
        """Whether a thing shifts because another in its row takes other room than it should.

        Where that only stands lower, the row is higher, and its middle half as far down.
        """
        if not _share(first.thing.box, second.thing.box, _DOWN):
            return False
        if not _is_own_size(first):
            is_half = axis is _DOWN and abs(by - first.dy / 2) <= SAME
            return is_half and self._are_near(first, second)
        grown = abs(axis.far(first) - axis.near(first))
        is_block = axis is _ACROSS and any(d.fault is Fault.BREAKS for d in first.differences)
        return (abs(by) <= grown + SAME or is_block) and self._are_near(first, second)

    def _grows(self, first: Placed, second: Placed, axis: _Axis, by: float) -> bool:
        """Whether the far edge of a thing is off because of what is in it, or beside it."""
        if first.is_missing:
            room = axis.ends(first.thing.box) - axis.begins(first.thing.box)
            return self._is_around(second, first) and room - 2 <= -by <= room + GAP
        if self._is_around(second, first) or second.thing.box.contains(first.thing.box, 1):
            pushed = axis.far(first)
            return (by * pushed > 0 and abs(by) <= abs(pushed) + SAME) or _is_own_size(first)
        takes_more = any(d.fault in SIZING for d in first.differences)
        return (
            takes_more and abs(axis.far(first) - by) <= 3 * SAME and self._are_near(first, second)
        )

    def _step_by_step(self, first: Placed, second: Placed, axis: _Axis, by: float) -> bool:
        """Whether two of a row are off by as many steps as they stand from its beginning."""
        nodes = self._seen.nodes
        parent = nodes[second.element].parent
        if nodes[first.element].parent != parent:
            return False
        row = [n for n in range(parent + 1, second.element + 1) if nodes[n].parent == parent]
        before, now = row.index(first.element), len(row) - 1
        return before > 0 and abs(by - axis.near(first) * now / before) <= SAME

    def _is_held(self, first: Placed, second: Placed) -> bool:
        """Whether something around one, and not around the other, lies where it should."""
        mine = set(self._around(first.element)) - set(self._around(second.element))
        return bool(mine & self._still)

    def _is_around(self, first: Placed, second: Placed) -> bool:
        if first.element < 0 or second.element < 0:
            return False
        if first.element == second.element:  # a field, and what it says
            return second.is_of_type and not first.is_of_type
        return self._seen.is_in(second.element, first.element)

    def _is_before(self, first: Placed, second: Placed) -> bool:
        return 0 <= first.element < second.element

    def _is_after(self, first: Placed, second: Placed, axis: _Axis) -> bool:
        """Whether a thing begins, in the mockup, where another ends or later."""
        return axis.begins(second.thing.box) >= axis.ends(first.thing.box) - 2

    def _are_near(self, first: Placed, second: Placed) -> bool:
        """Whether two things stand in one row: no more than two elements around are not shared."""
        mine = self._around(first.element)[:4]
        return bool(set(mine) & set(self._around(second.element)[:4]))

    def _around(self, element: int) -> list[int]:
        return [around for around in self._seen.around(element) if 0 < around != element]

    def _moved_as_one(self) -> Iterator[frozenset[int]]:
        """Things in one element that are all off by the same."""
        inside: dict[int, list[Placed]] = {}
        for placed in self._wrong:
            for element in self._around(placed.element):
                inside.setdefault(element, []).append(placed)
        for things in inside.values():
            first = things[0]
            if len(things) > 1 and all(
                abs(placed.dx - first.dx) <= SAME and abs(placed.dy - first.dy) <= SAME
                for placed in things
            ):
                yield frozenset(placed.number for placed in things)

    def _go_together(self, first: Placed, second: Placed) -> bool:
        return any(first.number in group and second.number in group for group in self._together)


def _is_own_size(placed: Placed) -> bool:
    """Whether a thing takes other room for reasons of its own."""
    return placed.is_resized or any(
        other_difference.fault in SIZING for other_difference in placed.differences
    )


def _share(first: Rect, second: Rect, axis: _Axis) -> bool:
    return axis.begins(first) < axis.ends(second) and axis.begins(second) < axis.ends(first)
