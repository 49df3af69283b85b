"""Visible loss, and the smallest file that stays under it."""

from __future__ import annotations

import io
import json
import re
import signal
import subprocess
import sys
import time
from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import Browser, Locator
from scipy.stats import spearmanr

from conftest import Run
from making import Flat, chosen, tree, write_project
from planning import noise, ramp, text
from riffler.color import from_bytes, oklab, on_ground
from riffler.encode.choice import ENCODES, LEVELS
from riffler.encode.choose import encode
from riffler.encode.encoding import decoded
from riffler.encode.palette import Counted, palette
from riffler.encode.visible import Reference, loss
from riffler.formats import FORMATS
from riffler.report.weigh_curve import COLORS


def photo(seed: int = 1, side: int = 160) -> np.ndarray:
    """Large soft shapes with fine grain on them, as photographs have."""
    soft = noise(seed, side, side, 12.0).astype(np.float64)
    fine = noise(seed + 50, side, side, 1.2)
    mixed = soft * 0.85 + fine * 0.15
    mixed[..., 3] = 255
    return mixed.astype(np.uint8)


def test_oklab_has_its_published_values() -> None:
    # Ottosson 2020, table of example colours, through linear sRGB
    for rgb, lab in (
        ((255, 255, 255), (1.0, 0.0, 0.0)),
        ((0, 0, 0), (0.0, 0.0, 0.0)),
        ((255, 0, 0), (0.62796, 0.22486, 0.12585)),
        ((0, 255, 0), (0.86644, -0.23389, 0.17950)),
        ((0, 0, 255), (0.45201, -0.03246, -0.31153)),
    ):
        assert oklab(np.array([[rgb]], np.uint8))[0, 0] == pytest.approx(lab, abs=2e-4)


def test_loss_is_nothing_for_equal_pictures_and_much_for_a_shift() -> None:
    picture = photo()
    assert loss(picture, picture.copy()) == 0
    assert loss(picture, np.roll(picture, 1, axis=1)) > LEVELS["clear"]
    words = text("t", 0, 0, "Honey and hives", 24).pixels
    assert words is not None
    words = np.pad(words, ((8, 8), (8, 8), (0, 0)))
    assert loss(words, np.roll(words, 1, axis=1)) > LEVELS["fair"]
    off = picture.copy()
    off[..., :3] = np.clip(off[..., :3].astype(int) + 1, 0, 255)
    assert 0 < loss(picture, off) < LEVELS["clear"]  # one step of 255 all over


def test_empty_margins_do_not_hide_a_loss() -> None:
    icon = np.zeros((48, 48, 4), np.uint8)
    icon[8:40, 12:36] = (180, 120, 30, 255)
    icon[16:32, 16:32, :3] = np.random.default_rng(2).integers(0, 256, (16, 16, 1))
    worse = icon.copy()
    worse[10:30, 14:30, 0] -= 20

    def on_canvas(margin: int) -> float:
        first, second = (np.pad(one, ((margin,) * 2,) * 2 + ((0, 0),)) for one in (icon, worse))
        return loss(first, second)

    assert on_canvas(64) > 0.5 * on_canvas(0)  # there are more scales to see it at
    assert on_canvas(256) == pytest.approx(on_canvas(64), rel=0.01)
    assert loss(np.zeros_like(icon), np.zeros_like(icon)) == 0
    assert loss(np.zeros_like(icon), icon) > 0.1  # painted where nothing was


def test_banding_and_lost_alpha_are_seen() -> None:
    smooth = np.asarray(ramp("r", 0, 0, 160, 64).pixels)
    coarse = smooth.copy()
    coarse[..., :3] = coarse[..., :3] // 16 * 16 + 8
    assert loss(smooth, coarse) > 0.9 * LEVELS["clear"]
    coarse[..., :3] = coarse[..., :3] // 32 * 32 + 16
    assert loss(smooth, coarse) > LEVELS["fair"]
    glass = np.zeros((40, 40, 4), np.uint8)
    glass[8:32, 8:32] = (250, 250, 250, 128)
    fuller = glass.copy()
    fuller[8:32, 8:32, 3] = 255
    assert loss(glass, fuller) > LEVELS["fair"]  # on white both look nearly alike, on dark not


