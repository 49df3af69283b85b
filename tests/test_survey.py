"""The survey: a plan with one mistake of every kind, and plans with none."""

from __future__ import annotations

import json
import re
from pathlib import Path

import numpy as np
import pytest
from lxml import etree
from PIL import Image, ImageDraw

from conftest import Run
from making import Flat, write_ora, write_project
from planning import (
    EXPECTED,
    GROUND,
    HEIGHT,
    PLAN,
    SHARED,
    WIDTH,
    noise,
    photo,
    text,
    write_broken,
)
from riffler.geometry import Rect
from riffler.plan.checks import KINDS
from riffler.report.labels import placed, spread


@pytest.fixture
def broken(tmp_path: Path) -> Path:
    return write_broken(tmp_path / "p")


def test_every_mistake_is_found_once_and_nothing_else(riffler: Run, broken: Path) -> None:
    data = json.loads(riffler("survey", "--json", cwd=broken, code=1).stdout)
    assert (data["command"], data["version"]) == ("survey", 2)
    found = [(one["kind"], one["slice"]) for one in data["findings"]]
    assert sorted(found, key=str) == sorted(EXPECTED.items(), key=str)
    assert set(EXPECTED) == set(KINDS) - {"moved", "joint"}  # nothing was cut yet
    by_kind = {one["kind"]: one for one in data["findings"]}
    # where and how much, from the geometry of the plan
    for kind, place, pixels in (
        ("gap", (120, 20, 3, 100), 300),
        ("overlap", (400, 20, 10, 100), 1000),
        ("uneven", (660, 20, 100, 96), 4),
        ("outside", (1140, 20, 110, 100), 10),
        ("beside", (120, 160, 1, 100), 1),
        ("cut-off", (290, 160, 10, 100), 10),
        ("intruder", (440, 230, 20, 30), 600),
        ("differs", (1100, 600, 60, 60), 3600),
    ):
        said = by_kind[kind]["place"]
        assert (said["x"], said["y"], said["width"], said["height"]) == place, kind
        assert by_kind[kind]["pixels"] == pixels, kind
    cap = re.search(r"Set caps.top to (\d+)", by_kind["curve"]["advice"])
    assert cap is not None
    assert 24 <= int(cap[1]) <= 30  # a radius of 30 px; its last pixels are straight to the eye
    lines = PLAN.splitlines()
    for one in data["findings"]:
        if one["slice"] and one["file"].endswith("a.toml"):
            assert lines[one["line"] - 1].strip('[]"').removeprefix('slice."') in (
                one["slice"], f"slice.{one['slice']}",
            )  # fmt: skip


def test_the_text_numbers_findings_and_says_what_to_do(riffler: Run, broken: Path) -> None:
    out = riffler("survey", cwd=broken, code=1).stdout
    assert "  gap  gap-b  line 8, at 120, 20\n" in out
    assert 'There is a gap of 3 px to "gap-a", which no slice holds.' in out
    assert "Surveyed 31 slices in 3 cutlists: 24 findings (24 kinds)." in out
    one = riffler("survey", "baked", cwd=broken, code=1).stdout
    assert "1 finding (1 baked-text)" in one


def test_accept_silences_with_a_reason(riffler: Run, broken: Path) -> None:
    text = PLAN
    for kind, name in EXPECTED.items():
        if name and kind != "differs":
            text += f'[slice."{name}".accept]\n{kind} = "it is meant so"\n'
    text += '[accept]\nunsliced = "it stays text"\n'
    (broken / "cuts/a.toml").write_text(text)
    shared = SHARED + '[slice.everywhere.accept]\ndiffers = "as the season goes"\n'
    (broken / "cuts/_shared.toml").write_text(shared)
    letter = broken / "cuts/c.toml"
    letter.write_text(letter.read_text() + '[accept]\nfont = "it is on its way"\n')
    out = riffler("survey", "--accepted", cwd=broken).stdout
    assert "nothing found, 24 accepted" in out
    assert "Accepted in the cutlist: unsliced, “it stays text”" in out
    (broken / "cuts/a.toml").write_text(text.replace('link = "it', 'gap = "x"\nlink = "it'))
    assert (
        "button-go accepts gap, which is not found: it can go."
        in riffler("survey", cwd=broken).stdout
    )
    (broken / "cuts/a.toml").write_text(text.replace("sliver = ", "slivr = "))
    error = riffler("survey", cwd=broken, code=2).stderr
    assert "accept.slivr: There is no finding" in error
    assert 'Did you mean "sliver"?' in error
    (broken / "cuts/a.toml").write_text(text.replace('sliver = "it is meant so"', 'sliver = " "'))
    assert "with a reason" in riffler("survey", cwd=broken, code=2).stderr


