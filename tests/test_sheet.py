"""The page to hand over: used in a browser as people use it, held against `riffler measure`."""

from __future__ import annotations

import hashlib
import json
import zipfile
from collections.abc import Iterator
from importlib import resources
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, Position

from conftest import Run, run_riffler
from making import Flat, write_ora, write_project

HOSTILE = '</script><script>document.title="taken"</script><img src=x onerror=alert(1)>'
TURNED = "tab\u202egnp.exe"  # reads from right to left

PAGE = """<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 800 600">
<rect id="ground" width="800" height="600" fill="#f4ead6"/>
<g id="cards">
<rect id="left" x="100" y="200" width="200" height="150" rx="8" fill="#ffffff"/>
<rect id="right" x="324" y="200" width="200" height="150.5" rx="8" fill="#ffffff"/>
<rect id="glow" x="324" y="190" width="200" height="10" fill="#c8362a" display="none"/>
<text id="words" x="120" y="240" font-family="x&lt;/style&gt;&lt;script&gt;" font-size="16"
 fill="#333333">Two &lt;b&gt;hives</text>
</g>
<rect id="below" x="100" y="420" width="424" height="60" fill="#264a2a"/></svg>"""

CUTLIST = """mockup = "../mockups/page.svg"
[guides.x]
edge = 100
[slice.tab]
only = ["cards/right"]
save = ["png"]
[slice.tab.state.hover]
show = ["cards/glow"]
"""