@pytest.mark.parametrize("form", ["jpeg", "webp", "avif"])
def test_loss_falls_as_quality_rises(form: str) -> None:
    picture, qualities = photo(3), [15, 25, 35, 45, 55, 65, 75, 85, 95]
    reference = Reference(picture)
    seen = [reference.loss(decoded(encode(picture, form, quality))) for quality in qualities]
    assert spearmanr(qualities, seen)[0] <= -0.98


@pytest.mark.parametrize(
    ("form", "level"),
    [("jpeg", "clear"), ("jpeg", "fair"), ("webp", "clear"), ("webp", "fair"), ("avif", "fair")],
)
def test_the_smallest_file_under_a_loss_with_few_encodes(form: str, level: str) -> None:
    picture = photo(5)
    choice = chosen(picture, form, level)
    assert choice.encodes <= ENCODES + 1
    assert choice.loss is not None
    assert choice.loss <= LEVELS[level]
    assert loss(picture, decoded(choice.data)) == pytest.approx(choice.loss)
    assert chosen(picture, form, level) == choice
    if form != "webp":  # its hues have half the resolution: what it can't reach is lossless
        assert len(choice.data) <= len(encode(picture, form, 99))


def test_a_budget_is_kept() -> None:
    picture = photo(6)
    for form, budget in (("jpeg", 4_000), ("webp", 3_000), ("png", 12_000)):
        choice = chosen(picture, form, "clear", budget)
        assert len(choice.data) <= budget
        assert choice.loss is not None
    assert chosen(picture, "png", "clear", 10_000_000).loss == 0


def apart(straight: np.ndarray, other: np.ndarray) -> float:
    """How far colours are from one another in Oklab, on white, in the mean square."""
    both = [on_ground(from_bytes(one), (1.0, 1.0, 1.0))[..., :3] for one in (straight, other)]
    first, second = (oklab(np.ascontiguousarray(one)) for one in both)
    return float(((first - second) ** 2).mean())


def test_palettes_beat_the_usual_ones_where_alpha_or_gradients_are() -> None:
    disc = np.zeros((96, 96, 4), np.uint8)
    y, x = np.mgrid[:96, :96]
    away = np.hypot(x - 48, y - 48)
    disc[..., 0], disc[..., 1] = 200 - away, 120 + x // 2
    disc[..., 3] = np.clip((46 - away) * 12, 0, 255)
    disc[disc[..., 3] == 0] = 0
    sky = np.full((96, 160, 4), 255, np.uint8)
    y, x = np.mgrid[:96, :160]
    sky[..., 0], sky[..., 1], sky[..., 2] = 60 + y, 40 + (x + y) // 3, 120 - y // 2
    for straight in (disc, sky):
        picture = Image.fromarray(straight, "RGBA")
        if straight is sky:
            picture = picture.convert("RGB")
        for count in (16, 64):
            tried = [
                palette(Counted.of(straight), count, dither=dither) for dither in (False, True)
            ]
            assert all(len(one.colors) <= count for one in tried)
            ours = min(apart(straight, one.straight) for one in tried)
            for method in Image.Quantize:
                for dither in (Image.Dither.NONE, Image.Dither.FLOYDSTEINBERG):
                    try:
                        other = picture.quantize(count, method, dither=dither).convert("RGBA")
                    except ValueError:
                        continue  # not for this mode, or not in this build
                    assert ours < apart(straight, np.asarray(other)), (count, method, dither)


