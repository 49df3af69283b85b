"""Parts of comparing pages by themselves: what pushes what, values as they are written, words for it."""

from __future__ import annotations

import re
import subprocess
from dataclasses import replace
from pathlib import Path
from types import SimpleNamespace
from typing import Any

import numpy as np
import numpy.typing as npt
import pytest
from hypothesis import given, settings
from hypothesis import strategies as some

from making import Flat, write_ora, write_project
from riffler.analyse.style import Border, Radii, Shadow, Stop, Style
from riffler.analyse.thumbnails import content, thumbs, unlike
from riffler.errors import RifflerError
from riffler.fit import in_sight, of_pictures
from riffler.fit.browser import address_of, name_of
from riffler.fit.causes import Root, roots
from riffler.fit.declarations import Declaration, offset, range_of
from riffler.fit.expected import ExpectedThing, ThingKind
from riffler.fit.fault import Difference, Fault, Placed
from riffler.fit.likeness import beyond, edges, moved, stepped
from riffler.fit.lines import split
from riffler.fit.of_boxes import box
from riffler.fit.of_pictures import hugged
from riffler.fit.of_words import words
from riffler.fit.page_fit import FitFinding, PageFit, gathered
from riffler.fit.pairing import NEVER, assigned, distance
from riffler.fit.remedies import Remedy
from riffler.fit.said import PageSaid
from riffler.fit.seen import (
    Node,
    SeenBox,
    SeenLine,
    SeenPage,
    SeenText,
    colors_in,
    hexadecimal,
    lengths_in,
    selector_of,
    texts_of,
)  # fmt: skip
from riffler.fit.values import instead, lengths, wider
from riffler.geometry import Rect
from riffler.markup.setting import SetLine, Setting, Type
from riffler.project.project import Project
from riffler.report.page_fit import patch, phrases, show
from riffler.report.screen import Screen
from riffler.report.versus import RAMP
from riffler.report.versus import difference as drawn_difference
from riffler.workspace import Workspace
from riffler.workspace.pages import page_of, source_of

BLANK = np.zeros((4, 4, 4), np.uint8)


def seen(*parents: int, tags: str = "") -> SeenPage:
    """A page whose elements have these parents; each is called by its number."""
    named = tags.split() or ["div"] * len(parents)
    nodes = tuple(
        Node(tag, (f"e{n}",), "", parent, Rect(0, 0, 1, 1))
        for n, (parent, tag) in enumerate(zip(parents, named, strict=True))
    )
    return SeenPage(nodes, (), (), (), 100, 100, 1.0, BLANK)


def thing(name: str, x: float, y: float, width: float = 100, height: float = 40) -> ExpectedThing:
    return ExpectedThing(name, ThingKind.BOX, Rect(x, y, width, height))


def off(
    number: int, what: ExpectedThing, *, element: int = -2, dx: float = 0, dy: float = 0,
    dw: float = 0, dh: float = 0, faults: tuple[Fault, ...] = (),
) -> Placed:  # fmt: skip
    """A thing with what is off; its element has the next number unless said."""
    box = Rect(what.box.x + dx, what.box.y + dy, what.box.width + dw, what.box.height + dh)
    differences = tuple(Difference(fault) for fault in faults)
    at = number + 1 if element == -2 else element
    return Placed(number, what, box, at, dx, dy, dw, dh, differences)


TOP, SIDE, UNDER, LAST = (
    thing("top", 0, 0), thing("side", 120, 0), thing("under", 0, 60), thing("last", 0, 120)
)  # fmt: skip

