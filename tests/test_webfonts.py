"""What text is set in, and fonts on the web: held against a browser and the fonts' own tables."""

from __future__ import annotations

import io
import json
import shutil
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from fontTools.ttLib import TTFont
from playwright.sync_api import Browser

import riffler as riffler_package
from conftest import Run
from making import write_project
from riffler.mockup.font_book import FontBook
from riffler.webfonts.facts import Facts, facts_of
from riffler.webfonts.fallback import USUAL, adjusted, fallback_of
from riffler.webfonts.subset import ranges, web_font
from riffler.webfonts.widths import width_in

FONTS = Path(riffler_package.__file__).parent / "demo/fernhollow/fonts"

PAGE = """<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 300 200">
<text x="9" y="40" font-family="Figtree" font-size="20">Seven hives</text>
<text x="9" y="70" font-family="Fraunces" font-weight="600" font-size="20">by the ☃</text>
<text x="9" y="99" font-family="Nowhere Sans" font-size="20">gone</text></svg>"""


@pytest.fixture
def project(tmp_path: Path) -> Path:
    files = {
        "cuts/page.toml": 'mockup = "../mockups/page.svg"\n',
        "pages/index.html": "Caf&eacute;",
    }
    root = write_project(tmp_path / "p", files)
    (root / "mockups/page.svg").write_text(PAGE)
    shutil.copytree(FONTS, root / "fonts")
    return root


def _facts(name: str) -> Facts:
    (face,) = FontBook((FONTS / name,)).faces()
    return facts_of(face)


def _changed(path: Path, change: Callable[[Any], None]) -> None:
    font = TTFont(path)
    change(font)
    font.save(path)


def test_what_text_uses_is_told(riffler: Run, project: Path) -> None:
    data = json.loads(riffler("fonts", "--json", cwd=project).stdout)
    told = {
        (one["family"], one["weight"]): (one["found"], one["missing"], one["embedding"])
        for one in data["faces"]
    }
    assert told == {
        ("Figtree", 400): ("project", "", "allowed"),
        ("Fraunces", 600): ("project", "☃", "allowed"),
        ("Nowhere Sans", 400): (None, "", None),
    }
    said = riffler("fonts", cwd=project).stdout
    assert "Put the files of Nowhere Sans into the project's fonts folder." in said
    assert "Fraunces 600 has no ☃" in said


def test_how_far_a_stand_in_is_off(riffler: Run, project: Path) -> None:
    """A heavier face that stands in for a light one is wider by what their tables say."""
    (project / "fonts/figtree-400.ttf").unlink()
    (project / "mockups/page.svg").write_text(PAGE.replace('"600"', '"600" font-style="italic"'))
    data = json.loads(riffler("fonts", "--json", cwd=project).stdout)
    used = {one["family"]: one for one in data["faces"]}
    assert used["Figtree"]["drawn_with"] == {"family": "Figtree", "weight": 600}
    assert used["Nowhere Sans"]["off"] is None


def test_web_fonts_are_written_once(riffler: Run, project: Path) -> None:
    riffler("fonts", "--web", cwd=project)
    web = project / "out/fonts/web"
    first = {path.name: path.read_bytes() for path in web.iterdir()}
    assert sorted(first) == [
        "figtree-400.woff2", "figtree-600.woff2", "fraunces-400-italic.woff2", "fraunces-600.woff2"
    ]  # fmt: skip
    characters = set(TTFont(io.BytesIO(first["figtree-400.woff2"])).getBestCmap())
    assert set(map(ord, "Seven hivesé—")) <= characters
    assert ord("Æ") not in characters
    for name, data in first.items():
        full = FONTS / name.replace(".woff2", ".ttf")
        assert len(data) <= 0.45 * full.stat().st_size
    assert "Unchanged" in riffler("fonts", "--web", cwd=project).stdout
    shutil.rmtree(project / "out")
    riffler("fonts", "--web", cwd=project)
    assert {path.name: path.read_bytes() for path in web.iterdir()} == first
    (project / "out/styles/typefaces.css").write_text("mine")
    assert "changed by hand" in riffler("fonts", "--web", cwd=project, code=2).stderr


@pytest.mark.parametrize(
    ("bits", "permission", "is_made"),
    [(0, "allowed", True), (2, "not allowed", False), (4, "not allowed", False),
     (8, "allowed", True), (6, "not allowed", False), (0x100, "whole only", True),
     (0x208, "not allowed", False)],
)  # fmt: skip
def test_what_a_font_allows_is_kept_to(
    riffler: Run, project: Path, bits: int, permission: str, is_made: bool
) -> None:
    path = project / "fonts/figtree-400.ttf"
    _changed(path, lambda font: setattr(font["OS/2"], "fsType", bits))
    data = json.loads(riffler("fonts", "--web", "--json", cwd=project).stdout)
    told = {one["family"]: one["embedding"] for one in data["faces"]}
    assert told["Figtree"] == permission
    made = project / "out/fonts/web/figtree-400.woff2"
    assert made.exists() is is_made
    assert bool(data["web"]["refused"]) is not is_made
    if permission == "whole only":
        assert set(TTFont(made).getBestCmap()) == set(TTFont(path).getBestCmap())


