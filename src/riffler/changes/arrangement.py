"""Matched drawings -> what became of groups and names: renamed, regrouped, put in another order."""

from __future__ import annotations

from bisect import bisect_left
from collections import Counter, defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace
from typing import TypeAlias

from riffler.changes.change import Aspect, Change, Kind
from riffler.changes.comparing import laid
from riffler.changes.matching import Pair
from riffler.changes.version import Version
from riffler.geometry import Rect
from riffler.mockup.model import Layer, Mockup

#: The share of what is in two groups that both have, at the least, when they are one.
COMMON = 0.3


class Arranged:
    """Which layer of one version is which of the other, groups too, by address."""

    def __init__(self, old: Version, new: Version, pairs: Sequence[Pair]) -> None:
        self._old, self._new = old, new
        self.there = {one.address: other.address for one, other in pairs}
        self.here = {other.address: one.address for one, other in pairs}
        self._match_groups()

    def _match_groups(self) -> None:
        """Pair groups by what is in them that is in both versions, or by their address."""
        before, after = (_Contents(version) for version in (self._old, self._new))
        shared: Counter[tuple[str, str]] = Counter()
        for address, group in before.around.items():
            if (found := self.there.get(address)) is not None:
                for up in _chain(self._old.mockup, group):
                    for other in _chain(self._new.mockup, after.around[found]):
                        shared[up, other] += 1
        scores = []
        for (group, other), count in shared.items():
            share = count / (before.sizes[group] + after.sizes[other] - count)
            is_named = _name(self._old.mockup, group) == _name(self._new.mockup, other)
            if share >= COMMON:
                scores.append((-share - 0.5 * is_named - 0.25 * (group == other), group, other))
        for _, group, other in sorted(scores):
            self._pair(group, other)
        for address, layer in self._old.mockup.by_address.items():
            twin = self._new.mockup.by_address.get(address)
            if layer.is_group and twin is not None and twin.is_group:
                self._pair(address, address)

    def _pair(self, group: str, other: str) -> None:
        if group not in self.there and other not in self.here:
            self.there[group], self.here[other] = other, group


class _Contents:
    """The group around each drawing, and how many drawings are in each group."""

    def __init__(self, version: Version) -> None:
        self.around = {thing.address: thing.group for thing in version.things}
        self.sizes: Counter[str] = Counter()
        for group in self.around.values():
            self.sizes.update(_chain(version.mockup, group))


def _chain(mockup: Mockup, group: str) -> list[str]:
    """A group and those around it; nothing at the top."""
    return [group, *(up.address for up in mockup.ancestors(group))] if group else []


def _name(mockup: Mockup, address: str) -> str:
    return mockup.by_address[address].name


def arranged(old: Version, new: Version, match: Arranged) -> Iterator[Change]:
    """Every change of names, groups and order."""
    yield from _renamed(old, new, match)
    yield from _group_looks(old, new, match)
    yield from _regrouped(old, new, match)
    yield from _reordered(old, new, match)


def _both(old: Version, new: Version, match: Arranged) -> Iterator[tuple[Layer, Layer]]:
    """Layers that are in both, as the new version lists them."""
    for address, layer in new.mockup.by_address.items():
        if (before := match.here.get(address)) is not None:
            yield old.mockup.by_address[before], layer


def _change(
    kind: Kind, old: Version, new: Version, one: Layer, other: Layer, *aspects: Aspect
) -> Change:
    was, now = _box(old, one), _box(new, other)
    shows = old.mockup.shows(one) or new.mockup.shows(other)
    return Change(kind, one.address, other.address, was, now, aspects, shows=shows)


def _box(version: Version, layer: Layer) -> Rect | None:
    if layer.address in version.by_address:
        return version.rect_at(layer.address)
    return Rect.around(box for one in layer.walk() if (box := version.rect_at(one.address)))


