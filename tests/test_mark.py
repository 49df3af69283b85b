"""Marking: the diff holds the change and nothing else."""

from __future__ import annotations

import difflib
import json
import tomllib
from pathlib import Path

import pytest

from conftest import Run
from making import Flat, write_project
from riffler.cutlist.editing import CutlistText

PLAN = """\
# The plan of the front page.
mockup  = "../mockups/m.ora"   # drawn in March
words   = ["a",
           "b"]

[guides.x]
left   = 10     # the margin
middle = 40

[guides.y]
top = 4

[defaults]
alt = ""

# First the bar.
[slice.bar]
x    = ["left", "middle"]      # half
y    = ["top", 20]
[slice.bar.state.hover]
show = ["red"]

[slice.row]
at    = [10, 30, 8, 8]
times = { count = 3, x = 12 }

# By itself.
[slice.blue]
only = ["blue"]
"""

LAYERS = (
    Flat("a", (0, 0, 4, 4), more={"visibility": "hidden"}),
    Flat("b", (0, 0, 4, 4), more={"visibility": "hidden"}),
    Flat("red", (0, 0, 100, 80), (255, 0, 0, 255), more={"visibility": "hidden"}),
    Flat("blue", (61, 21, 8, 5), (0, 0, 255, 128)),
    Flat("ground", (0, 0, 100, 80), (0, 128, 0, 255)),
)


@pytest.fixture
def project(tmp_path: Path) -> Path:
    return write_project(tmp_path / "p", {"cuts/m.toml": PLAN}, LAYERS)


def changes(before: str, after: str) -> list[str]:
    """The lines that went (-) and came (+)."""
    lines = difflib.unified_diff(before.splitlines(), after.splitlines(), n=0, lineterm="")
    return [line for line in list(lines)[2:] if not line.startswith("@@")]


@pytest.mark.parametrize(
    "arguments, expected, box",
    [
        (["right", "--guide-x", "90"], ["+right  = 90"], None),
        (["left", "--guide-x", "12"], ["-left   = 10     # the margin", "+left   = 12     # the margin"], None),
        (["foot", "--guide-y", "top + 56"], ['+foot = "top + 56"'], None),
        (
            ["col", "--columns", "4", "--gutter", "4", "--from", "left", "--to", "90"],
            ["+", "+[grid.col]", '+axis   = "x"', "+count  = 4", "+gutter = 4", '+from   = "left"', "+to     = 90"],
            None,
        ),
        (["bar", "--grow", "2"], ["+grow = 2"], (8, 2, 34, 20)),
        (
            ["bar", "--x", "left,middle + 4"],
            ['-x    = ["left", "middle"]      # half', '+x    = ["left", "middle + 4"]  # half'],
            (10, 4, 34, 16),
        ),
        (
            ["bar", "--at", "1,2,30,9"],
            ['-x    = ["left", "middle"]      # half', '-y    = ["top", 20]', "+at = [1, 2, 30, 9]"],
            (1, 2, 30, 9),
        ),
        (["bar", "--state", "hover", "--hide", "blue"], ['+hide = ["blue"]'], (10, 4, 30, 16)),
        (
            ["bar", "--state", "active", "--show", "red"],
            ["+[slice.bar.state.active]", '+show = ["red"]'],
            (10, 4, 30, 16),
        ),
        (
            ["badge", "--around", "blue", "--grow", "3", "--link", "visit", "--save", "png,jpeg"],
            ["+", "+[slice.badge]", '+around = ["blue"]', "+grow   = 3", '+save   = ["png", "jpeg"]', '+link   = "visit"'],
            (58, 18, 14, 11),
        ),
        (
            ["next", "--like", "bar", "--by", "30,0", "--alt", "Say \"so\""],
            ["+[slice.next]", '+like = "bar"', "+by   = [30, 0]", '+alt  = "Say \\"so\\""', "+"],
            (40, 4, 30, 16),
        ),
        (
            ["third", "--like", "bar", "--by", "15,0", "--nth", "3"],
            ["+[slice.third]", '+like = "bar"', "+by   = [30, 0]", "+"],
            (40, 4, 30, 16),
        ),
        (
            ["dot", "--like", "row", "--nth", "3", "--by", "1,1"],
            ["+[slice.dot]", '+like = "row-3"', "+by   = [1, 1]", "+"],
            (35, 31, 8, 8),
        ),
        (["row", "--times", "4", "--step", "20,0"], ["-times = { count = 3, x = 12 }", "+times = { count = 4, x = 20 }"], (10, 30, 8, 8)),
        (["bar", "--accept", "link=it opens a menu"], ["+[slice.bar.accept]", '+link = "it opens a menu"'], (10, 4, 30, 16)),
        (["blue", "--set", "trim=true", "--role", "icon"], ['+role = "icon"', "+trim = true"], (61, 21, 8, 5)),
        (
            ["blue", "--remove"],
            ["-", "-# By itself.", "-[slice.blue]", '-only = ["blue"]'],
            None,
        ),
        (["middle", "--guide-x", "40"], [], None),
    ],
)  # fmt: skip
def test_only_the_change_is_in_the_diff(
    riffler: Run,
    project: Path,
    arguments: list[str],
    expected: list[str],
    box: tuple[int, ...] | None,
) -> None:
    path = project / "cuts/m.toml"
    riffler("mark", *arguments, "--dry-run", cwd=project)
    assert path.read_text() == PLAN
    data = json.loads(riffler("mark", *arguments, "--json", cwd=project).stdout)
    after = path.read_text()
    assert changes(PLAN, after) == expected
    tomllib.loads(after)
    assert [line["sign"] + line["text"] for line in data["lines"]] == expected
    assert (data["box"] and tuple(data["box"].values())) == box
    riffler("cut", "--dry-run", cwd=project)


