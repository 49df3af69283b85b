"""Values -> tokens under names: a person's from `riffler.toml`, else by what they are used for.

Names of tokens come from values, not from their order, so that a new colour renames none; what a
person called something in `riffler.toml` goes before, also when the colour moved a little.
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterable, Iterator, Mapping, Sequence
from itertools import chain, count

from riffler.tokens.collecting import Group
from riffler.tokens.palette import ALIKE, alpha, apart, name_of
from riffler.tokens.spelling import spelled
from riffler.tokens.token import Place, Sort, Token, Type, Value

#: What text is called that is larger than so many times the body.
SIZES = ((1.19, "title"), (0.94, "text"), (0.0, "small"))

#: A name's values in `riffler.toml`, as they are written there.
Pins = Mapping[str, str]


def named(
    groups: Mapping[Sort, Sequence[Group]], pins: Mapping[Sort, Pins]
) -> tuple[list[Token], list[tuple[Sort, str]]]:
    """Tokens in the order of their sorts, and names in `riffler.toml` that found no value."""
    tokens: list[Token] = []
    unused: list[tuple[Sort, str]] = []
    for sort in Sort:
        found_tokens, left = _of_sort(sort, groups.get(sort, ()), pins.get(sort, {}))
        tokens += found_tokens
        unused += [(sort, name) for name in left]
    return tokens, unused


def _of_sort(sort: Sort, groups: Sequence[Group], pins: Pins) -> tuple[list[Token], list[str]]:
    pinned = _pinned(sort, groups, pins)
    names, propose = _Names(pins), _Proposing(sort, groups)
    tokens = []
    for index, group in enumerate(groups):
        places = _ordered(group.places)
        if index in pinned:
            name = pinned[index]
            text = None if spelled(sort, group.value) == pins[name] else pins[name]
            tokens.append(Token(sort, name, group.value, places, True, text))
            continue
        name = names.free(propose.name(group))
        tokens.append(Token(sort, name, group.value, places))
    used = set(pinned.values())
    return _sorted(sort, tokens), [name for name in pins if name not in used]


def _pinned(sort: Sort, groups: Sequence[Group], pins: Pins) -> dict[int, str]:
    """The name of each group, by number, that has one: equal values first, then near colours."""
    result: dict[int, str] = {}
    for name, value in pins.items():
        for index, group in enumerate(groups):
            if index not in result and spelled(sort, group.value) == value:
                result[index] = name
                break
    if sort is not Sort.COLOR:
        return result
    for name, value in pins.items():
        if name in result.values():
            continue
        near = [
            (apart(str(group.value), value), index)
            for index, group in enumerate(groups)
            if index not in result
        ]
        if near and min(near)[0] < ALIKE:
            result[min(near)[1]] = name
    return result


def _ordered(places: Sequence[Place]) -> tuple[Place, ...]:
    """Places by how usual their role is."""
    counts = Counter(place.role for place in places)
    return tuple(sorted(places, key=lambda place: (-counts[place.role], place.role)))


class _Proposing:
    """Names for the values of one sort by what they are used for, several of which may be one."""

    def __init__(self, sort: Sort, groups: Sequence[Group]) -> None:
        self._sort = sort
        self._types = [group.value for group in groups if isinstance(group.value, Type)]
        self._by_size: dict[float, list[Type]] = {}
        for type_ in self._types:
            self._by_size.setdefault(type_.size, []).append(type_)
        self._first = dict[int, str]()
        if sort is Sort.COLOR:
            self._first = dict(_most_used(groups))

    def name(self, group: Group) -> str:
        """The name of a value."""
        value = group.value
        match self._sort:
            case Sort.COLOR:
                return self._first.get(id(group)) or name_of(str(value))
            case Sort.TYPE if isinstance(value, Type):
                return self._type(value)
            case Sort.WIDTH if group.places[0].role == "content":
                return "content"
            case Sort.RADIUS if value == "round":
                return "round"
            case Sort.SHADOW if isinstance(value, tuple):
                return f"{max(shadow.blur for shadow in value):.0f}"
        return f"{value:g}".replace(".", "-") if isinstance(value, float) else str(value)

    def _type(self, value: Type) -> str:
        """By its size beside the text that there is most of; weight and slant where these tell."""
        body = self._types[0]
        if value == body:
            return "body"
        sort = next(name for least, name in SIZES if value.size > least * body.size)
        same = [type_ for type_ in self._by_size[value.size] if type_ not in (value, body)]
        parts = [sort, f"{value.size:g}".replace(".", "-"), *_beside(value, same)]
        return "-".join(parts)


def _most_used(groups: Sequence[Group]) -> Iterator[tuple[int, str]]:
    """The colour of most text and that of the largest ground, by identity, with these names."""
    for name, role in (("text", "text"), ("ground", "ground")):
        counts = [sum(place.role == role for place in group.places) for group in groups]
        most = max(counts, default=0)
        if most:
            yield id(groups[counts.index(most)]), name


def _beside(value: Type, same: Sequence[Type]) -> Iterator[str]:
    """What tells a type from those of the same size."""
    if value.weight != 400 and any(type_.weight != value.weight for type_ in same):
        yield "bold" if value.weight == 700 else str(value.weight)
    if value.style != "normal" and any(type_.style != value.style for type_ in same):
        yield value.style


class _Names:
    """Names that are taken, for one sort."""

    def __init__(self, taken: Iterable[str]) -> None:
        self._taken = set(taken)
        self._more: dict[str, Iterator[str]] = {}

    def free(self, name: str) -> str:
        """The name, or with a letter or a number where it is taken; it is taken from now on."""
        if name not in self._more:
            letters = (f"{name}-{letter}" for letter in "bcdefghijklmnopqrstuvwxyz")
            numbered = (f"{name}-{number}" for number in count(2))
            self._more[name] = chain((name,), letters, numbered)
        found = next(item for item in self._more[name] if item not in self._taken)
        self._taken.add(found)
        return found


def _sorted(sort: Sort, tokens: list[Token]) -> list[Token]:
    """Colours by use, the rest by size, from the smallest; type from the largest."""
    return sorted(tokens, key=lambda token: (_rank(sort, token), token.name))


def _rank(sort: Sort, token: Token) -> float:
    value: Value = token.value
    match value:
        case Type():
            return -value.size
        case float():
            return value
        case tuple():
            return max(shadow.blur for shadow in value)
    if sort is not Sort.COLOR:
        return math.inf  # what is round, behind all radii
    return -len(token.places) * (1 if alpha(value) == 1 else 0.5)
