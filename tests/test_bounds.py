"""What grew with the square of a page grows with it: the quick answers are those of all pairs."""

from __future__ import annotations

from itertools import combinations

from hypothesis import given, settings
from hypothesis import strategies as some

from riffler.mockup.model import Layer, LayerKind
from riffler.reading import layer_names, twins
from riffler.tokens.collecting import BESIDE, near_ones
from riffler.tokens.palette import ALIKE, apart
from riffler.tokens.token import Place, Sort, Token

COLORS = some.tuples(*[some.sampled_from((0, 6, 7, 12, 250, 255))] * 3).map(
    lambda rgb: "#{:02x}{:02x}{:02x}".format(*rgb)
)


@settings(max_examples=60)
@given(
    some.sets(COLORS, max_size=14),
    some.sets(some.sampled_from((1.0, 1.5, 2.5, 8.0, 9.1)), max_size=5),
)
def test_values_that_are_nearly_the_same(colors: set[str], spaces: set[float]) -> None:
    values: list[tuple[Sort, str | float]] = [(Sort.COLOR, one) for one in sorted(colors)]
    values += [
        (sort, one) for sort in (Sort.SPACE, Sort.RADIUS, Sort.WIDTH) for one in sorted(spaces)
    ]
    tokens = [
        Token(sort, str(n), value, (Place("m.svg", f"l{n}", "text"),) * (1 + n % 3))
        for n, (sort, value) in enumerate(values)
    ]

    def is_near(one: Token, other: Token) -> bool:
        if one.sort is not other.sort or one.sort is Sort.WIDTH:
            return False
        if one.sort is Sort.COLOR:
            return apart(str(one.value), str(other.value)) < ALIKE
        return abs(float(str(one.value)) - float(str(other.value))) <= BESIDE

    pairs = [
        {one.name, other.name} for one, other in combinations(tokens, 2) if is_near(one, other)
    ]
    found = near_ones(tokens)
    assert [{near.usual.name, near.slip.name} for near in found] == pairs
    assert all(len(near.usual.places) >= len(near.slip.places) for near in found)


PARTS = some.tuples(
    some.sampled_from(("", "glow", "Layer 3")),
    some.integers(0, 6),
    some.integers(0, 1),
    some.booleans(),
)


@settings(max_examples=80)
@given(some.lists(some.lists(PARTS, min_size=1, max_size=3), min_size=1, max_size=6))
def test_twins_are_those_of_all_pairs(row: list[list[tuple[str, int, int, bool]]]) -> None:
    owners, lie = [], {}
    for n, parts in enumerate(row):
        children = []
        for m, (name, x, look, visible) in enumerate(parts):
            address = f"{n}/{m}"
            children.append(Layer(address, name, LayerKind.PIXELS, visible=visible))
            lie[address] = (x, 0, 5, 5), look
        owners.append(Layer(f"{n}", "", LayerKind.GROUP, children=tuple(children)))
    says = layer_names.says_something

    def alike(one: Layer, other: Layer) -> bool:
        if says(one) and says(other):
            return one.name == other.name
        (place, look), (there, looks) = lie[one.address], lie[other.address]
        return abs(place[0] - there[0]) <= twins.NEAR and look == looks

    made = twins.Twins.__new__(twins.Twins)
    made.note(1.0, [
        (n, part, says(part), *lie[part.address])
        for n, owner in enumerate(owners) for part in owner.children
    ])  # fmt: skip
    for owner in owners:
        for part in owner.children:
            others = [twin for other in owners if other is not owner for twin in other.children
                      if alike(part, twin)]  # fmt: skip
            assert made.of(part) == (len(others), sum(twin.visible for twin in others))
