"""Vector files of layers, sprites, symbols, loading marks: made, shown in a browser, refused."""

from __future__ import annotations

import io
import json
import re
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as some
from lxml import etree
from PIL import Image
from playwright.sync_api import Browser

from conftest import Run, shown
from making import Flat, png, write_project
from riffler.errors import RifflerError
from riffler.geometry import Box, Size
from riffler.sprite.packing import pack
from riffler.sprite.sheet import style_sheet
from riffler.vector.checked import compared
from riffler.vector.for_page import ForPage, made

HIVE = """<svg xmlns="http://www.w3.org/2000/svg" width="200" height="100" viewBox="0 0 200 100">
<defs><linearGradient id="honey" x2="0" y2="1"><stop stop-color="#f3c25a"/><stop offset="1"
stop-color="#d08a1e"/></linearGradient><linearGradient id="spare"/></defs>
<rect width="200" height="100" fill="#fbf4e4"/>
<g id="icons" transform="translate(20 30)">
<g id="bee"><path id="body" fill="url(#honey)" d="M0 0h40v40H0z"/><path id="wing" fill="none"
stroke="#33231a" stroke-width="3" opacity=".5" d="M5 5l30 30"/></g>
<g id="leaf" transform="translate(60 0)"><path fill="#2f7436" d="M0 20C0 0 20 0 40 0 40 20 40 40 20 40z"/></g>
</g>
<text id="word" x="130" y="60" font-family="Fraunces" font-size="24" font-weight="600">Bees</text>
</svg>"""

CUTS = """mockup = "../mockups/m.svg"
density = 2
[slice.bee]
only = ["icons/bee"]
save = ["svg", "png"]
quality = "exact"
alt = "A bee"
[slice.leaf]
only = ["icons/leaf"]
alt = ""
save = ["svg"]
"""

FONT = Path(__file__).parents[1] / "src/riffler/demo/fernhollow/fonts/fraunces-600.ttf"


@pytest.fixture
def project(tmp_path: Path) -> Path:
    root = write_project(tmp_path / "p", {"cuts/m.toml": CUTS, "mockups/m.svg": HIVE})
    (root / "fonts").mkdir()
    (root / "fonts/fraunces-600.ttf").write_bytes(FONT.read_bytes())
    return root


def shot(
    browser: Browser, page_or_svg: str | Path, width: int, height: int, scale: float = 1
) -> np.ndarray:
    """What Chromium shows of a page, or of an SVG."""
    if isinstance(page_or_svg, str):
        page_or_svg = f'<body style="margin:0;background:#fff">{page_or_svg}'
    return shown(browser, page_or_svg, width, height, scale)


# Slices saved as SVG


def test_a_slice_is_saved_as_it_is_drawn(riffler: Run, project: Path, browser: Browser) -> None:
    riffler("cut", cwd=project)
    ledger = json.loads((project / "out/ledger.json").read_text())
    assets = {asset["file"]: asset for asset in ledger["assets"]}
    assert set(assets) == {"images/bee.svg", "images/bee.png", "images/leaf.svg"}
    bee = assets["images/bee.svg"]
    assert (bee["format"], bee["css"], bee["density"]) == ("svg", {"width": 20, "height": 20}, 2)
    text = (project / "out/images/bee.svg").read_text()
    root = etree.fromstring(text.encode())
    assert (root.get("width"), root.get("height"), root.get("viewBox")) == ("20", "20", "0 0 40 40")
    assert "transform" not in text  # placed at the origin
    assert "spare" not in text
    assert len(text) < bee["setting"]["untidied"]
    as_drawn = shot(browser, text, 40, 40, 2)[:40, :40]
    page = shot(browser, HIVE, 200, 100)[30:70, 20:60]
    assert compared(as_drawn, page).mean < 1.5  # its words and ground lie elsewhere
    (project / "pages/index.html").write_text('{{ inlay("bee") }}{{ inlay("leaf") }}')
    riffler("build", cwd=project)
    built = (project / "out/index.html").read_text()
    assert '<img src="images/bee.svg" width="20" height="20" alt="A bee">' in built
    assert "picture" not in built
    again = json.loads(riffler("cut", "--json", cwd=project).stdout)
    assert again["written"] == []


