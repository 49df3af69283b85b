"""The cutlist: boxes, layers and settings as they are settled, and what becomes of roles."""

from __future__ import annotations

import json
import tomllib
from pathlib import Path
from typing import Any

import jsonschema
import numpy as np
import pytest
from PIL import Image

from conftest import Run
from making import Flat, write_ora, write_project
from riffler.cutlist import schema
from riffler.cutlist.editing import Value, table_text
from riffler.cutlist.sound_names import fault, media_query, sound
from riffler.project.project import Project
from riffler.workspace import Workspace
from riffler.workspace.prepare import prepare, read_cutlists

HEAD = """\
mockup = "../mockups/m.ora"
[guides.x]
left   = 10
right  = "left + 60"
[guides.y]
top = "half - 20"
half = 40
[grid.col]
count  = 4
gutter = 4
from   = "left"
to     = "right + 22"
[grid.row]
axis  = "y"
count = 2
to    = 80
[defaults]
save = ["png"]
quality = 50
[group.loud]
quality = 70
grow = 1
hide = ["tools/blue"]
"""

LAYERS = (
    Flat("red", (0, 0, 100, 80), (255, 0, 0, 255), more={"visibility": "hidden"}),
    Flat("tools", inside=[
        Flat("blue", (61, 21, 8, 5), (0, 0, 255, 128)),
        Flat("soft", (20, 50, 10, 10), (0, 0, 0, 60)),
    ]),
    Flat("ground", (0, 0, 100, 80), (0, 128, 0, 255)),
)  # fmt: skip


def resolved(root: Path) -> dict[str, Any]:
    project = Project.at(root)
    cutlists = prepare(Workspace(project), read_cutlists(project))
    return {slice_.name: slice_ for cutlist in cutlists for slice_ in cutlist.slices}


@pytest.fixture
def project(tmp_path: Path) -> Path:
    return write_project(tmp_path / "p", {"cuts/m.toml": HEAD}, LAYERS)


@pytest.mark.parametrize(
    "table, boxes",
    [
        ('x = ["left", "right"]\ny = ["top", "half"]', [(10, 20, 60, 20)]),
        ('at = ["left + 1", "top", "right - left", 5]', [(11, 20, 60, 5)]),
        ('x = ["col-1", "col-1"]\ny = ["row-1", "row-1"]', [(10, 0, 18, 40)]),  # (82 - 3 x 4) / 4 = 17.5
        ('x = ["col-2", "col-3"]\ny = ["row-2", "row-2"]', [(31, 40, 40, 40)]),  # 31.5 to 70.5, outward
        ('around = ["tools"]', [(20, 21, 49, 39)]),
        ('only = ["tools/blue"]\ngrow = 3', [(58, 18, 14, 11)]),
        ('only = ["tools/blue"]\nat = [50, 10, 40, 40]\ntrim = true', [(61, 21, 8, 5)]),
        ('only = ["tools/blue"]\nat = [50, 10, 40, 40]\ntrim = true\ngrow = 2', [(59, 19, 12, 9)]),
        ('at = [0, 0, 8, 8]\ntimes = { count = 3, x = 12, y = 1 }', [(0, 0, 8, 8), (12, 1, 8, 8), (24, 2, 8, 8)]),
        ('at = [0, 0, 8, 8]\ntimes = { count = 4, x = 12, y = 20, columns = 3 }',
         [(0, 0, 8, 8), (12, 0, 8, 8), (24, 0, 8, 8), (0, 20, 8, 8)]),
        ('at = [0, 0, 8, 8]\ntimes = { down = [0, 12, 40], right = [0, 3, -1] }', [(0, 0, 8, 8), (3, 12, 8, 8), (-1, 40, 8, 8)]),
        ('times = { around = ["tools/blue", "tools"] }', [(61, 21, 8, 5), (20, 21, 49, 39)]),
        ('like = "other"\nby = [5, -1]', [(6, 1, 3, 4)]),
        ('like = "other"\ny = [0, 30]', [(1, 0, 3, 30)]),
        ('in = "loud"\nat = [4, 4, 2, 2]', [(3, 3, 4, 4)]),
    ],
)  # fmt: skip
def test_boxes(project: Path, table: str, boxes: list[tuple[int, ...]]) -> None:
    text = f"{HEAD}[slice.one]\n{table}\n[slice.other]\nat = [1, 2, 3, 4]\n"
    (project / "cuts/m.toml").write_text(text)
    found = resolved(project)
    del found["other"]
    assert list(found) == (
        ["one"] if len(boxes) == 1 else [f"one-{n + 1}" for n in range(len(boxes))]
    )
    assert [(b.x, b.y, b.width, b.height) for b in (one.box for one in found.values())] == boxes