#: What is off, on a body with four elements or as `parents` say; the roots with their followers.
PUSHED: list[tuple[str, list[Placed], tuple[int, ...], dict[str, list[str]]]] = [
    ("nothing", [off(0, TOP), off(1, UNDER)], (), {}),
    ("less than half a pixel", [off(0, TOP, dy=0.4), off(1, UNDER, dx=-0.5)], (), {}),
    ("one of two", [off(0, TOP), off(1, UNDER, dy=3)], (), {"under": []}),
    ("what grows pushes what is under it",
     [off(0, TOP, dh=30), off(1, UNDER, dy=30), off(2, LAST, dy=30)], (), {"top": ["under", "last"]}),
    ("what is pushed otherwise does not follow",
     [off(0, TOP, dh=30), off(1, UNDER, dy=30), off(2, LAST, dy=12)], (),
     {"top": ["under"], "last": []}),
    ("what lies before does not follow",
     [off(0, UNDER, dy=7), off(1, TOP, dy=7)], (), {"top": [], "under": []}),
    ("what is wide pushes what is beside it",
     [off(0, TOP, dw=10), off(1, SIDE, dx=10)], (), {"top": ["side"]}),
    ("both ways have reasons, or it is a root",
     [off(0, TOP, dh=30), off(1, UNDER, dy=30, dx=4)], (), {"top": [], "under": []}),
    ("what is in a box moves with it",
     [off(0, TOP, dx=5, dy=5), off(1, thing("in", 10, 10, 20, 20), dx=5, dy=5)],
     (-1, 0, 1, 0, 0), {"top": ["in"]}),
    ("a box grows by what is in it",
     [off(0, thing("box", 0, 0, 100, 100), dh=20),
      off(1, thing("in", 10, 10, 20, 20), dh=20, faults=(Fault.BREAKS,))],
     (-1, 0, 1, 0, 0), {"in": ["box"]}),
    ("a word that wraps pushes all, and its row",
     [off(0, thing("word", 0, 0), element=2, dh=20, faults=(Fault.BREAKS,)),
      off(1, SIDE, element=3, dx=-150), off(2, UNDER, element=4, dy=20)],
     (-1, 0, 1, 1, 0), {"word": ["side", "under"]}),
    ("what is missing leaves its room",
     [off(0, TOP, element=-1, faults=(Fault.MISSING,)), off(1, UNDER, dy=-52)], (),
     {"top": ["under"]}),
    ("too much room is not that of what is missing",
     [off(0, TOP, element=-1, faults=(Fault.MISSING,)), off(1, UNDER, dy=-400)], (),
     {"top": [], "under": []}),
    ("steps in a row add up",
     [off(0, TOP), off(1, SIDE, dx=5), off(2, thing("third", 240, 0), dx=10),
      off(3, thing("fourth", 360, 0), dx=15)], (), {"side": ["third", "fourth"]}),
    ("another colour does not push",
     [off(0, TOP, faults=(Fault.COLOR,)), off(1, UNDER, dy=3)], (), {"top": [], "under": []}),
    ("what is carried along and of another colour is both",
     [off(0, TOP, dh=30), off(1, UNDER, dy=30, faults=(Fault.COLOR,)), off(2, LAST, dy=30)], (),
     {"top": ["under", "last"], "under": []}),
    ("what a still box holds does not follow from outside",
     [off(0, TOP, dy=1), off(1, thing("still", 0, 60, 100, 100)),
      off(2, thing("in", 10, 70, 20, 20), dy=1)],
     (-1, 0, 0, 2, 0), {"top": [], "in": []}),
    ("a text breaks otherwise in a box of another width",
     [off(0, thing("box", 0, 0, 100, 100), dw=-20),
      off(1, thing("in", 10, 10, 20, 20), dh=20, faults=(Fault.BREAKS,))],
     (-1, 0, 1, 0, 0), {"box": ["in"]}),
    ("the room between takes a part of a push",
     [off(0, TOP, element=2, dy=24), off(1, UNDER, element=3, dy=22), off(2, LAST, element=4, dy=12)],
     (-1, 0, 1, 1, 1), {"top": ["under"], "last": []}),
    ("what stands in the middle of a row goes half as far",
     [off(0, TOP, element=2, dy=24), off(1, SIDE, element=3, dy=11.5)],
     (-1, 0, 1, 1), {"top": ["side"]}),
    ("a box with room to spare grows by less than what is pushed in it",
     [off(0, thing("box", 0, 0, 100, 100), dh=16), off(1, thing("in", 10, 10, 20, 20), dy=18)],
     (-1, 0, 1), {"in": ["box"]}),
    ("a box that shrinks does not follow what is pushed in it",
     [off(0, thing("box", 0, 0, 100, 100), dh=-16), off(1, thing("in", 10, 10, 20, 20), dy=18)],
     (-1, 0, 1), {"box": [], "in": []}),
    ("things that changed places",
     [off(0, thing("a", 0, 0), dx=120), off(1, thing("b", 120, 0), dx=-120)], (),
     {"a": [], "b": []}),
]  # fmt: skip


@pytest.mark.parametrize("placed, parents, expected", [row[1:] for row in PUSHED],
                         ids=[row[0] for row in PUSHED])  # fmt: skip
def test_what_pushes_and_what_follows(
    placed: list[Placed], parents: tuple[int, ...], expected: dict[str, list[str]]
) -> None:
    found = roots(placed, seen(*(parents or (-1, 0, 0, 0, 0))))
    assert {
        one.placed.thing.name: [other.thing.name for other in one.followers] for one in found
    } == expected


def test_changed_places_are_said_of_both() -> None:
    placed = [off(0, thing("a", 0, 0), dx=120), off(1, thing("b", 120, 0), dx=-120)]
    found = [one.placed for one in roots(placed, seen(-1, 0, 0))]
    assert [(one.differences[0].fault, one.differences[0].wanted, one.dx) for one in found] == [
        (Fault.SWAPPED, "b", 0), (Fault.SWAPPED, "a", 0),
    ]  # fmt: skip


def test_what_lies_under_something_moved_is_not_called_covered() -> None:
    under = off(0, thing("under", 0, 0), faults=(Fault.COVERED,))
    assert [one.placed.thing.name for one in roots([under], seen(-1, 0))] == ["under"]
    mover = off(1, thing("mover", 300, 0), dx=-280)
    assert [one.placed.thing.name for one in roots([under, mover], seen(-1, 0, 0))] == ["mover"]


@given(some.lists(some.sampled_from([0.0, 3.0, 12.0, -7.0]), min_size=1, max_size=8))
def test_everything_that_is_off_is_listed_once(shifts: list[float]) -> None:
    placed = [off(n, thing(f"t{n}", 0, 60 * n), dy=by) for n, by in enumerate(shifts)]
    found = roots(placed, seen(-1, *[0] * len(shifts)))
    named = [one.number for root in found for one in (root.placed, *root.followers)]
    assert sorted(named) == [n for n, by in enumerate(shifts) if by]


COLORS = [
    ("rgb(255, 250, 240)", "#fffaf0"), ("rgba(0, 0, 0, 0)", "#00000000"),
    ("rgba(60, 40, 10, 0.5)", "#3c280a80"), ("color(srgb 1 0.5 0)", "#ff8000"),
    ("rgb(1 2 3 / 0.2)", "#01020333"), ("transparent", "#00000000"),
]  # fmt: skip


@pytest.mark.parametrize("said, expected", COLORS)
def test_computed_colours(said: str, expected: str) -> None:
    assert hexadecimal(said) == expected


def test_what_a_computed_value_names() -> None:
    shadow = "rgba(0, 0, 0, 0.28) 0px 2px 18px 0px, rgb(9, 9, 9) 1px 1px 2px 0px inset"
    assert colors_in(shadow) == ["#00000047", "#090909"]
    assert lengths_in(shadow) == [0, 2, 18, 0, 1, 1, 2, 0]
    assert colors_in("none") == []


def declared(
    name: str, value: str, body: str = "", file: str = "a.css", line: int = 1
) -> Declaration:
    body = body or f"{name}: {value}"
    start = body.index(name)
    return Declaration(file, line, ".a", name, value, "1", body, start, len(body), {})


