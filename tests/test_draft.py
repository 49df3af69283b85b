"""Drafting: a first cutlist that a person would begin with."""

from __future__ import annotations

import json
import re
import shutil
import tomllib
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from PIL import Image

import planning
import riffler as package
from conftest import Run
from making import Flat, write_ora, write_project
from riffler.analyse.fill import Filling, fill_of
from riffler.analyse.lettering import lettering_of
from riffler.analyse.outline import OutlineShape, outline_of
from riffler.analyse.repetition import lattice
from riffler.analyse.texture import grey, period, seam
from riffler.color import from_bytes
from riffler.geometry import Box

DEMO = Path(package.__file__).parent / "demo/fernhollow"

TABS = ["tab-home", "tab-hives", "tab-workshops", "tab-visit"]


@pytest.fixture
def bare(tmp_path: Path) -> Path:
    """The example's mockups and fonts in a project without cutlists."""
    root = write_project(tmp_path / "p", {"riffler.toml": "[defaults]\nquality = 80\n"})
    (root / "mockups/m.ora").unlink()
    for folder in ("mockups", "fonts"):
        shutil.copytree(DEMO / folder, root / folder, dirs_exist_ok=True)
    return root


def covered(data: dict[str, Any], size: tuple[int, int], css: list[Box]) -> float:
    """Part of the canvas that slices and boxes of plain style hold together."""
    page = np.zeros(size[::-1], bool)
    boxes = [Box(**one["box"]) for one in data["slices"]]
    for box in (*boxes, *css):
        page[box.y : box.bottom, box.x : box.right] = True
    return float(page.mean())


@pytest.mark.parametrize(
    "file, size, states, hero, cards, words, icons, pictures, css",
    [
        (
            "home.ora", (1920, 2640), ["current", "hover"], ("hero", (0, 0, 1920, 880)),
            ("card", (80, 1716, 560, 608), {"count": 3, "x": 600}),
            ["claim", "intro", "button", "jars-title", "card", "hours"], [],
            ["smoker", "jar-clover", "jar-heather", "jar-lime", "mark"],
            {"footer/band", "nav/bar", "panel/box", "cards/clover/plate", "cards/heather/plate",
             "cards/lime/plate"},
        ),
        (
            "hives.svg", (960, 1140), ["current", "hover"], ("comb", (533, 0, 427, 300)),
            ("plan", (40, 768, 280, 220), {"count": 3, "x": 300}),
            ["claim", "title-gifts", "gift", "title-plans", "plan", "hours"],
            [f"icon-{name}" for name in ("bee", "jar", "letter", "sun", "leaf", "tag")],
            ["mark"],
            {"footer/band", "nav/bar", "head/sky", "paper", "plans/swarm/plate", "plans/colony/plate",
             "plans/apiary/plate"},
        ),
    ],
)  # fmt: skip
def test_the_examples_mockups_are_understood(
    riffler: Run,
    bare: Path,
    file: str,
    size: tuple[int, int],
    states: list[str],
    hero: tuple[str, tuple[int, ...]],
    cards: tuple[str, tuple[int, ...], dict[str, int]],
    words: list[str],
    icons: list[str],
    pictures: list[str],
    css: set[str],
) -> None:
    data = json.loads(
        riffler(
            "draft", f"mockups/{file}", "--json", "-o", f"cuts/{Path(file).stem}.toml", cwd=bare
        ).stdout
    )
    slices = {one["name"]: one for one in data["slices"]}
    boxes = {name: tuple(one["box"].values()) for name, one in slices.items()}
    bar = boxes[TABS[0]]
    for number, name in enumerate(TABS):
        assert boxes[name] == (bar[0] + number * bar[2], *bar[1:]), name
        assert sorted(slices[name]["states"]) == states
        page = name.removeprefix("tab-").replace("home", "index")
        is_there = page in ("index", "hives")  # of the others there is no mockup
        assert slices[name]["keys"].get("link") == (page if is_there else None)
    assert (hero[0], boxes[hero[0]]) == hero
    name, box, times = cards
    assert boxes[name] == box
    assert slices[name]["keys"]["times"] == times
    roles = {n: one["keys"].get("role", "picture") for n, one in slices.items()}
    assert sorted(n for n, role in roles.items() if role == "words") == sorted(words)
    assert sorted(n for n, one in slices.items() if one["keys"].get("in") == "icons") == sorted(
        icons
    )
    assert set(pictures) <= set(slices)
    assert "link" not in slices["mark"]["keys"]  # the mockup does not say so
    assert {one["layer"] for one in data["css"]} == css
    said = {one["layer"]: one["why"] for one in data["css"]}
    assert said["nav/bar"] == "flat colour #33231a"
    plates = [why for layer, why in said.items() if layer.endswith("/plate")]
    assert all(
        re.search(r"rounded 14 px, shadow 0 (4 14\.5|5 16) px #\w{8}$", why) for why in plates
    )

    for layer in (layer for layer in said if layer.endswith("/plate")):  # one measure of a shadow
        sheet = riffler("measure", layer, "--css", cwd=bare).stdout
        numbers = [
            re.findall(r"#\w+|[\d.]+", text.partition("shadow")[2].partition(";")[0])
            for text in (sheet, said[layer])
        ]
        assert numbers[0] == numbers[1] != []

    _only_what_a_person_can_say(riffler, bare)
    riffler("cut", cwd=bare)
    bars = [Box(0, y, size[0], height) for y, height in {
        "home.ora": ((880, 112), (2416, 224)), "hives.svg": ((300, 56), (1028, 112), (0, 1140)),
    }[file]]  # fmt: skip
    assert covered(data, size, bars) == 1.0


