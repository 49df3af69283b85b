"""The one way to open things: whoever asks, the same mockup with what its project says."""

from __future__ import annotations

import json
import pickle
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from PIL import Image

from conftest import Run
from making import Flat, write_ora, write_project
from riffler.errors import AddressError, MockupError, RifflerError, WrittenError
from riffler.geometry import Box, Size
from riffler.mockup.model import LayerKind, Nature
from riffler.project.project import Project
from riffler.render.layered import LayeredEngine
from riffler.workspace import MockupKey, Opened, Workspace

LAYERS = [
    Flat("title", (5, 5, 30, 8), (40, 30, 20, 255)),
    Flat("ground", (0, 0, 100, 80), (240, 230, 210, 255)),
]
CUTLIST = 'mockup = "../mockups/m.ora"\ndensity = 2\nwords = ["title"]\n'


@pytest.fixture
def project(tmp_path: Path) -> Path:
    return write_project(tmp_path / "p", {"cuts/m.toml": CUTLIST}, LAYERS)


def kinds(opened: Opened) -> dict[str, LayerKind]:
    return {layer.address: layer.kind for layer in opened.mockup.walk()}


def test_the_cutlist_of_a_mockup_holds_for_all_who_open_it(project: Path) -> None:
    path = project / "mockups/m.ora"
    for workspace in (Workspace(Project.at(project)), Workspace.around(path)):
        opened = workspace.open(path)
        assert opened.density == 2.0
        assert kinds(opened) == {"title": LayerKind.WORDS, "ground": LayerKind.PIXELS}
        assert opened.key == MockupKey(path.resolve(), None, frozenset({"title"}))
        assert workspace.renderer(opened.key) is opened.renderer
        assert workspace.open(path).renderer is opened.renderer
    alone = Workspace().open(path)
    assert (alone.density, kinds(alone)["title"]) == (None, LayerKind.PIXELS)


def test_a_mockup_may_lack_what_the_cutlist_of_another_version_names(project: Path) -> None:
    cutlist = (project / "cuts/m.toml").read_text()
    (project / "cuts/m.toml").write_text(
        cutlist.replace('words = ["title"]', 'words = ["title", "gone"]')
        + '[page]\nleave = ["gone/*"]\n[says]\n"away" = "Away"\n'
    )
    path, other = project / "mockups/m.ora", Project.at(project)
    with pytest.raises(WrittenError, match='There is no layer "gone"'):
        Workspace(other).open(path)
    lenient = pickle.loads(pickle.dumps(Workspace(other, may_lack=True)))
    assert lenient.open(path).key == MockupKey(path.resolve(), None, frozenset({"title"}))


def test_what_the_page_leaves_out_is_switched_off(riffler: Run, tmp_path: Path) -> None:
    """For every command: it is not drafted, not roughed out, not looked for on the page."""
    layers = [Flat("note", (10, 10, 90, 40), (200, 40, 40, 255)), Flat("ground", (0, 0, 300, 200), (250, 250, 240, 255))]  # fmt: skip
    cutlist = 'mockup = "../mockups/m.ora"\n[page]\nleave = ["note"]\n'
    root = write_project(tmp_path / "p", {"cuts/m.toml": cutlist}, layers)
    opened = Workspace(Project.at(root)).open(root / "mockups/m.ora")
    assert [(one.address, one.visible) for one in opened.mockup.walk()] == [
        ("note", False), ("ground", True),
    ]  # fmt: skip
    riffler("cut", "mockups/m.ora", "-o", "t.png", cwd=root)
    with Image.open(root / "t.png") as picture:
        assert picture.convert("RGB").getpixel((30, 30)) == (250, 250, 240)
    (root / "cuts/m.toml").write_text(cutlist.replace('"note"', '"nope"'))
    said = riffler("survey", cwd=root, code=2).stderr
    assert "cuts/m.toml, line 3, page.leave" in said
    assert 'There is no layer "nope"' in said


def test_every_command_sees_the_same_words(riffler: Run, project: Path) -> None:
    said = riffler("look", "mockups/m.ora", cwd=project).stdout
    assert "density 2" in said
    assert "words" in said
    riffler("cut", "mockups/m.ora", "--only", "kind:words", "-o", "t.png", cwd=project)
    with Image.open(project / "t.png") as picture:
        assert picture.size == (30, 8)
    drafted = riffler("draft", "mockups/m.ora", "-o", "d.toml", "--json", cwd=project).stdout
    assert json.loads(drafted)["density"] == 2
    text = (project / "d.toml").read_text()
    assert 'words   = ["title"]' in text
    assert "density = 2" in text
    outside = riffler(
        "cut", "p/mockups/m.ora", "--only", "kind:words", "-o", "out.png", cwd=project.parent
    )
    assert "30 x 8 px" in outside.stdout