INSTEAD = [
    (Fault.COLOR, "#c9b6e4", "#fffdf8", "#c9b6e4", "#fffdf8"),
    (Fault.COLOR, "1px solid #FFF", "#eeeeee", "#ffffff", "1px solid #eeeeee"),
    (Fault.COLOR, "rgb(1, 2, 3)", "#0a0b0c", "#010203", "#0a0b0c"),
    (Fault.COLOR, "var(--ink)", "#0a0b0c", "#010203", None),
    (Fault.TYPE_SIZE, "600 16px/22px Figtree", "15px", "16px", "600 15px/22px Figtree"),
    (Fault.TYPE_SIZE, "1rem", "15px", "16px", None),
    (Fault.WEIGHT, "400 15px/22px Figtree", "600", "400", "600 15px/22px Figtree"),
    (Fault.FAMILY, "Arial, sans-serif", "Figtree", "Arial", "Figtree, sans-serif"),
    (Fault.LINE_HEIGHT, "24px", "26px", "24px", "26px"),
    (Fault.SPACING, "2px", "1.5px", "2px", "1.5px"),
    (Fault.RADIUS, "6px", "14 14 14 14 px", "6 6 6 6 px", "14px"),
    (Fault.RADIUS, "6px", "8 8 0 0 px", "6 6 6 6 px", "8px 8px 0 0"),
    (Fault.GRADIENT, "linear-gradient(#fffaf0, #e8d4b2 60%)", "#fffaf0, #f8ecd2", "#fffaf0, #e8d4b2",
     "linear-gradient(#fffaf0, #f8ecd2 60%)"),
    (Fault.GRADIENT, "linear-gradient(#fff, #000)", "#ffffff", "#ffffff, #000000", None),
    (Fault.SHADOW, "0 2px 4px #000", "0px 3px 4px", "0px 2px 4px", None),
]  # fmt: skip


@pytest.mark.parametrize("fault, value, wanted, found, expected", INSTEAD)
def test_a_value_says_what_it_should(
    fault: Fault, value: str, wanted: str, found: str, expected: str | None
) -> None:
    assert instead(value, Difference(fault, wanted, found)) == expected


LENGTHS = [
    ("20px", 5, ["15px", "10px", "25px"]),
    ("0", -8, ["8px", "16px", "-8px"]),
    ("1.5rem", 8, ["1rem", "0.5rem", "2rem"]),
    ("0 auto 4px", 2, ["-2px auto 4px", "-4px auto 4px", "2px auto 4px",
                       "0 auto 2px", "0 auto 0px", "0 auto 6px"]),
    ("50% 12", 3, []),
    ("var(--gap-12)", 3, []),
]  # fmt: skip


@pytest.mark.parametrize("value, way, expected", LENGTHS)
def test_lengths_that_are_tried(value: str, way: float, expected: list[str]) -> None:
    one = declared("margin", value)
    assert [said for _, said in lengths(one, way)] == expected


def setting(width: float, next_words: float) -> Setting:
    type_ = Type("Figtree", "sans-serif", 16, 400, is_italic=False, spacing=0, color="#000000")
    return Setting((SetLine("ten hives", 0, width),), type_, "left", 15, 24, is_step_known=True,
                   ascent=15, descent=4, next_words=next_words)  # fmt: skip


@pytest.mark.parametrize(
    "width, next_words, expected",
    [(233, 260, ["240px", "auto"]), (233, 239, ["235px", "auto"]), (233.4, 234.2, ["234px", "auto"]),
     (233.4, 233.9, ["auto"])],
)  # fmt: skip
def test_widths_at_which_lines_break_as_they_should(
    width: float, next_words: float, expected: list[str]
) -> None:
    one = declared("width", "190px")
    assert [said for _, said in wider(one, setting(width, next_words))] == expected
    assert [said for _, said in wider(declared("margin", "1px"), setting(width, next_words))] == []


@pytest.mark.parametrize(
    "name, value, body, to, expected",
    [
        ("gap", "25px", "display: flex; gap: 25px; color: red", "20px",
         "display: flex; gap: 20px; color: red"),
        ("color", "red", "\n  color: red;\n", "#fff", "\n  color: #fff;\n"),
        ("margin", "1px 1px", "margin: 1px 1px", "2px 1px", "margin: 2px 1px"),
    ],
)  # fmt: skip
def test_a_rule_with_another_value(
    name: str, value: str, body: str, to: str, expected: str
) -> None:
    start = body.index(name)
    end = body.find(";", start) + 1 or len(body)
    one = Declaration("a.css", 1, ".a", name, value, "1", body, start, end, {})
    assert one.written(to) == expected


def noise(seed: int, height: int, width: int) -> np.ndarray:
    made = np.random.default_rng(seed).integers(0, 256, (height, width, 4)).astype(np.uint8)
    made[..., 3] = 255
    return made


def test_pictures_are_alike_at_any_size() -> None:
    one = np.kron(noise(1, 12, 12), np.ones((8, 8, 1), np.uint8))
    assert content(one, one[::2, ::2]) < 0.005
    assert content(one, np.kron(noise(2, 12, 12), np.ones((8, 8, 1), np.uint8))) > 0.15
    clear = one.copy()
    clear[..., 3] = 0
    assert unlike(thumbs(one), thumbs(clear)) > 0.1
    assert content(clear, np.zeros_like(clear)) == 0


def test_what_has_no_edges_tells_no_place() -> None:
    flat = np.full((20, 20, 4), 90, np.uint8)
    assert moved(flat, noise(3, 30, 30), (5, 5)) == (0, 0, 0)
    assert moved(noise(3, 30, 30), flat, (0, 0)) == (0, 0, 0)
    assert edges(np.zeros((1, 9), np.float32)).sum() == 0
    assert moved(noise(3, 30, 30), noise(3, 30, 0), (0, 0)) == (0, 0, 0)


@settings(max_examples=30)
@given(some.integers(-9, 9), some.integers(-9, 9))
def test_a_ground_out_of_step(right: int, down: int) -> None:
    tile = noise(5, 16, 16)
    whole = np.tile(tile, (6, 6, 1))
    page = SeenPage((), (), (), (), 96, 96, 1.0, np.roll(whole, (down, right), (0, 1)))
    box = Rect(20, 20, 50, 50)
    pixels, mask = whole[20:70, 20:70], np.ones((50, 50), bool)
    x, y, far = stepped(pixels, mask, page, box, 10)
    assert ((x - right) % 16, (y - down) % 16, far) == (0, 0, 0)


