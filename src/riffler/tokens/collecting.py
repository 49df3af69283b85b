"""Values at places -> tokens: equal ones as one, what was fitted to pixels with what it is near."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field, replace
from itertools import combinations

from riffler.tokens.model import Near, Place, Seen, Sort, Token, Type, Value
from riffler.tokens.palette import ALIKE, apart

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

    def add(self, seen: Seen) -> None:
        """One more place."""
        self.weight += seen.weight
        if seen.place not in self.places:
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
    seen = [replace(one, value=_with_step(one.value, seen)) for one in seen]
    for one in seen:
        if one.is_exact:
            groups.setdefault(one.value, Group(one.value)).add(one)
    for one in seen:
        if not one.is_exact:
            far = SHADED if one.place.role in SHADES else FITTED
            value = _home(one.value, groups, far)
            groups.setdefault(value, Group(value)).add(one)
    return sorted(groups.values(), key=lambda group: (-group.weight, repr(group.value)))


def _with_step(value: Value, seen: Sequence[Seen]) -> Value:
    """The type of a single line, with the line height of equal ones of several lines."""
    if not isinstance(value, Type) or value.line_height is not None:
        return value
    others = (one.value for one in seen if isinstance(one.value, Type) and one.value.line_height)
    return next((one for one in others if replace(one, line_height=None) == value), value)


def _home(value: Value, groups: dict[Value, Group], far: float) -> Value:
    """The value that one which was fitted to pixels stands for, unless all are far from it."""
    if value in groups or not (isinstance(value, str) and value.startswith("#")):
        return value
    near = ((apart(value, other), str(other)) for other in groups if isinstance(other, str))
    off, nearest = min(near, default=(far, value))
    return nearest if off < far else value


def near_ones(tokens: Sequence[Token]) -> list[Near]:
    """Pairs of one sort that are probably meant to be one value."""
    found = []
    for one, other in combinations(tokens, 2):
        if one.sort is not other.sort or not _is_near(one, other):
            continue
        usual, slip = sorted((one, other), key=lambda token: -len(token.places))
        found.append(Near(usual, slip))
    return found


def _is_near(one: Token, other: Token) -> bool:
    if one.sort is Sort.COLOR:
        if any(set(token.roles) <= set(SHADES) for token in (one, other)):
            return False
        return apart(str(one.value), str(other.value)) < ALIKE
    if isinstance(one.value, float) and isinstance(other.value, float):
        return one.sort in (Sort.RADIUS, Sort.SPACE) and abs(one.value - other.value) <= BESIDE
    return False
