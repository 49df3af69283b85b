"""A page at several widths: what goes wrong, by geometry, and what was meant where it was drawn."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from playwright.sync_api import Browser

from conftest import Run
from making import write_project
from riffler.fit.browser import address_of
from riffler.fit.chromium import Chromium
from riffler.fit.widths import Trouble, troubles
from test_fit import PICTURES

THIN = (
    '<div class="d" style="display:flex"><p>All of this stands in a thin column of words.</p>'
    '<p style="flex:none;width:310px">x</p></div>'
)

RESET = "* { margin: 0; padding: 0; box-sizing: border-box } body { font: 16px/20px monospace }"

#: A picture of 160 x 120 px.
SHOT = f'<img class="b" src="{PICTURES[0]}"'


def seen(
    browser: Browser, folder: Path, body: str, widths: list[int], *drawn: int, css: str = ""
) -> list[Trouble]:
    page = folder / "page.html"
    page.write_text(f"<!doctype html><title>t</title><style>{RESET}{css}</style><body>{body}")
    return troubles(Chromium(browser), address_of(str(page)), widths, (), drawn)


@pytest.mark.parametrize(
    "body, kind, selector, by",
    [
        ('<p class="bar" style="width:500px">x</p>', "scrolls sideways", ".bar", 125),
        (f'<div class="a" style="width:100px;overflow:visible">{SHOT}>', "picture leaves its box", ".b", 60),
        ('<p class="c" style="width:90px;overflow:hidden;white-space:nowrap">Much too long for it',
         "text cut off", ".c", None),
        ('<div style="overflow:hidden"><div class="w" style="width:600px"><p style="padding-left:300px">Words that go out</p>',
         "text cut off", ".w", None),
        ('<p>Left</p><p class="out" style="margin-left:-40px">Words</p>', "text cut off", ".out", 39),
        ('<p class="under">Under</p><p class="on" style="margin-top:-14px">Above it</p>', "text over text", ".on", None),
        ('<p>Lid</p><p>Lids</p><div class="lid" style="position:absolute;top:0;width:90px;height:60px;background:red">',
         "covers text", ".lid", None),
        (f'{SHOT} style="width:160px;height:90px">', "picture distorted", ".b", 30),
        (f'{SHOT} style="width:200px">', "picture enlarged", ".b", 40),
        (f'{SHOT} style="width:320px;height:120px;object-fit:cover">', "picture enlarged", ".b", 160),
        (THIN, "columns did not fall", ".d", None),
    ],
)  # fmt: skip
def test_what_breaks_at_a_width(
    browser: Browser, tmp_path: Path, body: str, kind: str, selector: str, by: float | None
) -> None:
    found, *more = seen(browser, tmp_path, body, [375])
    assert more == []
    assert (found.kind, found.selector, list(found.widths)) == (kind, selector, [375])
    assert by in (None, found.widths[375])


@pytest.mark.parametrize(
    "body",
    [
        "<p>All is well</p>",
        '<p style="width:90px;overflow-x:auto;white-space:nowrap">Much too long, and can be scrolled',
        '<p style="position:absolute;width:1px;height:1px;overflow:hidden">For ears alone</p><p>And eyes</p>',
        '<p>Lid</p><div style="position:fixed;top:0;width:90px;height:60px;background:red"></div>',
        '<p>Clear</p><div style="position:absolute;top:0;width:90px;height:60px"></div>',
        f'{SHOT} style="width:120px;height:120px;object-fit:cover">',
        '<svg width="300" height="20" viewBox="0 0 30 20"><text y="9">A</text><text y="9">B</text></svg>',
        '<p style="visibility:hidden">Hidden</p><p style="margin-top:-18px">Shown</p>',
    ],
)
def test_what_does_not_break(browser: Browser, tmp_path: Path, body: str) -> None:
    assert seen(browser, tmp_path, body, [375, 1400], 1000) == []


#: A page 1000 px wide as it was drawn: a wrap of 800 px, bands from side to side.
DRAWN = """
<header class="head"><div class="wrap row"><b>Fernhollow</b><nav class="nav"><a>Honey</a> <a>Bees</a> <a>Hives</a></nav></div></header>
<div class="band"></div><main><div class="wrap"><p>Words of the page</p></div></main>
<footer class="foot"><div class="wrap row"><i>Mill Lane</i><i>Post</i></div></footer>
"""
LAID = """
.wrap { max-width: 800px; margin: auto } .row { display: flex; justify-content: space-between }
header, footer, .band { background: #ddd; min-height: 40px } main { min-height: 200px }
"""


@pytest.mark.parametrize(
    "css, kind, selector, at",
    [
        ("", None, "", {}),
        (".foot .wrap { margin-left: 100px }", "does not line up", ".foot", {800: 100, 1400: 200, 1800: 400}),
        ("main .wrap { margin: 0 0 0 10% }", "does not line up", "body > main", {800: 80, 1400: 160, 1800: 320}),
        (".band { max-width: 1200px }", "stops short of the window", ".band", {1400: 400, 1800: 800}),
        (".head .wrap { max-width: 80% } .nav { margin-right: auto; margin-left: 442.5px }",
         "free space is a fixed gap", ".head", {}),
        ("@media (max-width: 900px) { .nav a { display: block } }", "links stacked with room to spare", ".nav", {800: None}),
    ],
)  # fmt: skip
def test_what_was_meant_is_seen_where_it_was_drawn(
    browser: Browser,
    tmp_path: Path,
    css: str,
    kind: str | None,
    selector: str,
    at: dict[int, float | None],
) -> None:
    found = seen(browser, tmp_path, DRAWN, [800, 1400, 1800], 1000, css=LAID + css)
    mine = [one for one in found if one.kind == kind]
    if kind is None or not at:
        assert bool(found) is (kind is not None)
    for one in mine:
        assert one.selector == selector
    if at:
        (one,) = mine
        assert list(one.widths) == list(at)
        for width, by in at.items():
            assert by is None or abs(one.widths[width] - by) <= 1
    assert seen(browser, tmp_path, DRAWN, [800, 1400], css=LAID + css) == []  # nothing was drawn


def test_a_cause_is_told_once_with_its_widths(process: Run, tmp_path: Path) -> None:
    root = write_project(tmp_path / "p", {})
    mockup = root / "m.svg"
    mockup.write_text(
        '<svg xmlns="http://www.w3.org/2000/svg" width="1000" height="400"><rect width="1000" height="400" fill="#fff"/></svg>'
    )
    page = root / "page.html"
    body = '<p class="bar">x</p><p class="bar">y</p>'
    page.write_text(
        f"<!doctype html><title>t</title><style>{RESET} .bar {{ width: 500px }}</style>{body}"
    )
    said = process("fit", page, mockup, "--widths", "320,375,600", cwd=root, code=1)
    assert (
        "page.html at 320 and 375 px: .bar scrolls sideways, by 180 px at the most" in said.stdout
    )
    assert "At 600 px nothing breaks." in said.stderr + said.stdout
    data = json.loads(
        process("fit", page, mockup, "--widths", "320,375,600", "--json", cwd=root, code=1).stdout
    )
    (one,) = data["widths"]
    assert one["at"] == [{"width": 320, "by": 180}, {"width": 375, "by": 125}]
    assert (one["kind"], one["element"], one["other"]) == ("scrolls sideways", ".bar", None)
