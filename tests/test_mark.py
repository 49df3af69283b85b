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


SHARED = """\
[guides.y]
"foot-y" = 60
[slice.tail]
x = ["left", "left + 12"]
y = ["foot-y - 4", 'foot-y']
"""

NAMED = {
    "cuts/_shared.toml": SHARED,
    "cuts/m.toml": 'include = ["_shared.toml"]\n' + PLAN + """
[grid.col]
count = 4
from = "left"   # the margin
to = 90
[slice.twin]
like = "row-2"
x = ["col-1", "col-2 - 1"]
""",
    "cuts/n.toml": 'mockup = "../mockups/m.ora"\nwhen = "(max-width: 9em)"\nlabel = "n"\n'
    'slice.bar = { at = [0, 0, 4, 4], in = "row" }\ngroup.row = { alt = "left" }\n',
    "pages/index.html": """\
<div class="piece-bar piece-bar-2 piece-row-1 bar">{{ inlay( 'bar' , class="bar") }}{{ inlay("blue") }}
{% for n in [1, 2] %}{{ inlay("row-" ~ n) }}<i class="piece-row-{{ n }}"></i>{% endfor %}
{{ inlay("b" ~ site.rest) }}
{% set own = "bar" %}{{ inlay(own) }}
""",
    "styles/site.css": ".piece-bar:hover, .piece-barn { width: var(--bar-width); height: var(--row-1-y) }\n",
}  # fmt: skip


@pytest.mark.parametrize(
    "old, new, expected, left",
    [
        (
            "bar", "head-bar",
            ["+slice.head-bar = { at = [0, 0, 4, 4], in = \"row\" }", "+[slice.head-bar]", "+[slice.head-bar.state.hover]",
             '+<div class="piece-head-bar piece-bar-2 piece-row-1 bar">{{ inlay( \'head-bar\' , class="bar") }}{{ inlay("blue") }}',
             "+.piece-head-bar:hover, .piece-barn { width: var(--head-bar-width); height: var(--row-1-y) }"],
            [3, 4],
        ),
        (
            "row", "post",
            ["+[slice.post]", '+like = "post-2"',
             '+<div class="piece-bar piece-bar-2 piece-post-1 bar">{{ inlay( \'bar\' , class="bar") }}{{ inlay("blue") }}',
             '+{% for n in [1, 2] %}{{ inlay("post-" ~ n) }}<i class="piece-post-{{ n }}"></i>{% endfor %}',
             "+.piece-bar:hover, .piece-barn { width: var(--bar-width); height: var(--post-1-y) }"],
            [],
        ),
        ("left", "at", ["+at     = 10     # the margin", '+from = "at"   # the margin', '+x    = ["at", "middle"]      # half', '+x = ["at", "at + 12"]'], []),
        ("col", "cell", ["+[grid.cell]", '+x = ["cell-1", "cell-2 - 1"]'], []),
        ("foot-y", "foot", ["+foot     = 60", '+y = ["foot - 4", "foot"]'], []),
    ],
)  # fmt: skip
def test_a_new_name_follows_everywhere(
    old: str, new: str, expected: list[str], left: list[int], tmp_path: Path, riffler: Run
) -> None:
    project = write_project(tmp_path / "p", NAMED, LAYERS)
    before = {name: (project / name).read_text() for name in NAMED}
    said = json.loads(riffler("mark", old, "--rename", new, "--json", cwd=project).stdout)
    after = {name: (project / name).read_text() for name in NAMED}
    came = [line for name in NAMED for line in changes(before[name], after[name]) if line[0] == "+"]
    assert sorted(came) == sorted(expected)
    assert [mention["line"] for mention in said["left"]] == left
    assert {change["file"] for change in said["changes"]} == {
        n for n in NAMED if before[n] != after[n]
    }
    riffler("mark", new, "--rename", old, "-q", cwd=project)
    assert all(
        tomllib.loads((project / n).read_text()) == tomllib.loads(t)
        for n, t in before.items()
        if n.endswith("toml")
    )


@pytest.mark.parametrize(
    "arguments, message",
    [
        (["bar", "row-2"], 'There is a slice "row-2" in cuts/m.toml already.'),
        (["row", "tail"], 'There is a slice "tail" in cuts/_shared.toml already.'),
        (["row-1", "x"], '"row-1" is one of the row "row".'),
        (["left", "col"], 'There is a grid "col" in cuts/m.toml already.'),
        (["left", "12"], '"12" is a number.'),
        (["bar", "Bar"], '"Bar" should be lower-case letters'),
        (["bra", "x"], 'Did you mean "bar"?'),
        (["bar", "x", "--grow", "2"], "A new name goes by itself."),
    ],
)  # fmt: skip
def test_new_names_that_are_refused(
    arguments: list[str], message: str, tmp_path: Path, riffler: Run
) -> None:
    project = write_project(tmp_path / "p", NAMED, LAYERS)
    old, new, *more = arguments
    assert message in riffler("mark", old, "--rename", new, *more, cwd=project, code=2).stderr
    assert all((project / name).read_text() == text for name, text in NAMED.items())


@pytest.mark.parametrize(
    "words, offered",
    [
        ("cut ro", "row-1 row-2 row-3"),
        ("weigh bl", "blue"),
        ("survey tw", "twin"),
        ("inlay ta", "tail"),
        ("mark l", "left"),
        ("mark x --like row", "row-1 row-2 row-3"),
        ("mark x --around b", "b blue"),
        ("mark x --group r", "row"),
        ("mark x --cutlist _", ""),
        ("mark x --cutlist m --only g", "ground"),
        ("mark x --role p", "panel picture"),
        ("mark x --save avif,p", "avif,png"),
        ("mark x --link i", "index"),
        ("mark x --accept bak", "baked-text="),
        ("cut mockups/m.ora --only r", "red"),
    ],
)
def test_the_shell_is_offered_names(
    words: str, offered: str, tmp_path: Path, riffler: Run, monkeypatch: pytest.MonkeyPatch
) -> None:
    project = write_project(tmp_path / "p", NAMED, LAYERS)
    monkeypatch.setenv("_RIFFLER_COMPLETE", "complete_bash")
    monkeypatch.setenv("COMP_WORDS", f"riffler {words}")
    monkeypatch.setenv("COMP_CWORD", str(len(words.split())))
    assert riffler(cwd=project).stdout.split() == offered.split()
    assert riffler(cwd=tmp_path).stdout.split() == (
        offered.split() if "--role" in words or "--save" in words or "--accept" in words else []
    )