def test_wrong_input_is_said(riffler: Run, project: Path, tmp_path: Path) -> None:
    (project / "styles").mkdir(exist_ok=True)
    (project / "styles/typefaces.css").write_text("p {}")
    assert "another name" in riffler("fonts", "--web", cwd=project, code=2).stderr
    (project / "styles/typefaces.css").unlink()
    font = project / "fonts/fraunces-600.ttf"
    font.write_bytes(font.read_bytes()[:9000])
    assert "can't be read as a font" in riffler("fonts", "--web", cwd=project, code=2).stderr
    assert not (project / "out/fonts").exists()
    shutil.rmtree(project / "fonts")
    assert "There is no font" in riffler("fonts", "--web", cwd=project, code=2).stderr
    alone = shutil.copy(project / "mockups/page.svg", tmp_path / "alone.svg")
    assert "no" in riffler("fonts", alone, "--web", cwd=tmp_path, code=2).stderr


def test_ranges_are_those_of_css() -> None:
    assert ranges({0x20, 0x21, 0x22, 0x41, 0x2014}) == "U+20-22, U+41, U+2014"


def test_manner_and_lines_are_read_from_the_tables(tmp_path: Path) -> None:
    assert _facts("fraunces-600.ttf").manner == "serif"
    assert _facts("figtree-400.ttf").manner == "sans"
    path = Path(shutil.copy(FONTS / "figtree-400.ttf", tmp_path / "f.ttf"))

    def change(font: Any) -> None:  # noqa: ANN401
        font["OS/2"].fsSelection |= 1 << 7
        font["OS/2"].sTypoAscender, font["OS/2"].sTypoDescender = 1500, -500
        font["post"].isFixedPitch = 1

    _changed(path, change)
    (face,) = FontBook((path,)).faces()
    facts = facts_of(face)
    units = TTFont(path)["head"].unitsPerEm
    assert (facts.ascent, facts.descent) == (1500 / units, 500 / units)
    assert facts.manner == "mono"
    fallback = fallback_of(facts)
    assert fallback.locals[0] == "Courier New"
    assert fallback.size * 1229 / 2048 * len(USUAL) == pytest.approx(width_in(path, USUAL))


TEXT = ["Keep bees, without the stings", "Honey, hives and slow evenings: 24 jars", USUAL]


def _shown(browser: Browser, folder: Path, css: str, family: str, more: str) -> Any:  # noqa: ANN401
    paragraphs = "".join(f"<p>{text}</p>" for text in TEXT)
    (folder / "page.html").write_text(
        f"<style>{css} p {{ font: 17px/1.5 '{family}'; width: 420px; {more} }}</style>{paragraphs}"
    )
    page = browser.new_page(viewport={"width": 500, "height": 400})
    page.goto(f"file://{folder}/page.html")
    page.evaluate("document.fonts.ready")
    lines = page.evaluate(
        """() => [...document.querySelectorAll('p')].map(p => {
        const range = document.createRange(); range.selectNodeContents(p);
        return [...range.getClientRects()].map(rect => Math.round(100 * rect.bottom) / 100) })"""
    )
    picture = page.screenshot()
    page.close()
    return lines, picture


@pytest.mark.parametrize("name", ["figtree-400.ttf", "fraunces-400-italic.ttf"])
def test_a_subset_is_drawn_as_the_whole(browser: Browser, tmp_path: Path, name: str) -> None:
    data = web_font(_facts(name), {ord(letter) for text in TEXT for letter in text})
    (tmp_path / "f.woff2").write_bytes(data)
    shutil.copy(FONTS / name, tmp_path / "f.ttf")
    both = [
        _shown(browser, tmp_path, f"@font-face {{ font-family: F; src: url({file}) }}", "F", "")
        for file in ("f.ttf", "f.woff2")
    ]
    assert both[0] == both[1]


def test_nothing_moves_when_the_font_arrives(browser: Browser, tmp_path: Path) -> None:
    """A sans of the same widths in all stands in for a serif: lines stay where they are."""
    theirs, ours = FONTS / "figtree-600.ttf", _facts("fraunces-600.ttf")
    text = " ".join(TEXT)
    size = width_in(ours.face.path, text) / width_in(theirs, text)
    found = adjusted(ours, size, ())
    shutil.copy(theirs, tmp_path / "theirs.ttf")
    shutil.copy(ours.face.path, tmp_path / "ours.ttf")
    real = "@font-face { font-family: A; src: url(ours.ttf) }"
    stand_in = (
        "@font-face { font-family: A; src: url(theirs.ttf);"
        f" size-adjust: {100 * found.size}%; ascent-override: {100 * found.ascent}%;"
        f" descent-override: {100 * found.descent}%; line-gap-override: {100 * found.line_gap}% }}"
    )
    for more in ("", "line-height: normal"):
        before, after = (_shown(browser, tmp_path, css, "A", more)[0] for css in (stand_in, real))
        assert [len(lines) for lines in before] == [len(lines) for lines in after]
        off = [abs(a - b) for one, two in zip(before, after, strict=True)
               for a, b in zip(one, two, strict=True)]  # fmt: skip
        assert max(off) <= 1
