"""Numbers read off a mockup, held against layouts that were worked out by hand."""

from __future__ import annotations

import csv
import json
import re
from pathlib import Path
from typing import Any, get_args

import pytest
from hypothesis import given
from hypothesis import strategies as st

import planning
import riffler as riffler_package
from conftest import Run
from making import Flat, write_ora, write_project
from riffler.geometry import Rect
from riffler.measure.distances import Between, Insets, between, neighbours
from riffler.measure.one import Measured
from riffler.measure.units import DECIMALS, Scale, Unit

PAGE = """<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1000 600">
<title>page</title>
<rect id="ground" width="1000" height="600" fill="#f4f0e6"/>
<g id="cards">
<rect id="plate" x="100" y="40" width="400" height="200" rx="12" fill="#fff" stroke="none"/>
<rect id="chip" x="120.5" y="60" width="59.5" height="30" fill="url(#g)"/>
<rect id="thumb" x="300" y="61.5" width="100" height="150" fill="#822" stroke="#000" stroke-width="4"/>
</g>
<rect id="aside" x="524" y="40" width="376" height="100" fill="#264"/>
<text id="note" x="524" y="200" font-family="Fern Sans" font-size="20" font-weight="700"
 fill="#102030">Twenty<tspan x="524" dy="30">hives</tspan></text>
<defs><linearGradient id="g"><stop stop-color="#123456"/><stop offset="1" stop-color="#fedcba"/>
</linearGradient></defs></svg>"""

CUTLIST = """mockup = "../mockups/page.svg"
[guides.x]
left = 100
right = 900
[guides.y]
fold = 400
[grid.col]
count = 4
gutter = 24
from = "left"
to = "right"
[slice.thumb]
only = ["cards/thumb"]
"""


@pytest.fixture
def project(tmp_path: Path) -> Path:
    root = write_project(tmp_path / "p", {"cuts/page.toml": CUTLIST})
    (root / "mockups/page.svg").write_text(PAGE)
    return root


@pytest.fixture
def measure(riffler: Run, project: Path) -> Any:  # noqa: ANN401 - what JSON holds
    def run(*arguments: str) -> Any:  # noqa: ANN401
        return json.loads(riffler("measure", *arguments, "--json", cwd=project).stdout)

    return run


@given(st.sampled_from(get_args(Unit)), st.floats(-20_000, 20_000), st.floats(1, 4),
       st.floats(8, 32), st.floats(320, 4000))  # fmt: skip
def test_lengths_come_back_as_far_as_they_are_rounded(
    unit: Unit, pixels: float, density: float, base: float, window: float
) -> None:
    scale = Scale(unit, density, base, window, window)
    said = scale.of(pixels)
    one = scale.back(1.0)
    assert abs(scale.back(said) - pixels) <= 0.5000001 * 10 ** -DECIMALS[unit] * one
    assert float(scale.say(pixels)) == said
    assert one * 10 ** -DECIMALS[unit] <= 0.0400001 * density  # in mockup pixels


@pytest.mark.parametrize(
    "other, gaps, centers, overlap, aligned, missed",
    [
        ((130, 0, 50, 40), (30, -40), (105, -10), None, [("top", "top")], []),
        ((100, 0, 50, 60), (0, -60), (75, 0), None,
         [("right", "left"), ("top", "top"), ("middle", "middle"), ("bottom", "bottom")], []),
        ((20, 61.5, 60, 10), (-60, 1.5), (0, 36.5), None, [("center", "center")], [("bottom", "top")]),
        ((40, 20, 100, 90), (-60, -40), (40, 35), (40, 20, 60, 40), [], []),
    ],
)  # fmt: skip
def test_two_boxes(
    other: tuple[float, ...], gaps: object, centers: object, overlap: object,
    aligned: list[object], missed: list[object],
) -> None:  # fmt: skip
    found = between(Rect(0, 0, 100, 60), Rect(*other))
    assert (found.across.gap, found.down.gap) == gaps
    assert (found.across.center, found.down.center) == centers
    assert (found.overlap and tuple(vars(found.overlap).values())) == overlap
    assert [(one.line, one.other) for one in found.aligned] == aligned
    assert [(one.line, one.other) for one in found.missed] == missed
    back = between(Rect(*other), Rect(0, 0, 100, 60))
    assert (back.across.gap, back.across.center) == (found.across.gap, -found.across.center)


