"""Roles: what they make of pixels, and the CSS and HTML that shows it."""

from __future__ import annotations

import io
import json
from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import Browser

from conftest import Run, run_riffler
from making import Flat, Straight, write_ora, write_project
from riffler.analyse import ground, weight
from riffler.color import from_bytes
from riffler.errors import WrittenError
from riffler.geometry import EdgeName
from riffler.plan.survey import survey
from riffler.project.project import Project
from riffler.workspace import Workspace
from riffler.workspace.prepare import prepare, read_cutlists

SIDES: tuple[EdgeName, ...] = ("left", "right", "top", "bottom")


def slope(height: int, width: int, across: float, down: float) -> Straight:
    """A gradient in grey: so many steps of 255 with each pixel to the right, and down."""
    y, x = np.mgrid[:height, :width]
    pixels = np.full((height, width, 4), 255, np.uint8)
    pixels[..., :3] = np.clip(60 + across * x + down * y, 0, 255).astype(np.uint8)[..., None]
    return pixels


@pytest.mark.parametrize("side", SIDES)
def test_ground_goes_on_without_a_step(side: EdgeName) -> None:
    grain = slope(90, 120, 0, 0)
    grain[..., :3] += np.random.default_rng(1).integers(-4, 5, (90, 120, 1)).astype(np.uint8)
    for straight, most in ((slope(90, 120, 0, 0), 0.0), (slope(90, 120, 1, 0.5), 1.5), (grain, 9)):
        turned = ground.turned(from_bytes(straight), side)
        assert (ground.turned(turned, side) == from_bytes(straight)).all()
        beyond = 255 * ground.continued(turned, 60)
        assert ground.at_edge(turned).is_plain
        inner = 255 * turned
        assert np.abs(beyond[:, 0] - inner[:, -1]).mean() <= most
        # what varies beyond the edge varies as much as within
        assert beyond.std() <= 1.6 * inner.std() + 0.5
    steep = ground.turned(from_bytes(slope(90, 120, 1, 0)), side)
    if side in ("left", "right"):
        step = np.sign(float(steep[0, -1, 0] - steep[0, 0, 0]))
        far = 255 * step * (ground.continued(steep, 40)[:, -1, 0] - steep[:, -1, 0])
        # 40 columns further on, a gradient of one a column that levels off over 120: 120 (1 - e^-1/3)
        assert far.mean() == pytest.approx(120 * (1 - np.exp(-1 / 3)), abs=2)


def test_what_stands_at_the_edge_is_no_ground() -> None:
    picture = slope(80, 100, 0, 0)
    picture[30:50, 70:] = (200, 40, 40, 255)
    assert ground.at_edge(from_bytes(picture)).is_plain  # bars that run out are ground, too
    picture[30:50, 70:] = np.random.default_rng(2).integers(0, 255, (20, 30, 4))
    picture[..., 3] = 255
    found = ground.at_edge(from_bytes(picture))
    assert not found.is_plain
    beyond = ground.continued(from_bytes(picture), 200)
    assert np.abs(np.diff(beyond[:, -1, 0])).max() < 0.05  # smeared, without hard streaks


def art() -> list[Flat]:
    """A ramp, a panel with three parts, a wedge that is heavy on its left, a scene with a mark."""
    panel = np.full((60, 40, 4), 255, np.uint8)
    panel[..., 0] = np.arange(60)[:, None] * 4
    wedge = np.zeros((20, 20, 4), np.uint8)
    wedge[np.arange(20)[None, :] <= np.arange(20)[:, None]] = (30, 60, 90, 255)
    scene = np.full((50, 60, 4), (240, 236, 228, 255), np.uint8)
    scene[20:26, 8:14] = (255, 0, 0, 255)
    return [
        Flat("wedge", (240, 10, 20, 20), pixels=wedge),
        Flat("dot", (270, 10, 8, 8), (10, 10, 10, 255)),
        Flat("scene", (120, 80, 60, 50), pixels=scene),
        Flat("lit", (190, 80, 40, 60), (250, 250, 90, 255), more={"visibility": "hidden"}),
        Flat("panel", (190, 80, 40, 60), pixels=panel),
        Flat("ramp", (0, 0, 220, 60), pixels=slope(60, 220, 0.8, 0)),
        Flat("base", (0, 0, 300, 150), (240, 236, 228, 255)),
    ]


