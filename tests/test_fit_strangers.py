"""Pages as strangers write them against their mockups: what touches, links of a line, fields."""

from __future__ import annotations

import base64
import shutil
from dataclasses import replace
from pathlib import Path
from types import SimpleNamespace
from typing import Any

import pytest
from playwright.sync_api import Browser

from riffler.analyse.style import Border, Stop, Style
from riffler.fit.browser import _turns
from riffler.fit.declarations import Declaration
from riffler.fit.fault import Fault
from riffler.fit.of_boxes import _is_unseen
from riffler.fit.of_words import _as_far_as_known, _of_runs
from riffler.fit.seen import SeenBox, SeenLine, SeenText
from riffler.geometry import Box, Rect
from riffler.markup.setting import SetLine, Setting, Type
from riffler.mockup.model import TextRun
from riffler.report.page_fit import name_of, phrases
from test_fit import FONTS, compared, png

LINKS = (("Home", 40), ("Hives", 118), ("Visit us", 190))

#: Three photographs that touch, links in one line, a field with its hint, a plate with a border.
STYLE = """
@font-face { font-family: Figtree; src: url(fonts/figtree-400.ttf) }
* { margin: 0; padding: 0; box-sizing: border-box }
body { width: 600px; height: 340px; background: #f4ead6; color: #33231a; font: 16px/24px Figtree }
nav { position: relative; height: 64px }
nav a { position: absolute; top: 20px; color: #33231a }
.off { visibility: hidden }
.strip { display: flex }
.strip img { width: 200px; height: 120px }
.field { display: block; margin: 30px 40px 0; width: 240px; height: 40px; border: 1px solid #8a7f70;
  padding: 0 12px; background: #ffffff; font: inherit }
.field::placeholder { color: #33231a; opacity: 1 }
.plate { margin: 20px 40px 0; width: 40px; height: 40px; border: 1px solid #9c4521; background: #9c4521 }
"""

BODY = (
    "<nav>"
    + " ".join(f'<a href="#" style="left:{x}px">{label}</a>' for label, x in LINKS)
    + '</nav><div class="strip">'
    + "".join(
        f'<img src="data:image/png;base64,{base64.b64encode(png(n, 200)).decode()}" alt="">'
        for n in range(3)
    )
    + '</div><input class="field" placeholder="Your address"><div class="plate"></div>'
)


def write(path: Path, change: tuple[str, str] = ("", "")) -> Path:
    """The page, with something in it otherwise."""
    text = f"<!doctype html><html lang=en><title>Bees</title><style>{STYLE}</style>{BODY}"
    path.write_text(text.replace(*change) if change[0] else text)
    return path


