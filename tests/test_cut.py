"""Cutting: pixels, files, ledger."""

from __future__ import annotations

import hashlib
import io
import json
import xml.etree.ElementTree as ET
import zipfile
from pathlib import Path
from typing import Any

import jsonschema
import numpy as np
import pytest
from PIL import Image

import riffler as package
from conftest import Run
from making import Flat, tree, write_ora, write_project
from riffler.cutting.cut import cut
from riffler.cutting.unchanged import unchanged
from riffler.project.project import Project
from riffler.workspace import Workspace

HOME = Path(package.__file__).parent / "demo/fernhollow/mockups/home.ora"


def composed(path: Path, only: str | None = None) -> np.ndarray:
    """Straight RGBA of the visible layers in float64, from the source-over formula alone.

    Porter and Duff 1984: co = cs + cb (1 - as), on premultiplied colours.
    """
    with zipfile.ZipFile(path) as archive:
        image = ET.fromstring(archive.read("stack.xml"))
        canvas = np.zeros((int(image.attrib["h"]), int(image.attrib["w"]), 4))

        def lay(stack: ET.Element, address: str) -> None:
            for child in reversed(list(stack)):
                name = f"{address}{child.get('name')}"
                if child.tag == "stack":
                    if child.get("visibility") != "hidden":
                        lay(child, name + "/")
                elif child.get("visibility") != "hidden" and only in (None, name):
                    data = io.BytesIO(archive.read(child.attrib["src"]))
                    source = np.asarray(Image.open(data).convert("RGBA")) / 255.0
                    source[..., :3] *= source[..., 3:]
                    x, y = int(child.get("x", 0)), int(child.get("y", 0))
                    height, width = source.shape[:2]
                    under = canvas[y : y + height, x : x + width]
                    under[...] = source + under * (1 - source[..., 3:])

        lay(image[0], "")
    return canvas


def test_a_full_canvas_equals_an_independent_composition() -> None:
    ours = package.draw(package.open(HOME)) / 255.0
    expected = composed(HOME)
    assert ours.shape == expected.shape == (2640, 1920, 4)
    assert np.abs(ours - expected).max() <= 1 / 255


def test_a_layer_alone_laid_over_white_equals_the_same(riffler: Run, tmp_path: Path) -> None:
    riffler("cut", HOME, "--only", "tools/smoker", "-o", "smoker.png")
    ours = np.asarray(Image.open(tmp_path / "smoker.png").convert("RGBA")) / 255.0
    expected = composed(HOME, "tools/smoker")
    painted = expected[..., 3] > 0
    rows, columns = np.flatnonzero(painted.any(axis=1)), np.flatnonzero(painted.any(axis=0))
    expected = expected[rows[0] : rows[-1] + 1, columns[0] : columns[-1] + 1]
    assert ours.shape == expected.shape
    on_white = ours[..., :3] * ours[..., 3:] + (1 - ours[..., 3:])
    assert np.abs(on_white - (expected[..., :3] + (1 - expected[..., 3:]))).max() <= 1 / 255


def test_the_ledger_is_true_and_nothing_else_is_in_out(built: Path) -> None:
    ledger = json.loads((built / "out/ledger.json").read_bytes())
    schema = json.loads((Path(package.__file__).parent / "output/ledger.schema.json").read_bytes())
    jsonschema.Draft202012Validator(schema).validate(ledger)
    files = tree(built / "out")
    del files["ledger.json"]
    assert sorted(files) == [asset["file"] for asset in ledger["assets"]]
    for asset in ledger["assets"]:
        data = files[asset["file"]]
        assert len(data) == asset["bytes"]
        assert hashlib.sha256(data).hexdigest() == asset["sha256"]
        if asset["kind"] == "cut" and asset["role"] == "picture":
            with Image.open(io.BytesIO(data)) as picture:
                assert picture.size == (asset["pixels"]["width"], asset["pixels"]["height"])
            for side in ("width", "height"):
                assert asset["css"][side] == asset["place"][side] / asset["density"]


def test_two_demos_are_equal_to_the_byte(riffler: Run, built: Path, tmp_path: Path) -> None:
    riffler("demo", "again")
    assert tree(tmp_path / "again/out") == tree(built / "out")