@pytest.mark.parametrize(
    "table, line, says",
    [
        ("at = [1, 2, 3, 4]\nx = [1, 2]", 24, "said twice"),
        ('like = "two"', 25, 'no slice "two"'),
        ('like = "one"', 25, "in a circle"),
        ('at = [1, 2, 3, 4]\nin = "lod"', 26, 'Did you mean "loud"?'),
        ('x = ["col-5", 90]\ny = [0, 9]', 25, "the grid has 4 cells"),
        ('at = [1, 2, 3, 4]\nalts = ["a"]', 26, "there is no times"),
        ('at = [1, 2, 3, 4]\ntimes = { count = 2 }\nalts = ["a"]', 27, "there are 2 boxes"),
        ('at = [1, 2, 30, 4]\nrole = "panel"', 26, "needs caps"),
        ('at = [1, 2, 30, 4]\nrole = "panel"\ncaps = { left = 15, right = 15 }', 27, "no middle"),
        ('at = [1, 2, 30, 4]\nrole = "hero"', 26, "needs a frame"),
        ('at = [1, 2, 30, 4]\nrole = "icon"\nframe = [16, 16]', 27, "larger than its frame"),
        ('at = [1, 2, 30, 4]\nrole = "pic"', 26, "'picture'"),
        ('at = [1, 2, 30, 4]\nsizes = ["2"]', 26, "density like"),
        ('only = ["red"]\nat = [1, 2, 3, 4]\nhide = ["red"]\ntrim = true', 28, "nothing painted"),
        ("at = [0, 0, 900000, 900000]", 25, "almost outside the canvas"),
        ("at = [0, 0, inf, 9]", 25, "number of pixels"),
        ("at = [0, 0, 9, 9]\ntimes = { count = 2, x = nan }", 26, "no number of pixels"),
        ("at = [0, 0, 9, 9]\ntimes = { count = 2000 }", 26, "less than or equal to 1000"),
        ("at = [0, 0, 9, 9]\ntimes = { x = 9 }", 26, "times needs a count"),
        ("at = [0, 0, 9, 9]\ntimes = { right = [0, 9], down = [0, 1, 2] }", 26, "right has 2, down has 3"),
        ("at = [0, 0, 9, 9]\ntimes = { down = [0, 9], count = 4 }", 26, "leave count"),
        ('at = [0, 0, 9, 9]\ntimes = { down = [0, "a"] }', 26, "number of pixels"),
        ('at = [0, 0, 9, 9]\ntimes = { around = ["tools"] }', 26, "said twice"),
        ('times = { around = ["tools"], x = 4 }', 25, "leave count and steps out"),
        ('times = { around = ["tools", "tools/blu"] }', 25, 'Did you mean "tools/blue"?'),
        ('at = [0, 0, 9, 9]\nsizes = ["99999w"]', 26, "is the most"),
        ('around = ["tools/blu"]', 25, 'Did you mean "tools/blue"?'),
    ],
)  # fmt: skip
def test_mistakes_name_their_line(
    riffler: Run, project: Path, table: str, line: int, says: str
) -> None:
    (project / "cuts/m.toml").write_text(f"{HEAD}[slice.one]\n{table}\n")
    error = riffler("cut", cwd=project, code=2).stderr
    assert f"cuts/m.toml, line {line}" in error
    assert says in error


def test_settings_strongest_first(project: Path) -> None:
    (project / "riffler.toml").write_text(
        '[defaults]\nsizes = ["1x"]\nquality = 30\nground = "#fff"\n'
    )
    (project / "cuts/m.toml").write_text(
        HEAD
        + """
[slice.plain]
at = [0, 0, 9, 9]
[slice.loud]
in = "loud"
at = [60, 20, 9, 9]
[slice.own]
in = "loud"
at = [60, 20, 9, 9]
quality = 90
hide = []
[slice.own.state.hover]
quality = 95
show = ["red"]
"""
    )
    found = resolved(project)
    assert {n: one.rest.saving.quality for n, one in found.items()} == {
        "plain": 50,
        "loud": 70,
        "own": 90,
    }
    assert found["own"].states[1].saving.quality == 95
    assert found["own"].states[1].saving.sizes == ("1x",)
    assert found["plain"].rest.saving.ground == (1, 1, 1)
    assert {n: "tools/blue" in one.rest.shown for n, one in found.items()} == {
        "plain": True, "loud": False, "own": True,
    }  # fmt: skip
    assert "red" in found["own"].states[1].shown