def test_the_example_has_no_findings(riffler: Run, built: Path) -> None:
    assert "Surveyed 33 slices in 2 cutlists: nothing found" in riffler("survey", cwd=built).stdout


@pytest.mark.parametrize(
    "caps, middle, kinds",
    [
        ("top = 30, bottom = 30", "stretch", []),
        ("top = 10, bottom = 30", "stretch", ["curve"]),
        ("top = 10, bottom = 10", "stretch", ["curve", "curve"]),
        ("left = 30, right = 12", "stretch", ["curve"]),
        ("left = 30, right = 30, top = 30, bottom = 30", "stretch", []),
        ("top = 30, bottom = 30", "repeat", []),
    ],
)
def test_a_panel_is_cut_past_its_curve(
    riffler: Run, tmp_path: Path, caps: str, middle: str, kinds: list[str]
) -> None:
    import planning

    text = (
        'mockup = "../mockups/m.ora"\n[slice.panel]\nat = [0, 0, 100, 80]\nonly = ["box"]\n'
        f'role = "panel"\ncaps = {{ {caps} }}\nmiddle = "{middle}"\n'
    )
    box = planning.rounded("box", 0, 0, 100, 80, 24)
    root = write_project(tmp_path / "p", {"cuts/m.toml": text}, [box])
    code = 1 if kinds else 0
    data = json.loads(riffler("survey", "--json", cwd=root, code=code).stdout)
    assert [one["kind"] for one in data["findings"]] == kinds


@pytest.mark.parametrize(
    "at, repeat, kinds",
    [
        ((0, 0, 48, 40), "both", []),  # one whole period each way
        ((10, 7, 48, 40), "both", []),  # wherever it begins
        ((0, 0, 44, 40), "both", ["seam"]),
        ((0, 0, 48, 33), "y", ["seam"]),
        ((0, 0, 48, 33), "x", []),  # the other seam is never seen
    ],
)
def test_a_tile_of_one_period_has_no_seam(
    riffler: Run, tmp_path: Path, at: tuple[int, ...], repeat: str, kinds: list[str]
) -> None:
    chunk = noise(3, 48, 40, 5.0, wrap=True)
    import numpy as np

    pixels = np.tile(chunk, (2, 3, 1))[:80, :100]
    text = (
        'mockup = "../mockups/m.ora"\n[slice.ground]\nrole = "tile"\nonly = ["wood"]\n'
        f'at = {list(at)}\nrepeat = "{repeat}"\n'
    )
    layer = Flat("wood", (0, 0, 100, 80), pixels=pixels)
    root = write_project(tmp_path / "p", {"cuts/m.toml": text}, [layer])
    code = 1 if kinds else 0
    data = json.loads(riffler("survey", "--json", cwd=root, code=code).stdout)
    assert [one["kind"] for one in data["findings"]] == kinds


@pytest.mark.parametrize(("thin", "is_sliver"), [(1, True), (2, True), (3, False)])
@pytest.mark.parametrize("is_high", [True, False])
def test_what_is_thinner_than_three_pixels_is_a_sliver(
    riffler: Run, tmp_path: Path, thin: int, is_sliver: bool, is_high: bool
) -> None:
    size = [thin, 30] if is_high else [30, thin]
    plan = f'mockup = "../mockups/m.ora"\n[slice.a]\nat = {[5, 5, *size]}\nalt = ""\n'
    root = write_project(tmp_path / "p", {"cuts/m.toml": plan}, [Flat("m", (0, 0, 60, 60))])
    said = json.loads(riffler("survey", "--json", cwd=root, code=None).stdout)
    assert ("sliver" in [one["kind"] for one in said["findings"]]) is is_sliver


def test_the_plan_is_drawn_the_same_each_time(riffler: Run, broken: Path) -> None:
    for name in ("one.png", "two.png", "plan.svg"):
        riffler("survey", "--picture", name, "--cutlist", "a", cwd=broken, code=1)
    assert (broken / "one.png").read_bytes() == (broken / "two.png").read_bytes()
    with Image.open(broken / "one.png") as picture:
        assert picture.size == (1280, 800)
    root = etree.parse(broken / "plan.svg").getroot()
    words = {element.text for element in root.iter("{*}text")}
    assert {"gap-a", "panel", "stain", "cuts/a.toml"} <= words
    hrefs = [element.get("href") for element in root.iter("{*}image")]
    assert [href[:22] for href in hrefs if href] == ["data:image/png;base64,"]
    several = riffler("survey", "--picture", "x.png", cwd=broken, code=2).stderr
    assert "--cutlist: a, b, c" in several
    assert (
        "end in .png or .svg"
        in riffler("survey", "--picture", "x.gif", "--cutlist", "a", cwd=broken, code=2).stderr
    )