@pytest.mark.parametrize(
    ("change", "says"),
    [
        (('save = ["svg"]', 'save = ["svg"]\nrole = "tile"'), "not with a tile"),
        (('only = ["icons/leaf"]', 'at = [0, 0, 20, 20]\nrole = "icon"'), "cut as seen"),
        (('save = ["svg"]', 'save = ["svgz"]'), 'no format "svgz"'),
        (
            ('save = ["svg", "png"]', 'save = ["svg"]\npaint = "current"'),
            "colours",
        ),
        (('m.svg"', 'm.ora"'), "this mockup has pixels"),
    ],
)
def test_what_can_be_no_vector_file_is_told(
    riffler: Run, project: Path, change: tuple[str, str], says: str
) -> None:
    text = CUTS.replace(*change)
    if "ora" in change[1]:
        text = text.replace('only = ["icons/bee"]', "at = [0, 0, 9, 9]").split("[slice.leaf]")[0]
    (project / "cuts/m.toml").write_text(text)
    said = riffler("cut", cwd=project, code=2).stderr
    assert says in said
    assert "cuts/m.toml" in said


# The command


def test_layers_become_files(riffler: Run, project: Path) -> None:
    said = riffler(
        "vector", "mockups/m.svg", "--only", "icons/*", "--each", "-o", "made", cwd=project
    )
    assert {path.name for path in (project / "made").iterdir()} == {"bee.svg", "leaf.svg"}
    assert "all 2" in said.stdout
    data = json.loads(riffler("vector", "mockups/m.svg", "--json", cwd=project).stdout)
    (file,) = data["files"]
    assert file["bytes"]["after"] < file["bytes"]["before"]
    assert file["gzipped"]["after"] < file["gzipped"]["before"]
    assert file["difference"]["mean"] <= 0.1
    assert file["file"] is None
    printed = riffler(
        "vector", "mockups/m.svg", "--only", "icons/leaf", "-o", "-", cwd=project
    ).stdout
    assert printed.strip() == (project / "made/leaf.svg").read_text()


def test_a_file_that_is_there_stays(riffler: Run, project: Path) -> None:
    (project / "mine.svg").write_text("<svg/>")
    for code, more in ((2, ()), (0, ("--force",))):
        riffler("vector", "mockups/m.svg", "-o", "mine.svg", *more, cwd=project, code=code)
    source = (project / "mockups/m.svg").read_bytes()
    riffler("vector", "mockups/m.svg", "-o", "mockups/m.svg", "--force", cwd=project, code=2)
    assert (project / "mockups/m.svg").read_bytes() == source


@pytest.mark.parametrize(
    ("arguments", "says"),
    [
        (("gone.svg",), "gone.svg"),
        (("mockups/m.svg", "--paint", "red"), "drawn, current or custom"),
        (("mockups/m.svg", "mockups/m.svg", "--only", "icons"), "one mockup"),
        (("mockups/m.svg", "mockups/m.svg", "-o", "a.svg"), "folder"),
        (("mockups/m.svg", "--only", "icons/be"), "icons/bee"),
        (("mockups/m.ora", "--only", "all"), "has pixels"),
        (("mockups/m.svg", "--paint", "current"), "colours"),
        (("bad.svg", "--strict"), "event handlers"),
    ],
)
def test_wrong_use_is_told(
    riffler: Run, project: Path, arguments: tuple[str, ...], says: str
) -> None:
    (project / "bad.svg").write_text(HIVE.replace("<rect", '<rect onclick="x()"'))
    assert says in riffler("vector", *arguments, cwd=project, code=2).stderr
    assert "event handlers taken out" in riffler("vector", "bad.svg", cwd=project).stdout


def test_text_becomes_outlines(riffler: Run, project: Path, browser: Browser) -> None:
    riffler(
        "vector", "mockups/m.svg", "--only", "word", "--outlines", "-o", "word.svg", cwd=project
    )
    text = (project / "word.svg").read_text()
    assert "<text" not in text
    assert "font" not in text
    root = etree.fromstring(text.encode())
    width = float(root.get("width", "0"))
    assert 22 < width < 30  # Fraunces sets four letters of 12 CSS px so wide
    drawn = shot(browser, text, 80, 40)
    assert (drawn[..., :3].max(axis=2) < 90).sum() > 40
    (project / "fonts/fraunces-600.ttf").unlink()
    said = riffler("vector", "mockups/m.svg", "--only", "word", "--outlines", cwd=project, code=2)
    assert "can't be turned into outlines" in said.stderr or "paint nothing" in said.stderr


# Made for a page


PLAIN = (
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 20 20">'
    '<path data-layer="lid" fill="red" d="M0 0h10v20H0z"/>'
    '<path data-layer="Rim 2" stroke="#00f" fill="none" stroke-width="4" opacity=".5" d="M15 0v20"/></svg>'
)