def test_included_slices_are_cut_once_and_defaults_go_with_their_file(
    riffler: Run, project: Path
) -> None:
    (project / "cuts/_shared.toml").write_text(
        '[guides.y]\nfoot = 70\n[defaults]\nquality = 11\n[slice.foot]\nx = [0, 100]\ny = ["foot", 80]\n'
    )
    (project / "cuts/m.toml").write_text(
        'include = ["_shared.toml"]\n' + HEAD + "[slice.a]\nat = [0, 0, 5, 5]\n"
    )
    second = 'mockup = "../mockups/m.ora"\ninclude = ["_shared.toml"]\n[slice.b]\nx = [0, 5]\ny = [0, "foot"]\n'
    (project / "cuts/n.toml").write_text(second)
    found = resolved(project)
    assert list(found) == ["a", "foot", "b"]
    assert found["foot"].rest.saving.quality == 11
    assert found["b"].box.height == 70
    assert "Wrote 3 of 3" in riffler("cut", cwd=project).stdout
    for change, says in (
        ("density = 2\n" + second, "shared with cuts/m.toml, which has 1 pixels"),
        (second.replace("_shared", "../cuts/_shared"), "in the cutlist's folder"),
        (second.replace("_shared", "_shard"), 'Did you mean "_shared.toml"'),
        (second.replace("slice.b", "slice.a"), 'There is a slice "a" in cuts/m.toml already'),
    ):
        (project / "cuts/n.toml").write_text(change)
        assert says in riffler("cut", cwd=project, code=2).stderr


def test_a_narrow_mockup_gives_sources(riffler: Run, project: Path) -> None:
    write_ora(project / "mockups/s.ora", (40, 60), [Flat("g", (0, 0, 40, 60), (9, 9, 9, 255))])
    (project / "cuts/m.toml").write_text(
        HEAD + '[slice.top]\nat = [0, 0, 50, 20]\nalt = "Top"\nsizes = ["1x", "2x"]\n'
    )
    narrow = 'mockup = "../mockups/s.ora"\nwhen = "(max-width: 640px)"\n[slice.top]\nat = [0, 0, 40, 20]\n'
    (project / "cuts/s.toml").write_text(narrow)
    riffler("cut", cwd=project)
    names = sorted(path.name for path in (project / "out/images").iterdir())
    assert names == ["top.narrow.png", "top.png", "top@2x.png"]
    with Image.open(project / "out/images/top@2x.png") as twice:
        assert twice.size == (100, 40)
    assert riffler("inlay", "top", cwd=project).stdout == (
        '<picture>\n  <source media="(max-width: 640px)" srcset="images/top.narrow.png" width="40" '
        'height="20">\n  <img src="images/top.png" srcset="images/top.png 1x, images/top@2x.png 2x" '
        'width="50" height="20"\n       alt="Top">\n</picture>\n'
    )
    (project / "cuts/s.toml").write_text(narrow + 'save = ["avif", "webp", "png"]\n')
    riffler("cut", cwd=project)
    sources = riffler("inlay", "top", cwd=project).stdout.split("<source ")[1:]
    said = [source.partition(" width=")[0] for source in sources]
    assert said == [
        'media="(max-width: 640px)" type="image/webp" srcset="images/top.narrow.webp"',
        'media="(max-width: 640px)" srcset="images/top.narrow.png"',
    ]
    (project / "cuts/s.toml").write_text(narrow.replace("slice.top", "slice.tip"))
    assert "for a narrow screen alone" in riffler("cut", cwd=project, code=2).stderr


ROLES = (
    HEAD
    + """
[slice.tile]
at = [0, 0, 20, 20]
role = "tile"
repeat = "x"
[slice.panel]
at = [0, 0, 30, 40]
role = "panel"
caps = { top = 4, bottom = 6 }
[slice.words]
at = [60, 20, 20, 10]
role = "words"
[group.set]
role = "icon"
alt = ""
[slice.wide]
in = "set"
only = ["tools/blue"]
[slice.square]
in = "set"
only = ["tools/soft"]
[slice.hero]
only = ["art"]
at = [40, 60, 20, 20]
role = "hero"
frame = [50, 24]
place = "right"
alt = ""
"""
)