def test_gif_keeps_what_it_can(tmp_path: Path, riffler: Run) -> None:
    few = np.zeros((20, 30, 4), np.uint8)
    few[4:16, 5:25] = (200, 120, 30, 255)
    few[8:12, 8:20] = (20, 40, 60, 255)
    for quality in (80, "clear"):
        choice = chosen(few, "gif", quality)
        assert choice.data[:6] == b"GIF89a"
        assert choice.loss == 0
        assert (decoded(choice.data) == few).all()
    many = chosen(photo(4), "gif", 80)
    assert many.loss == pytest.approx(loss(photo(4), decoded(many.data)))
    soft = np.zeros((20, 20, 4), np.uint8)
    soft[..., 0], soft[4:, :, 3] = 200, 128
    plan = 'mockup = "../mockups/m.ora"\n[slice.a]\nonly = ["soft"]\nalt = ""\nsave = ["gif"]\n'
    root = write_project(
        tmp_path / "g", {"cuts/m.toml": plan}, [Flat("soft", (0, 0, 20, 20), pixels=soft)]
    )
    assert (
        "line 5, slice.a.save: GIF has no half transparency"
        in riffler("cut", cwd=root, code=2).stderr
    )
    (root / "cuts/m.toml").write_text(plan + 'ground = "#000"\ntrim = false\nat = [0, 0, 20, 20]\n')
    riffler("cut", cwd=root)
    with Image.open(root / "out/images/a.gif") as gif:
        shown = np.asarray(gif.convert("RGBA"))
    assert (shown[:4, :, 3] == 0).all()  # what is clear stays so
    assert (shown[4:] == (100, 0, 0, 255)).all()  # half red on the black ground


HEAD = 'mockup = "../mockups/m.ora"\n[defaults]\nalt = ""\n'
PLAN = f"""{HEAD}\
[slice.auto]
at   = [0, 0, 60, 60]
save = ["auto"]
[slice.alone]
only = ["soft"]
save = ["auto"]
[slice.small]
at     = [0, 0, 60, 60]
save   = ["webp", "jpeg"]
budget = "1.2 kB"
"""


@pytest.fixture
def project(tmp_path: Path) -> Path:
    soft = np.zeros((20, 20, 4), np.uint8)
    soft[..., 0], soft[..., 3] = 200, np.arange(20)[None, :] * 12 + 10
    layers = [
        Flat("soft", (70, 10, 20, 20), pixels=soft),
        Flat("photo", (0, 0, 60, 60), pixels=photo(8, 60)),
        Flat("hidden", (90, 70, 10, 10), (9, 9, 9, 255), more={"visibility": "hidden"}),
        Flat("ground", (0, 0, 100, 80), (240, 236, 228, 255)),
    ]
    return write_project(tmp_path / "p", {"cuts/m.toml": PLAN}, layers)


def test_auto_says_why_and_pages_fall_back(riffler: Run, project: Path) -> None:
    riffler("cut", cwd=project)
    assets = json.loads((project / "out/ledger.json").read_bytes())["assets"]
    by_slice: dict[str, list[dict[str, object]]] = {}
    for asset in assets:
        by_slice.setdefault(asset["slice"], []).append(asset)
    weighed = json.loads(riffler("weigh", "auto", "alone", "--json", cwd=project).stdout)
    for picture in weighed["pictures"]:
        made = by_slice[picture["name"]]
        assert all(asset["setting"]["why"] for asset in made)  # type: ignore[index]
        marked = {file["bytes"] for file in picture["files"] if file["chosen"]}
        assert {asset["bytes"] for asset in made} == marked  # what is marked is what is cut
        least = min(f["bytes"] for f in picture["files"] if f["loss"] <= LEVELS[picture["level"]])
        assert min(marked) < least + 1000 or min(marked) == least
    for asset in by_slice["small"]:
        assert asset["bytes"] <= 1200  # type: ignore[operator]
    for path in (project / "out/images").iterdir():
        with Image.open(io.BytesIO(path.read_bytes())) as picture:
            assert picture.size in ((60, 60), (20, 20))
    html = riffler("inlay", "small", cwd=project).stdout
    image = '<img src="images/small.jpg" width="60" height="60" alt="">'
    webp, jpeg = (
        next(a for a in assets if a["file"] == f"images/small.{end}") for end in ("webp", "jpg")
    )
    source = '<picture><source type="image/webp" srcset="images/small.webp">'
    is_worth_it = webp["bytes"] < jpeg["bytes"]  # or else nobody needs it
    assert html == (f"{source}{image}</picture>\n" if is_worth_it else f"{image}\n")


