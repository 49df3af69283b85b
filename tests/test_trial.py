"""The whole path of a project that is not the example; and what happens when its mockup changes."""

from __future__ import annotations

import json
from pathlib import Path

import numpy as np
import pytest

from conftest import Run
from making import Flat, write_ora, write_project
from planning import noise, shape, text

RUST, CREAM = (160, 72, 40, 255), (246, 238, 226, 255)


def bakery(shift: int = 0) -> list[Flat]:
    """A page of 480 x 400 px: a head with a photograph, two cards, icons; topmost first."""
    photo = noise(7, 480, 120, 6.0)
    cards = [
        Flat(f"card {name}", inside=(
            text(f"{name} title", 40 + 220 * n, 170 + shift, name.capitalize(), 18),
            shape(f"{name} icon", 200 + 220 * n, 166 + shift, "#a04828"),
            Flat(f"{name} plate", (20 + 220 * n, 150 + shift, 200, 100), RUST if n else (232, 214, 190, 255)),
        ))
        for n, name in enumerate(("rye", "oat"))
    ]  # fmt: skip
    return [
        text("headline", 30, 40, "Bread, slowly", 32),
        *cards,
        Flat("photograph", (0, 0, 480, 120), pixels=np.asarray(photo)),
        Flat("ground", (0, 0, 480, 400), CREAM),
    ]


@pytest.fixture
def site(tmp_path: Path, riffler: Run) -> Path:
    riffler("start", "bakery", cwd=tmp_path)
    root = tmp_path / "bakery"
    write_ora(root / "mockups/page.ora", (480, 400), bakery())
    return root


def test_from_an_empty_folder_to_pages(site: Path, riffler: Run) -> None:
    said = riffler("draft", "mockups/page.ora", cwd=site).stdout
    assert "cuts/page.toml" in said
    riffler("mark", "oat-card", "--at", "240,150,200,100", cwd=site)
    survey = json.loads(riffler("survey", "--json", cwd=site, code=None).stdout)
    assert {"outside", "name", "moved"}.isdisjoint({one["kind"] for one in survey["findings"]})
    assert "Wrote" in riffler("cut", cwd=site).stdout
    (site / "pages/index.html").write_text('{{ inlay("oat-card", alt="Oat") }}\n')
    riffler("build", cwd=site)
    page = (site / "out/index.html").read_text()
    assert 'width="200" height="100" alt="Oat"' in page
    assets = json.loads((site / "out/ledger.json").read_bytes())["assets"]
    assert all((site / "out" / asset["file"]).is_file() for asset in assets)
    photographs = [a for a in assets if a.get("pixels") == {"width": 480, "height": 120}]
    assert {a["format"] for a in photographs} <= {"jpeg", "webp", "avif"}  # and never a PNG
    assert "Wrote 0 of" in riffler("cut", cwd=site).stdout


def test_layers_that_moved_under_a_slice(site: Path, riffler: Run) -> None:
    (site / "cuts").mkdir(exist_ok=True)
    plan = site / "cuts/page.toml"
    plan.write_text(
        'mockup = "../mockups/page.ora"\n[slice.card]\nat = [20, 150, 200, 100]\nalt = ""\n'
    )
    riffler("cut", cwd=site)
    before = {path: path.read_bytes() for path in (site / "out").rglob("*") if path.is_file()}
    write_ora(site / "mockups/page.ora", (480, 400), bakery(40))
    moved = "card rye/rye plate is 40 px lower than at the last cut; the slice, at [20, 150, 200, 100], is not."
    for command in (("cut",), ("cut", "card"), ("cut", "--dry-run")):
        said = riffler(*command, cwd=site, code=2).stderr
        assert moved in said.replace("\n", " ")
        assert "at = [20, 190, 200, 100]" in said
    assert {path: path.read_bytes() for path in before} == before
    found = json.loads(riffler("survey", "--json", cwd=site, code=1).stdout)["findings"]
    assert [one["message"] for one in found if one["kind"] == "moved"] == [moved]
    plan.write_text(plan.read_text() + '[slice.card.accept]\nmoved = "the crop is meant"\n')
    assert "Wrote 1 of" in riffler("cut", cwd=site).stdout
    plan.write_text(
        plan.read_text().replace("150, 200", "190, 200").split("[slice.card.accept]")[0]
    )
    riffler("cut", cwd=site)
    assert "moved" not in riffler("survey", cwd=site, code=None).stdout
    (site / ".riffler/lying.json").write_text("{")  # damaged, it says nothing
    write_ora(site / "mockups/page.ora", (480, 400), bakery())
    riffler("cut", cwd=site)