def test_roles(riffler: Run, project: Path) -> None:
    art = np.zeros((20, 20, 4), np.uint8)
    art[..., 3], art[:, :, 0] = 255, np.arange(20)[:, None] * 10
    write_ora(
        project / "mockups/m.ora", (100, 80), [Flat("art", (40, 60, 20, 20), pixels=art), *LAYERS]
    )
    (project / "cuts/m.toml").write_text(ROLES)
    out = riffler("cut", cwd=project).stdout
    assert "Measured 1 region of live text" in out
    ledger = json.loads((project / "out/ledger.json").read_bytes())
    assert {a["slice"]: a["role"] for a in ledger["assets"]} == {
        "hero": "hero", "panel": "panel", "square": "icon", "tile": "tile", "wide": "icon",
    }  # fmt: skip
    region = ledger["words"][0]
    # half a pixel of blue over green lies on 8 x 5 of the 200 px: the ground is the green
    assert (region["slice"], region["ground"], region["place"]["x"]) == ("words", "#008000", 60)
    images = project / "out/images"
    with Image.open(images / "wide.png") as wide, Image.open(images / "square.png") as square:
        assert wide.size == square.size == (10, 10)  # 8 x 5 and 10 x 10
        assert wide.getbbox() == (1, 2, 9, 7)
    with Image.open(images / "hero.png") as hero:
        pixels = np.asarray(hero.convert("RGB"))
    assert pixels.shape == (24, 50, 3)
    assert (pixels[2:22, 30:, 0] == art[..., 0]).all()
    assert (pixels[:, :30] == pixels[:, 30:31]).all()  # each row goes on with its own colour
    riffler("build", cwd=project)
    css = (project / "out/styles/pieces.css").read_text()
    assert 'background: url("../images/tile.png") 0 0 / 20px 20px repeat-x;' in css
    assert "border-width: 4px 0px 6px 0px;" in css
    assert 'border-image: url("../images/panel.png") 4 0 6 0 fill stretch;' in css
    assert "background: #008000;" in css
    assert ":root" not in css  # nothing names a property


def test_the_schema_is_the_models_and_takes_the_example(built: Path) -> None:
    import tomllib

    assert schema.shipped() == schema.generated()
    validator = jsonschema.Draft202012Validator(json.loads(schema.shipped()))
    for path in sorted((built / "cuts").glob("*.toml")):
        validator.validate(tomllib.loads(path.read_text()))
    assert not validator.is_valid({"mockup": "a.ora", "slice": {"a": {"colour": 1}}})


@pytest.mark.parametrize(
    "name, better",
    [("Card Title 2", "card-title-2"), ("cardTitle", "card-title"), ("été", "ete"), ("__", "layer"), ("CON", "con-one")],
)  # fmt: skip
def test_names(name: str, better: str) -> None:
    assert fault(name) is not None
    assert sound(name) == better
    assert fault(better) is None


def test_long_lists_are_wrapped_where_toml_allows_it() -> None:
    down = list(range(0, 3000, 68))
    keys: dict[str, Value] = {"role": "words", "times": {"down": down, "same": True}, "links": ["a long name"] * 12,
            "by": [1, 2], "state": {}}  # fmt: skip
    text = table_text(("slice", "rows"), keys)
    assert max(map(len, text.splitlines())) <= 97
    assert tomllib.loads(text) == {"slice": {"rows": keys}}
    assert text.count("\n") > 6


@pytest.mark.parametrize(
    "said, is_one",
    [
        ("(max-width: 640px)", True), ("screen and (width <= 40em)", True), ("print", True),
        ("(min-width: calc(10px * (2 + 3)))", True), ("(max-width: 640px", False), ("width)", False),
        (")(", False), (" ", False), ("print { } a", False), ('" onload="x', False), ("a;b", False),
    ],
)  # fmt: skip
def test_a_media_query_ends_nothing_around_it(said: str, is_one: bool) -> None:
    if is_one:
        assert media_query(said) == said
        return
    with pytest.raises(ValueError, match="max-width: 640px"):
        media_query(said)