def test_only_what_changed_is_cut_again(riffler: Run, project: Path) -> None:
    riffler("cut", "--workers", "1", cwd=project)
    first = tree(project / "out")
    times = {path: path.stat().st_mtime_ns for path in (project / "out").rglob("*")}
    plan = project / "cuts/m.toml"
    plan.write_text(
        PLAN.replace('[slice.alone]\nonly = ["soft"]', '[slice.alone]\nonly = ["soft"]\ngrow = 2')
    )
    out = riffler("cut", cwd=project).stdout
    assert "Wrote 1 of" in out or "Wrote 2 of" in out
    changed = [p.name for p, time in times.items() if p.exists() and p.stat().st_mtime_ns != time]
    assert sorted(name for name in changed if "." in name) == sorted(
        {"ledger.json", *(name for name in changed if name.startswith("alone"))}
    )
    plan.write_text(PLAN)
    for path in sorted((project / ".riffler/cache").rglob("*")):
        if path.is_file():
            path.write_bytes(path.read_bytes()[:20])  # a damaged cache is no cache
    riffler("cut", "--workers", "4", cwd=project)
    assert tree(project / "out") == first


def test_weigh_compares_formats(riffler: Run, project: Path) -> None:
    data = json.loads(riffler("weigh", "auto", "alone", "--json", cwd=project).stdout)
    assert [one["name"] for one in data["pictures"]] == ["auto", "alone"]
    opaque, soft = (one["files"] for one in data["pictures"])
    missed = {(one["format"], one["level"]) for one in data["pictures"][0]["missed"]}
    every = {(name, level) for name in FORMATS for level in LEVELS}
    assert {(file["format"], file["level"]) for file in opaque} | missed <= every
    assert {("jpeg", "exact"), ("avif", "exact")} <= missed
    assert {("webp", "exact"), ("png", "exact")} & missed == set()
    assert "jpeg" not in {file["format"] for file in soft}
    for files, picture in zip((opaque, soft), data["pictures"], strict=True):
        chosen = [file for file in files if file["chosen"]]
        clear = [file for file in files if file["loss"] <= LEVELS[picture["level"]]]
        least = min(file["bytes"] for file in clear)
        assert chosen[0]["bytes"] == least or chosen[0]["loss"] <= 0.3  # next to nothing is lost
        assert chosen[0]["ms"]["far"] == round(400 + 8 * chosen[0]["bytes"] / 400)
    assert 'no slice "nope"' in riffler("weigh", "nope", cwd=project, code=2).stderr
    assert 'no file "nope.png"' in riffler("weigh", "nope.png", cwd=project, code=2).stderr
    assert "should end in .html" in riffler(
        "weigh", "alone", "--page", "a.txt", cwd=project, code=2
    ).stderr  # fmt: skip


def right_of(view: Locator) -> float:
    found = view.bounding_box()
    assert found is not None
    return found["x"] + found["width"]


def test_weigh_draws_and_writes_a_page(riffler: Run, tmp_path: Path, browser: Browser) -> None:
    Image.fromarray(photo(9, 64)).save(tmp_path / "photo.png")
    said = ("weigh", "photo.png", "--picture", "curve.png", "--page", "see.html")
    table = riffler(*said).stdout
    assert "photo.png: 64 x 64 px" in table
    assert "not seen" in table
    with Image.open(tmp_path / "curve.png") as curve:
        assert curve.size == (960, 600)
        colors = {color for _, color in curve.convert("RGB").getcolors(1 << 22) or ()}
    for line in COLORS.values():  # every format's line is there
        assert tuple(bytes.fromhex(line[1:])) in colors
    text = (tmp_path / "see.html").read_text()
    assert not re.search(r"""(src|href)=["']?http|url\(http|@import""", text)
    page, troubles = browser.new_page(bypass_csp=True), []
    page.on("pageerror", lambda error: troubles.append(str(error)))
    page.goto((tmp_path / "see.html").as_uri())
    first = page.locator("section").first
    assert first.locator(".card.chosen input").is_checked()
    rows = first.locator(".levels tbody th").all_inner_texts()
    assert rows[:2] == ["Exact", "Clear"]
    assert first.locator(".levels thead th").count() == 4 + 3  # and how long each takes
    captions = first.locator(".stage figcaption b")
    assert captions.all_inner_texts()[:2] == ["Mockup", "Exact"]
    assert all(right_of(view) <= 1280 for view in first.locator(".view").all())
    page.set_viewport_size({"width": 880, "height": 700})
    page.wait_for_function("document.querySelectorAll('.stage .view').length === 2")
    for view in ("bands", "joints", "difference"):
        first.locator(f'input[value="{view}"]').check(force=True)
        page.wait_for_function(f"document.querySelector('canvas')?.dataset.drawn === '{view}'")
        page.wait_for_timeout(200)
        if view == "bands":
            middle = """() => { const seen = document.querySelector("canvas").getContext("2d")
              .getImageData(0, 0, 64, 64).data.filter((_, n) => n % 4 < 3);
              return seen.reduce((sum, value) => sum + value, 0) / seen.length; }"""
            assert page.evaluate(middle) == pytest.approx(128, abs=8)
    furthest = """() => {
      const canvas = document.querySelector("canvas");
      return Math.max(...canvas.getContext("2d").getImageData(0, 0, 64, 64).data.filter((_, n) => n % 4 < 3));
    }"""
    assert page.evaluate(furthest) > 0  # the chosen file loses something
    for more in first.locator("summary").all():
        more.click()
    lossless = first.locator(".card", has_text="PNG lossless").locator("input")
    lossless.check(force=True)
    page.wait_for_timeout(200)
    assert page.evaluate(furthest) == 0
    assert not troubles
    page.close()