TWO = {
    "cuts/m.toml": 'mockup = "../mockups/m.ora"\n[guides.x]\nleft = 10\nright = "left + 40"\n'
    '[slice.a]\nx = ["left", "right"]\ny = [0, 20]\nalt = ""\n[slice.z]\nat = [0, 40, 9, 9]\nalt = ""\n',
    "cuts/n.toml": 'mockup = "../mockups/m.ora"\n[slice.b]\nat = [0, 0, 9, 9]\nalt = ""\n',
}


def test_mark_knows_the_neighbours(tmp_path: Path, riffler: Run) -> None:
    root = write_project(tmp_path / "p", TWO)
    taken = riffler("mark", "b", "--at", "0,0,5,5", "--cutlist", "m", cwd=root, code=2).stderr
    assert 'There is a slice "b" in cuts/n.toml already.' in taken
    used = riffler("mark", "left", "--remove", cwd=root, code=2).stderr
    assert '"left" is used by a, the guide right.' in used
    riffler("mark", "c", "--like", "a", "--by", "0,20", cwd=root)  # its cutlist, and beside it
    text = (root / "cuts/m.toml").read_text()
    assert text.index("[slice.a]") < text.index("[slice.c]") < text.index("[slice.z]")
    done = riffler("draft", "mockups/m.ora", "--json", cwd=root, code=None).stdout
    assert json.loads(done)["command"] == "draft"
    assert sorted(path.name for path in (root / "cuts").iterdir()) == ["m.toml", "n.toml"]


def test_weighing_and_building_go_on_from_there(tmp_path: Path, riffler: Run) -> None:
    root = write_project(tmp_path / "p", TWO)
    riffler("weigh", "a", "--apply", cwd=root)
    data = json.loads(riffler("weigh", "a", "--json", cwd=root).stdout)["pictures"][0]
    marked = next(file["format"] for file in data["files"] if file["chosen"])
    assert f'save = ["{marked}"]' in (root / "cuts/m.toml").read_text()
    riffler("cut", cwd=root)
    (root / "pages/index.html").write_text('{{ inlay("a") }}')
    assert "Changed since" not in riffler("build", cwd=root).stdout
    (root / "cuts/n.toml").write_text(TWO["cuts/n.toml"].replace("9, 9", "8, 8"))
    assert "Changed since they were cut: b." in riffler("build", cwd=root).stdout
    assert "wrote images/b" in riffler("build", "--cut", cwd=root).stdout
    assert "Changed since" not in riffler("build", cwd=root).stdout


def test_words_on_a_photograph_have_no_flat_ground(site: Path, riffler: Run) -> None:
    (site / "cuts").mkdir(exist_ok=True)
    words = '[slice.{}]\nat = [{}]\nrole = "words"\n'
    (site / "cuts/page.toml").write_text(
        'mockup = "../mockups/page.ora"\n'
        + words.format("headline", "20, 20, 300, 60")
        + words.format("footer", "20, 300, 300, 60")
    )
    riffler("cut", cwd=site)
    regions = json.loads((site / "out/ledger.json").read_bytes())["words"]
    assert {one["slice"]: one.get("ground") for one in regions} == {
        "headline": None,
        "footer": "#f6eee2",
    }
    css = riffler("inlay", "headline", "--css", cwd=site).stdout
    assert "background" not in css
    seen = riffler("look", "mockups/page.ora", cwd=site / "pages").stdout  # from where one is
    assert seen.startswith("../mockups/page.ora: 480 x 400 px")


def test_what_serves_nobody_is_left_out_and_said(tmp_path: Path, riffler: Run) -> None:
    plan = TWO["cuts/n.toml"] + 'save = ["avif", "webp", "png"]\nquality = "exact"\n'
    root = write_project(tmp_path / "p", {"cuts/n.toml": plan})
    said = riffler("cut", cwd=root).stdout
    assert "AVIF is left out, for it loses too much at any setting: b." in said
    assert sorted(path.name for path in (root / "out/images").iterdir()) == ["b.png", "b.webp"]
    (root / "cuts/n.toml").write_text(plan.replace('"exact"', '"fair"'))
    said = riffler("cut", cwd=root).stdout  # an AVIF of one colour has more bytes than a WebP
    assert "Pages leave out the AVIF, since the WebP is no larger: b." in said
    assert "avif" not in riffler("inlay", "b", cwd=root).stdout
    (root / "cuts/n.toml").write_text(plan.replace('"avif", "webp", "png"', '"jpeg"'))
    error = riffler("cut", cwd=root, code=2).stderr
    assert 'slice.b.save: JPEG can\'t reach "exact" with this picture at any setting.' in error