def _only_what_a_person_can_say(riffler: Run, project: Path) -> None:
    findings = json.loads(riffler("survey", "--json", cwd=project, code=1).stdout)["findings"]
    assert {finding["kind"] for finding in findings} == {"alt", "link"}
    assert all("leads nowhere" in one["message"] for one in findings if one["kind"] == "link")


def test_a_cutlist_is_never_written_over(riffler: Run, bare: Path) -> None:
    riffler("draft", "mockups/home.ora", "-q", cwd=bare)
    path = bare / "cuts/home.toml"
    text = path.read_text()
    error = riffler("draft", "mockups/home.ora", cwd=bare, code=2).stderr
    assert "There is a cutlist cuts/home.toml already" in error
    assert "--add" in error
    assert path.read_text() == text
    assert "lacks nothing" in riffler("draft", "mockups/home.ora", "--add", cwd=bare).stdout
    assert path.read_text() == text
    # one slice is gone, another has a new name and a comment: only the first comes back
    start, end = (
        text.index("# Illustration.\n[slice.smoker]"),
        text.index("# Live text. On #fbf4e4.\n[slice.intro]"),
    )
    ours = text[:start] + text[end:]
    ours = ours.replace("[slice.jar-lime]", "# the green one\n[slice.lime]")
    path.write_text(ours)
    out = riffler("draft", "mockups/home.ora", "--add", cwd=bare).stdout
    assert "Added 1 slice to cuts/home.toml" in out
    assert path.read_text().startswith(ours)
    assert path.read_text()[len(ours) :] == "\n" + text[start:end].rstrip("\n") + "\n"
    _only_what_a_person_can_say(riffler, bare)
    # what has the name of another thing hides nothing; one slice stands for three that it covers
    taken = re.sub(r"(?s)(\[slice\.smoker\]\n).*?\n\n", r"\1at = [0, 0, 90, 90]\n\n", text)
    path.write_text(taken)
    riffler("draft", "mockups/home.ora", "--add", cwd=bare)
    assert "[slice.smoker-2]" in path.read_text()
    jars = re.sub(r"(?s)# Illustration.\n\[slice\.jar-.*?\n\n", "", text)
    path.write_text(f'{jars}\n[slice.jars]\nat = [200, 1780, 1520, 370]\nalt = "Jars"\n')
    assert "lacks nothing" in riffler("draft", "mockups/home.ora", "--add", cwd=bare).stdout


def test_parts_of_every_page_are_cut_once(riffler: Run, bare: Path) -> None:
    riffler("draft", "mockups/home.ora", "-q", cwd=bare)
    out = riffler("draft", "mockups/hives.svg", cwd=bare).stdout
    assert f"Cut from another mockup already: {', '.join(TABS)}, mark." in out
    second = tomllib.loads((bare / "cuts/hives.toml").read_text())["slice"]
    first = tomllib.loads((bare / "cuts/home.toml").read_text())["slice"]
    assert not set(first) & set(second)
    assert "claim-hives" in second
    _only_what_a_person_can_say(riffler, bare)


def test_questions_are_text_to_send(riffler: Run, bare: Path) -> None:
    out = riffler("draft", "mockups/home.ora", "--questions", cwd=bare).stdout
    for said in (
        "The text is drawn as pixels.",
        "There is one width, 960 px.",
        "The 4 tabs in “nav”",
        "The 3 cards in “cards”",
        "under the pointer and with the keyboard's focus: cards/clover, cards/heather, cards/lime?",
    ):
        assert said in out
    assert not (bare / "cuts/home.toml").exists()
    svg = bare / "mockups/hives.svg"
    text = svg.read_text().replace('font-family="Fraunces"', 'font-family="Gone Serif"')
    text = text.replace('font-size="22"', 'font-size="21"', 1)
    svg.write_text(text.replace('layer:label="glow"', 'layer:label="veil"'))
    out = riffler("draft", "mockups/hives.svg", "--questions", cwd=bare).stdout
    assert "The typeface Gone Serif (weight 400, 600) is missing here." in out
    assert "Gone Serif 600 is used at 21 and at 22 px." in out
    assert "nav/tab-home, nav/tab-hives" in out