PLAN = """\
mockup = "../mockups/m.ora"
[defaults]
alt = ""
[slice.ramp]
at = [20, 0, 100, 60]
role = "tile"
repeat = "x"
soften = 30
[slice.panel]
at = [190, 80, 40, 60]
role = "panel"
caps = { top = 12, bottom = 8 }
middle = "repeat"
split = true
sizes = ["1x", "2x"]
[slice.panel.state.hover]
show = ["lit"]
[group.icons]
role = "icon"
frame = [40, 40]
balance = "weight"
[slice.wedge]
in = "icons"
only = ["wedge"]
[slice.dot]
in = "icons"
only = ["dot"]
[slice.scene]
quality = "fair"
at = [120, 80, 60, 50]
role = "hero"
frame = [200, 50]
place = "left"
focal = [131, 103]
save = ["webp", "jpeg"]
sizes = ["100w", "200w"]
[slice.text]
at = [0, 100, 100, 20]
role = "words"
"""


@pytest.fixture(scope="module")
def project(tmp_path_factory: pytest.TempPathFactory) -> Path:
    root = write_project(tmp_path_factory.mktemp("roles") / "p", {"cuts/m.toml": PLAN})
    write_ora(root / "mockups/m.ora", (300, 150), art())
    run_riffler("cut", cwd=root)
    return root


def opened(path: Path) -> Straight:
    with Image.open(path) as picture:
        return np.asarray(picture.convert("RGBA"))


def test_a_softened_tile_meets_itself(project: Path) -> None:
    tile = opened(project / "out/images/ramp.png").astype(int)
    assert tile.shape == (60, 100, 4)
    assert (tile[:, 31:] == slope(60, 220, 0.8, 0)[:, 51:120]).all()  # untouched past the fade
    wrapped = np.concatenate((tile, tile), axis=1)[..., 0]
    # the ramp falls by 80 within 30 columns; nowhere by more than the fade is steep at its middle
    assert np.abs(np.diff(wrapped, axis=1)).max() <= 80 * 1.5 / 30 + 2
    assert abs(wrapped[0, 100] - wrapped[0, 99]) <= 2


def test_a_panel_in_parts_is_the_panel(project: Path) -> None:
    names = ("cap-top", "middle", "cap-bottom")
    parts = [opened(project / f"out/images/panel.{name}.png") for name in names]
    assert [part.shape[:2] for part in parts] == [(12, 40), (40, 40), (8, 40)]
    assert (np.concatenate(parts) == art()[4].pixels).all()
    assert opened(project / "out/images/panel.middle@2x.png").shape[:2] == (80, 80)


def test_states_of_a_panel_in_parts(project: Path, browser: Browser) -> None:
    css = run_riffler("inlay", "panel", "--css", cwd=project).stdout
    assert ".piece-panel:hover,\n.piece-panel:focus-visible {\n  background-image:" in css
    shown = css.replace("../images/", f"{(project / 'out/images').as_uri()}/")
    path = project / "panel.html"
    path.write_text(f"<style>body {{ margin: 0 }} {shown} .piece-panel {{ height: 90px }}</style>"
                    '<div class="piece-panel"></div>')  # fmt: skip
    page = browser.new_page(viewport={"width": 60, "height": 100})
    page.goto(path.as_uri())
    colors = []
    for place in ((50, 95), (20, 45)):  # beside it, and on it
        page.mouse.move(*place)
        page.wait_for_timeout(400)  # pictures of a state are only loaded when it comes
        shot = Image.open(io.BytesIO(page.screenshot())).convert("RGB")
        colors.append([shot.getpixel((20, y)) for y in (2, 45, 86)])
    page.close()
    rest, hover = np.array(colors)
    assert np.abs(hover - (250, 250, 90)).max() <= 1  # all three parts
    assert (rest[:, 1:] == 255).all()
    assert abs(rest[0, 0] - 8) <= 4
    assert abs(rest[2, 0] - 224) <= 4