def test_the_favicon_holds_its_sizes(built: Path) -> None:
    with Image.open(built / "out/favicon.ico") as icon:
        assert icon.info["sizes"] == {(side, side) for side in (16, 20, 24, 32, 48)}


CUTLIST = """\
mockup  = "../mockups/m.ora"
density = 2
[guides.x]
left  = 10
right = 50
[defaults]
save = ["png", "jpeg"]
[slice.box]
x = ["left", "right - 8"]
y = [10.4, 20.6]
alt = "A box"
[slice.box.state.hover]
show = ["red"]
[slice.blue]
only = ["blue"]
grow = 1
save = ["png"]
alt  = ""
"""

LAYERS = (
    Flat("red", (0, 0, 100, 80), (255, 0, 0, 255), more={"visibility": "hidden"}),
    Flat("blue", (61, 21, 8, 5), (0, 0, 255, 128)),
    Flat("ground", (0, 0, 100, 80), (0, 128, 0, 255)),
)


@pytest.fixture
def project(tmp_path: Path) -> Path:
    return write_project(tmp_path / "p", {"cuts/m.toml": CUTLIST}, LAYERS)


def test_slices_states_formats_and_boxes(riffler: Run, project: Path) -> None:
    out = riffler("cut", cwd=project).stdout
    assert "16 x 5.5" in out  # a CSS size that is not whole is said
    assert "Wrote 5 of 5 files" in out
    images = project / "out/images"
    assert sorted(path.name for path in images.iterdir()) == [
        "blue.png", "box.hover.jpg", "box.hover.png", "box.jpg", "box.png",
    ]  # fmt: skip
    with Image.open(images / "box.png") as box, Image.open(images / "box.hover.png") as hover:
        assert box.size == hover.size == (32, 11)  # 10..42, and 10.4..20.6 rounded outward
        assert box.convert("RGB").getcolors() == [(352, (0, 128, 0))]
        assert hover.convert("RGB").getcolors() == [(352, (255, 0, 0))]
    with Image.open(images / "blue.png") as blue:
        # painted 61..69 x 21..26, on whole CSS pixels 60..70 x 20..26, one more on each side
        assert blue.size == (12, 8)
        assert blue.getpixel((2, 2)) == (0, 0, 255, 128)
        assert blue.getpixel((1, 1)) == (0, 0, 0, 0)


def test_a_second_run_changes_nothing_and_names_cut_only_those(riffler: Run, project: Path) -> None:
    riffler("cut", cwd=project)
    before = {path: path.stat().st_mtime_ns for path in (project / "out").rglob("*")}
    assert "Wrote 0 of 5 files" in riffler("cut", cwd=project).stdout
    assert {path: path.stat().st_mtime_ns for path in (project / "out").rglob("*")} == before
    (project / "out/images/box.png").unlink()
    (project / "out/images/blue.png").unlink()
    assert "Wrote 1 of 1 file " in riffler("cut", "blue", cwd=project).stdout
    assert not (project / "out/images/box.png").exists()


def test_dry_run_writes_nothing_and_json_is_alone(riffler: Run, project: Path) -> None:
    said = riffler("cut", "--dry-run", cwd=project).stdout  # nothing is encoded for it
    assert "Would make 3 pictures anew: box, box (hover), blue." in said
    pending = json.loads(riffler("cut", "--dry-run", "--json", cwd=project).stdout)["pending"]
    assert pending == [{"slice": "box"}, {"slice": "box", "state": "hover"}, {"slice": "blue"}]
    assert not (project / "out").exists()
    assert not (project / ".riffler/cache").exists()
    data: dict[str, Any] = json.loads(riffler("cut", "--json", cwd=project).stdout)
    assert list(data)[:2] == ["command", "version"]
    assert (data["command"], data["version"]) == ("cut", 2)
    assert len(data["written"]) == 5
    assert data["unchanged"] == data["removed"] == []