def test_a_page_colours_a_drawing(browser: Browser) -> None:
    custom = made(PLAIN, ForPage("bee", "custom"))
    assert custom.colors == (("--bee-1", "red"), ("--bee-2", "#00f"))
    plain = shot(browser, f'<div style="width:20px">{PLAIN}</div>', 20, 20)
    same = shot(browser, f'<div style="width:20px">{custom.text}</div>', 20, 20)
    assert (plain == same).all()
    styled = f'<div style="width:20px;--bee-1:#0f0">{custom.text}</div>'
    assert tuple(shot(browser, styled, 20, 20)[10, 5, :3]) == (0, 255, 0)
    one = made(PLAIN.replace("#00f", "red"), ForPage("bee", "current"))
    styled = f'<div style="width:20px;color:#0f0">{one.text}</div>'
    assert tuple(shot(browser, styled, 20, 20)[10, 5, :3]) == (0, 255, 0)
    with pytest.raises(RifflerError, match="2 colours"):
        made(PLAIN, ForPage("bee", "current"))


def test_black_that_nobody_said_is_a_colour_too() -> None:
    bare = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path d="M0 0h9"/></svg>'
    assert 'fill="currentColor"' in made(bare, ForPage("a", "current")).text
    assert made(bare, ForPage("a", "custom")).colors == (("--a-1", "#000"),)


def test_masks_keep_their_brightness() -> None:
    masked = PLAIN.replace("<path", '<mask id="m"><path fill="#fff" d="M0 0h9"/></mask><path', 1)
    text = made(masked.replace("#00f", "red"), ForPage("a", "current")).text
    assert '<mask id="m"><path fill="#fff"' in text


def test_hooks_are_called_as_layers_are(browser: Browser) -> None:
    paged = made(PLAIN, ForPage("bee", has_hooks=True))
    root = etree.fromstring(paged.text.encode())
    assert [child.get("class") for child in root] == ["bee-lid", "bee-rim-2"]
    assert "data-layer" not in paged.text
    assert "opacity" not in paged.text
    assert paged.styles == ".bee-rim-2 {\n  opacity: .5;\n  stroke-width: 4;\n}\n"
    before = shot(browser, f'<div style="width:20px">{PLAIN}</div>', 20, 20)
    after = shot(
        browser, f'<style>{paged.styles}</style><div style="width:20px">{paged.text}</div>', 20, 20
    )
    assert (before == after).all()


@pytest.mark.parametrize(("title", "role", "name"), [("A bee", "image", "A bee"), ("", None, None)])
def test_words_for_who_cannot_see(
    browser: Browser, title: str, role: str | None, name: str | None
) -> None:
    text = made(PLAIN, ForPage("bee", title=title)).text
    page = browser.new_page()
    page.set_content(text)
    said = page.locator("body").aria_snapshot()
    page.close()
    assert ("img" in said) == (role is not None)
    assert (name or "no name") in said or name is None


# Sprites


SIZES = some.lists(
    some.builds(Size, some.integers(1, 90), some.integers(1, 90)), min_size=1, max_size=30
)


@given(SIZES, some.integers(0, 5))
def test_packed_boxes_do_not_meet(sizes: list[Size], gap: int) -> None:
    sheet, boxes = pack(sizes, gap)
    assert [Size(box.width, box.height) for box in boxes] == sizes
    whole = Box.of_size(sheet)
    for index, box in enumerate(boxes):
        assert whole.contains(box)
        for other in boxes[:index]:
            near = Box(box.x - gap, box.y - gap, box.width + 2 * gap, box.height + 2 * gap)
            assert not (near.meets(other) and near & other)
    assert pack(list(sizes), gap) == (sheet, boxes)


@pytest.mark.parametrize(
    ("sizes", "share"),
    [([Size(16, 16)] * 16, 1.0), ([Size(24, 24)] * 30, 1.0),
     ([Size(64, 64), *[Size(16, 16)] * 8, *[Size(32, 16)] * 6], 0.85),
     ([Size(10 + i % 7 * 9, 12 + i % 5 * 11) for i in range(40)], 0.85)],
)  # fmt: skip
def test_packing_is_tight(sizes: list[Size], share: float) -> None:
    sheet, _ = pack(sizes)
    used = sum(size.width * size.height for size in sizes)
    assert used / (sheet.width * sheet.height) >= share