def test_icons_stand_on_the_middle_of_their_weight(project: Path) -> None:
    for name in ("wedge", "dot"):
        icon = opened(project / f"out/images/{name}.png")
        assert icon.shape[:2] == (40, 40)
        middle = weight.middle(from_bytes(icon))
        assert middle is not None
        assert np.abs(np.array(middle) - 20).max() <= 0.51


def test_a_hero_keeps_its_point_in_sight(project: Path, browser: Browser) -> None:
    assets = json.loads((project / "out/ledger.json").read_bytes())["assets"]
    hero = next(a for a in assets if a["file"] == "images/scene-200w.jpg")
    assert hero["pixels"] == {"width": 200, "height": 50}
    assert hero["focal"] == {"x": 11 / 200, "y": 23 / 50}
    assert all(opened(p).shape[1] == 100 for p in (project / "out/images").glob("scene-100w*"))
    css, html = (
        run_riffler("inlay", "scene", *more, cwd=project).stdout for more in (["--css"], [])
    )
    assert "object-position: 5.5% 46%;" in css
    for width in (1000, 120):
        page = browser.new_page(viewport={"width": width, "height": 200})
        shown = html.replace("images/", f"{(project / 'out/images').as_uri()}/")
        (project / "hero.html").write_text(f"<style>body {{ margin: 0 }} {css}</style>{shown}")
        page.goto((project / "hero.html").as_uri())
        shot = Image.open(
            io.BytesIO(page.screenshot(clip={"x": 0, "y": 0, "width": width, "height": 50}))
        )
        pixels = np.asarray(shot.convert("RGB")).astype(int)
        red = (pixels[..., 0] > 200) & (pixels[..., 1] < 90)
        assert red.sum() >= 25
        # the rest of the frame is the scene's own ground, and nothing shows where it was continued
        assert np.abs(pixels[:, -20:] - (240, 236, 228)).max() <= 4
        page.close()


def test_inlay_prints_html_and_css(project: Path) -> None:
    def printed(*said: str) -> str:
        return run_riffler("inlay", *said, cwd=project).stdout

    assert printed("scene", "--sizes", "50vw") == (
        "<picture>\n"
        '  <source type="image/webp" srcset="images/scene-100w.webp 100w, images/scene-200w.webp 200w"\n'
        '          sizes="50vw">\n'
        '  <img class="piece-scene" src="images/scene-200w.jpg"\n'
        '       srcset="images/scene-100w.jpg 100w, images/scene-200w.jpg 200w" sizes="50vw" width="200"\n'
        '       height="50" alt="">\n'
        "</picture>\n"
    )
    assert printed("ramp", "--class", "bar wide") == (
        '.bar.wide {\n  background: url("../images/ramp.png") 0 0 / 100px 60px repeat-x;\n}\n'
    )
    panel = printed("panel")
    for line in (
        "border-width: 12px 0px 8px 0px;",
        'image-set(url("../images/panel.cap-top@2x.png") 2x, url("../images/panel.cap-top.png") 1x)',
        "0 100% / 40px 8px no-repeat border-box",
        "0 0 / 40px 40px repeat-y padding-box",
    ):
        assert line in panel
    assert printed("text").startswith(".piece-text {\n  width: 100px;\n  min-height: 20px;\n")
    assert 'alt="A dot"' in printed("dot", "--alt", "A dot")
    assert (
        "no class"
        in run_riffler("inlay", "dot", "--css", "--class", "a{}", cwd=project, code=2).stderr
    )


def test_a_hero_whose_edge_is_no_ground_is_found(tmp_path: Path) -> None:
    plan = 'mockup = "../mockups/m.ora"\n[defaults]\nalt = ""\nrole = "hero"\nframe = [200, 60]\n'
    for box, place, edges in (
        ((120, 80, 60, 50), "left", []),  # beyond its right edge lies its own ground
        ((120, 80, 60, 50), "center", [(120, 80, 1, 50)]),  # the mark is near the left one
        ((205, 0, 45, 50), "left", [(249, 0, 1, 50)]),  # its right edge goes through the wedge
        ((205, 0, 45, 50), "right", []),  # and now the frame ends there
    ):
        cuts = f'{plan}[slice.a]\nat = {list(box)}\nplace = "{place}"\n'
        root = write_project(tmp_path / "p", {"cuts/m.toml": cuts})
        write_ora(root / "mockups/m.ora", (300, 150), art())
        found = [one for one in survey(Workspace(Project.at(root))).findings if one.kind == "seam"]
        places = [
            (one.place.x, one.place.y, one.place.width, one.place.height)
            for one in found
            if one.place
        ]
        assert [one for one in places if one[2] == 1] == edges