def test_pairs_cost_least_together() -> None:
    costs = {("a", 1): 1.0, ("a", 2): 2.0, ("b", 1): 1.0, ("b", 2): 9.0, ("c", 1): NEVER}
    pairs = assigned("ab", [1, 2], lambda one, other: costs[one, other])
    assert pairs == [(0, 1), (1, 0)]
    assert assigned("c", [1], lambda one, other: costs[one, other]) == []
    assert assigned("", [1], lambda *_: 0.0) == []
    assert distance(Rect(0, 0, 10, 10), Rect(3, 4, 10, 10)) == 7


def line(text: str, x: float, top: float) -> SeenLine:
    return SeenLine(text, x, x + 9 * len(text), top, 20)


def text(*lines: SeenLine, weight: int = 400, block: int = 0, element: int = 1) -> SeenText:
    return SeenText(lines, element, block, 16, weight, "Figtree", False, "#000000", 0, 15)


def test_texts_of_one_block_are_one() -> None:
    first = text(line("the birds, and the", 0, 0))
    bold = text(line("small steady tick", 170, 0), weight=600, element=2)
    rest = text(line("of", 330, 0), line("the lens turning in its bath", 0, 24))
    whole = first.with_(bold).with_(rest)
    assert whole.text == "the birds, and the small steady tick of the lens turning in its bath"
    assert [one.top for one in whole.lines] == [0, 24]
    assert (whole.weight, whole.element, len(whole.made_of)) == (400, 1, 3)
    assert whole.box == Rect(0, 0, 9 * 2 + 330, 44)


def test_what_a_page_says_of_a_text() -> None:
    said = {"texts": [{
        "lines": [{"text": " Adopt a hive ", "x": 1, "right": 90, "top": 2, "height": 20}],
        "element": 3, "block": 2, "size": 16, "weight": 600, "family": "Figtree", "italic": False,
        "color": "rgb(1, 2, 3)", "spacing": 0.5, "ascent": 15, "transform": "uppercase",
    }], "elements": [], "boxes": [], "pictures": [], "width": 90, "height": 20}  # fmt: skip
    (one,) = texts_of(PageSaid.of(said))
    assert (one.text, one.color, one.weight, one.ascent) == ("ADOPT A HIVE", "#010203", 600, 15)


def test_elements_as_a_person_points_at_them() -> None:
    box = Rect(0, 0, 1, 1)
    nodes = (
        Node("body", (), "", -1, box), Node("main", (), "", 0, box),
        Node("p", (), "", 1, box), Node("p", ("note", "big"), "", 1, box),
        Node("div", ("a",), "top", 0, box), Node("i", (), "", 4, box),
    )  # fmt: skip
    said = [selector_of(nodes, n) for n in range(6)]
    assert said == ["body", "body > main", "body > main > p", ".note", "#top", "#top > i"]


PHRASES = [
    ({"dy": 30.0}, (Difference(Fault.MOVED),), "30 px too low"),
    ({"dy": -2.5}, (Difference(Fault.MOVED),), "2.5 px too high"),
    ({"dx": 1.04, "dy": -3.0}, (Difference(Fault.MOVED),), "3 px too high, 1 px too far right"),
    ({"dx": -5.0}, (Difference(Fault.MOVED),), "5 px too far left"),
    ({"dw": 10.0, "dh": -4.0}, (Difference(Fault.SIZE),), "10 px too wide, 4 px too short"),
    ({}, (Difference(Fault.MISSING),), "missing"),
    ({}, (Difference(Fault.SWAPPED, "cards/lime/jar"),), "in the place of jar"),
    ({}, (Difference(Fault.COLOR),), "in other colours"),
    ({}, (Difference(Fault.COLOR, "#ffffff", "#eeeeee"),), "colour #eeeeee instead of #ffffff"),
    ({}, (Difference(Fault.BREAKS, "a / b", "a b"),), "1 line instead of 2"),
    ({}, (Difference(Fault.BREAKS, "1", "3"),), "3 lines instead of 1"),
    ({}, (Difference(Fault.BREAKS, "a b / c", "a / b c"),), "lines break elsewhere"),
    ({}, (Difference(Fault.WORDS, "hive", "bee"),), 'reads "bee" instead of "hive"'),
    ({}, (Difference(Fault.WORDS, "", "bee"),), 'reads "bee"'),
    ({}, (Difference(Fault.RADIUS, "8 8 0 0 px", "6 6 6 6 px"),), "corners 6px instead of 8 8 0 0 px"),
    ({}, (Difference(Fault.TYPE_SIZE, "15px", "16px"),), "type size 16px instead of 15px"),
    ({}, (Difference(Fault.STRETCHED, "4 : 3", "90px x 60px"),), "stretched to 90px x 60px"),
]  # fmt: skip


@pytest.mark.parametrize(
    ("kind", "rows", "is_under", "is_covered"),
    [
        (ThingKind.PICTURE, 5, False, False),  # a twentieth of a picture may be something else
        (ThingKind.PICTURE, 8, False, True),
        (ThingKind.WORDS, 50, True, False),  # of ink, more than half
        (ThingKind.WORDS, 70, True, True),
        (ThingKind.WORDS, 70, False, False),  # its letters are set otherwise, and nothing is on it
    ],
)
def test_how_much_has_to_lie_on_a_thing(
    monkeypatch: pytest.MonkeyPatch, kind: ThingKind, rows: int, is_under: bool, is_covered: bool
) -> None:
    whole = np.full((100, 80, 4), (0, 0, 0, 255), np.uint8)  # a picture, or ink all over
    there = whole.copy()
    there[:rows, :, :3] = 200
    thing = ExpectedThing("it", kind, Rect(0, 0, 80, 100))
    wanted: Any = SimpleNamespace(
        on_canvas=lambda box: box, shown=lambda _: whole, pixels=lambda _: whole, density=1.0
    )
    monkeypatch.setattr(in_sight, "shifted", lambda *_: there)
    page = replace(seen(-1), texts=(replace(TEXT, element=0, is_covered=is_under),))
    found = in_sight.covered(Placed(0, thing, thing.box, 0), wanted, page)
    faults = [(one.fault, one.found) for one in found.differences]
    assert faults == ([(Fault.COVERED, f"0 0 80 {rows}")] if is_covered else [])


