"""Matched drawings -> what became of groups and names: renamed, regrouped, put in another order."""

from __future__ import annotations

from bisect import bisect_left
from collections import Counter, defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace
from typing import TypeAlias

from riffler.changes.change import Aspect, Change, ChangeKind
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
        self.there = {first.address: second.address for first, second in pairs}
        self.here = {second.address: first.address for first, second in pairs}
        self._match_groups()

    def _match_groups(self) -> None:
        """Pair groups by what is in them that is in both versions, or by their address."""
        before, after = (_Contents(version) for version in (self._old, self._new))
        shared: Counter[tuple[str, str]] = Counter()
        for address, group in before.around.items():
            if (match := self.there.get(address)) is not None:
                for up in _chain(self._old.mockup, group):
                    for other in _chain(self._new.mockup, after.around[match]):
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
    kind: ChangeKind, old: Version, new: Version, first: Layer, second: Layer, *aspects: Aspect
) -> Change:
    was, now = _box(old, first), _box(new, second)
    shows = old.mockup.shows(first) or new.mockup.shows(second)
    return Change(kind, first.address, second.address, was, now, aspects, shows=shows)


def _box(version: Version, layer: Layer) -> Rect | None:
    if layer.address in version.by_address:
        return version.rect_at(layer.address)
    return Rect.around(
        box for one_layer in layer.walk() if (box := version.rect_at(one_layer.address))
    )


def _renamed(old: Version, new: Version, match: Arranged) -> Iterator[Change]:
    for first, second in _both(old, new, match):
        if first.name != second.name:
            yield _change(
                ChangeKind.RENAMED, old, new, first, second, Aspect("name", first.name, second.name)
            )


def _group_looks(old: Version, new: Version, match: Arranged) -> Iterator[Change]:
    """Groups that were switched on or off, or are laid down otherwise."""
    for first, second in _both(old, new, match):
        if first.address in old.by_address or second.address in new.by_address:
            continue
        for kind, aspects in laid(first, second):
            yield _change(kind, old, new, first, second, *aspects)


Moves: TypeAlias = Mapping[tuple[str, str], list[tuple[Layer, Layer]]]


def _regrouped(old: Version, new: Version, match: Arranged) -> Iterator[Change]:
    """What is in another group now, all that went the same way as one."""
    moves: dict[tuple[str, str], list[tuple[Layer, Layer]]] = defaultdict(list)
    for first, second in _both(old, new, match):
        before = old.mockup.parents.get(first.address, "")
        after = new.mockup.parents.get(second.address, "")
        if (match.there.get(before, None) if before else "") != after:
            moves[before, after].append((first, second))
    for (before, after), layers in moves.items():
        (first, second), *rest = layers
        aspect = Aspect("group", before or "the top", after or "the top")
        change = _change(ChangeKind.REGROUPED, old, new, first, second, aspect)
        others = tuple((layer.address, twin.address) for layer, twin in rest)
        yield replace(change, others=others)


def _reordered(old: Version, new: Version, match: Arranged) -> Iterator[Change]:
    """Groups in which things lie in another order: the fewest that went past the others."""
    if result := _in_order(new, match, old.mockup.layers, new.mockup.layers):
        shows, pairs = result
        yield Change(
            ChangeKind.REORDERED, None, None, shows=shows, others=pairs, where="at the top"
        )
    for first, second in _both(old, new, match):
        if not (first.is_group and second.is_group) or first.address in old.by_address:
            continue
        if result := _in_order(new, match, first.children, second.children):
            shows, pairs = result
            yield Change(
                ChangeKind.REORDERED, first.address, second.address, shows=shows, others=pairs
            )


def _in_order(
    new: Version, match: Arranged, before: Sequence[Layer], after: Sequence[Layer]
) -> tuple[bool, tuple[tuple[str, str], ...]] | None:
    """What went past others in a group, by both addresses, and whether that is seen."""
    places = {layer.address: number for number, layer in enumerate(before)}
    layers = [layer for layer in after if match.here.get(layer.address) in places]
    stay = _longest_rise([places[match.here[layer.address]] for layer in layers])
    moved = [layer for number, layer in enumerate(layers) if number not in stay]
    if not moved:
        return None
    pairs = tuple((match.here[layer.address], layer.address) for layer in moved)
    return _is_seen(new, moved, layers), pairs


def _is_seen(new: Version, moved: Sequence[Layer], layers: Sequence[Layer]) -> bool:
    """Whether something that went past others meets one of them."""
    boxes = {layer.address: _box(new, layer) for layer in layers if new.mockup.shows(layer)}
    return any(
        (mine := boxes.get(layer.address))
        and (its := boxes.get(other_layer.address))
        and mine.meets(its)
        for layer in moved
        for other_layer in layers
        if other_layer is not layer
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
    result = set[int]()
    at = last[-1] if last else -1
    while at >= 0:
        result.add(at)
        at = before[at]
    return result