def test_stale_files_go_and_changed_ones_stay(riffler: Run, project: Path) -> None:
    riffler("cut", cwd=project)
    (project / "out/images/by-hand.png").write_bytes(b"mine")
    text = CUTLIST.replace('"png", "jpeg"', '"png"')
    (project / "cuts/m.toml").write_text(text)
    assert "removed 2" in riffler("cut", cwd=project).stdout
    names = sorted(path.name for path in (project / "out/images").iterdir())
    assert names == ["blue.png", "box.hover.png", "box.png", "by-hand.png"]
    (project / "out/images/box.png").write_bytes(b"mine too")
    ledger = (project / "out/ledger.json").read_bytes()
    error = riffler("cut", cwd=project, code=2).stderr
    assert "out/images/box.png was changed by hand" in error
    assert "--force" in error
    assert (project / "out/images/box.png").read_bytes() == b"mine too"
    assert (project / "out/ledger.json").read_bytes() == ledger
    riffler("cut", "--force", cwd=project)
    assert (project / "out/images/box.png").read_bytes() != b"mine too"


def test_a_folder_where_a_file_would_be_is_somebodys(riffler: Run, project: Path) -> None:
    (project / "out/images/box.png").mkdir(parents=True)
    error = riffler("cut", cwd=project, code=2).stderr
    assert "out/images/box.png was changed by hand" in error
    assert [path.name for path in (project / "out/images").iterdir()] == ["box.png"]


def test_a_killed_run_is_taken_up(riffler: Run, project: Path) -> None:
    riffler("cut", cwd=project)
    whole = tree(project / "out")
    (project / "out/ledger.json").unlink()  # killed before the ledger: files that no record knows
    (project / ".riffler").mkdir(exist_ok=True)
    (project / "out/images/.box.png.999999999-0123abcd.riffler-part").write_bytes(b"half")
    riffler("cut", cwd=project)
    assert tree(project / "out") == whole
    work = sorted(path.name for path in (project / ".riffler").iterdir())
    assert work == [
        "cache",
        "identity",
        "lock",
        "lying.json",
        "unchanged.json",
        "versions",
    ]  # no journal is left


def test_what_is_saved_during_a_run_counts_as_changed(riffler: Run, project: Path) -> None:
    mockup = project / "mockups/m.ora"
    opened = Project.at(project)

    def saved_anew(name: str, done: int, of: int) -> None:  # noqa: ARG001 - as progress is told
        if done == 0:
            layers = [Flat("all", (0, 0, 100, 80), (1, 2, 3, 255))]
            write_ora(mockup.with_suffix(".new"), (100, 80), layers).replace(mockup)

    before = mockup.read_bytes()
    cut(Workspace(opened), progress=saved_anew)
    assert mockup.read_bytes() != before
    assert unchanged(opened.root) is None
    mockup.write_bytes(before)
    assert unchanged(opened.root) is not None
    assert "Wrote 0 of" in riffler("cut", cwd=project).stdout


def test_jpeg_of_what_shows_through_needs_a_ground(riffler: Run, project: Path) -> None:
    text = CUTLIST.replace('grow = 1\nsave = ["png"]', 'grow = 1\nsave = ["jpeg"]')
    (project / "cuts/m.toml").write_text(text)
    error = riffler("cut", cwd=project, code=2).stderr
    assert "cuts/m.toml, line 17, slice.blue.save: JPEG has no transparency" in error
    assert not (project / "out").exists()
    (project / "cuts/m.toml").write_text(
        text.replace("grow = 1", 'grow = 1\nquality = 98\nground = "#fff"')
    )
    riffler("cut", cwd=project)
    with Image.open(project / "out/images/blue.jpg") as blue:
        assert min(blue.getpixel((0, 0))) > 250  # type: ignore[arg-type]