@pytest.mark.parametrize(
    "wrong, key, says",
    [
        ('at = [250, 0, 40, 40]\nrole = "tile"\nsoften = 15', "soften", "15 px right of the tile, and there are 10"),
        ('at = [0, 0, 40, 40]\nrole = "tile"\nsoften = 21', "soften", "more than half of the tile's 40 px"),
        ('at = [0, 0, 40, 40]\nrole = "panel"\nsplit = true\ncaps = { top = 4, left = 4 }', "split", "grows in one direction alone"),
        ("at = [0, 0, 40, 40]\nfocal = [50, 20]", "focal", "The point 50, 20 is not in the box"),
        ('at = [0, 0, 40, 40]\nbalance = "wieght"', "balance", "'weight'"),
    ],
)  # fmt: skip
def test_settings_that_do_not_fit(tmp_path: Path, wrong: str, key: str, says: str) -> None:
    plan = f'mockup = "../mockups/m.ora"\n[slice.a]\nalt = ""\n{wrong}\n'
    root = write_project(tmp_path / "p", {"cuts/m.toml": plan})
    write_ora(root / "mockups/m.ora", (300, 150), art())
    with pytest.raises(WrittenError) as caught:
        prepare(Workspace(Project.at(root)), read_cutlists(Project.at(root)))
    assert says in caught.value.message
    assert caught.value.place is not None
    assert caught.value.place.key == f"slice.a.{key}"


@pytest.mark.parametrize("point", [(0, 0), (40, 40), (0, 40), (39.5, 0)])
def test_a_focal_point_may_lie_on_the_edge(tmp_path: Path, point: tuple[float, float]) -> None:
    plan = 'mockup = "../mockups/m.ora"\n[slice.a]\nalt = ""\nat = [0, 0, 40, 40]\n'
    files = {"cuts/m.toml": f"{plan}focal = {list(point)}\n"}
    root = write_project(tmp_path / "p", files)
    write_ora(root / "mockups/m.ora", (300, 150), art())
    (cutlist,) = prepare(Workspace(Project.at(root)), read_cutlists(Project.at(root)))
    focal = cutlist.slices[0].focal
    assert focal is not None
    assert (focal.x, focal.y) == point


def test_icons_have_one_size_at_every_density(riffler: Run, tmp_path: Path) -> None:
    plan = 'mockup = "../mockups/m.ora"\ndensity = 2\n[group.icons]\nrole = "icon"\nalt = ""\n'
    plan += 'balance = "weight"\nsizes = ["1x", "2x"]\n'
    plan += '[slice.a]\nin = "icons"\nat = [1, 1, 37, 31]\n[slice.b]\nin = "icons"\nonly = ["b"]\n'
    plan += '[group.marks]\nrole = "icon"\nalt = ""\n[slice.c]\nin = "marks"\nonly = ["c"]\n'
    layers = [
        Flat("a", (1, 1, 37, 31), (200, 0, 0, 255)),
        Flat("b", (50, 10, 33, 29)),
        Flat("c", (60, 60, 20, 12)),
    ]
    root = write_project(tmp_path / "p", {"cuts/m.toml": plan}, layers)
    riffler("cut", cwd=root)
    assert opened(root / "out/images/c.png").shape[:2] == (12, 20)  # another group, another frame
    sizes = [opened(root / f"out/images/{name}.png").shape[:2] for name in ("a", "b", "b@2x")]
    assert sizes == [(16, 19), (16, 19), (32, 38)]
    assert 'width="19" height="16"' in riffler("inlay", "b", cwd=root).stdout
    assert "width: 19px;\n  height: 16px;" in riffler("inlay", "b", "--css", cwd=root).stdout