def test_labels_never_cover_each_other() -> None:
    boxes = [Rect(20 + 70 * (n % 8), 20 + 60 * (n // 8), 60, 40) for n in range(40)]
    names = [(f"a-rather-long-name-{n} +hover", f"name-{n}") for n in range(40)]
    page = Rect(0, 0, 640, 400)
    found = placed(names, boxes, 11, [Rect(20, 20, 20, 20)], page)
    assert len(found) == 40
    areas = [label.area for label in found]
    for index, area in enumerate(areas):
        assert page.contains(area)
        assert not any(area.meets(other) for other in areas[index + 1 :])
    assert spread([5, 6, 7], 10, 0, 100) == [5, 15, 25]
    assert spread([98, 99, 100], 10, 0, 100) == [80, 90, 100]
    assert spread([1, 2, 3], 60, 0, 100) == [0, 50, 100]  # no room: as far apart as it goes


def test_one_line_hides_all_that_is_to_be_hidden(riffler: Run, tmp_path: Path) -> None:
    layers = [
        text("words", 60, 50, "Fresh honey"), photo("reaching", 220, 80, 60, 30),
        Flat("note", (50, 100, 9, 9)), photo("card", 40, 40, 200, 80), GROUND,
    ]  # fmt: skip
    plan = 'mockup = "../mockups/m.ora"\n[defaults]\nhide = ["note"]\nalt = ""\n[slice.card]\n'
    root = write_project(tmp_path / "p", {"cuts/m.toml": f"{plan}at = [40, 40, 200, 80]\n"})
    write_ora(root / "mockups/m.ora", (WIDTH, HEIGHT), layers)
    said = json.loads(riffler("survey", "--json", cwd=root, code=1).stdout)["findings"]
    assert [one["kind"] for one in said] == ["intruder", "baked-text"]
    line = 'hide = ["note", "reaching", "words"]'
    assert all(line in one["advice"] for one in said)
    (root / "cuts/m.toml").write_text(f"{plan}at = [40, 40, 200, 80]\n{line}\n")
    riffler("survey", cwd=root)


def test_a_photograph_with_round_corners_is_advice_and_no_finding(
    riffler: Run, tmp_path: Path
) -> None:
    side, radius = 128, 16
    shot = noise(5, side, side)
    mask = Image.new("L", (8 * side, 8 * side))
    ImageDraw.Draw(mask).rounded_rectangle((0, 0, 8 * side - 1, 8 * side - 1), 8 * radius, fill=255)
    shot[..., 3] = np.asarray(mask.resize((side, side), Image.Resampling.BOX))
    plan = 'mockup = "../mockups/m.ora"\ndensity = 2\n[slice.shot]\nonly = ["shot"]\nalt = "x"\nsave = ["png"]\n'
    project = write_project(tmp_path / "p", {"cuts/m.toml": plan})
    write_ora(
        project / "mockups/m.ora", (160, 160), [Flat("shot", (16, 16, side, side), pixels=shot)]
    )
    out = riffler("survey", cwd=project).stdout
    assert (
        "Only its rounded corners keep shot from being a JPEG: border-radius: 8px would draw them."
        in out
    )
    assert "1 cutlist: nothing found" in out
    (advice,) = json.loads(riffler("survey", "--json", cwd=project).stdout)["advice"]
    assert advice == {"slice": "shot", "kind": "corners", "css": "border-radius: 8px"}
    (weighed,) = json.loads(riffler("weigh", "shot", "--json", cwd=project).stdout)["pictures"]
    (png,) = [one for one in weighed["files"] if one["chosen"]]
    assert weighed["square"]["saved"] == png["bytes"] - weighed["square"]["bytes"] > 2000
    assert weighed["square"]["radii"] == pytest.approx([8] * 4, abs=0.5)


def test_of_many_findings_alike_a_few_are_shown(riffler: Run, tmp_path: Path) -> None:
    plan = 'mockup = "../mockups/m.ora"\n'
    plan += "".join(
        f"[slice.s{n}]\nat = [{n % 10 * 10}, {n // 10 * 10}, 10, 10]\n" for n in range(50)
    )
    project = write_project(tmp_path / "p", {"cuts/m.toml": plan})
    few, every = (riffler("survey", *more, cwd=project, code=1).stdout for more in ((), ("--all",)))
    assert every.count("  twin  s") == 49
    assert "More of the same" not in every
    assert few.count("  twin  s") == 5
    assert re.search(r"More of the same: .*44 twin.*All of them: riffler survey --all", few)
    last = [text.splitlines()[-1] for text in (few, every)]
    assert last[0] == last[1]