@pytest.mark.parametrize(
    "change, line, says, advice",
    [
        (("right - 8", "rigth - 8"), 9, 'no guide "rigth"', '"right"'),
        (("right - 8", "right-8"), 9, 'no guide "right-8"', "spaces round"),
        (("right = 50", 'right = "lft + 40"'), 5, 'no guide "lft"', '"left"'),
        (('only = ["blue"]', 'only = ["blau"]'), 15, 'no layer "blau"', '"blue"'),
        (("grow = 1", "grwo = 1"), 16, '"grwo" is not a key', '"grow"'),
        (("grow = 1", "grow = -1"), 16, "greater than or equal to 0", ""),
        (('"png", "jpeg"', '"png", "jpg"'), 7, 'no format "jpg"', '"jpeg"'),
        (("[10.4, 20.6]", "[20.6, 10.4]"), 10, "The box is empty", "above"),
        (("[10.4, 20.6]", "[10.4]"), 10, "should have 2 entries, not 1", ""),
        (("[10.4, 20.6]", "[900, 920]"), 9, "outside the canvas of 100 x 80", ""),
        (("y = [10.4, 20.6]\n", ""), 8, "said by halves", "at = ["),
        (("slice.blue]", "slice.Blue]"), 14, "lower-case", ""),
        (("slice.blue]", "slice.con]"), 14, "reserved", ""),
        (("m.ora", "n.ora"), 1, 'no file "../mockups/n.ora"', '"m.ora"'),
        (("density = 2", "density = 0"), 2, "greater than 0", ""),
        (("density = 2", "density = two"), 2, "not TOML", ""),
        (("mockup  =", "#"), None, "mockup is missing", ""),
        (("grow = 1", "grow = 1\ngrow = 2"), 17, "not TOML", ""),
    ],
)
def test_a_mistake_names_file_line_and_key(
    riffler: Run,
    project: Path,
    change: tuple[str, str],
    line: int | None,
    says: str,
    advice: str,
) -> None:
    assert change[0] in CUTLIST
    text = CUTLIST.replace(*change)
    (project / "cuts/m.toml").write_text(text)
    error = riffler("cut", cwd=project, code=2).stderr
    place = "cuts/m.toml" if line is None else f"cuts/m.toml, line {line}"
    assert error.startswith(f"riffler: {place}"), error
    assert says in error
    assert advice in error
    if line is not None:
        assert f"  {line} | {text.splitlines()[line - 1].rstrip()}" in error
    assert not (project / "out").exists()


def test_names_are_unique_in_a_project(riffler: Run, project: Path) -> None:
    (project / "cuts/n.toml").write_text(CUTLIST)
    error = riffler("cut", cwd=project, code=2).stderr
    assert 'cuts/n.toml, line 8, slice.box: There is a slice "box" in cuts/m.toml' in error
    (project / "cuts/n.toml").unlink()
    (project / "riffler.toml").write_text('[favicon]\nslice = "bleu"\n')
    assert 'Did you mean "blue"' in riffler("cut", cwd=project, code=2).stderr
    assert 'no slice "bleu"' in riffler("cut", "bleu", cwd=project, code=2).stderr


def test_mockups_are_never_written(riffler: Run, project: Path) -> None:
    path = project / "mockups/m.ora"
    before = path.read_bytes(), path.stat().st_mtime_ns
    path.chmod(0o444)
    for arguments in (
        ["look", path],
        ["look", path, "--at", "1,1", "--fonts", "--grid", "--picture", "sheet.png"],
        ["look", path, "--json"],
        ["cut"],
        ["cut", path, "--only", "blue", "-o", "b.png"],
        ["build"],
        ["inlay", "box"],
    ):
        riffler(*arguments, cwd=project)
    flat = project / "mockups/flat.png"
    riffler("cut", path, "-o", flat, cwd=project)
    kept = flat.read_bytes()
    for command in (["cut", flat, "-o", flat], ["look", flat, "--picture", flat, "--force"]):
        said = riffler(*command, cwd=project, code=2).stderr
        assert "write over mockups/flat.png, which is a source" in said
    assert flat.read_bytes() == kept
    assert "no such file" in riffler("cut", "gone.png", "-o", flat, cwd=project, code=2).stderr
    assert "end like a picture" in riffler("cut", path, "-o", path, cwd=project, code=2).stderr
    assert (path.read_bytes(), path.stat().st_mtime_ns) == before


def test_single_cuts_without_a_project(riffler: Run, tmp_path: Path) -> None:
    write_ora(tmp_path / "m.ora", (100, 80), LAYERS)
    done = riffler("cut", "m.ora", "--only", "blue", "-o", "blue.png").stdout
    assert done.startswith("Wrote blue.png: 8 x 5 px, ")
    assert done.endswith(" B, from 61, 21 of m.ora.\n")
    for arguments, says in (
        (["cut", "m.ora", "--only", "blue"], "-o"),
        (["cut", "m.ora", "--only", "blue", "-o", "b.gfi"], "b.gfi"),
        (["cut", "m.ora", "--only", "blue", "-o", "b.jpg"], "no transparency"),
        (["cut", "m.ora", "--only", "nope", "-o", "b.png"], 'no layer "nope"'),
        (["cut"], "no project"),
    ):
        assert says in riffler(*arguments, code=2).stderr
    assert not (tmp_path / "b.jpg").exists()
