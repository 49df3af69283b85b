"""Values at places -> tokens: equal ones as one, what was fitted to pixels with what it is near."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace

from riffler.tokens.palette import ALIKE, apart, lab
from riffler.tokens.token import Near, Place, Sighting, Sort, Token, Type, Value

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

    def add(self, seen: Sighting) -> None:
        """One more place."""
        self.weight += seen.weight
        if seen.place not in self._known:
            self._known.add(seen.place)
            self.places.append(seen.place)


def collected(seen: Iterable[Sighting]) -> dict[Sort, list[Group]]:
    """Values by sort, the most used first; of spaces and widths those that come again."""
    sightings = list(seen)
    groups = {
        sort: _groups([sighting for sighting in sightings if sighting.sort is sort])
        for sort in Sort
    }
    for sort in (Sort.SPACE, Sort.WIDTH):
        groups[sort] = [
            group
            for group in groups[sort]
            if group.weight >= OFTEN or group.places[0].role in ("content", "width")
        ]
    return groups


def _groups(seen: Sequence[Sighting]) -> list[Group]:
    groups: dict[Value, Group] = {}
    steps: dict[Value, Value] = {}
    for sighting in seen:
        if isinstance(sighting.value, Type) and sighting.value.line_height:
            steps.setdefault(replace(sighting.value, line_height=None), sighting.value)
    # the type of a single line, with the line height of equal ones of several lines
    seen = [replace(sighting, value=steps.get(sighting.value, sighting.value)) for sighting in seen]
    for sighting in seen:
        if sighting.is_exact:
            groups.setdefault(sighting.value, Group(sighting.value)).add(sighting)
    for sighting in seen:
        if not sighting.is_exact:
            far = SHADED if sighting.place.role in SHADES else FITTED
            value = _home(sighting.value, groups, far)
            groups.setdefault(value, Group(value)).add(sighting)
    return sorted(groups.values(), key=lambda group: (-group.weight, repr(group.value)))


def _home(value: Value, groups: dict[Value, Group], far: float) -> Value:
    """The value that one which was fitted to pixels stands for, unless all are far from it."""
    if value in groups or not (isinstance(value, str) and value.startswith("#")):
        return value
    near = (
        (apart(value, other_group), str(other_group))
        for other_group in groups
        if isinstance(other_group, str)
    )
    off, nearest = min(near, default=(far, value))
    return nearest if off < far else value


def near_ones(tokens: Sequence[Token]) -> list[Near]:
    """Pairs of one sort that are probably meant to be one value."""
    result: list[tuple[int, int]] = []
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
        result += _near_pairs(tokens, points, ALIKE if sort is Sort.COLOR else BESIDE)
    pairs = ((tokens[first], tokens[second]) for first, second in sorted(result))
    return [Near(*sorted(pair, key=lambda token: -len(token.places))) for pair in pairs]


def _near_pairs(
    tokens: Sequence[Token], points: Mapping[int, float], far: float
) -> Iterator[tuple[int, int]]:
    """Pairs that are near, by number: only those are compared whose point on a line is so near."""
    order = sorted(points, key=lambda at: points[at])
    for place, first in enumerate(order):
        for second in order[place + 1 :]:
            if points[second] - points[first] > far:
                break
            if _is_near(tokens[first], tokens[second]):
                yield min(first, second), max(first, second)


def _is_near(first: Token, second: Token) -> bool:
    if first.sort is Sort.COLOR:
        return apart(str(first.value), str(second.value)) < ALIKE
    return abs(float(str(first.value)) - float(str(second.value))) <= BESIDE