@pytest.fixture(scope="module")
def sheet(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A project of two mockups with its sheet and its archive."""
    root = write_project(tmp_path_factory.mktemp("sheet") / "p", {"cuts/page.toml": CUTLIST})
    (root / "mockups/page.svg").write_text(PAGE)
    layers = [Flat(TURNED, (40, 6, 9, 9), (20, 30, 240, 255)),
              Flat(HOSTILE, (4, 6, 20, 20), (200, 30, 40, 255)),
              Flat("ground", (0, 0, 60, 40), (250, 240, 220, 255))]  # fmt: skip
    write_ora(root / "mockups/small.ora", (60, 40), layers)
    (root / "cuts/small.toml").write_text('mockup = "../mockups/small.ora"\ndensity = 2\n')
    run_riffler("cut", cwd=root)
    run_riffler("sheet", "-o", "sheet.html", "--zip", "all.zip", cwd=root)
    return root


@pytest.fixture
def page(browser: Browser, sheet: Path) -> Iterator[Page]:
    context = browser.new_context(
        viewport={"width": 1280, "height": 800}, permissions=["clipboard-read", "clipboard-write"]
    )
    page = context.new_page()
    asked: list[str] = []
    page.on("request", lambda request: asked.append(request.url))
    page.on("pageerror", lambda error: asked.append(str(error)))
    page.on("dialog", lambda dialog: asked.append(dialog.message))
    page.goto(f"file://{sheet}/sheet.html")
    yield page
    assert [url for url in asked if not url.startswith("data:")] == [f"file://{sheet}/sheet.html"]
    context.close()


def _thing(page: Page, address: str) -> None:
    page.evaluate(
        "address => [...document.querySelectorAll('.thing')].find("
        "thing => thing.dataset.address === address && thing.getClientRects().length).click()",
        address,
    )


def _slip(page: Page) -> str:
    return " ".join(page.inner_text(".slip").split())


def _point(page: Page, x: float, y: float, *, is_click: bool = False) -> None:
    """Point at a place of the mockup, in its pixels."""
    plane = page.locator(".page:not([hidden]) .plane")
    zoom = plane.evaluate(
        "plane => plane.clientWidth / plane.parentElement.parentElement.dataset.width"
    )
    page.mouse.move(1, 1)
    at = Position(x=x * zoom, y=y * zoom)
    plane.click(position=at) if is_click else plane.hover(position=at)


def _press(page: Page, keys: str) -> None:
    page.focus(".page:not([hidden]) .frame")
    for key in keys.split():
        page.keyboard.press(key)


def test_what_is_pointed_at_is_read_and_what_is_clicked_stays(page: Page) -> None:
    _point(page, 200, 300)
    assert "left layer: cards/left" in _slip(page)
    assert "size 200 x 150 px place 100, 200" in _slip(page)
    _point(page, 400, 450, is_click=True)
    _point(page, 200, 300)
    assert "below layer: below" in _slip(page)
    _press(page, "Escape")
    _point(page, 640, 100)
    assert "ground layer: ground" in _slip(page)


def test_pegs_say_what_measure_says(page: Page, sheet: Path) -> None:
    _thing(page, "cards/left")
    _press(page, "a")
    _thing(page, "cards/right")
    _press(page, "b")
    told = json.loads(
        run_riffler("measure", "cards/left", "cards/right", "--json", cwd=sheet).stdout
    )
    assert told["across"] == {"gap": 24, "center": 224}
    assert told["down"] == {"gap": -150, "center": 0.25}
    said = _slip(page)
    assert "across 24 between edges 224 right, middles" in said
    assert "down overlap by 150 between edges 0.25 below, middles" in said
    assert "in line top" in said
    assert "misses middle by 0.25" in said
    assert "misses bottom by 0.5" in said
    plates = page.evaluate(
        "[...document.querySelectorAll('.marks text')].map(one => one.textContent)"
    )
    assert {"24", "A", "B"} <= set(plates)
    _thing(page, "below")
    assert "A left B right" in _slip(page)
    _press(page, "x")
    assert "Set pegs A and B" in _slip(page)


def test_the_four_nearest_are_those_of_measure(page: Page, sheet: Path) -> None:
    for address in ("cards/left", "below", "cards/right"):
        _thing(page, address)
        told = json.loads(run_riffler("measure", address, "--json", cwd=sheet).stdout)["beside"]
        for side, near in told.items():
            name = near["name"].rpartition("/")[2]
            assert f"{side} {near['gap']:g} to {name}" in _slip(page), (address, side)


@pytest.mark.parametrize(
    ("unit", "scale", "size"),
    [("px", "css", "200 x 150 px"), ("rem", "css", "12.5 x 9.375 rem"),
     ("vw", "css", "25 x 18.75 vw"), ("px", "double", "400 x 300 px"),
     ("rem", "half", "6.25 x 4.6875 rem")],
)  # fmt: skip
def test_units_and_scales(page: Page, unit: str, scale: str, size: str) -> None:
    _thing(page, "cards/left")
    page.select_option("select[name=unit]", unit)
    page.select_option("select[name=scale]", scale)
    assert f"size {size}" in _slip(page)


def test_density_is_taken_into_account(page: Page) -> None:
    page.select_option("select[name=page]", label="small.ora")
    _point(page, 10, 10, is_click=True)
    assert "size 10 x 10 px place 2, 3" in _slip(page)
    assert page.inner_text(".slip h2") == HOSTILE
    page.select_option("select[name=scale]", "mockup")
    assert "size 20 x 20 px place 4, 6" in _slip(page)


def test_the_keyboard_does_it_all(page: Page) -> None:
    _thing(page, "cards/left")
    _press(page, "ArrowRight")
    assert "right layer: cards/right" in _slip(page)
    _press(page, "ArrowDown a")
    assert "below layer: below" in _slip(page)
    _press(page, "ArrowUp Backspace")
    assert "cards group: cards" in _slip(page)
    _press(page, "Enter")
    assert "cards/" in _slip(page)
    _press(page, "u")
    assert page.input_value("select[name=unit]") == "rem"
    before = page.locator(".plane >> nth=0").evaluate("plane => plane.clientWidth")
    _press(page, "+ +")
    assert page.locator(".plane >> nth=0").evaluate("plane => plane.clientWidth") > 1.4 * before
    for key, name in (("r", "rulers"), ("g", "grid"), ("l", "guides"), ("s", "slices")):
        pressed = page.get_attribute(f"[data-over={name}]", "aria-pressed")
        _press(page, key)
        assert page.get_attribute(f"[data-over={name}]", "aria-pressed") != pressed
    _press(page, "?")
    assert page.locator("dialog").is_visible()


def test_finding_folding_and_copying(page: Page) -> None:
    page.fill("input[type=search]", "two <b>")
    shown = page.locator(".page:not([hidden]) .thing:visible, .index .thing:visible")
    assert shown.evaluate_all("all => all.map(one => one.dataset.address)") == ["cards/words"]
    page.fill("input[type=search]", "")
    _thing(page, "cards")
    page.focus(".index .things:visible")
    page.keyboard.press("ArrowLeft")
    assert page.locator(".thing[data-address='cards/left']:visible").count() == 0
    _press(page, "Enter")
    assert page.locator(".thing[data-address='cards/left']:visible").count() == 1
    _thing(page, "cards/left")
    page.click("[aria-label='Copy css']")
    copied = page.evaluate("navigator.clipboard.readText()")
    assert copied.splitlines() == [
        "width: 200px;", "height: 150px;", "background: #ffffff;", "border-radius: 8px;"
    ]  # fmt: skip
    page.select_option("select[name=unit]", "rem")
    _press(page, "c")
    page.wait_for_function("navigator.clipboard.readText().then(text => text.includes('rem'))")
    assert "border-radius: 0.5rem;" in page.evaluate("navigator.clipboard.readText()")


def test_a_hidden_layer_is_switched_on(page: Page) -> None:
    _thing(page, "cards/glow")
    assert not page.locator(".variant").first.is_visible()
    page.click("text=Show tab, hover")
    assert page.locator(".variant").first.is_visible()
    _press(page, "v")
    assert not page.locator(".variant").first.is_visible()


@pytest.mark.parametrize(
    "theme, view",
    [("light", "mockups"), ("dark", "mockups"), ("light", "assets"), ("dark", "styles")],
)
def test_nothing_keeps_people_out(browser: Browser, sheet: Path, theme: Any, view: str) -> None:  # noqa: ANN401
    checker = resources.files("axe_playwright_python").joinpath("axe.min.js").read_text("utf-8")
    context = browser.new_context(
        viewport={"width": 1280, "height": 800}, color_scheme=theme, bypass_csp=True
    )
    page = context.new_page()
    page.goto(f"file://{sheet}/sheet.html#{view}")
    if view == "mockups":
        _thing(page, "cards/words")
        _press(page, "a")
    page.evaluate(checker)
    found = page.evaluate("axe.run()")["violations"]
    context.close()
    assert [(one["id"], one["nodes"][0]["html"]) for one in found] == []


def test_a_link_out_of_the_project_is_not_packed(riffler: Run, tmp_path: Path) -> None:
    root = write_project(tmp_path / "p", {}, [Flat("a", (0, 0, 9, 9))])
    (root / "fonts").mkdir()
    (root / "fonts/OFL.txt").write_text("licence")
    (tmp_path / "key.txt").write_text("precious")
    (root / "fonts/notes.txt").symlink_to(tmp_path / "key.txt")
    (root / "fonts/more").symlink_to(tmp_path)
    said = riffler("sheet", "mockups/m.ora", "--zip", "all.zip", cwd=root).stderr
    assert "fonts/notes.txt leads out of the project through a link, and was left out." in said
    with zipfile.ZipFile(root / "all.zip") as packed:
        fonts = [name for name in packed.namelist() if name.startswith("fonts/")]
        assert fonts == ["fonts/OFL.txt"]
        assert b"precious" not in b"".join(map(packed.read, packed.namelist()))


def test_it_reads_as_a_list_without_scripts(browser: Browser, sheet: Path) -> None:
    context = browser.new_context(java_script_enabled=False)
    page = context.new_page()
    page.goto(f"file://{sheet}/sheet.html")
    text = page.inner_text("body")
    for said in ("layer, 200 x 150 at 100, 200", "Two <b>hives", "background: #ffffff", "#264a2a",
                 HOSTILE, "tab.png", "color-ground", "edge: x 100"):  # fmt: skip
        assert said in text, said
    assert page.title() == "p: cut sheet"
    assert "gnp.exe" in text
    assert "\u202e" not in page.content()
    context.close()


def test_the_archive_holds_it_all_and_is_the_same_again(sheet: Path, tmp_path: Path) -> None:
    run_riffler("sheet", "--zip", str(tmp_path / "again.zip"), cwd=sheet)
    first, again = ((path).read_bytes() for path in (sheet / "all.zip", tmp_path / "again.zip"))
    assert hashlib.sha256(first).digest() == hashlib.sha256(again).digest()
    with zipfile.ZipFile(sheet / "all.zip") as packed:
        assert packed.testzip() is None
        names = packed.namelist()
        assert names == sorted(names)
        assert {
            "cut-sheet.html",
            "lengths.csv",
            "assets/ledger.json",
            "assets/images/tab.png",
        } <= set(names)
        assert packed.read("cut-sheet.html") == (sheet / "sheet.html").read_bytes()
        assert "page.svg,layer,cards/left,100,200,200,150" in packed.read("lengths.csv").decode()


@pytest.mark.parametrize(
    ("arguments", "said"),
    [(["-o", "page.txt"], "should end in .html"), (["--zip", "page.html"], "should end in .zip"),
     (["nowhere.svg"], "no such file"), (["-o", "pages/index.html"], "is a source")],
)  # fmt: skip
def test_wrong_use_is_said(riffler: Run, tmp_path: Path, arguments: list[str], said: str) -> None:
    root = write_project(tmp_path / "p", {"pages/index.html": "<p>mine</p>"})
    assert said in riffler("sheet", *arguments, cwd=root, code=2).stderr
    assert (root / "pages/index.html").read_text() == "<p>mine</p>"