def test_a_sheet_is_moved_back_by_where_a_member_lies() -> None:
    members = {"a": Box(0, 0, 10, 9), "b": Box(12, 4, 8, 8)}
    css = style_sheet("s", {"1x": "images/s.png"}, Size(20, 12), members, "styles")
    assert re.findall(r"background-position: (.*);", css) == ["0 0", "-12px -4px"]
    assert 'background: url("../images/s.png") no-repeat;' in css
    assert "background-size: 20px 12px;" in css


SHARED = """[sprite.tools]
slices = ["bee", "leaf"]
[symbols.plants]
slices = ["leaf", "bee"]
paint = "custom"
[loader.hive]
slice = "leaf"
move = ["turn", "dots"]
period = "800ms"
text = "Bees are on <their> way"
"""

PAGE = """<html><head><style>body { margin: 0 } p { margin: 0 }</style>{{ head() }}</head>
<body><p id="sprite">{{ sprite("bee", alt="A bee") }}</p><p id="symbol" style="--leaf-1: #ff0000">
{{ symbol("leaf", class="big") }}{{ symbol("bee", alt="A bee") }}</p><p>{{ loader("hive") }}</p></body></html>"""


def test_one_file_for_many_in_a_page(riffler: Run, project: Path, browser: Browser) -> None:
    (project / "riffler.toml").write_text(SHARED)
    (project / "pages/index.html").write_text(PAGE)
    riffler("cut", cwd=project)
    riffler("build", cwd=project)
    ledger = json.loads((project / "out/ledger.json").read_text())
    kinds = {asset["file"]: asset["kind"] for asset in ledger["assets"]}
    assert kinds["images/sprite-tools.webp"] == kinds["images/sprite-tools@2x.webp"] == "sprite"
    assert (kinds["images/plants.svg"], kinds["images/loader-hive.svg"]) == ("symbols", "loader")
    sheet = next(a for a in ledger["assets"] if a["file"] == "images/sprite-tools@2x.webp")
    place = sheet["members"]["bee"]
    pixels = np.asarray(Image.open(project / "out/images/sprite-tools@2x.webp").convert("RGBA"))
    member = pixels[2 * place["y"] :, 2 * place["x"] :][:40, :40]
    cut = np.asarray(Image.open(project / "out/images/bee.png").convert("RGBA"))
    assert (member == cut).all()  # the mockup has two pixels a CSS pixel
    page = browser.new_page(viewport={"width": 200, "height": 100}, device_scale_factor=2)
    page.goto((project / "out/index.html").as_uri())
    shown = np.asarray(Image.open(io.BytesIO(page.screenshot())).convert("RGBA"))
    assert np.abs(shown[:40, :40].astype(int) - _on_white(cut)).max() <= 1
    boxes = page.evaluate(
        "[...document.querySelectorAll('#symbol svg')].map(one => one.getBoundingClientRect().toJSON())"
    )
    assert [(box["width"], box["height"]) for box in boxes] == [(20, 20), (20, 20)]
    leaf, bee = ([int(2 * (box[k] + 10)) for k in ("y", "x")] for box in boxes)
    assert tuple(shown[leaf[0], leaf[1], :3]) == (255, 0, 0)  # the page's own colour
    assert shown[bee[0] - 8, bee[1] + 8, 2] < 120  # the gradient is found
    said = page.locator("body").aria_snapshot()
    assert said.count('img "A bee"') == 2
    assert "Bees are on <their> way" in said
    page.close()


def _on_white(straight: np.ndarray) -> np.ndarray:
    alpha = straight[..., 3:] / 255
    color = np.round(straight[..., :3] * alpha + 255 * (1 - alpha))
    return np.concatenate([color, np.full_like(color[..., :1], 255)], axis=2).astype(int)


def test_the_command_makes_them_apart(riffler: Run, project: Path) -> None:
    assert "no [sprite.NAME]" in riffler("sprite", cwd=project, code=2).stderr
    (project / "riffler.toml").write_text(SHARED)
    said = riffler("sprite", cwd=project).stdout
    assert "Wrote 4 of 4 files" in said
    assert riffler("sprite", cwd=project).stdout.count("new") == 0
    (project / "riffler.toml").write_text(SHARED.replace('"leaf", "bee"', '"leaf", "bees"'))
    told = riffler("cut", cwd=project, code=2).stderr
    assert 'no slice "bees"' in told
    (project / "riffler.toml").write_text("")
    riffler("cut", cwd=project)
    assert not (project / "out/images/plants.svg").exists()
    assert not (project / "out/styles/sprite-tools.css").exists()


