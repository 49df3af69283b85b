"""Tidied drawings: paths and arcs against geometry, passes against what a browser's rules say."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from itertools import pairwise

import numpy as np
import pytest
from fontTools.misc.transform import Transform
from fontTools.pens.recordingPen import RecordingPen
from fontTools.svgLib.path import parse_path
from hypothesis import given, settings
from hypothesis import strategies as some

from riffler.errors import MockupError
from riffler.project.limits import DEFAULT_LIMITS
from riffler.tidy.arcs import centered, transformed
from riffler.tidy.colors import shortest as shortest_color
from riffler.tidy.drawing import sound
from riffler.tidy.matrices import read as read_matrix
from riffler.tidy.matrices import shortest as shortest_matrix
from riffler.tidy.numbers import Grid, joined, short
from riffler.tidy.path_data import DamagedError, Segment, parse
from riffler.tidy.path_shape import simplified
from riffler.tidy.path_text import written
from riffler.tidy.tidying import Tidying, tidy
from riffler.vector.checked import tidied

SVG = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 24 24"{}>{}</svg>'


def drawing(inner: str, more: str = "") -> bytes:
    return SVG.format(more, inner).encode()


def inside(data: bytes, **how: object) -> str:
    """What tidying leaves between the tags of the root."""
    text = tidy(data, "a.svg", Tidying(**how)).text  # type: ignore[arg-type]
    assert text.startswith('<svg xmlns="http://www.w3.org/2000/svg" ')
    return text[text.index(">") + 1 :].removesuffix("</svg>")


# Numbers


@pytest.mark.parametrize(
    ("value", "digits", "text"),
    [(0.5, 2, ".5"), (-0.25, 2, "-.25"), (12.0, 3, "12"), (-0.001, 2, "0"), (1e-9, 3, "0"),
     (99.999, 2, "100"), (-3.14159, 3, "-3.142")],
)  # fmt: skip
def test_numbers_take_the_fewest_characters(value: float, digits: int, text: str) -> None:
    assert short(value, digits) == text


@given(some.floats(-1e5, 1e5), some.integers(1, 5), some.integers(0, 4))
def test_a_number_on_a_grid_stays_there(value: float, digits: int, slack: int) -> None:
    grid = Grid(digits, slack)
    there = float(grid.text(value))
    assert abs(there - value) <= (slack + 0.501) * 10.0**-digits
    assert grid.text(there) == grid.text(value)


@given(some.lists(some.floats(-99, 99), min_size=1, max_size=9))
def test_numbers_in_a_row_are_read_again(values: list[float]) -> None:
    texts = [short(value, 2) for value in values]
    points = joined([*texts, *texts])
    read = parse(f"M0 0L{points}")[1:]
    assert [n for s in read for n in s.numbers] == [float(t) for t in [*texts, *texts]]


# Path data


def drawn(text: str) -> list[tuple[str, tuple[tuple[float, float], ...]]]:
    """Path data as another reader draws it: lines and curves, arcs as curves."""
    pen = RecordingPen()
    parse_path(text, pen)
    return pen.value  # type: ignore[no-any-return]


def points_on(text: str, count: int = 24) -> np.ndarray:
    """Points along all that path data draws."""
    found, here, begin = [], (0.0, 0.0), (0.0, 0.0)
    for command, points in drawn(text):
        if command == "moveTo":
            here = begin = points[0]
        elif command in ("lineTo", "closePath"):
            end = points[0] if points else begin
            shares = np.linspace(0, 1, count)
            found += [(1 - t) * np.array(here) + t * np.array(end) for t in shares]
            here = end
        elif command in ("curveTo", "qCurveTo"):
            control = [np.array(here), *map(np.array, points)]
            for t in np.linspace(0, 1, count):
                level = control
                while len(level) > 1:
                    level = [(1 - t) * a + t * b for a, b in pairwise(level)]
                found.append(level[0])
            here = points[-1]
    return np.array(found)


def apart(one: str, other: str) -> float:
    """How far points on one outline are from the other at most."""
    a, b = points_on(one, 8), points_on(other, 200)
    return float(max(np.hypot(*(b - point).T).min() for point in a))


PLACES = some.floats(-50, 50).map(lambda value: round(value, 3))
PAIRS = some.tuples(PLACES, PLACES)


@some.composite
def outlines(draw: some.DrawFn) -> str:
    """Path data with every command, relative and absolute."""
    counts = {"L": 2, "H": 1, "V": 1, "C": 6, "S": 4, "Q": 4, "T": 2, "Z": 0}
    parts = [f"M{draw(PLACES)} {draw(PLACES)}"]
    for _ in range(draw(some.integers(1, 6))):
        letter = draw(some.sampled_from("LHVCSQTAZ"))
        said = letter if draw(some.booleans()) else letter.lower()
        if letter == "A":
            rx, ry = draw(some.floats(5, 40)), draw(some.floats(5, 40))
            flags = f"{draw(some.integers(0, 1))} {draw(some.integers(0, 1))}"
            turn, (x, y) = draw(some.integers(0, 180)), draw(PAIRS)
            parts.append(f"{said}{rx:.2f} {ry:.2f} {turn} {flags} {x} {y}")
        else:
            parts.append(said + " ".join(str(draw(PLACES)) for _ in range(counts[letter])))
    return "".join(parts)


@settings(max_examples=80)
@given(outlines())
def test_path_data_written_anew_draws_the_same(text: str) -> None:
    again = written(parse(text), Grid(3))
    before, after = points_on(text), points_on(again)
    assert len(before) == len(after) or "A" in text.upper()
    if len(before) == len(after) and len(before):
        assert np.abs(before - after).max() < 0.02
    assert written(parse(again), Grid(3)) == again


@pytest.mark.parametrize(
    ("text", "short_text"),
    [
        ("M 10 10 L 20 10 L 20 20 L 10 20 Z", "M10 10h10v10H10z"),
        ("M0,0 C 1,2 3,4 5,6 S 9,10 11,12", "M0 0c1 2 3 4 5 6s4 4 6 6"),
        ("M0 0Q1 2 4 4T8 8", "M0 0q1 2 4 4t4 4"),
        ("M1 1 2 2 3 4", "m1 1 1 1 1 2"),
        ("M100 100L101 101L1 1", "m100 100 1 1L1 1"),
        ("M0 0a1 1 0 0 1 1 1a1 1 0 0 1 1 1", "M0 0a1 1 0 011 1 1 1 0 011 1"),
        ("M5 5ZM9 9Z", "M5 5zm4 4z"),
    ],
)
def test_path_data_takes_the_shortest_form(text: str, short_text: str) -> None:
    assert written(parse(text), Grid(3)) == short_text


@pytest.mark.parametrize(
    "text", ["L1 1", "M0", "M0 0 1", "M0 0x", "M0 0z1 1", "M0 0L", "M0 0a1 1 0 2 0 1 1", "M0 0h1-"]
)
def test_damaged_path_data_is_told(text: str) -> None:
    with pytest.raises(DamagedError):
        parse(text)
    assert f'd="{text}"' in inside(drawing(f'<path d="{text}"/>'))  # what is drawn is not ours


CIRCLE = "M12 2C6.477 2 2 6.477 2 12s4.477 10 10 10 10-4.477 10-10S17.523 2 12 2z"


@pytest.mark.parametrize(
    ("text", "commands"),
    [
        (CIRCLE, "MAAZ"),
        ("M0 0L5 0 10 0 10 5z", "MLLZ"),  # a corner that is none
        ("M0 0C3 0 6 0 9 0L9 9", "MLL"),
        ("M0 0C1 4 4 6 6 6L0 9", "MCL"),  # no circle and no quadratic curve
        ("M0 0C2 2 4 2 6 0L0 9", "MQL"),
        ("M0 0L5 0 2 0", "MLL"),  # a stroke that turns back is longer than it looks
        ("M0 0M3 3L9 9M4 4", "ML"),
    ],
)
def test_outlines_get_simpler_and_stay(text: str, commands: str) -> None:
    found = simplified(parse(text), 0.005, Grid(2))
    assert "".join(segment.command for segment in found) == commands
    again = written(found, Grid(3))
    assert apart(text, again) < 0.05
    assert apart(again, text) < 0.05


def test_many_little_corners_do_not_add_up() -> None:
    around = [(10 * math.cos(t / 100), 10 * math.sin(t / 100)) for t in range(200)]
    text = "M" + "L".join(f"{x:.5f} {y:.5f}" for x, y in around)
    found = written(simplified(parse(text), 0.005, Grid(3)), Grid(3))
    assert len(found) < len(text) / 2
    assert apart(text, found) < 0.01


# Arcs


@settings(max_examples=60)
@given(
    some.floats(1, 30), some.floats(1, 30), some.floats(0, 180), some.booleans(), some.booleans(),
    PAIRS, some.tuples(*[some.floats(-2, 2)] * 4),
)  # fmt: skip
def test_an_arc_under_a_matrix(
    rx: float, ry: float, turn: float, large: bool, sweep: bool, end: tuple[float, float],
    linear: tuple[float, float, float, float],
) -> None:  # fmt: skip
    a, b, c, d = linear
    matrix = Transform(a, b, c, d, 3, -4)
    numbers = (rx, ry, turn, float(large), float(sweep), *end)
    arc = centered((1.0, 2.0), numbers)
    if arc is None or abs(a * d - b * c) < 0.05:
        return
    moved = centered(matrix.transformPoint((1.0, 2.0)), transformed(numbers, matrix))
    assert moved is not None
    size = max(map(abs, linear)) * max(arc.rx, arc.ry)
    for share in (0.0, 0.25, 0.5, 1.0):
        wanted = matrix.transformPoint(arc.at(share))
        near = min(math.dist(wanted, moved.at(t)) for t in np.linspace(0, 1, 721))
        assert near < 0.02 * size + 1e-6


# Values


@pytest.mark.parametrize(
    ("color", "text"),
    [("#FF0000", "red"), ("rgb(255,255,255)", "#fff"), ("#000080", "navy"), ("black", "#000"),
     ("#F0E68C", "khaki"), ("#abcdef", "#abcdef"), ("currentcolor", "currentColor"),
     ("rgba(0,0,0,.5)", "rgba(0,0,0,.5)"), ("url(#a)", "url(#a)"), ("magenta", "#f0f")],
)  # fmt: skip
def test_colors(color: str, text: str) -> None:
    assert shortest_color(color) == text


@pytest.mark.parametrize(
    ("text", "shortest"),
    [("matrix(1 0 0 1 12 -3)", "translate(12-3)"), ("translate(5, 0)", "translate(5)"),
     ("scale(2,2)", "scale(2)"), ("translate(3 4) translate(-3 -4)", ""),
     ("rotate(90 12 12)", "rotate(90 12 12)"), ("rotate(45)", "rotate(45)"),
     ("scale(.5) translate(10 10)", "matrix(.5 0 0 .5 5 5)")],
)  # fmt: skip
def test_transforms(text: str, shortest: str) -> None:
    matrix = read_matrix(text)
    assert matrix is not None
    assert shortest_matrix(matrix, 0.005, 24) == shortest


@pytest.mark.parametrize("text", ["translate(1em)", "rotate(1turn)", "matrix(1 2", "spin(3)"])
def test_transforms_of_another_kind_are_left(text: str) -> None:
    assert read_matrix(text) is None


# Whole drawings


@pytest.mark.parametrize(
    ("given", "expected"),
    [
        # ballast
        ('<!-- x --><metadata>m</metadata><title>part</title><path d="M0 0h9"/>',
         '<title>part</title><path d="M0 0h9"/>'),
        ('<g><title>part</title><rect id="a" class="b" data-name="c" width="9" height="9"/></g>',
         '<path d="M0 0h9v9H0z"/>'),
        ('<desc>Created with a program.</desc><circle r="3"/>', '<circle r="3"/>'),
        # the dashes of a circle begin at its right, wherever that has been turned
        ('<circle r="4" fill="none" stroke="red" transform="rotate(90)"/>',
         '<circle fill="none" stroke="red" r="4"/>'),
        ('<circle r="4" fill="none" stroke="red" stroke-dasharray="5 2" transform="rotate(90)"/>',
         '<circle fill="none" stroke="red" transform="rotate(90)" r="4" stroke-dasharray="5 2"/>'),
        # hidden and empty
        (('<g display="none"><circle r="3"/></g><g/><path d=""/><circle r="0"/><path d="M0 0h9"'
         ' fill="none"/><rect width="9" height="9" opacity="0"/><circle r="4"/>'), '<circle r="4"/>'),
        ('<line x2="9" y2="9"/><circle r="4"/>', '<circle r="4"/>'),
        # defaults and what means nothing
        (('<circle cx="0" r="4" fill="black" stroke="none" stroke-width="3" opacity="1"'
         ' font-size="12"/>'), '<circle r="4"/>'),
        ('<g fill="red"><circle r="4" fill="#f00"/><circle r="5"/></g>',
         '<g fill="red"><circle r="4"/><circle r="5"/></g>'),
        ('<g fill="red"><circle r="4" fill="black"/><circle r="5"/></g>',
         '<g fill="red"><circle fill="#000" r="4"/><circle r="5"/></g>'),
        (('<circle r="4" overflow="visible" display="block" color="#123456" stroke="red"'
         ' stroke-width="1.0000004"/>'), '<circle stroke="red" stroke-width="1.001" r="4"/>'),
        ('<circle r="4" stroke="red" stroke-width="1.00px"/>', '<circle stroke="red" r="4"/>'),
        ('<circle r="4" stroke="currentColor" color="#123456"/>',
         '<circle stroke="currentColor" color="#123456" r="4"/>'),
        (('<radialGradient id="a" cx="5" cy="6" fx="5" fy="6" r="9" gradientUnits="userSpaceOnUse">'
         '<stop stop-color="red" stroke="none"/><stop offset="1"/></radialGradient>'
         '<circle r="9" fill="url(#a)"/>'),
         ('<radialGradient id="~a" cx="5" cy="6" gradientUnits="userSpaceOnUse" r="9">'
         '<stop stop-color="red"/><stop offset="1"/></radialGradient><circle fill="url(#~a)" r="9"/>')),
        # styles
        ('<circle r="4" style="fill:#00ff00;-x-y:1;stroke:none;mix-blend-mode:multiply"/>',
         '<circle fill="#0f0" r="4" style="mix-blend-mode:multiply"/>'),
        ('<style>.a{fill:red}</style><circle class="a" r="4"/>', '<circle fill="red" r="4"/>'),
        # groups
        ('<g><g fill="red"><g transform="translate(2 3)"><circle r="4"/></g></g></g>',
         '<circle fill="red" cx="2" cy="3" r="4"/>'),
        ('<g opacity=".5"><circle r="4" opacity=".5"/></g>',
         '<g opacity=".5"><circle opacity=".5" r="4"/></g>'),
        # definitions
        (('<defs><linearGradient id="x"/><linearGradient id="a"><stop offset="0" stop-color="#f00"/>'
         '<stop offset="100%" stop-color="blue"/></linearGradient><linearGradient id="b" '
         'href="#a"/></defs><circle r="4" fill="url(#b)"/>'),
         ('<defs><linearGradient id="~a"><stop stop-color="red"/><stop offset="1" '
         'stop-color="#00f"/></linearGradient></defs><circle fill="url(#~a)" r="4"/>')),
        # shapes
        ('<rect x="3" y="3" width="18" height="18" rx="2"/>',
         '<rect x="3" y="3" width="18" height="18" rx="2"/>'.replace(
             'x="3" y="3" width="18" height="18" rx="2"', 'width="18" height="18" rx="2" x="3" y="3"')),
        ('<path d="M5 3h14a2 2 0 0 1 2 2v14a2 2 0 0 1-2 2H5a2 2 0 0 1-2-2V5a2 2 0 0 1 2-2z"/>',
         '<rect width="18" height="18" rx="2" x="3" y="3"/>'),
        (f'<path d="{CIRCLE}"/>', '<circle cx="12" cy="12" r="10"/>'),
        ('<polygon points="0,0 9,0 9,9"/>', '<path d="M0 0h9v9z"/>'),
        ('<path fill="red" d="M1 1h9v9z"/><path fill="red" d="M2 1h9v9z"/><circle r="4"/>',
         '<g fill="red"><path d="M1 1h9v9z"/><path d="M2 1h9v9z"/></g><circle r="4"/>'),
        # transforms
        ('<path transform="translate(2 3)" stroke="red" d="M0 0h9"/>',
         '<path stroke="red" d="M2 3h9"/>'),
        ('<path transform="scale(2)" stroke="red" fill="none" d="M1 1h4"/>',
         '<path fill="none" stroke="red" stroke-width="2" d="M2 2h8"/>'),
        ('<path transform="scale(2 1)" stroke="red" d="M1 1h4v2"/>',
         '<path stroke="red" transform="scale(2 1)" d="M1 1h4v2"/>'),
        ('<path transform="translate(2 3)" vector-effect="non-scaling-stroke" d="M1 1h4v4"/>',
         '<path transform="translate(2 3)" vector-effect="non-scaling-stroke" d="M1 1h4v4"/>'),
        # what may not be touched
        ('<text x="3">two  words <tspan fill="red">here</tspan> </text>',
         '<text x="3">two  words <tspan fill="red">here</tspan> </text>'),
        ('<circle r="3" opacity="0"><animate attributeName="opacity" to="1" dur="1s"/></circle>',
         '<circle opacity="0" r="3"><animate attributeName="opacity" dur="1s" to="1"/></circle>'),
        ('<defs><circle id="dot" r="3"/></defs><use href="#dot" x="5"/>',
         '<defs><circle id="~a" r="3"/></defs><use href="#~a" x="5"/>'),
    ],
)  # fmt: skip
def test_what_tidying_leaves(given: str, expected: str) -> None:
    data = drawing(given)
    found = inside(data)
    if "~" in expected:
        mark = found[found.index('id="') + 4 :][:3]
        expected = expected.replace("~", mark)
    assert found.replace("><", ">\n<") == expected.replace("><", ">\n<")


def test_neighbours_share_what_they_say() -> None:
    one = '<path fill="#c8862a" stroke="#33231a" d="M{0} 1h3v3z"/>'
    data = drawing("".join(one.format(at) for at in (1, 6, 11)) + '<circle r="2"/>')
    assert inside(data).startswith('<g fill="#c8862a" stroke="#33231a">')


@pytest.mark.parametrize(
    "given",
    [
        '<symbol id="bee" viewBox="0 0 4 4"><path d="M0,0 L4,4"/></symbol>',
        '<defs><path id="bee" d="M0,0 L4,4"/><g id="hive"><path d="M0 0h4"/></g></defs>',
        '<g display="none"><path id="bee" d="M0,0 L4,4"/></g>',
    ],
)
def test_a_file_of_things_for_pages_keeps_them(given: str) -> None:
    found = inside(drawing(given))
    assert 'id="bee"' in found
    assert ('id="hive"' in found) == ('id="hive"' in given)
    assert " d=" in found


def test_a_style_sheet_that_only_a_browser_settles_stays() -> None:
    sheet = "/* c */ .a:hover { fill : red } @media (width > 9px) { .a { fill: blue } }"
    found = inside(drawing(f'<style>{sheet}</style><path class="a" id="k" d="M 0 0 L 9 0"/>'))
    assert found.startswith("<style>.a:hover{fill : red}@media (width > 9px){.a{fill: blue}}")
    assert 'id="k"' in found
    assert 'class="a"' in found


def test_names_are_kept_when_asked() -> None:
    given = '<g id="lid" class="part" data-x="1"><circle r="3"/></g>'
    assert inside(drawing(given), keeps_names=True) == given


def test_ids_of_two_files_are_unlike_and_stay() -> None:
    gradient = '<radialGradient id="a"><stop stop-color="{0}"/><stop offset="1"/></radialGradient>'
    texts = [
        tidy(drawing(gradient.format(c) + '<circle r="9" fill="url(#a)"/>'), "a").text
        for c in ("red", "#0f0")
    ]
    marks = [text[text.index('id="') + 4 :][:4] for text in texts]
    assert marks[0] != marks[1]
    assert all(mark.endswith("a") and mark.isalpha() for mark in marks)
    assert [tidy(text.encode(), "b").text for text in texts] == texts


@pytest.mark.parametrize("largest", [24, 96, 960])
def test_digits_come_from_the_largest_size(largest: float) -> None:
    data = drawing('<path d="M1.23456 2.34567L9.87654 8.76543"/>', ' width="24" height="24"')
    text = tidy(data, "a", Tidying(largest=largest)).text
    found = [
        number for s in parse(text[text.index('d="') + 3 :].split('"')[0]) for number in s.numbers
    ]
    moved = max(
        abs(a - b) for a, b in zip(found, [1.23456, 2.34567, 9.87654, 8.76543], strict=True)
    )
    assert moved * largest / 24 < 0.03
    assert len(text) < len(data)


# Hostile ones


HOSTILE = [
    ("<script>alert(1)</script>", "a script"),
    ('<circle r="3" onclick="x()"/>', "event handlers"),
    ('<image href="http://x.example/a.png" width="9" height="9"/>', "leads outside"),
    ('<use href="other.svg#a"/>', "leads outside"),
    ('<circle r="3" fill="url(http://x.example/a.svg#b)"/>', "leads outside"),
    ('<a href="javascript:alert(1)"><circle r="3"/></a>', "a link that runs"),
    ("<style>@import url(http://x.example/a.css);</style>", "fetches"),
    ('<style>@font-face{font-family:a;src:url("//x.example/a")}</style>', "fetches"),
    ('<set attributeName="onclick" to="x()"/>', "animated link"),
    ('<a><set attributeName="xlink:href" to="javascript:x()"/></a>', "animated link"),
    ('<foreignObject><b xmlns="http://www.w3.org/1999/xhtml">x</b></foreignObject>', "a page"),
]


@pytest.mark.parametrize(("inner", "says"), HOSTILE)
def test_what_runs_or_fetches_comes_out_or_is_refused(inner: str, says: str) -> None:
    data = drawing(inner + '<circle r="5"/>')
    found = tidied(data, "a.svg")
    assert any(says in one for one in found.removed)
    for word in ("script", "onclick", "example", "other.svg", "import", "<b", "href"):
        assert word not in found.text.replace('<a href="', "")
    with pytest.raises(MockupError) as caught:
        sound(data, "a.svg", DEFAULT_LIMITS, refuses=True)
    assert says in caught.value.message


@pytest.mark.parametrize(
    "data",
    [
        b'<!DOCTYPE svg [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;&a;&a;">'
        + b"".join(
            b'<!ENTITY %c "%s">' % (99 + i, b"&%c;" % (98 + i) * 10) for i in range(9)
        )
        + b']><svg xmlns="http://www.w3.org/2000/svg"><text>&k;</text></svg>',
        (b'<!DOCTYPE svg [<!ENTITY a SYSTEM "file:///etc/passwd">]>'
        b'<svg xmlns="http://www.w3.org/2000/svg"><text>&a;</text></svg>'),
        b"<svg", b"<html/>", b"",
        drawing("<g>" * 3000 + "</g>" * 3000),
    ],
)  # fmt: skip
def test_bombs_and_broken_files_are_refused(data: bytes) -> None:
    with pytest.raises(MockupError):
        tidied(data, "a.svg")


# Held against the source


def _icons() -> Iterator[bytes]:
    """Drawings with ballast, as programs write them, of every kind of thing."""
    head = ' width="24" height="24" xmlns:i="http://editor.example/ns" i:version="1.2"'
    yield drawing(f'<g i:label="Layer 1"><path d="{CIRCLE}" style="fill:#c8862a"/></g>', head)
    star = " ".join(
        f"{12 + r * math.cos(a):.6f},{12 + r * math.sin(a):.6f}"
        for a, r in ((i * math.pi / 5, 11 if i % 2 else 5) for i in range(10))
    )
    yield drawing(f'<polygon points="{star}" fill="rgb(51,35,26)" fill-rule="evenodd"/>', head)
    yield drawing(
        '<defs><linearGradient id="honey" gradientTransform="rotate(30)"><stop offset="0%" '
        'stop-color="#f3c25a"/><stop offset="100%" stop-color="#d08a1e"/></linearGradient></defs>'
        '<g transform="matrix(0.9,0,0,0.9,1.2,1.2)"><rect x="2.00" y="3" width="20" height="18" '
        'rx="3" ry="3" fill="url(#honey)" stroke="#33231a" stroke-width="1.5"/></g>', head)  # fmt: skip
    yield drawing(
        '<clipPath id="half"><rect width="12" height="24"/></clipPath><g clip-path="url(#half)" '
        'opacity="0.8"><circle cx="12" cy="12" r="10"/><path fill="#fff" '
        'transform="rotate(45 12 12)" d="M8 8h8v8h-8z"/></g>', head)  # fmt: skip
    lines = "".join(
        f'<line x1="{x}" y1="3" x2="{x + 4.333333}" y2="20.5" fill="none" stroke="#000" '
        f'stroke-width="1.25" stroke-linecap="round"/>' for x in range(3, 17, 3)
    )  # fmt: skip
    yield drawing(lines, head)


@pytest.mark.parametrize("data", list(_icons()))
def test_a_tidied_drawing_is_drawn_alike_and_tidied_for_good(data: bytes) -> None:
    found = tidied(data, "a.svg")
    assert found.is_changed
    assert found.difference.mean <= 0.1
    assert found.difference.share <= 0.001
    assert len(found.text) < 0.84 * len(data)
    assert "editor.example" not in found.text
    assert tidied(found.text.encode(), "b.svg").text == found.text


def test_what_would_be_seen_is_not_done(monkeypatch: pytest.MonkeyPatch) -> None:
    from riffler.tidy import tidying

    data = drawing('<circle cx="12" cy="12" r="10"/><!-- ballast -->')
    spoil = lambda drawing, _: drawing.root[0].set("r", "4")  # noqa: E731
    for passes in ("PASSES", "STILL"):
        monkeypatch.setattr(tidying, passes, (*getattr(tidying, passes), spoil))
    found = tidied(data, "a.svg")
    assert not found.is_changed
    assert found.text == data.decode()


@pytest.mark.parametrize("encoding", ["utf-8-sig", "utf-16", "iso-8859-1"])
def test_drawings_in_any_encoding(encoding: str) -> None:
    head = f'<?xml version="1.0" encoding="{encoding.removesuffix("-sig")}"?>'
    text = head + drawing("<title>Bienenköniginnen</title><circle r='3'/>").decode()
    found = tidied(text.encode(encoding), "a.svg").text
    assert "<title>Bienenköniginnen</title>" in found
    assert tidied(found.encode(), "a.svg").text == found


def test_a_segment_knows_where_it_ends() -> None:
    ends: Sequence[tuple[float, float]] = [s.end for s in parse("M1 2L3 4")]
    assert ends == [(1, 2), (3, 4)]
    assert Segment("Z", ()) == parse("M1 2z")[1]
