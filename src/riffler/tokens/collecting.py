"""Values at places -> tokens: equal ones as one, what was fitted to pixels with what it is near."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace

from riffler.tokens.model import Near, Place, Seen, Sort, Token, Type, Value
from riffler.tokens.palette import ALIKE, apart, lab

#: How far a colour that was fitted to pixels may be off, in Oklab: about two steps of 8 bits.
FITTED = 0.012

#: The same of what stands for a part of a drawing, whose colour is one of many; and its roles.
SHADED, SHADES = 0.05, ("drawing", "picture", "gradient", "texture")

#: Radii and spaces so near each other that one is probably a slip, in CSS pixels.
BESIDE = 1.0

#: Times that a space or a width is there, from which it is no chance.
OFTEN = 2


@dataclass
class Group:
    """A value, how much it is used, and where."""

    value: Value
    places: list[Place] = field(default_factory=list)
    weight: float = 0.0
    _known: set[Place] = field(default_factory=set)

    def add(self, seen: Seen) -> None:
        """One more place."""
        self.weight += seen.weight
        if seen.place not in self._known:
            self._known.add(seen.place)
            self.places.append(seen.place)


def collected(seen: Iterable[Seen]) -> dict[Sort, list[Group]]:
    """Values by sort, the most used first; of spaces and widths those that come again."""
    every = list(seen)
    found = {sort: _groups([one for one in every if one.sort is sort]) for sort in Sort}
    for sort in (Sort.SPACE, Sort.WIDTH):
        found[sort] = [
            group
            for group in found[sort]
            if group.weight >= OFTEN or group.places[0].role in ("content", "width")
        ]
    return found


def _groups(seen: Sequence[Seen]) -> list[Group]:
    groups: dict[Value, Group] = {}
    steps: dict[Value, Value] = {}
    for one in seen:
        if isinstance(one.value, Type) and one.value.line_height:
            steps.setdefault(replace(one.value, line_height=None), one.value)
    # the type of a single line, with the line height of equal ones of several lines
    seen = [replace(one, value=steps.get(one.value, one.value)) for one in seen]
    for one in seen:
        if one.is_exact:
            groups.setdefault(one.value, Group(one.value)).add(one)
    for one in seen:
        if not one.is_exact:
            far = SHADED if one.place.role in SHADES else FITTED
            value = _home(one.value, groups, far)
            groups.setdefault(value, Group(value)).add(one)
    return sorted(groups.values(), key=lambda group: (-group.weight, repr(group.value)))


def _home(value: Value, groups: dict[Value, Group], far: float) -> Value:
    """The value that one which was fitted to pixels stands for, unless all are far from it."""
    if value in groups or not (isinstance(value, str) and value.startswith("#")):
        return value
    near = ((apart(value, other), str(other)) for other in groups if isinstance(other, str))
    off, nearest = min(near, default=(far, value))
    return nearest if off < far else value


def near_ones(tokens: Sequence[Token]) -> list[Near]:
    """Pairs of one sort that are probably meant to be one value."""
    found: list[tuple[int, int]] = []
    for sort in Sort:
        own = [at for at, token in enumerate(tokens) if token.sort is sort]
        if sort is Sort.COLOR:
            own = [at for at in own if not set(tokens[at].roles) <= set(SHADES)]
            points = {at: lab(str(tokens[at].value))[0] for at in own}
        elif sort in (Sort.RADIUS, Sort.SPACE):
            lengths = ((at, tokens[at].value) for at in own)
            points = {at: value for at, value in lengths if isinstance(value, float)}
        else:
            continue
        found += _near_pairs(tokens, points, ALIKE if sort is Sort.COLOR else BESIDE)
    pairs = ((tokens[one], tokens[other]) for one, other in sorted(found))
    return [Near(*sorted(pair, key=lambda token: -len(token.places))) for pair in pairs]


def _near_pairs(
    tokens: Sequence[Token], points: Mapping[int, float], far: float
) -> Iterator[tuple[int, int]]:
    """Pairs that are near, by number: only those are compared whose point on a line is so near."""
    order = sorted(points, key=lambda at: points[at])
    for place, one in enumerate(order):
        for other in order[place + 1 :]:
            if points[other] - points[one] > far:
                break
            if _is_near(tokens[one], tokens[other]):
                yield min(one, other), max(one, other)


def _is_near(one: Token, other: Token) -> bool:
    if one.sort is Sort.COLOR:
        return apart(str(one.value), str(other.value)) < ALIKE
    return abs(float(str(one.value)) - float(str(other.value))) <= BESIDE
