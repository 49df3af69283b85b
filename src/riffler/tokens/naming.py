"""Values -> tokens under names: a person's from `riffler.toml`, else by what they are used for."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Mapping, Sequence

from riffler.tokens.collecting import Group
from riffler.tokens.model import Place, Sort, Token, Type, Value
from riffler.tokens.palette import ALIKE, alpha, apart, name_of
from riffler.tokens.spelling import spelled

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
        found, left = _of_sort(sort, groups.get(sort, ()), pins.get(sort, {}))
        tokens += found
        unused += [(sort, name) for name in left]
    return tokens, unused


def _of_sort(sort: Sort, groups: Sequence[Group], pins: Pins) -> tuple[list[Token], list[str]]:
    pinned = _pinned(sort, groups, pins)
    taken = set(pins)
    tokens = []
    for index, group in enumerate(groups):
        places = _ordered(group.places)
        if index in pinned:
            name = pinned[index]
            said = None if spelled(sort, group.value) == pins[name] else pins[name]
            tokens.append(Token(sort, name, group.value, places, True, said))
            continue
        name = _free(_proposed(sort, group, groups), taken)
        taken.add(name)
        tokens.append(Token(sort, name, group.value, places))
    used = set(pinned.values())
    return _sorted(sort, tokens), [name for name in pins if name not in used]


def _pinned(sort: Sort, groups: Sequence[Group], pins: Pins) -> dict[int, str]:
    """The name of each group, by number, that has one: equal values first, then near colours."""
    found: dict[int, str] = {}
    for name, value in pins.items():
        for index, group in enumerate(groups):
            if index not in found and spelled(sort, group.value) == value:
                found[index] = name
                break
    if sort is not Sort.COLOR:
        return found
    for name, value in pins.items():
        if name in found.values():
            continue
        near = [
            (apart(str(group.value), value), index)
            for index, group in enumerate(groups)
            if index not in found
        ]
        if near and min(near)[0] < ALIKE:
            found[min(near)[1]] = name
    return found


def _ordered(places: Sequence[Place]) -> tuple[Place, ...]:
    """Places by how usual their role is."""
    roles = [place.role for place in places]
    return tuple(sorted(places, key=lambda place: (-roles.count(place.role), place.role)))


def _proposed(sort: Sort, group: Group, groups: Sequence[Group]) -> str:
    value = group.value
    match sort:
        case Sort.COLOR:
            return _color(group, groups)
        case Sort.TYPE if isinstance(value, Type):
            return _type(value, groups)
        case Sort.WIDTH if group.places[0].role == "content":
            return "content"
        case Sort.RADIUS if value == "round":
            return "round"
        case Sort.SHADOW if isinstance(value, tuple):
            return f"{max(shadow.blur for shadow in value):.0f}"
    return f"{value:g}".replace(".", "-") if isinstance(value, float) else str(value)


def _color(group: Group, groups: Sequence[Group]) -> str:
    """The colour of most text and of the largest ground by those, others by how they look."""
    for name, role in (("ground", "ground"), ("text", "text")):
        counts = [len([place for place in one.places if place.role == role]) for one in groups]
        if max(counts) and groups[counts.index(max(counts))] is group:
            return name
    return name_of(str(group.value))


def _type(value: Type, groups: Sequence[Group]) -> str:
    """By its size beside the text that there is most of; weight and slant where these tell."""
    types = [group.value for group in groups if isinstance(group.value, Type)]
    body = types[0]
    if value == body:
        return "body"
    sort = next(name for least, name in SIZES if value.size > least * body.size)
    same = [one for one in types if one.size == value.size and one not in (value, body)]
    parts = [sort, f"{value.size:g}".replace(".", "-"), *_beside(value, same)]
    return "-".join(parts)


def _beside(value: Type, same: Sequence[Type]) -> Iterator[str]:
    """What tells a type from those of the same size."""
    if value.weight != 400 and any(one.weight != value.weight for one in same):
        yield "bold" if value.weight == 700 else str(value.weight)
    if value.style != "normal" and any(one.style != value.style for one in same):
        yield value.style


def _free(name: str, taken: Iterable[str]) -> str:
    """The name, or with a letter where it is taken."""
    letters = (f"{name}-{letter}" for letter in "bcdefghijklmnopqrstuvwxyz")
    numbered = (f"{name}-{number}" for number in range(2, 10_000))
    every = (name, *letters, *numbered)
    return next(one for one in every if one not in set(taken))


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