def test_a_workspace_opens_anew_where_it_is_sent(project: Path) -> None:
    workspace = Workspace(Project.at(project))
    opened = workspace.open(project / "mockups/m.ora")
    box = Box(0, 0, 40, 20)
    here = opened.renderer.render(box, 1.0, opened.mockup.drawn)
    there = pickle.loads(pickle.dumps((workspace, opened.key)))
    renderer = there[0].renderer(there[1])
    assert renderer is not opened.renderer
    assert kinds(opened) == {layer.address: layer.kind for layer in renderer.mockup.walk()}
    np.testing.assert_array_equal(renderer.render(box, 1.0, opened.mockup.drawn), here)


def test_the_project_around_the_file_goes_before_the_current_folder(
    project: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    other = write_project(tmp_path / "other", {"riffler.toml": "[limits]\npixels = 100\n"}, LAYERS)
    monkeypatch.chdir(other)
    assert Workspace.around(project / "mockups/m.ora").project.root == project.resolve()
    assert Workspace.here().project.root == other.resolve()
    stray = write_ora(tmp_path / "stray.ora", (50, 50), [Flat("a", (0, 0, 50, 50))])
    with pytest.raises(MockupError, match="more than the limit of 100 pixels"):
        Workspace.around(stray).open(stray)
    monkeypatch.chdir(tmp_path)
    assert not Workspace.around(stray).has_project
    with pytest.raises(RifflerError, match="no project"):
        _ = Workspace.around(stray).project
    assert Workspace.around(stray).open(stray).mockup.size == Size(50, 50)


def test_the_cutlist_of_the_canvas_goes_before_others(project: Path) -> None:
    svg = (
        '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 100" width="200" height="100">'
        '<view id="wide" viewBox="0 0 100 100"/><view id="slim" viewBox="100 0 50 100"/>'
        '<rect width="200" height="100"/></svg>'
    )
    (project / "mockups/v.svg").write_text(svg)
    for canvas, density in (("wide", 1.5), ("slim", 3)):
        text = f'mockup = "../mockups/v.svg"\ncanvas = "{canvas}"\ndensity = {density}\n'
        (project / f"cuts/{canvas}.toml").write_text(text)
    workspace, path = Workspace(Project.at(project)), project / "mockups/v.svg"
    assert workspace.open(path, "wide").density == 1.5
    assert workspace.open(path, "slim").density == 3
    assert workspace.open(path, "slim").mockup.size == Size(50, 100)
    assert workspace.open(path).density == 3  # the first of those there are, by name
    with pytest.raises(MockupError, match='no canvas "none"'):
        workspace.open(path, "none")


def test_what_a_file_is_decides_what_can_be_asked(tmp_path: Path) -> None:
    picture = Image.new("RGB", (8, 6), (10, 200, 30))
    for form in ("png", "jpeg", "webp", "tiff"):
        picture.save(tmp_path / f"flat.{form}", form)
    write_ora(tmp_path / "layers.ora", (8, 6), [Flat("a", (0, 0, 8, 6))])
    (tmp_path / "drawing.svg").write_text(
        '<svg xmlns="http://www.w3.org/2000/svg" width="8" height="6"><rect width="8" height="6"/></svg>'
    )
    natures = {
        path.name: Workspace().open(path).mockup.nature for path in sorted(tmp_path.iterdir())
    }
    assert natures == {
        "drawing.svg": Nature.VECTOR, "layers.ora": Nature.LAYERED,
        **{f"flat.{form}": Nature.FLAT for form in ("jpeg", "png", "tiff", "webp")},
    }  # fmt: skip
    assert Workspace().open(tmp_path / "drawing.svg").mockup.is_vector
    assert not Workspace().open(tmp_path / "flat.png").mockup.is_vector


def contents(path: Path, *addresses: str) -> list[str]:
    renderer = Workspace().open(path).renderer
    return [renderer.content(address) for address in addresses]


@pytest.mark.parametrize(
    "change, differs",
    [
        ({"box": (7, 9, 20, 10)}, set()),  # moved: the same paint
        ({"color": (1, 2, 4, 255)}, {"g", "g/a"}),
        ({"box": (0, 0, 21, 10)}, {"g", "g/a"}),
        ({"more": {"opacity": "0.5"}}, {"g"}),  # laid down otherwise, which its group shows
        ({"more": {"visibility": "hidden"}}, {"g"}),
        ({"more": {"composite-op": "svg:multiply"}}, {"g"}),
        ({"name": "a"}, set()),
    ],
)
def test_content_tells_what_a_layer_paints(
    tmp_path: Path, change: dict[str, Any], differs: set[str]
) -> None:
    usual: dict[str, Any] = {"name": "a", "box": (0, 0, 20, 10), "color": (1, 2, 3, 255)}
    beside = Flat("b", (3, 3, 4, 4), (9, 9, 9, 255))
    moves_group = "box" in change
    paths = []
    for name, said in (("old", usual), ("new", {**usual, **change})):
        layers = [Flat("g", inside=[Flat(**said)]), beside]
        paths.append(write_ora(tmp_path / f"{name}.ora", (60, 40), layers))
    asked = ("g", "g/a", "b")
    old, new = contents(paths[0], *asked), contents(paths[1], *asked)
    changed = {name for name, a, b in zip(asked, old, new, strict=True) if a != b}
    assert changed - ({"g"} if moves_group else set()) == differs - (
        {"g"} if moves_group else set()
    )
    assert len(set(old)) == 3


def test_content_of_vectors_and_flat_pictures(tmp_path: Path) -> None:
    head = '<svg xmlns="http://www.w3.org/2000/svg" width="40" height="20">'
    shapes = {
        "old": '<rect id="a" width="9" height="9"/><circle id="b" r="5" cx="20" cy="9"/>',
        "new": '<rect id="a" width="9" height="9"/><circle id="b" r="6" cx="20" cy="9"/>',
    }
    for name, inside in shapes.items():
        (tmp_path / f"{name}.svg").write_text(f"{head}{inside}</svg>")
    old, new = (contents(tmp_path / f"{name}.svg", "a", "b") for name in shapes)
    assert old[0] == new[0]
    assert old[1] != new[1]
    for name, color in (("x", (1, 2, 3)), ("y", (1, 2, 3)), ("z", (3, 2, 1))):
        (tmp_path / name).mkdir()
        Image.new("RGB", (5, 5), color).save(tmp_path / name / "flat.png")
    x, y, z = (contents(tmp_path / name / "flat.png", "flat")[0] for name in "xyz")
    assert x == y != z


def test_boxes_are_found_once_and_remembered(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    pixels = np.zeros((30, 40, 4), np.uint8)
    pixels[5:25, 4:30] = (9, 9, 9, 60)  # soft all round
    pixels[8:20, 10:24] = (9, 9, 9, 255)
    layers = [Flat("g", inside=[Flat("s", (10, 20, 40, 30), pixels=pixels)]), Flat("e", (0, 0, 5, 5), (0, 0, 0, 0))]  # fmt: skip
    path = write_ora(tmp_path / "m.ora", (100, 80), layers)
    workspace = Workspace()
    renderer = workspace.open(path).renderer
    for address in ("g", "g/s"):
        assert renderer.own_box(address) == Box(10, 20, 40, 30)
        assert renderer.painted_box(address) == Box(14, 25, 26, 20)
        assert renderer.solid_box(address) == Box(20, 28, 14, 12)
    assert renderer.painted_box("e") is None
    assert renderer.solid_box("e") is None
    later = Workspace(memory=workspace.memory).open(path).renderer
    monkeypatch.setattr(LayeredEngine, "find_box", lambda *_: pytest.fail("looked for again"))
    assert later.painted_box("g/s") == Box(14, 25, 26, 20)
    assert later.solid_box("g") == Box(20, 28, 14, 12)


def test_names_that_are_not_there(project: Path) -> None:
    (project / "cuts/m.toml").write_text(CUTLIST.replace('"title"', '"tittle"'))
    with pytest.raises(RifflerError, match='no layer "tittle"') as caught:
        Workspace.around(project / "mockups/m.ora").open(project / "mockups/m.ora")
    assert not isinstance(caught.value, AddressError)  # it knows its line by now
    assert caught.value.place is not None
    assert caught.value.place.line == 3