@pytest.mark.parametrize(
    ("call", "says"),
    [('sprite("bees")', 'no sprite "bees"'), ('symbol("leav")', "leaf"), ('loader("x")', "hive"),
     ('symbol("leaf", id="a")', 'knows no "id"')],
)  # fmt: skip
def test_names_that_are_none_are_told(riffler: Run, project: Path, call: str, says: str) -> None:
    (project / "riffler.toml").write_text(SHARED)
    (project / "pages/index.html").write_text(f"<body>{{{{ {call} }}}}</body>")
    riffler("cut", cwd=project)
    assert says in riffler("build", cwd=project, code=2).stderr


def test_files_by_themselves(riffler: Run, tmp_path: Path) -> None:
    for name, size in (("a", 20), ("b", 30)):
        (tmp_path / f"{name}.png").write_bytes(png(np.full((size, size, 4), 200, np.uint8)))
        (tmp_path / f"{name}.svg").write_text(PLAIN)
    riffler(
        "sprite", "a.png", "b.png", "-o", "made", "--name", "two", "--density", "2", cwd=tmp_path
    )
    assert {p.name for p in (tmp_path / "made").iterdir()} == {
        "sprite-two.webp", "sprite-two@2x.webp", "sprite-two.css"
    }  # fmt: skip
    css = (tmp_path / "made/sprite-two.css").read_text()
    assert "image-set(" in css
    sizes = re.findall(r"\.sprite-two-(\w) \{\s+width: (\d+)px;\s+height: (\d+)px;", css)
    assert sorted(sizes) == [("a", "10", "10"), ("b", "15", "15")]
    riffler("sprite", "a.svg", "b.svg", "--symbols", "-o", "made", "--name", "marks", cwd=tmp_path)
    root = etree.fromstring((tmp_path / "made/marks.svg").read_bytes())
    assert [symbol.get("id") for symbol in root] == ["a", "b"]
    assert all(symbol.get("viewBox") == "0 0 20 20" for symbol in root)
    assert "would be called" in riffler("sprite", "a.png", "a.svg", cwd=tmp_path, code=2).stderr
    assert "--sizes" in riffler("sprite", "a.png", "--sizes", "9x", cwd=tmp_path, code=2).stderr


# Loading marks


def test_a_loading_mark_moves_and_can_keep_still(
    riffler: Run, project: Path, browser: Browser
) -> None:
    said = riffler(
        "loader", "mockups/m.svg", "--only", "icons/leaf", "--move", "turn,pulse,dots", "--size", "60",
        "--name", "leaf", "-o", "made", cwd=project,
    ).stdout  # fmt: skip
    assert '<span class="loader-leaf" role="status">' in said
    for motion, moves in (("no-preference", {"turn", "pulse", "dots"}), ("reduce", set())):
        page = browser.new_page(reduced_motion=motion)  # type: ignore[arg-type]
        page.goto((project / "made/loader-leaf.html").as_uri())
        names = page.evaluate("document.getAnimations().map(one => one.animationName)")
        assert {name.rpartition("-")[2] for name in names} == moves
        first = page.locator(".loader-leaf").first
        box = first.bounding_box()
        assert box is not None
        assert box["width"] == 60
        page.add_style_tag(content=".loader-leaf { width: 120px }")
        svg = first.locator("svg").bounding_box()
        assert svg is not None
        assert motion == "no-preference" or svg["width"] == 120
        assert "Loading" in first.aria_snapshot()
        page.close()


@pytest.mark.parametrize(
    ("option", "value"),
    [("--move", "spin"), ("--period", "soon"), ("--easing", "url(x)"), ("--period", "1s}a{")],
)
def test_what_is_no_css_is_refused(riffler: Run, project: Path, option: str, value: str) -> None:
    said = riffler("loader", "mockups/m.svg", option, value, cwd=project, code=2).stderr
    assert option in said


def test_pixels_make_no_vector(riffler: Run, tmp_path: Path) -> None:
    root = write_project(
        tmp_path / "p",
        {"cuts/m.toml": 'mockup = "../mockups/m.ora"\n[slice.red]\nonly = ["red"]\nalt = ""\n',
         "riffler.toml": '[loader.a]\nslice = "red"\n'},
        [Flat("red", (10, 10, 40, 40), (200, 30, 30, 255)), Flat("paper", (0, 0, 100, 80))],
    )  # fmt: skip
    assert "has pixels" in riffler("cut", cwd=root, code=2).stderr