def _renamed(old: Version, new: Version, match: Arranged) -> Iterator[Change]:
    for one, other in _both(old, new, match):
        if one.name != other.name:
            yield _change(Kind.RENAMED, old, new, one, other, Aspect("name", one.name, other.name))


def _group_looks(old: Version, new: Version, match: Arranged) -> Iterator[Change]:
    """Groups that were switched on or off, or are laid down otherwise."""
    for one, other in _both(old, new, match):
        if one.address in old.by_address or other.address in new.by_address:
            continue
        for kind, aspects in laid(one, other):
            yield _change(kind, old, new, one, other, *aspects)


Moves: TypeAlias = Mapping[tuple[str, str], list[tuple[Layer, Layer]]]


def _regrouped(old: Version, new: Version, match: Arranged) -> Iterator[Change]:
    """What is in another group now, all that went the same way as one."""
    moves: dict[tuple[str, str], list[tuple[Layer, Layer]]] = defaultdict(list)
    for one, other in _both(old, new, match):
        before = old.mockup.parents.get(one.address, "")
        after = new.mockup.parents.get(other.address, "")
        if (match.there.get(before, None) if before else "") != after:
            moves[before, after].append((one, other))
    for (before, after), layers in moves.items():
        (one, other), *rest = layers
        said = Aspect("group", before or "the top", after or "the top")
        change = _change(Kind.REGROUPED, old, new, one, other, said)
        others = tuple((layer.address, twin.address) for layer, twin in rest)
        yield replace(change, others=others)


def _reordered(old: Version, new: Version, match: Arranged) -> Iterator[Change]:
    """Groups in which things lie in another order: the fewest that went past the others."""
    if found := _in_order(new, match, old.mockup.layers, new.mockup.layers):
        shows, pairs = found
        yield Change(Kind.REORDERED, None, None, shows=shows, others=pairs, where="at the top")
    for one, other in _both(old, new, match):
        if not (one.is_group and other.is_group) or one.address in old.by_address:
            continue
        if found := _in_order(new, match, one.children, other.children):
            shows, pairs = found
            yield Change(Kind.REORDERED, one.address, other.address, shows=shows, others=pairs)


def _in_order(
    new: Version, match: Arranged, before: Sequence[Layer], after: Sequence[Layer]
) -> tuple[bool, tuple[tuple[str, str], ...]] | None:
    """What went past others in a group, by both addresses, and whether that is seen."""
    places = {layer.address: number for number, layer in enumerate(before)}
    kept = [layer for layer in after if match.here.get(layer.address) in places]
    stay = _longest_rise([places[match.here[layer.address]] for layer in kept])
    moved = [layer for number, layer in enumerate(kept) if number not in stay]
    if not moved:
        return None
    pairs = tuple((match.here[layer.address], layer.address) for layer in moved)
    return _is_seen(new, moved, kept), pairs


def _is_seen(new: Version, moved: Sequence[Layer], every: Sequence[Layer]) -> bool:
    """Whether something that went past others meets one of them."""
    boxes = {layer.address: _box(new, layer) for layer in every if new.mockup.shows(layer)}
    return any(
        (mine := boxes.get(one.address)) and (its := boxes.get(other.address)) and mine.meets(its)
        for one in moved
        for other in every
        if other is not one
    )


def _longest_rise(places: Sequence[int]) -> set[int]:
    """The indices of a longest rising run.

    M. L. Fredman, "On computing the length of longest increasing subsequences", 1975.
    """
    ends: list[int] = []
    last: list[int] = []
    before: list[int] = []
    for index, place in enumerate(places):
        at = bisect_left(ends, place)
        before.append(last[at - 1] if at else -1)
        if at == len(ends):
            ends.append(place)
            last.append(index)
        else:
            ends[at], last[at] = place, index
    found = set[int]()
    at = last[-1] if last else -1
    while at >= 0:
        found.add(at)
        at = before[at]
    return found