def lines_at(place: float, ink: int) -> npt.NDArray[np.uint8]:
    """A cross of lines a pixel and a half thick, its middle at a place: covered by area."""
    at = np.arange(13)
    stroke = np.clip(np.minimum(at + 1, place + 0.75) - np.maximum(at, place - 0.75), 0, 1)
    cover = np.maximum(stroke[:, None], stroke[None, :])
    values = np.round(255 - cover * (255 - ink)).astype(np.uint8)
    return np.dstack([values, values, values, np.full_like(values, 255)])


@pytest.mark.parametrize(
    ("place", "ink", "is_spread", "is_hidden"),
    [
        (6.5, 90, True, False),
        (6.75, 90, True, False),  # the same lines, between pixels
        (7.0, 90, True, False),
        (7.0, 20, False, False),  # another ink, and nothing that lies on it
        (6.5, 0, False, True),
    ],
)
def test_thin_lines_between_pixels_are_the_same_and_others_are_not(
    place: float, ink: int, is_spread: bool, is_hidden: bool
) -> None:
    wanted, there = lines_at(6.5, 90), lines_at(place, ink)
    assert of_pictures._is_spread(wanted, there) is is_spread
    assert bool(beyond(wanted, there, in_sight.ELSE).any()) is is_hidden


@pytest.mark.parametrize(
    ("ratio", "is_stretched"), [(1.0, False), (1.01, False), (1.02, True), (0.98, True)]
)
def test_from_where_a_picture_is_stretched(ratio: float, is_stretched: bool) -> None:
    picture: Any = SimpleNamespace(
        natural=(300, 200), kept=(300, 200), box=Rect(0, 0, 300 * ratio, 200), crop=None
    )
    faults = [one.fault for one in of_pictures._stretched(picture)]
    assert (Fault.STRETCHED in faults) is is_stretched


@pytest.mark.parametrize("sides, faults, expected", PHRASES)
def test_words_for_what_is_wrong(
    sides: dict[str, float], faults: tuple[Difference, ...], expected: str
) -> None:
    placed = off(0, TOP, **sides)  # type: ignore[arg-type]
    assert ", ".join(phrases(FitFinding("key", Root(placed), faults, 0.0))) == expected


