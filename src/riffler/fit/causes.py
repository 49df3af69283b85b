"""Things that lie elsewhere -> which of them push, and which only follow.

An edge of a thing that lies elsewhere is explained by another thing when a page's flow carries that
one's own error there: what is around it moved along, what stands before it ends later, what is in
it grew. What nothing explains is a root.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, field

from riffler.fit.fault import PLACE, SIZING, Fault, Placed
from riffler.fit.pairing import distance
from riffler.fit.seen import Seen
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
    lambda one: one.dy, lambda one: one.dy + one.dh, lambda box: box.y, lambda box: box.bottom
)
_ACROSS = _Axis(
    lambda one: one.dx, lambda one: one.dx + one.dw, lambda box: box.x, lambda box: box.right
)


def roots(placed: Sequence[Placed], seen: Seen) -> list[Root]:
    """What is at fault by itself, the rest with it; in the order of the page."""
    things = without_shadows(with_swaps(placed))
    wrong = [one for one in things if one.off > PLACE or one.differences]
    pushing = _Pushing(wrong, [one for one in things if one.off <= PLACE], seen)
    by: dict[int, Placed | None] = {one.number: pushing.reason(one) for one in wrong}
    heads = {one.number: _head(one, by) for one in wrong}
    found = []
    for one in sorted(wrong, key=_as_read):
        is_carried = heads[one.number] is not one
        if is_carried and all(other.fault is Fault.BREAKS for other in one.differences):
            continue
        followers = tuple(
            other for other in wrong if other is not one and heads[other.number] is one
        )
        found.append(Root(one, followers, is_carried))
    return found


def _as_read(one: Placed) -> tuple[float, float, int]:
    """Where a thing comes in reading: by lines, and in a line from the left."""
    return round(one.thing.box.y / LINE), one.thing.box.x, one.number


def _head(one: Placed, by: dict[int, Placed | None]) -> Placed:
    """The root that a thing leads to; of a ring of reasons it is what is read first."""
    way = [one]
    while (reason := by.get(way[-1].number)) is not None:
        if reason in way:
            ring = way[way.index(reason) :]
            return min(ring, key=_as_read)
        way.append(reason)
    return way[-1]


class _Pushing:
    """Reasons why things lie elsewhere, among all that do."""

    def __init__(self, wrong: Sequence[Placed], right: Sequence[Placed], seen: Seen) -> None:
        self._wrong, self._seen = wrong, seen
        self._still = {one.element for one in right if one.element >= 0}
        self._together = list(self._moved_as_one())
        self._stretched = {one.number: why for one in wrong if (why := self._stretched_by(one))}

    def reason(self, one: Placed) -> Placed | None:
        """Another thing from which the place of one follows; None for a root."""
        if any(other.fault in SIZING for other in one.differences):
            return self._wider(one)  # what is set otherwise takes its room by itself
        if one.number in self._stretched:
            return self._stretched[one.number]
        reasons = []
        for axis in (_DOWN, _ACROSS):
            if max(abs(axis.near(one)), abs(axis.far(one))) <= PLACE:
                continue
            reason = self._first(one, lambda other, axis=axis: self._explains(other, one, axis))  # type: ignore[misc]
            if reason is None:
                return None
            reasons.append(reason)
        return reasons[0] if reasons else None

    def _wider(self, one: Placed) -> Placed | None:
        """The thing around a text that breaks otherwise, where it has another width."""
        if any(other.fault is not Fault.BREAKS for other in one.differences):
            return None
        return self._first(one, lambda other: self._is_around(other, one) and other.dw != 0)

    def _first(self, one: Placed, is_reason: Callable[[Placed], bool]) -> Placed | None:
        """The nearest thing that is a reason."""
        found = [
            other
            for other in self._wrong
            if other is not one and other.number not in self._stretched and is_reason(other)
        ]
        return min(found, key=lambda other: distance(other.thing.box, one.thing.box), default=None)

    def _stretched_by(self, one: Placed) -> Placed | None:
        """What makes a box higher that only goes with the highest of its row.

        Nothing in it ends lower, and something beside it does, by as much at least.
        """
        if one.is_of_type or abs(one.dy) > PLACE or one.dh <= PLACE or abs(one.dw) > PLACE:
            return None
        if one.element < 0 or self._ends_lower(one.element, one.dh):
            return None
        parent = self._seen.nodes[one.element].parent
        beside = (
            n
            for n, node in enumerate(self._seen.nodes)
            if node.parent == parent and n != one.element
        )
        found = [
            other
            for n in beside
            for other in self._ends_lower(n, one.dh)
            if _share(self._seen.nodes[n].box, one.box, _DOWN)
        ]
        return min(found, key=_as_read, default=None)

    def _ends_lower(self, element: int, by: float) -> list[Placed]:
        """The things in an element, not it itself, that end lower by so much at least."""
        return [
            other
            for other in self._wrong
            if other.element >= 0
            and other.element != element
            and self._seen.is_in(other.element, element)
            and _DOWN.far(other) >= by - SAME
        ]

    def _explains(self, other: Placed, one: Placed, axis: _Axis) -> bool:
        near, far = axis.near(one), axis.far(one)
        is_near = abs(near) <= PLACE or self._carries(other, one, axis, near)
        is_far = abs(far) <= PLACE or abs(far - near) <= SAME or self._grows(other, one, axis, far)
        return is_near and is_far

    def _carries(self, other: Placed, one: Placed, axis: _Axis, by: float) -> bool:
        """Whether the near edge of a thing is off because of another."""
        if other.is_missing:
            room = axis.ends(other.thing.box) - axis.begins(other.thing.box)
            return self._is_after(other, one, axis) and room - 2 <= -by <= room + GAP
        if self._is_around(other, one):
            near, far = axis.near(other), axis.far(other)
            ways = (near, far, (near + far) / 2) if axis is _ACROSS else (near,)
            return any(abs(by - way) <= SAME for way in ways)
        if self._is_before(other, one) and not self._is_held(one, other):
            if self._is_after(other, one, axis) and abs(axis.far(other) - by) <= SAME:
                return True
            if self._step_by_step(other, one, axis, by):
                return True
            if self._go_together(other, one) and abs(axis.near(other) - by) <= SAME:
                return True
            if self._gives_way(other, one, axis, by):
                return True
        return self._resizes_the_row(other, one, by, axis)

    def _gives_way(self, other: Placed, one: Placed, axis: _Axis, by: float) -> bool:
        """Whether another pushes a thing, and the room between them takes a part of it."""
        far = axis.far(other)
        is_pushed = far * by > 0 and (1 - YIELDS) * abs(far) <= abs(by) <= abs(far)
        return is_pushed and self._is_after(other, one, axis) and self._are_near(other, one)

    def _resizes_the_row(self, other: Placed, one: Placed, by: float, axis: _Axis) -> bool:
        """Whether a thing shifts because another in its row takes other room than it should.

        Where that only stands lower, the row is higher, and its middle half as far down.
        """
        if not _share(other.thing.box, one.thing.box, _DOWN):
            return False
        if not _is_own_size(other):
            is_half = axis is _DOWN and abs(by - other.dy / 2) <= SAME
            return is_half and self._are_near(other, one)
        grown = abs(axis.far(other) - axis.near(other))
        is_block = axis is _ACROSS and any(d.fault is Fault.BREAKS for d in other.differences)
        return (abs(by) <= grown + SAME or is_block) and self._are_near(other, one)

    def _grows(self, other: Placed, one: Placed, axis: _Axis, by: float) -> bool:
        """Whether the far edge of a thing is off because of what is in it, or beside it."""
        if other.is_missing:
            room = axis.ends(other.thing.box) - axis.begins(other.thing.box)
            return self._is_around(one, other) and room - 2 <= -by <= room + GAP
        if self._is_around(one, other) or _holds(one.thing.box, other.thing.box):
            pushed = axis.far(other)
            return (by * pushed > 0 and abs(by) <= abs(pushed) + SAME) or _is_own_size(other)
        takes_more = any(d.fault in SIZING for d in other.differences)
        return takes_more and abs(axis.far(other) - by) <= 3 * SAME and self._are_near(other, one)

    def _step_by_step(self, other: Placed, one: Placed, axis: _Axis, by: float) -> bool:
        """Whether two of a row are off by as many steps as they stand from its beginning."""
        nodes = self._seen.nodes
        parent = nodes[one.element].parent
        if nodes[other.element].parent != parent:
            return False
        row = [n for n in range(parent + 1, one.element + 1) if nodes[n].parent == parent]
        before, now = row.index(other.element), len(row) - 1
        return before > 0 and abs(by - axis.near(other) * now / before) <= SAME

    def _is_held(self, one: Placed, other: Placed) -> bool:
        """Whether something around one, and not around the other, lies where it should."""
        mine = set(self._around(one.element)) - set(self._around(other.element))
        return bool(mine & self._still)

    def _is_around(self, one: Placed, other: Placed) -> bool:
        if one.element < 0 or other.element < 0 or one.element == other.element:
            return False
        return self._seen.is_in(other.element, one.element)

    def _is_before(self, one: Placed, other: Placed) -> bool:
        return 0 <= one.element < other.element

    def _is_after(self, one: Placed, other: Placed, axis: _Axis) -> bool:
        """Whether a thing begins, in the mockup, where another ends or later."""
        return axis.begins(other.thing.box) >= axis.ends(one.thing.box) - 2

    def _are_near(self, one: Placed, other: Placed) -> bool:
        """Whether two things stand in one row: no more than two elements around are not shared."""
        mine = self._around(one.element)[:4]
        return bool(set(mine) & set(self._around(other.element)[:4]))

    def _around(self, element: int) -> list[int]:
        found = []
        while element >= 0:
            element = self._seen.nodes[element].parent
            found.append(element)
        return [one for one in found if one > 0]

    def _moved_as_one(self) -> Iterator[frozenset[int]]:
        """Things in one element that are all off by the same."""
        inside: dict[int, list[Placed]] = {}
        for one in self._wrong:
            for element in self._around(one.element):
                inside.setdefault(element, []).append(one)
        for things in inside.values():
            first = things[0]
            if len(things) > 1 and all(
                abs(one.dx - first.dx) <= SAME and abs(one.dy - first.dy) <= SAME for one in things
            ):
                yield frozenset(one.number for one in things)

    def _go_together(self, one: Placed, other: Placed) -> bool:
        return any(one.number in group and other.number in group for group in self._together)


def _is_own_size(one: Placed) -> bool:
    """Whether a thing takes other room for reasons of its own."""
    return one.is_resized or any(other.fault in SIZING for other in one.differences)


def _share(one: Rect, other: Rect, axis: _Axis) -> bool:
    return axis.begins(one) < axis.ends(other) and axis.begins(other) < axis.ends(one)


def _holds(one: Rect, other: Rect) -> bool:
    return (
        one.x <= other.x + 1
        and one.y <= other.y + 1
        and other.right <= one.right + 1
        and other.bottom <= one.bottom + 1
    )
