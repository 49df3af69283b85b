"""Names, addresses and which layers show: the rules, case by case."""

from __future__ import annotations

import pytest

from making import Flat, write_ora
from riffler.cutlist.shown import painting, switched
from riffler.errors import AddressError
from riffler.mockup import address
from riffler.mockup.model import Mockup
from riffler.mockup.opening import open_mockup

HIDDEN = {"visibility": "hidden"}


@pytest.fixture(scope="module")
def mockup(tmp_path_factory: pytest.TempPathFactory) -> Mockup:
    path = tmp_path_factory.mktemp("m") / "m.ora"
    layers = [
        Flat("titles", inside=[Flat("head"), Flat("deep", inside=[Flat("line")])]),
        Flat(
            "nav",
            inside=[Flat("label"), Flat("glow", more=HIDDEN), Flat("marker", more=HIDDEN)],
        ),
        Flat("states", more=HIDDEN, inside=[Flat("a"), Flat("b", more=HIDDEN)]),
        Flat("card", inside=[Flat("shadow")]),
        Flat("card", inside=[Flat("shadow"), Flat("shadow")]),
        Flat("a/b"),
        Flat("50 % * ?"),
        Flat("kind:words"),
        Flat("art#2"),
        Flat(),
        Flat("  two\n words "),
        Flat(),
    ]
    return open_mockup(write_ora(path, (20, 20), layers)).marked(
        frozenset({"titles/head", "titles/deep/line", "titles"}), frozenset()
    )


def test_addresses_as_listed(mockup: Mockup) -> None:
    assert list(mockup.by_address) == [
        "titles", "titles/head", "titles/deep", "titles/deep/line",
        "nav", "nav/label", "nav/glow", "nav/marker",
        "states", "states/a", "states/b",
        "card", "card/shadow", "card#2", "card#2/shadow", "card#2/shadow#2",
        r"a\/b", r"50 % \* \?", r"kind\:words", r"art\#2",
        "pixels#1", "two words", "pixels#2",
    ]  # fmt: skip


@pytest.mark.parametrize(
    "pattern, expected",
    [
        ("nav/glow", ["nav/glow"]),
        ("card", ["card"]),
        ("card#2", ["card#2"]),
        ("nav/*", ["nav/label", "nav/glow", "nav/marker"]),
        ("nav/*l*", ["nav/label", "nav/glow"]),
        ("c?rd", ["card", "card#2"]),
        ("**/shadow", ["card/shadow", "card#2/shadow", "card#2/shadow#2"]),
        ("titles/**", ["titles/head", "titles/deep", "titles/deep/line"]),
        ("**/line", ["titles/deep/line"]),
        (r"a\/b", [r"a\/b"]),
        (r"50*\*?\?", [r"50 % \* \?"]),
        (r"kind\:words", [r"kind\:words"]),
        ("kind:words", ["titles/head", "titles/deep/line"]),
        ("kind:group", ["titles", "titles/deep", "nav", "states", "card", "card#2"]),
        ("pixels#2", ["pixels#2"]),
        ("two words", ["two words"]),
    ],
)
def test_what_a_pattern_means(mockup: Mockup, pattern: str, expected: list[str]) -> None:
    assert address.find(mockup, pattern) == expected


@pytest.mark.parametrize(
    "pattern, advice",
    [
        ("nav/glwo", '"nav/glow"'),
        ("glow", '"nav/glow"'),
        ("kind:word", '"words"'),
        ("card#3", '"card#2"'),
        ("zzz*", "riffler look"),
        ("*a" * 40 + "b", "riffler look"),
        ("**/" * 40 + "x", "riffler look"),
        ("", "riffler look"),
    ],
)
def test_no_match_names_the_nearest(mockup: Mockup, pattern: str, advice: str) -> None:
    with pytest.raises(AddressError) as caught:
        address.find(mockup, pattern)
    assert advice in caught.value.advice


@pytest.mark.parametrize(
    "keys, paints, does_not",
    [
        ({}, ["nav/label", "card/shadow"], ["nav/glow", "states/a"]),
        ({"show": ["nav/glow"]}, ["nav/glow", "nav/label"], ["nav/marker"]),
        ({"hide": ["nav"]}, ["card"], ["nav", "nav/label"]),
        ({"show": ["nav/glow"], "hide": ["nav/*"]}, ["nav"], ["nav/glow", "nav/label"]),
        ({"show": ["states/b"]}, ["states", "states/a", "states/b"], []),
        ({"show": ["states"]}, ["states/a"], ["states/b"]),
        ({"only": ["nav"]}, ["nav", "nav/label"], ["nav/glow", "card", "titles"]),
        ({"only": ["nav/glow"]}, ["nav", "nav/glow"], ["nav/label"]),
        ({"only": ["states"]}, ["states", "states/a"], ["states/b", "nav"]),
        ({"only": ["nav"], "show": ["card#2/shadow"]}, ["nav/label", "card#2/shadow"], ["card"]),
        ({"only": ["titles"], "hide": ["kind:words"]}, ["titles/deep"], ["titles/head"]),
        ({"only": []}, [], ["nav", "card"]),
        ({"hide": ["kind:group"]}, [r"a\/b"], ["nav/label", "titles/head"]),
    ],
)
def test_which_layers_show(
    mockup: Mockup, keys: dict[str, list[str]], paints: list[str], does_not: list[str]
) -> None:
    shown = painting(mockup, switched(mockup, mockup.drawn, **keys))
    assert set(paints) <= shown
    assert not shown & set(does_not)


def test_a_state_switches_after_the_slice(mockup: Mockup) -> None:
    rest = switched(mockup, mockup.drawn, hide=["nav/glow", "nav/label"])
    hover = switched(mockup, rest, show=["nav/glow"])
    assert painting(mockup, hover) - painting(mockup, rest) == {"nav/glow"}
    alone = switched(mockup, rest, only=["card"])
    assert painting(mockup, alone) == {"card", "card/shadow"}