def test_one_box_in_another_and_what_is_beside_it() -> None:
    found = between(Rect(0, 0, 100, 60), Rect(10, 5, 40, 30))
    assert found.inside == Insets(10, 5, 50, 25)
    others = [Rect(-40, 10, 20, 20), Rect(-90, 0, 30, 60), Rect(130, 59, 9, 9), Rect(0, 70, 9, 9)]
    near = neighbours(Rect(0, 0, 100, 60), others)
    assert near == {"left": (0, 20), "right": (2, 30), "below": (3, 10)}


@pytest.mark.parametrize(
    "other, sides",
    [
        (Rect(99.6, 0, 50, 60), {"right": -0.4}),
        (Rect(99.4, 0, 50, 60), {}),  # it lies on it
        (Rect(99.7, 59.7, 50, 60), {}),  # at a corner: beside by rounding alone, and below so too
        (Rect(110, 59.7, 50, 60), {}),
        (Rect(110, 59.4, 50, 60), {"right": 10}),
        (Rect(110, 10, 50, 0.4), {"right": 10}),  # a hairline is all that there is of it
    ],
)
def test_half_a_pixel_is_rounding(other: Rect, sides: dict[str, float]) -> None:
    found = neighbours(Rect(0, 0, 100, 60), [other])
    assert {side: gap for side, (_, gap) in found.items()} == pytest.approx(sides)


def test_a_thing_with_its_surroundings(measure: Any) -> None:  # noqa: ANN401
    chip = measure("cards/chip")
    assert chip["box"] == {"x": 120.5, "y": 60, "width": 59.5, "height": 30}
    assert chip["canvas"] == {"left": 120.5, "top": 60, "right": 820, "bottom": 510}
    on = {"name": "cards/plate", "left": 20.5, "top": 20, "right": 320, "bottom": 150}
    assert chip["on"] == on
    assert chip["group"] == {**on, "name": "cards"}
    assert chip["beside"]["right"] == {"name": "cards/thumb", "gap": 118}  # its line goes out by 2
    assert chip["beside"]["left"] == {"name": "canvas", "gap": 120.5}
    assert (chip["share"], chip["columns"]) == (round(59.5 / 800, 4), None)
    assert measure("cards/plate")["share"] == 0.5
    assert measure("aside")["columns"] is None  # it begins with the third column, 24 px too early
    assert measure("col-3")["columns"] == {"first": 3, "last": 3, "of": 4}


def test_two_things_in_any_unit(measure: Any) -> None:  # noqa: ANN401
    apart = measure("cards/plate", "aside")
    assert apart["across"] == {"gap": 24, "center": 412}
    assert apart["aligned"] == [{"line": "top", "other": "top", "off": 0}]
    chip = measure("cards/chip", "thumb")  # the slice, on whole pixels: from 298 and 59
    assert chip["missed"][0] == {"line": "top", "other": "top", "off": -1}
    for unit, gap in (("rem", 1.5), ("vw", 2.4), ("%", 3)):
        assert measure("cards/plate", "aside", "--unit", unit)["across"]["gap"] == gap
    assert measure("cards/plate", "aside", "--unit", "rem", "--base", "12")["across"]["gap"] == 2
    assert measure("fold", "aside")["down"]["gap"] == 260
    assert measure("0,0", "30,40,10,10")["across"]["gap"] == 30


def test_the_whole_page_and_lists(measure: Any, riffler: Run, project: Path) -> None:  # noqa: ANN401
    page = measure()
    assert (page["width"], page["height"]) == (1000, 600)
    assert page["content"] == {"left": 100, "width": 800}
    assert {"widths": [400, 376], "gaps": [24]}.items() <= page["columns"][0].items()
    (project / "riffler.toml").write_text('[measure]\nunit = "rem"\nbase = 10\n')
    rows = list(csv.reader(riffler("measure", "--csv", cwd=project).stdout.splitlines()))
    assert rows[0] == ["kind", "name", "left", "top", "width", "height"]
    assert ["layer", "cards/chip", "12.05", "6", "5.95", "3"] in rows
    assert ["slice", "thumb", "29.8", "5.9", "10.4", "15.5"] in rows