@pytest.mark.parametrize(
    "arguments, says",
    [
        (["bar", "--at", "1,2,3"], "3 parts, not 4"),
        (["bar", "--at", "500,0,9,9"], "stays as it is: The box (500, 0, 9 x 9) lies outside"),
        (["bar", "--x", "left,rigth"], 'no guide "rigth"'),
        (["Bar", "--at", "1,2,3,4"], "lower-case"),
        (["bar"], 'Nothing is said of "bar"'),
        (["bar", "--role", "pictur"], "'picture'"),
        (["row-2", "--grow", "1"], 'one of the row "row"'),
        (["gone", "--remove"], 'no slice "gone"'),
        (["middle", "--remove"], '"middle" is used by bar.'),
        (["blue", "--accept", "gapp=x"], 'Did you mean "gap"'),
        (["blue", "--accept", "gap"], "KEY=VALUE"),
        (["x", "--like", "blue", "--nth", "2"], "Say it: --by"),
        (["a", "--guide-x", "1", "--columns", "2", "--to", "9"], "one thing"),
        (["a", "--guide-x", "a + 1"], "leads back to itself"),
        (["a", "--columns", "40", "--gutter", "9", "--to", "90"], "do not fit"),
        (["bar", "--like", "bar"], "lean on each other"),
        (["bar", "--at", "1,1,9,9", "--cutlist", "n"], 'no cutlist "n"'),
    ],
)
def test_what_is_not_sound_is_not_written(
    riffler: Run, project: Path, arguments: list[str], says: str
) -> None:
    error = riffler("mark", *arguments, cwd=project, code=2).stderr
    assert says in error
    assert (project / "cuts/m.toml").read_text() == PLAN


def test_a_shared_slice_is_changed_where_it_is_written(riffler: Run, project: Path) -> None:
    shared = '# For every page.\n[slice.foot]\nat  = [0, 70, 100, 10]\nalt = ""\n'
    (project / "cuts/_shared.toml").write_text(shared)
    (project / "cuts/m.toml").write_text('include = ["_shared.toml"]\n' + PLAN)
    out = riffler("mark", "foot", "--at", "0,60,100,20", cwd=project).stdout
    assert "Changed cuts/_shared.toml: foot is 100 x 20 px at 0, 60." in out
    assert (project / "cuts/_shared.toml").read_text() == shared.replace(
        "70, 100, 10", "60, 100, 20"
    )


@pytest.mark.parametrize(
    "text",
    ["", "# nothing yet\n", 'mockup = "a"', 'mockup = "a"\r\n[slice.x]\r\nat = [1, 2, 3, 4]\r\n'],
)
def test_any_text_can_be_added_to(text: str) -> None:
    edited = CutlistText(text)
    edited.write(("density",), 2)
    edited.add_table(("slice", "new"), {"at": [0, 0, 1, 1]}, "Why")
    edited.write(("slice", "new", "state", "hover", "show"), ["x" * 40, "y" * 40, "z" * 40])
    data = tomllib.loads(edited.text)
    assert data["density"] == 2
    assert data["slice"]["new"]["state"]["hover"]["show"][2] == "z" * 40
    edited.remove(("slice", "new"))
    edited.remove(("density",))
    assert tomllib.loads(edited.text) == tomllib.loads(text)
