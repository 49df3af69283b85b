"""What a level promises: of what is drawn wherever it stands, of calm ground, and of joints."""

from __future__ import annotations

import json
from pathlib import Path

import numpy as np
import pytest
from PIL import Image, ImageDraw, ImageFilter
from scipy import ndimage

from conftest import Run
from making import Flat, chosen, write_ora, write_project
from riffler.encode.choice import LEVELS, Choice, preferred
from riffler.encode.choose import choose
from riffler.encode.encoding import decoded
from riffler.encode.palette import Counted, palette
from riffler.encode.things import drawn, things
from riffler.encode.visible import Reference, loss
from riffler.geometry import Box
from riffler.project.project import Project
from riffler.roles.joints import joints
from riffler.workspace import Workspace
from riffler.workspace.prepare import prepare, read_cutlists

HONEY, WAX, NIGHT = (226, 163, 43), (251, 244, 228), (24, 28, 40)


def band(one: np.ndarray, other: np.ndarray) -> float:
    """The error of lightness that a mean over 7 px leaves, of 255, all but half a percent."""
    light = (one[..., :3].astype(float) - other[..., :3]) @ (0.299, 0.587, 0.114)
    return float(np.quantile(np.abs(ndimage.uniform_filter(light, 7)), 0.995))


def icon(side: int = 48) -> Image.Image:
    large = Image.new("RGBA", (side * 8, side * 8))
    pen = ImageDraw.Draw(large)
    pen.ellipse((side, side, side * 7, side * 7), outline=(*HONEY, 255), width=side // 2)
    pen.line((side * 2, side * 5, side * 4, side * 3, side * 6, side * 5), (74, 51, 80), side // 2)
    return large.resize((side, side), Image.Resampling.BOX)


def gradient(width: int, height: int, low: tuple[int, ...], high: tuple[int, ...]) -> np.ndarray:
    share = np.linspace(0, 1, width)[None, :, None] * np.ones((height, 1, 1))
    colors = np.array(low) * (1 - share) + np.array(high) * share
    return np.dstack((colors.round(), np.full((height, width), 255.0))).astype(np.uint8)


def on_canvas(small: Image.Image, size: tuple[int, int], at: tuple[int, int]) -> np.ndarray:
    canvas = Image.new("RGBA", size, (255, 255, 255, 255))
    canvas.alpha_composite(small, at)
    return np.asarray(canvas)


@pytest.mark.parametrize(
    ("marks", "boxes"),
    [
        ([], [(0, 0, 200, 100)]),
        ([(10, 10, 30, 20)], [(10, 10, 30, 20)]),
        ([(10, 10, 30, 20), (80, 12, 40, 30)], [(10, 10, 30, 20), (80, 12, 40, 30)]),
        ([(10, 10, 30, 20), (50, 10, 30, 20)], [(10, 10, 70, 20)]),  # too near to be apart
        ([(0, 0, 200, 20), (10, 60, 30, 30), (90, 60, 30, 30)],
         [(0, 19, 200, 2), (10, 60, 30, 30), (90, 60, 30, 30)]),  # of a bar its edge
    ],
)  # fmt: skip
def test_things_are_what_stands_apart_on_flat_ground(
    marks: list[tuple[int, int, int, int]], boxes: list[tuple[int, int, int, int]]
) -> None:
    picture = np.full((100, 200, 4), 255, np.uint8)
    for x, y, width, height in marks:
        picture[y : y + height, x : x + width, :3] = HONEY
    found = things(drawn(picture))
    sizes = [(c.start, r.start, c.stop - c.start, r.stop - r.start) for r, c in found]
    assert sorted(sizes) == sorted(boxes)


def test_a_thing_loses_as_much_on_any_canvas() -> None:
    small = icon()
    worse = Image.fromarray(np.asarray(small).copy())
    worse = worse.resize((30, 30)).resize(small.size)
    worse.putalpha(small.getchannel("A"))
    places = [((48, 48), (0, 0)), ((160, 96), (64, 16)), ((480, 320), (208, 144))]
    places += [((1200, 600), (800, 320)), ((1600, 1200), (48, 1104))]
    lost = [loss(on_canvas(small, *place), on_canvas(worse, *place)) for place in places]
    assert lost == pytest.approx([lost[0]] * len(lost), rel=0.12)
    assert lost[0] > LEVELS["fair"]


@pytest.mark.parametrize("level", ["clear", "fair"])
@pytest.mark.parametrize("form", ["jpeg", "webp", "avif", "png"])
def test_an_icon_keeps_its_quality_on_a_large_canvas(form: str, level: str) -> None:
    small, at = icon(), (496, 208)
    picture = on_canvas(small, (1040, 512), at)
    choice = chosen(picture, form, level)
    x, y = at
    crops = (one[y : y + 48, x : x + 48] for one in (picture, decoded(choice.data)))
    alone, shown = map(np.ascontiguousarray, crops)
    assert loss(alone, shown) <= 1.3 * LEVELS[level]


@pytest.mark.parametrize("ends", [(NIGHT, (52, 60, 78)), (WAX, (214, 196, 160))])
def test_calm_gradients_stay_calm(ends: tuple[tuple[int, ...], tuple[int, ...]]) -> None:
    picture = gradient(360, 120, *ends)
    few = palette(Counted.of(picture), 8).straight
    assert loss(picture, few) > LEVELS["fair"]  # bands of four steps and more
    for level, most in (("clear", 1.5), ("fair", 2.5)):
        for form in ("png", "jpeg", "webp", "avif"):
            found = choose(picture, form, level)
            assert found is not None or form in ("webp", "avif")  # these may not reach it
            if found is not None:
                assert band(picture, decoded(found.data)) <= most, (form, level)


def test_soft_shadows_keep_their_steps() -> None:
    cast = Image.new("L", (240, 180))
    ImageDraw.Draw(cast).rectangle((60, 50, 180, 130), fill=120)
    shadow = Image.new("RGBA", cast.size, (20, 16, 12, 255))
    shadow.putalpha(cast.filter(ImageFilter.GaussianBlur(18)))
    straight = np.asarray(shadow)
    ringed = straight.copy()
    ringed[..., 3] = (ringed[..., 3].astype(int) + 6) // 12 * 12
    assert loss(straight, ringed) > LEVELS["fair"]
    nearly = straight.copy()
    nearly[..., 3] = nearly[..., 3] // 2 * 2
    assert loss(straight, nearly) <= LEVELS["fair"]


def test_the_sides_at_which_another_goes_on_are_kept() -> None:
    picture = gradient(160, 96, WAX, (214, 196, 160))
    off = picture.copy()
    off[:, -6:, :3] += 2
    assert Reference(picture).loss(off) < LEVELS["fair"]
    joined = {side: Reference(picture, None, frozenset((side,))) for side in ("left", "right")}
    assert joined["left"].loss(off) == Reference(picture).loss(off)
    assert joined["right"].loss(off) > 5 * LEVELS["fair"]


@pytest.mark.parametrize(
    ("files", "taken"),
    [
        ([(3000, 2.2), (3700, 0.1)], 3700),  # flat art is not given up for less than a kilobyte
        ([(30_000, 2.2), (33_000, 0.1)], 33_000),  # nor for a tenth
        ([(30_000, 2.2), (60_000, 0.0)], 30_000),
        ([(3000, 0.2), (3700, 0.0)], 3000),  # both lose next to nothing
        ([(400, 2.0), (900, 0.0)], 900),
        ([(5000, 2.0), (4000, 1.5)], 4000),
    ],
)
def test_nothing_is_given_up_for_nothing(files: list[tuple[int, float]], taken: int) -> None:
    made = [Choice(bytes(count), "webp", {}, lost) for count, lost in files]
    assert len(preferred(made).data) == taken


BAR = """\
mockup = "../mockups/bar.ora"
[defaults]
{how}
[slice.one]
at = [0, 0, 120, 60]
[slice.two]
at = [120, 0, 100, 60]
[slice.three]
at = [220, 0, 140, 60]
"""


@pytest.fixture
def bar(tmp_path: Path) -> tuple[Path, np.ndarray]:
    """A project with a bar in three slices, on one gradient that goes down and across."""
    down, across = np.mgrid[:60, :360].astype(float)
    grain = np.random.default_rng(5).normal(0, 1.2, (60, 360))
    light = 40 + 70 * down / 60 + 30 * across / 360 + grain
    bar = np.dstack((light * 0.8, light, light * 1.3, np.full((60, 360), 255))).astype(np.uint8)
    root = write_project(tmp_path / "p", {"riffler.toml": "", "cuts/bar.toml": BAR})
    write_ora(root / "mockups/bar.ora", (360, 60), [Flat("bar", (0, 0, 360, 60), pixels=bar)])
    return root, bar


@pytest.mark.parametrize(("along", "is_joint"), [(7, False), (8, True)])
def test_pictures_join_where_they_touch_for_a_while(
    tmp_path: Path, along: int, is_joint: bool
) -> None:
    plan = 'mockup = "../mockups/m.ora"\n[defaults]\nalt = ""\n[slice.a]\nat = [0, 0, 40, 40]\n'
    plan += f"[slice.b]\nat = [40, {40 - along}, 30, 40]\n[slice.c]\nat = [71, 0, 20, 40]\n"
    root = write_project(tmp_path / "p", {"cuts/m.toml": plan}, [Flat("m", (0, 0, 100, 80))])
    project = Project.at(root)
    (cutlist,) = prepare(Workspace(project), read_cutlists(project))
    found = [(joint.first.slice.name, joint.side, joint.place) for joint in joints(cutlist.slices)]
    assert found == ([("a", "right", Box(39, 40 - along, 2, along))] if is_joint else [])


@pytest.mark.parametrize("how", ['save = ["auto"]', 'save = ["jpeg"]', 'save = ["webp", "png"]'])
def test_slices_that_touch_join(riffler: Run, bar: tuple[Path, np.ndarray], how: str) -> None:
    root, pixels = bar
    (root / "cuts/bar.toml").write_text(BAR.format(how=how))
    riffler("cut", cwd=root)
    assets = json.loads((root / "out/ledger.json").read_bytes())["assets"]
    for end in ("jpg", "png", "webp", "avif"):
        shown = pixels.astype(float)
        for asset in assets:
            place = asset["place"]
            if asset["file"].endswith(end):
                with Image.open(root / "out" / asset["file"]) as picture:
                    columns = slice(place["x"], place["x"] + place["width"])
                    shown[:, columns] = np.asarray(picture.convert("RGBA"))
        off = ndimage.uniform_filter1d((shown - pixels)[..., :3] @ (0.299, 0.587, 0.114), 8, axis=0)
        for x in (120, 220):
            steps = off[:, x : x + 4].mean(axis=1) - off[:, x - 4 : x].mean(axis=1)
            assert np.abs(steps).max() <= 2, (end, x)
    found = json.loads(riffler("survey", "--json", cwd=root, code=None).stdout)["findings"]
    assert "joint" not in [one["kind"] for one in found]


def test_the_survey_looks_at_joints(riffler: Run, bar: tuple[Path, np.ndarray]) -> None:
    root, _ = bar
    plan = BAR.format(how='save = ["jpeg"]\nquality = 15')
    (root / "cuts/bar.toml").write_text(plan)
    riffler("cut", cwd=root)
    found = json.loads(riffler("survey", "--json", cwd=root, code=1).stdout)["findings"]
    joints = [one for one in found if one["kind"] == "joint"]
    assert {one["slice"] for one in joints} <= {"two", "three"}
    assert joints
    assert all("of 255" in one["message"] for one in joints)
    changed = np.full((60, 360, 4), (200, 90, 10, 255), np.uint8)
    write_ora(root / "mockups/bar.ora", (360, 60), [Flat("bar", (0, 0, 360, 60), pixels=changed)])
    found = json.loads(riffler("survey", "--json", cwd=root, code=None).stdout)["findings"]
    assert "joint" not in [one["kind"] for one in found]  # these files are of another version


def test_a_png_that_is_asked_for_plainly_keeps_every_pixel(riffler: Run, tmp_path: Path) -> None:
    pixels = gradient(100, 80, WAX, (214, 196, 160))
    plan = 'mockup = "../mockups/m.ora"\n[defaults]\nsave = ["png"]\n[slice.box]\nat = [0, 0, 100, 80]\n'
    plan += '[slice.few]\nlike = "box"\nquality = "fair"\n'
    root = write_project(tmp_path / "p", {"riffler.toml": "", "cuts/m.toml": plan})
    write_ora(root / "mockups/m.ora", (100, 80), [Flat("all", (0, 0, 100, 80), pixels=pixels)])
    riffler("cut", cwd=root)
    with Image.open(root / "out/images/box.png") as picture:
        assert np.array_equal(np.asarray(picture.convert("RGBA")), pixels)
    assets = json.loads((root / "out/ledger.json").read_bytes())["assets"]
    assert [asset["loss"] for asset in assets] == pytest.approx([0, assets[1]["loss"]])
    assert assets[1]["loss"] <= LEVELS["fair"]