def test_watching_cuts_again(project: Path, tmp_path: Path) -> None:
    said, errors = tmp_path / "said", tmp_path / "errors"

    def until(file: Path, words: str) -> None:
        for _ in range(300):
            if words in file.read_text():
                return
            time.sleep(0.1)
        pytest.fail(f"{words!r} was never said: {said.read_text()} {errors.read_text()}")

    plan = project / "cuts/m.toml"
    plan.write_text(HEAD + "[slice.a]\nat = [0, 0, 9, 9]\n")
    command = [sys.executable, "-u", "-m", "riffler", "cut", "--watch"]
    with said.open("w") as out, errors.open("w") as err:
        running = subprocess.Popen(command, cwd=project, stdout=out, stderr=err)
    try:
        until(said, "wrote images/a.png: 9 x 9 px")
        plan.write_text(HEAD + '[slice.a]\nonly = ["sofd"]\n')
        until(errors, 'no layer "sofd"')  # and it goes on
        plan.write_text(HEAD + "[slice.b]\nat = [0, 0, 8, 8]\n")
        until(said, "removed images/a.png")
        assert "wrote images/b.png: 8 x 8 px" in said.read_text()
        running.send_signal(signal.SIGINT)
        assert running.wait(10) == 130
    finally:
        running.kill()
        running.wait()


def test_a_budget_is_a_bound(riffler: Run, project: Path) -> None:
    plan = project / "cuts/m.toml"
    for save in ('["webp", "jpeg"]', '["auto"]', '["png"]', '["gif"]'):
        tight = f'[slice.tight]\nat = [0, 0, 60, 60]\nsave = {save}\nbudget = "1.5 kB"\n'
        plan.write_text(HEAD + tight)
        riffler("cut", cwd=project)
        files = [*(project / "out/images").glob("tight.*")]
        assert files, save
        assert max(path.stat().st_size for path in files) <= 1500, save
        plan.write_text(plan.read_text().replace("1.5 kB", "60 B"))
        said = riffler("cut", cwd=project, code=2).stderr
        assert "slice.tight.budget: The smallest" in said
        assert "more than the budget of 60." in said


def test_patterns_mean_slices(riffler: Run, project: Path) -> None:
    boxes = {"icon-a": "[0, 0, 9, 9]", "icon-b": "[9, 9, 9, 9]", "other": "[0, 0, 8, 8]"}
    text = "".join(f"[slice.{name}]\nat = {box}\n" for name, box in boxes.items())
    words = '[slice.icon-text]\nat = [0, 0, 9, 9]\nrole = "words"\n'
    (project / "cuts/m.toml").write_text(HEAD + text + words)
    riffler("cut", "icon-*", cwd=project)
    made = sorted(path.stem for path in (project / "out/images").iterdir())
    assert made == ["icon-a", "icon-b"]
    said = riffler("weigh", "icon-*", "icon-a", cwd=project).stdout
    assert re.findall(r"^(\S+): 9 x 9 px$", said, re.MULTILINE) == ["icon-a", "icon-b"]
    assert "becomes no picture" in riffler("weigh", "icon-t*", cwd=project, code=2).stderr
    assert 'no slice "no*"' in riffler("survey", "no*", cwd=project, code=2).stderr