@pytest.fixture(scope="module")
def folder(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A mockup of the page, its links in one text."""
    root = tmp_path_factory.mktemp("strangers")
    shutil.copytree(FONTS, root / "fonts")
    spans = "".join(f'<tspan x="{x}" y="37">{label}</tspan>' for label, x in LINKS)
    photos = "".join(
        f'<image id="photo-{n}" x="{200 * n}" y="64" width="200" height="120" '
        f'href="data:image/png;base64,{base64.b64encode(png(n, 200)).decode()}"/>'
        for n in range(3)
    )
    face = 'font-family="Figtree" font-size="16" fill="#33231a"'
    (root / "bees.svg").write_text(
        '<svg xmlns="http://www.w3.org/2000/svg" width="600" height="340">'
        f'<rect id="ground" width="600" height="340" fill="#f4ead6"/><text id="nav" {face}>{spans}</text>{photos}'
        '<rect id="field" x="40.5" y="214.5" width="239" height="39" fill="#ffffff" stroke="#8a7f70"/>'
        f'<text id="hint" x="53" y="240" {face}>Your address</text>'
        '<rect id="plate" x="40" y="274" width="40" height="40" fill="#9c4521"/></svg>'
    )
    return root


@pytest.mark.parametrize(
    ("change", "thing", "says", "remedy"),
    [
        (("", ""), "", "", ""),
        (("left:118px", "left:124px"), '"Hives"', "6 px too far right", ""),
        (("Your address", "Your name"), '"Your address"', 'reads "Your name" instead', ""),
        (("40px 0; width: 240px", "40px 0 44px; width: 240px"), "field", "4 px too far right", "40px"),
        (('<a href="#" style="left:118px', '<a class="off" href="#" style="left:118px'),
         '"Hives"', "missing", "visibility: hidden -> visible"),
        (("; background: #9c4521", "; background: #2c4521"), "plate", "colour", "#9c4521"),
    ],
)  # fmt: skip
def test_what_strangers_write_is_measured_as_it_is(
    browser: Browser, folder: Path, tmp_path: Path, change: tuple[str, str],
    thing: str, says: str, remedy: str,
) -> None:  # fmt: skip
    shutil.copytree(FONTS, tmp_path / "fonts")
    result = compared(browser, write(tmp_path / "bees.html", change), folder / "bees.svg")
    told = [(name_of(finding), phrases(finding), finding.remedy) for finding in result.findings]
    assert bool(told) == bool(thing), told
    for name, words, found in told[:1]:
        assert (name, len(told)) == (thing, 1)
        assert any(says in one for one in words)
        right = (
            f"{found.declaration.name}: {found.declaration.value} -> {found.value}" if found else ""
        )
        assert remedy in right


def test_pictures_that_touch_are_seen_in_turns() -> None:
    strip = [Box(200 * n - 2, -2, 204, 124) for n in range(4)]
    grid = [Box(100 * (n % 3) - 2, 100 * (n // 3) - 2, 104, 104) for n in range(9)]
    assert _turns(strip) == [[0, 2], [1, 3]]
    assert sorted(number for turn in _turns(grid) for number in turn) == list(range(9))
    assert _turns([Box(0, 0, 9, 9), Box(9, 0, 9, 9)]) == [[0, 1]]


@pytest.mark.parametrize(
    ("wanted", "there", "is_unseen"),
    [
        (None, "#9c4521", True),
        (None, "#000000", False),
        ("#9c4521", "", True),
        ("#000000", "#000000", False),
        ("#9c4521", "#000000", False),
    ],
)
def test_a_border_in_the_colour_of_what_it_is_around_is_none(
    wanted: str | None, there: str, is_unseen: bool
) -> None:
    border = Border(wanted, 1.0) if wanted else None
    style = Style((Stop(0.0, "#9c4521"),), border=border)
    sides = ((1.0 if there else 0.0, there or "#000000"),) * 4
    box = SeenBox(0, Rect(0, 0, 40, 40), "#9c4521", "none", "none", (0, 0, 0, 0), sides)
    assert _is_unseen(style, box, 0.012) == is_unseen


def set_text(size: float, spacing: float, width: float, runs: tuple[TextRun, ...] = ()) -> Setting:
    type_ = Type("Figtree", "sans-serif", size, 400, False, spacing, "#33231a")
    return Setting(
        (SetLine("See the hives", 0, width),), type_, "left", 20, 24, False, 15, 4, runs=runs
    )


def seen_text(*parts: tuple[str, str, int], size: float = 16, width: float = 96) -> SeenText:
    """A line of parts: what each says, its colour, its element."""
    texts, x = [], 0.0
    for said, color, element in parts:
        line = SeenLine(said, x, x + width * len(said) / 13, 5, 19)
        texts.append(SeenText((line,), element, 0, size, 400, "Figtree", False, color, 0, 15))
        x = line.right
    first, *others = texts
    for other in others:
        first = first.with_(other)
    return first


@pytest.mark.parametrize(
    ("is_vector", "size", "width", "known"),
    [
        (False, 16.5, 97, 16),  # as wide: pixels don't tell
        (False, 16.5, 102, 16.5),
        (False, 18, 96, 18),
        (True, 16.5, 97, 16.5),  # a file that says it does
    ],
)
def test_pixels_leave_open_how_letters_are_set(
    is_vector: bool, size: float, width: float, known: float
) -> None:
    wanted: Any = SimpleNamespace(is_vector=is_vector)
    text = seen_text(("See the hives", "#33231a", 1))
    type_ = _as_far_as_known(set_text(size, -0.2, width), text, wanted)
    assert type_.size == known
    assert type_.spacing == (0 if known == 16 else -0.2)


@pytest.mark.parametrize(
    ("color", "element", "is_underlined", "faults"),
    [
        ("#1a5fb4", 2, True, []),
        ("#7b1fa2", 2, False, [(Fault.COLOR, "#7b1fa2", 2)]),
        ("#33231a", 1, False, [(Fault.COLOR, "#33231a", 1), (Fault.LINK, "plain words", 1)]),
        ("#1a5fb4", 1, True, [(Fault.LINK, "plain words", 1)]),
        ("#1a5fb4", 1, False, []),  # words of a colour may be no link
    ],
)
def test_links_in_running_text(
    color: str, element: int, is_underlined: bool, faults: list[tuple[Fault, str, int]]
) -> None:
    run = TextRun(0, 8, 13, "#1a5fb4", 400, False, is_underlined)
    text = seen_text(("See the ", "#33231a", 1), ("hives", color, element))
    told = _of_runs(set_text(16, 0, 96, (run,)), text, lambda number: number == 2)
    assert [(one.fault, one.found, one.element) for one in told] == faults


def test_rules_for_a_whole_page_are_none_for_a_thing() -> None:
    rule = Declaration("a.css", 1, "", "margin", "0", "", "", 0, 0, {})
    meant = {"*": True, "body": True, "h1, *": True, ".body": False, "body p": False}
    assert {name: replace(rule, selector=name).is_for_all for name in meant} == meant