@pytest.mark.parametrize(
    "thing, lines",
    [
        ("cards/plate", ["width: 400px;", "height: 200px;", "background: #ffffff;", "border-radius: 12px;"]),
        ("cards/chip", ["background: linear-gradient(90deg, #123456 0%, #fedcba 100%);"]),
        ("cards/thumb", ["border: 4px solid #000000;", "width: 104px;"]),
        ("thumb", ["/* thumb, by cards/thumb */", "border: 4px solid #000000;"]),
        ("cards", ["/* cards, by cards/plate */", "width: 400px;"]),
        ("note", ['font-family: "Fern Sans";', "font-size: 20px;", "font-weight: bold;",
                  "line-height: 1.5;", "color: #102030;", "/* hives */"]),
    ],
)  # fmt: skip
def test_the_style_of_a_thing(riffler: Run, project: Path, thing: str, lines: list[str]) -> None:
    said = riffler("measure", thing, "--css", cwd=project).stdout.splitlines()
    assert set(lines) <= set(said)


def test_pixels_at_density_two(riffler: Run, tmp_path: Path) -> None:
    project = write_project(
        tmp_path / "p", {"cuts/m.toml": 'mockup = "../mockups/m.ora"\ndensity = 2\n'}
    )
    plate = planning.rounded("plate", 200, 100, 241, 90, 20)
    photo = planning.photo("photo", 500, 100, 120, 90)
    write_ora(
        project / "mockups/m.ora", (900, 700), [plate, photo, Flat("ground", (0, 0, 900, 700))]
    )
    found = json.loads(riffler("measure", "plate", "photo", "--json", cwd=project).stdout)
    assert found["across"] == {"gap": 29.5, "center": 119.75}
    style = riffler("measure", "plate", "--css", cwd=project).stdout
    assert "width: 120.5px;" in style
    assert re.search(r"border-radius: 10(.5)?px;", style)  # drawn without smooth edges
    assert (
        "No style sheet draws it: photo" in riffler("measure", "photo", "--css", cwd=project).stdout
    )


@pytest.mark.parametrize(
    "arguments, says",
    [
        (["cards/chp"], 'Did you mean "cards/chip"?'), (["layer:thmb"], 'There is no layer "thmb"'),
        (["a", "b", "c"], "Two things"), (["--all", "cards"], "list every thing"),
        (["--css"], "of one thing"), (["1,2,3"], "neither a point nor a box"),
        (["kind:vector"], "layers"), (["cards", "--unit", "em"], 'Did you mean "rem"?'),
        (["cards", "--in", "gone.svg"], "no such file"), (["kind:word"], "nothing called"), (["note"], "typeface is missing"),
    ],
)  # fmt: skip
def test_mistakes(riffler: Run, project: Path, arguments: list[str], says: str) -> None:
    assert says in riffler("measure", *arguments, cwd=project, code=2).stderr


def test_of_several_mockups_one_is_said(riffler: Run, project: Path) -> None:
    (project / "mockups/other.svg").write_text(PAGE.replace('x="100"', 'x="90"'))
    (project / "cuts/other.toml").write_text('mockup = "../mockups/other.svg"\n')
    error = riffler("measure", "cards/plate", cwd=project, code=2).stderr
    assert "--in other or --in page" in error
    for where, left in (("other", "90, 40"), ("mockups/page.svg", "100, 40")):
        assert left in riffler("measure", "cards/plate", "--in", where, cwd=project).stdout
    assert "a slice" in riffler("measure", "thumb", cwd=project).stdout


def test_names_that_a_spreadsheet_would_run_are_text(riffler: Run, tmp_path: Path) -> None:
    layers = [Flat("=1+2", (0, 0, 9, 9)), Flat('say "hi", they', (20, 0, 9, 9))]
    write_ora(tmp_path / "m.ora", (60, 40), layers)
    said = riffler("measure", "--csv", "--in", tmp_path / "m.ora", cwd=tmp_path).stdout
    assert [row[1] for row in csv.reader(said.splitlines())] == ["name", "'=1+2", 'say "hi", they']


def test_the_face_measures_in_mockup_pixels(project: Path) -> None:
    one = riffler_package.numbers(project / "mockups/page.svg", "cards/chip")
    assert isinstance(one, Measured)
    assert one.thing.box == Rect(120.5, 60, 59.5, 30)
    two = riffler_package.numbers(project / "mockups/page.svg", "cards/plate", "aside")
    assert isinstance(two, Between)
    assert two.across.gap == 24