def test_a_patch_changes_what_is_wrong_and_nothing_else(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.chdir(tmp_path)
    style = tmp_path / "a.css"
    style.write_text(".a {\n  gap: 25px;\n}\n\n.b { color: red; gap: 25px }\n")
    one = declared("gap", "25px", file=str(style), line=2)
    two = declared("color", "red", file=str(style), line=5)
    gone = declared("gap", "25px", file=str(tmp_path / "gone.css"))
    findings = tuple(
        FitFinding("k", Root(off(0, TOP)), (), 0.0, remedy=Remedy(each, value))
        for each, value in ((one, "20px"), (two, "#33231a"), (gone, "1px"))
    )
    made = patch([PageFit("p", style, None, None, 1, 0, findings)])  # type: ignore[arg-type]
    changed = [row for row in made.splitlines() if re.match(r"[-+](?![-+])", row)]
    assert changed == [
        "-  gap: 25px;", "+  gap: 20px;",
        "-.b { color: red; gap: 25px }", "+.b { color: #33231a; gap: 25px }",
    ]  # fmt: skip
    assert made.startswith("--- a/a.css\n+++ b/a.css\n")


def test_lines_of_a_patch_end_as_they_did(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.chdir(tmp_path)
    style = tmp_path / "a.css"
    style.write_bytes(b".a {\r\n\tgap: 25px;\r\n}\r\n/* \x0c caf\xe9 */\r\n")
    one = declared("gap", "25px", file=str(style), line=2)
    finding = FitFinding("k", Root(off(0, TOP)), (), 0.0, remedy=Remedy(one, "20px"))
    made = patch([PageFit("p", style, None, None, 1, 0, (finding,))])  # type: ignore[arg-type]
    (tmp_path / "p").write_bytes(made.encode(errors="surrogateescape"))
    subprocess.run(["git", "apply", "p"], cwd=tmp_path, check=True)
    assert style.read_bytes() == b".a {\r\n\tgap: 20px;\r\n}\r\n/* \x0c caf\xe9 */\r\n"


def test_findings_are_gathered_by_what_puts_them_right_alone() -> None:
    """Two icons of one slice that are both missing are two findings; one value for both is one."""
    gap = Remedy(declared("gap", "25px"), "20px")
    ones = [FitFinding("icon: missing", Root(off(n, TOP)), (), 0.0) for n in (0, 1)]
    same = [
        FitFinding("k", Root(off(n, TOP), (off(n + 10, UNDER),)), (), 0.0, remedy=gap)
        for n in (2, 3)
    ]
    found = gathered([*ones, *same])
    assert [one.placed.number for one in found] == [0, 1, 2]
    assert [[other.number for other in one.also] for one in found] == [[], [], [3]]
    assert [other.number for other in found[2].root.followers] == [12, 13]
    (outer,) = gathered(same, lambda element, around: (element, around) == (3, 4))
    assert (outer.placed.number, [one.number for one in outer.also]) == (3, [2])


@pytest.mark.parametrize(("count", "are_gathered"), [(3, False), (4, True), (26, True)])
def test_what_is_not_built_yet_is_one_line(
    count: int, are_gathered: bool, capsys: pytest.CaptureFixture[str]
) -> None:
    box = Rect(0, 0, 40, 40)
    one = ExpectedThing("jar", ThingKind.PICTURE, box)
    lost, moved_by = Difference(Fault.MISSING), Difference(Fault.MOVED)
    lacking = FitFinding("k", Root(Placed(0, one, box, differences=(lost,))), (lost,), 0.0)
    two = replace(one, name="bee")
    other = FitFinding("k", Root(Placed(1, two, box, 3, dx=4.0)), (moved_by,), 4.0)
    findings = [*[lacking] * count, other]
    page: Any = SimpleNamespace(
        page="p.html",
        mockup=Path("m.svg"),
        width=900,
        findings=findings,
        accepted=(),
        fitting=1,
        count=30,
    )
    for show_all in (False, True):
        show(Screen(), [page], 1.0, show_all=show_all)
        said = capsys.readouterr().out
        assert ("not on the page yet" in said) is (are_gathered and not show_all)
        assert said.count("jar: missing") == (0 if are_gathered and not show_all else count)
        assert "bee: 4 px too far right" in said


LINES = [SeenLine(f"line {n}", 10, 90, 100.0 + 24 * n, 24) for n in range(3)]
TEXT = SeenText(tuple(LINES), 3, 2, 16, 400, "Figtree", False, "#33231a", 0, 18)

#: Tops and heights of boxes of a mockup, and the lines that each gets.
SPLIT = [
    ("as they stand", [(104, 16), (128, 16), (152, 16)], [[0], [1], [2]]),
    ("a line higher", [(80, 16), (104, 16), (128, 16)], [[0], [1], [2]]),
    ("far lower", [(404, 16), (428, 16), (452, 16)], [[0], [1], [2]]),
    ("two of them", [(104, 16), (128, 16)], [[0], [1]]),
    ("all in one that lies higher", [(86, 62), (60, 16)], [[0, 1, 2]]),
    ("most in one", [(80, 16), (100, 40), (176, 16)], [[0, 1, 2]]),
    ("none near", [(900, 16), (924, 16), (948, 16)], [[0, 1, 2]]),
]


@pytest.mark.parametrize("tops, parts", [row[1:] for row in SPLIT], ids=[row[0] for row in SPLIT])
def test_a_text_is_split_as_its_mockup_has_it(
    tops: list[tuple[float, float]], parts: list[list[int]]
) -> None:
    boxes = [Rect(12, top, 70, high) for top, high in tops]
    assert [[LINES.index(line) for line in one.lines] for one in split(TEXT, boxes)] == parts


@pytest.mark.parametrize("by, slack, found", [
    (4.5, 9, (0, 9)), (4.5, 0, (4.5, 0)), (-3, 9, (-3, 0)), (0.1, 9, (0.1, 0)), (4.8, 9, (0.3, 9)), (0, 0.2, (0, 0)),
])  # fmt: skip
def test_a_picture_in_the_middle_of_its_room(
    by: float, slack: float, found: tuple[float, float]
) -> None:
    assert hugged(by, slack) == pytest.approx(found)


ADDRESSES = [
    ("http://127.0.0.1:8000/a.html", "http://127.0.0.1:8000/a.html", "a.html"),
    ("http://localhost/site/", "http://localhost/site/", "site"),
    ("https://[::1]/x", "https://[::1]/x", "x"),
]  # fmt: skip


@pytest.mark.parametrize("said, address, name", ADDRESSES)
def test_pages_on_this_machine(said: str, address: str, name: str) -> None:
    assert address_of(said) == address
    assert name_of(address) == name


@pytest.mark.parametrize(
    "said", ["http://fernhollow.test/", "ftp://127.0.0.1/", "http://127.0.0.1.fernhollow.test/", "gone.html"]
)  # fmt: skip
def test_pages_elsewhere_are_refused(said: str) -> None:
    with pytest.raises(RifflerError):
        address_of(said)


@given(
    some.lists(some.sampled_from(["gap: 25px", "color: red", " margin: 0 4px", ""]), min_size=1, max_size=5),
    some.integers(0, 9), some.integers(0, 30),
)  # fmt: skip
def test_places_in_a_style_sheet_are_places_in_a_rule(
    rows: list[str], line: int, column: int
) -> None:
    """Ranges as the protocol gives them: lines and columns of the sheet, from 0."""
    body = ";\n".join(rows) + ";"
    whole = range_of({"startLine": line, "startColumn": column}, body)
    lines = body.split("\n")
    assert whole["endLine"] - whole["startLine"] == len(lines) - 1
    style = {"cssText": body, "range": whole}
    at = 0
    for number, row in enumerate(lines):
        begins = column if number == 0 else 0
        place = {"startLine": line + number, "startColumn": begins,
                 "endLine": line + number, "endColumn": begins + len(row)}  # fmt: skip
        assert offset(style, place, "start") == at
        assert offset(style, place, "end") == at + len(row)
        at += len(row) + 1
    assert offset(
        style, {"endLine": whole["endLine"], "endColumn": whole["endColumn"]}, "end"
    ) == len(body)


def test_a_file_of_the_output_is_named_by_what_it_was_copied_from(tmp_path: Path) -> None:
    files = {
        "styles/site.css": "a {}", "out/styles/site.css": "a {}", "styles/other.css": "b {}",
        "out/styles/other.css": "c {}", "out/index.html": "<p>",
    }  # fmt: skip
    root = tmp_path / "p"
    (root / "out/styles").mkdir(parents=True)
    write_project(root, files, [Flat("a", (0, 0, 9, 9))])
    project = Project.at(root)
    said = {
        name: source_of(project, str(root / name))
        for name in ("out/styles/site.css", "out/styles/other.css", "out/index.html")
    }
    assert said["out/styles/site.css"] == str(root / "styles/site.css")
    assert said["out/styles/other.css"] == str(root / "out/styles/other.css")
    assert said["out/index.html"] == str(root / "out/index.html")
    assert source_of(project, "/elsewhere/site.css") == "/elsewhere/site.css"


@pytest.mark.parametrize(
    "cutlists, pages",
    [
        ({"home": ""}, {"home": "index"}),
        ({"hives": "", "home": ""}, {"home": "index", "hives": "hives"}),
        ({"hives": "", "visit": ""}, {"hives": "index", "visit": "visit"}),
        ({"home": "", "home-narrow": 'when = "(max-width: 700px)"\n'}, {"home": "index", "home-narrow": "index"}),
    ],
)  # fmt: skip
def test_mockups_are_of_pages(
    tmp_path: Path, cutlists: dict[str, str], pages: dict[str, str]
) -> None:
    files = {
        f"cuts/{name}.toml": f'mockup = "../mockups/{name}.ora"\n{more}' for name, more in cutlists.items()
    }  # fmt: skip
    root = write_project(tmp_path / "p", files, [Flat("a", (0, 0, 9, 9))])
    for name in cutlists:
        write_ora(root / f"mockups/{name}.ora", (20, 20), [Flat("a", (0, 0, 9, 9))])
    every = list(Workspace(Project.at(root)).every())
    assert {one.mockup.path.stem: page_of(one, every) for one in every} == pages


def test_how_far_pictures_are_apart_is_shown() -> None:
    one = noise(7, 40, 30)[..., :3]
    shown = drawn_difference(one, one)
    assert (shown == RAMP[0]).all()
    far = drawn_difference(np.zeros((600, 4, 3), np.uint8), np.full((600, 4, 3), 255, np.uint8))
    assert (far == RAMP[-1]).all()
    near = drawn_difference(np.full((4, 4, 3), 120, np.uint8), np.full((4, 4, 3), 128, np.uint8))
    assert RAMP[0] < tuple(near[0, 0]) < RAMP[1]


PLATE = Style(
    (Stop(0, "#fffaf0"),), radii=Radii(8, 8, 8, 8), border=Border("#dccfb4", 1),
    shadows=(Shadow(0, 2, 6, "#3c280a80"),),
)  # fmt: skip
PAINTED = SeenBox(
    1, Rect(10, 10, 100, 40), "#fffaf0", "none", "rgba(60, 40, 10, 0.5) 0px 2px 6px 0px",
    (8, 8, 8, 8), ((1, "#dccfb4"),) * 4,
)  # fmt: skip
FADE = replace(PLATE, stops=(Stop(0, "#140e1c"), Stop(1, "#140e1c00")), angle=90)

#: What the mockup has, what the page paints; the faults, with what is wanted and found.
PLATES: list[tuple[Style, SeenBox, list[tuple[Fault, str, str]]]] = [
    (PLATE, PAINTED, []),
    (PLATE, replace(PAINTED, color="#c9b6e4"), [(Fault.COLOR, "#fffaf0", "#c9b6e4")]),
    (PLATE, replace(PAINTED, color="#fff9ef"), []),  # nobody sees it
    (PLATE, replace(PAINTED, radii=(8.6, 8, 8, 8)), []),
    (PLATE, replace(PAINTED, radii=(8, 8, 0, 0)), [(Fault.RADIUS, "8 8 8 8 px", "8 8 0 0 px")]),
    (replace(PLATE, radii=Radii(90, 90, 90, 90)), replace(PAINTED, radii=(20,) * 4), []),  # a pill
    (replace(PLATE, radii=None), PAINTED, []),  # an ellipse says nothing
    (PLATE, replace(PAINTED, borders=((3, "#dccfb4"),) * 4),
     [(Fault.BORDER, "1px #dccfb4", "3px #dccfb4")]),
    (PLATE, replace(PAINTED, borders=((0, "#000000"),) * 4), [(Fault.BORDER, "1px #dccfb4", "none")]),
    (replace(PLATE, border=None), PAINTED, [(Fault.BORDER, "none", "1px #dccfb4")]),
    (PLATE, replace(PAINTED, borders=((1, "#7a3d6b"),) * 4), [(Fault.BORDER, "#dccfb4", "#7a3d6b")]),
    (PLATE, replace(PAINTED, shadow="none"), [(Fault.SHADOW, "a shadow", "none")]),
    (PLATE, replace(PAINTED, shadow="rgba(60, 40, 10, 0.5) 0px 8px 6px 0px"),
     [(Fault.SHADOW, "0px 2px 6px", "0px 8px 6px")]),
    (PLATE, replace(PAINTED, shadow="rgba(160, 40, 90, 0.5) 0px 2px 6px 0px"),
     [(Fault.SHADOW, "#3c280a80", "#a0285a80")]),
    (replace(PLATE, shadows=(Shadow(0, 2, 6, "#3c280a80", is_inner=True),)),
     replace(PAINTED, shadow="none"), []),
    (replace(PLATE, shadows=(Shadow(0, 2, 4, "#00000029", is_inner=True),)),
     replace(PAINTED, shadow="rgba(0, 0, 0, 0.16) 0px 2px 4px 0px inset"), []),
    (PLATE, replace(PAINTED, borders=((1, "#00000000"),) * 4), [(Fault.BORDER, "1px #dccfb4", "none")]),
    (FADE, replace(PAINTED, image="linear-gradient(90deg, rgb(20, 14, 28), rgba(20, 14, 28, 0))"), []),
    (FADE, replace(PAINTED, image="linear-gradient(90deg, rgb(90, 14, 28), rgba(20, 14, 28, 0))"),
     [(Fault.GRADIENT, "#140e1c, #140e1c00", "#5a0e1c, #140e1c00")]),
    (FADE, PAINTED, [(Fault.GRADIENT, "#140e1c, #140e1c00", "#fffaf0")]),
]  # fmt: skip


def wanted_of(*, is_vector: bool = True) -> Any:  # noqa: ANN401 - as much of it as is asked
    dark = np.zeros((40, 100, 4), np.uint8)
    dark[..., 3] = 255
    return SimpleNamespace(
        is_vector=is_vector, density=1.0, shown=lambda _: dark, on_canvas=lambda box: box.outward()
    )


def page_of_light() -> SeenPage:
    return replace(seen(-1, 0), shot=np.full((100, 140, 4), 255, np.uint8))


@pytest.mark.parametrize("style, painted, expected", PLATES)
def test_what_differs_of_a_box(
    style: Style, painted: SeenBox, expected: list[tuple[Fault, str, str]]
) -> None:
    plate = ExpectedThing("plate", ThingKind.BOX, Rect(10, 10, 100, 40), style=style)
    placed = box(0, plate, painted, wanted_of(), page_of_light())
    assert [(one.fault, one.wanted, one.found) for one in placed.differences] == expected
    assert placed.off == 0


def test_where_a_box_lies() -> None:
    plate = ExpectedThing("plate", ThingKind.BOX, Rect(10, 10, 100, 40), style=PLATE)
    there = replace(PAINTED, box=Rect(13, 8, 110, 40))
    placed = box(0, plate, there, wanted_of(), page_of_light())
    assert (placed.dx, placed.dy, placed.dw, placed.dh) == (3, -2, 10, 0)
    ground = box(0, plate, replace(there, fills=True), wanted_of(), page_of_light())
    assert ground.off == 0  # what fills the canvas has no place
    fading = ExpectedThing("fade", ThingKind.BOX, Rect(10, 10, 60, 40), style=FADE)
    clear = replace(PAINTED, image="linear-gradient(90deg, rgb(20, 14, 28), rgba(20, 14, 28, 0))")
    assert box(0, fading, clear, wanted_of(), page_of_light()).off == 0
    light = SimpleNamespace(
        is_vector=True,
        density=1.0,
        shown=lambda _: page_of_light().shot[:40, :100],
        pixels=lambda _: page_of_light().shot[:40, :100],
        on_canvas=lambda box: box.outward(),
    )
    same = box(0, plate, replace(PAINTED, color="#c9b6e4"), light, page_of_light())  # type: ignore[arg-type]
    assert same.differences == ()  # said otherwise, and looking the same
    light.shown = lambda box: page_of_light().shot[: round(box.height), : round(box.width)]
    corners = replace(
        PAINTED, radii=(2, 2, 2, 2), box=Rect(10, 10, 97, 37)
    )  # as a hard shadow does
    same = box(0, plate, corners, light, page_of_light())  # type: ignore[arg-type]
    assert (same.differences, same.off) == ((), 0)


@pytest.mark.parametrize(("rows", "told"), [(0, False), (2, True)])
def test_a_shadow_inside_is_judged_by_what_is_seen(rows: int, told: bool) -> None:
    """A document may draw one in a way of its own: the pixels tell, but for a stray few."""
    drawn = np.full((40, 100, 4), 255, np.uint8)
    shot = drawn.copy()
    shot[:rows, :, :3] = 200
    shot[30:32, 40:42, :3] = 0  # the rim of what lies on it
    page: Any = SimpleNamespace(shot=shot, density=1.0)
    light: Any = SimpleNamespace(
        is_vector=True, density=1.0, shown=lambda _: drawn, pixels=lambda _: drawn,
        on_canvas=lambda box: box.outward(),
    )  # fmt: skip
    white = Style((Stop(0.0, "#ffffff"),))
    plate = ExpectedThing("field", ThingKind.BOX, Rect(0, 0, 100, 40), style=white)
    inside = replace(
        PAINTED, box=plate.box, color="#ffffff", radii=(0, 0, 0, 0), borders=((0.0, "#000000"),) * 4,
        shadow="rgba(0, 0, 0, 0.16) 0px 2px 4px 0px inset",
    )  # fmt: skip
    placed = box(0, plate, inside, light, page)
    assert [found.fault for found in placed.differences] == ([Fault.SHADOW] if told else [])


def set_in(**said: Any) -> SeenText:  # noqa: ANN401 - any of its fields
    lines = said.pop("lines", (line("ten hives", 0, 0),))
    return replace(text(*lines), **said)


TYPES: list[tuple[SeenText, list[tuple[Fault, str, str]]]] = [
    (set_in(), []),
    (set_in(size=16.2), []),
    (set_in(size=17), [(Fault.TYPE_SIZE, "16px", "17px")]),
    (set_in(weight=600), [(Fault.WEIGHT, "400", "600")]),
    (set_in(family="Arial, Figtree Two"), []),
    (set_in(family='"Fraunces", serif'), [(Fault.FAMILY, "Figtree", "Fraunces")]),
    (set_in(is_italic=True), [(Fault.STYLE, "normal", "italic")]),
    (set_in(spacing=1), [(Fault.SPACING, "0px", "1px")]),
    (set_in(color="#7a3d6b"), [(Fault.COLOR, "#000000", "#7a3d6b")]),
    (set_in(lines=(line("ten bees", 0, 0),)), [(Fault.WORDS, "ten hives", "ten bees")]),
    (set_in(lines=(line("ten", 0, 0), line("hives", 0, 24))),
     [(Fault.BREAKS, "ten hives", "ten / hives")]),
]  # fmt: skip


@pytest.mark.parametrize("shown, expected", TYPES)
def test_what_differs_of_a_text(shown: SeenText, expected: list[tuple[Fault, str, str]]) -> None:
    what = ExpectedThing("words", ThingKind.WORDS, Rect(0, 3, 81, 12), setting=setting(81, 900))
    placed = words(0, what, shown, wanted_of())
    assert [(one.fault, one.wanted, one.found) for one in placed.differences] == expected
    assert (placed.dx, placed.dy) == (0, 0)


@pytest.mark.parametrize(("align", "dx"), [("left", 4), ("right", 14), ("center", 9)])
def test_a_text_lies_where_it_is_aligned(align: Any, dx: float) -> None:  # noqa: ANN401
    said = replace(setting(81, 900), align=align)
    what = ExpectedThing("words", ThingKind.WORDS, Rect(0, 3, 81, 12), setting=said)
    shown = set_in(lines=(SeenLine("ten hives", 4, 95, 2, 20),), size=18)
    placed = words(0, what, shown, wanted_of())
    assert (placed.dx, placed.dy, placed.dw) == (dx, 2, 10)