def test_small_pictures_and_slips_are_asked_about(riffler: Run, tmp_path: Path) -> None:
    layers = [
        *(
            Flat(f"card-{n}", inside=[
                planning.text("title", 20 + 150 * n, 30, "Clover"),
                planning.rounded("plate", 10 + 150 * n, 20, 120 + 2 * (n == 1), 100, 12),
            ])
            for n in range(3)
        ),
        planning.photo("field", 0, 200, 400, 100),
        Flat("ground", (0, 0, 480, 320), (240, 240, 230, 255)),
    ]  # fmt: skip
    write_ora(tmp_path / "m.ora", (480, 320), [Flat("cards", inside=layers[:3]), *layers[3:]])
    out = riffler("draft", "m.ora", "--questions").stdout
    assert "would be soft on dense screens: field" in out
    assert "cards/card-1 is 122 x 100 px, the others of its row are 120 x 100." in out


def test_a_flat_picture_falls_into_rows(riffler: Run, tmp_path: Path) -> None:
    page = np.full((300, 200, 3), 240, np.uint8)
    page[:60], page[260:] = (60, 40, 30), (20, 20, 60)
    Image.fromarray(page).save(tmp_path / "flat.png")
    data = json.loads(riffler("draft", "flat.png", "--json", "-o", "flat.toml").stdout)
    assert [(one["box"]["y"], one["box"]["height"]) for one in data["slices"]] == [
        (0, 60), (60, 200), (260, 40),
    ]  # fmt: skip
    written = tomllib.loads((tmp_path / "flat.toml").read_text())
    assert written["mockup"] == "flat.png"
    assert written["slice"]["row-2"]["y"] == ["row-60", "row-260"]


def pixels_of(layer: Flat) -> Any:  # noqa: ANN401
    assert layer.pixels is not None
    return from_bytes(np.ascontiguousarray(layer.pixels))


def test_fills_and_outlines_are_told_apart() -> None:
    ramp = pixels_of(planning.ramp("ramp", 0, 0, 120, 60))
    assert fill_of(ramp).filling is Filling.GRADIENT
    assert fill_of(ramp).angle == 90
    ends = [int(color[1:3], 16) for color in fill_of(ramp).colors]
    assert ends == pytest.approx([40, 220], abs=1)  # half a pixel beyond the outermost ones
    assert fill_of(ramp.transpose(1, 0, 2)).angle == 180
    assert fill_of(pixels_of(planning.photo("p", 0, 0, 80, 80))).filling is Filling.MORE
    for radius in (0, 12, 30):
        outline = outline_of(pixels_of(planning.rounded("box", 0, 0, 160, 80, radius)))
        assert outline is not None
        assert outline.shape is (OutlineShape.ROUNDED if radius else OutlineShape.RECTANGLE)
        assert all(abs(one - radius) < 1.5 for one in outline.radii.listed)
        assert outline.radii.is_one
    disc = outline_of(pixels_of(planning.shape("disc", 0, 0, "#333")))
    assert disc is not None
    assert disc.shape in (OutlineShape.ROUNDED, OutlineShape.ELLIPSE)  # a circle is both
    corner = outline_of(pixels_of(planning.shape("c", 0, 0, "#333", (0, 0), (39, 0), (0, 39))))
    assert corner is not None
    assert corner.shape is OutlineShape.ODD


@pytest.mark.parametrize(
    "layer, is_text",
    [
        (planning.text("t", 0, 0, "Honey and hives"), True),
        (planning.text("t", 0, 0, "£6", 20), True),
        (planning.text("t", 0, 0, "Open daily, ten till dusk", 12), True),
        (planning.rounded("t", 0, 0, 100, 40, 8), False),
        (planning.photo("t", 0, 0, 100, 40), False),
        (planning.shape("t", 0, 0, "#333"), False),
        (planning.shape("t", 0, 0, "#333", (0, 0), (39, 4), (0, 8), (39, 12)), False),
    ],
)
def test_lettering_is_seen(layer: Flat, is_text: bool) -> None:
    assert (lettering_of(pixels_of(layer)) is not None) is is_text


def test_textures_tell_their_period() -> None:
    chunk = planning.noise(9, 40, 56, 3.0, wrap=True)
    tiled = grey(from_bytes(np.ascontiguousarray(np.tile(chunk, (4, 5, 1)))))
    assert period(tiled) == (40, 56)
    across, inside = seam(tiled[:56, :40], axis=1)
    assert across <= 1.6 * inside
    assert period(grey(from_bytes(planning.noise(9, 200, 224, 3.0)))) is None


def test_lattices() -> None:
    row = [Box(10 + 30 * n, 5, 20, 20) for n in (2, 0, 1)]
    found = lattice(row, 1)
    assert found is not None
    assert (found.members, found.columns, found.step) == ((1, 2, 0), 3, (30, 0))
    grid = [Box(30 * (n % 3), 40 * (n // 3), 20, 20) for n in range(5)]
    found = lattice(grid, 0)
    assert found is not None
    assert (found.columns, found.step) == (3, (30, 40))
    assert lattice([Box(0, 0, 9, 9), Box(20, 0, 9, 9), Box(50, 0, 9, 9)], 1) is None
