"""Pages that are roughed out are looked at in a browser: what was spoiled is mended, the rest said."""

from __future__ import annotations

import json
from collections.abc import Callable
from pathlib import Path

import pytest
from playwright.sync_api import Browser

from conftest import Run
from riffler.fit.chromium import Chromium
from riffler.geometry import Rect
from riffler.markup.area import Area, Piece, Shape
from riffler.markup.element import Element, Lengths
from riffler.markup.page_plan import Laid
from riffler.markup.roughing import Roughed, rough
from riffler.markup.setting import SetLine, Setting, Type
from riffler.mirror.deviations import deviations
from riffler.mirror.instances import instance_of
from riffler.mirror.looking import Mirror, Seen
from riffler.mirror.shifting import Shifts
from riffler.mirror.standing import Stand
from riffler.mirror.troubles import TroubleKind, troubles
from riffler.workspace import Workspace
from test_rough import SHOP, draw
from test_rough_narrow import NARROW, WIDE

TYPE = Type("", "sans-serif", 16, 400, is_italic=False, spacing=0, color="#000000")


def words(x: float, y: float, *lines: float) -> Element:
    """A text whose lines have these widths, in lines 24 px high, letters 16 px."""
    set_lines = tuple(SetLine("word", x, width) for width in lines)
    setting = Setting(set_lines, TYPE, "left", y + 16, 24, True, 12, 4)
    return Element("p", Area(Shape.WORDS, setting.box, setting=setting), "note")


def picture(x: float, y: float, width: float, height: float) -> Element:
    box = Rect(x, y, width, height)
    return Element("img", Area(Shape.PICTURE, box, piece=Piece("jar", box)), "jar")


def page_of(*elements: Element) -> Element:
    area = Area(Shape.STACK, Rect(0, 0, 400, 900))
    return Element("body", area, "page", content=list(elements))


def lines(x: float, y: float, *widths: float) -> Stand:
    """A text that stands there, its letters in the middle of lines 24 px high."""
    rects = tuple(Rect(x, y + 4 + 24 * n, width, 16) for n, width in enumerate(widths))
    return Stand(Rect(x, y, 300, 24 * len(widths)), rects)


@pytest.mark.parametrize(("has_box", "moved"), [(True, {"note"}), (False, set())])
def test_what_has_no_box_moves_nothing_in_it(has_box: bool, moved: set[str]) -> None:
    """As an element whose children another lays out: CSS Display 3, `display: contents`."""
    first, second = words(20, 20, 100), words(20, 60, 100)
    group = Element(
        "div", Area(Shape.STACK, Rect(0, 0, 400, 100)), "group", content=[first, second]
    )
    page = instance_of(page_of(group), is_narrow=False)
    stands = {0: Stand(Rect(0, 0, 400, 900)), 2: lines(20, 20, 100), 3: lines(20, 54, 100)}
    if has_box:
        stands[1] = Stand(Rect(0, 0, 400, 100))
    mends = list(Shifts(page, stands, (), Lengths(), is_final=False).mends())
    assert {mend.element.name for mend in mends if mend.element is not group} == moved


@pytest.mark.parametrize(
    ("element", "stand", "off"),
    [
        (words(20, 40, 100), lines(20, 40, 100), None),
        (words(20, 40, 100), lines(21, 41, 100), None),
        (words(20, 40, 100), lines(20, 46, 100), (0, 6, 0, False)),
        (words(20, 40, 100), lines(26, 40, 100), (6, 0, 0, False)),
        (words(20, 40, 100), lines(20, 40, 70, 30), (0, 0, 1, False)),
        (words(20, 40, 100, 90), lines(20, 40, 190), (0, 0, -1, True)),
        (words(20, 40, 100, 90), lines(20, 40, 80, 110), (0, 0, 0, True)),
        (picture(20, 40, 80, 60), Stand(Rect(20, 40, 80, 60)), None),
        (picture(20, 40, 80, 60), Stand(Rect(20, 44, 80, 60)), (0, 4, 0, False)),
    ],
)
def test_how_far_something_is_off(
    element: Element, stand: Stand, off: tuple[float, float, int, bool] | None
) -> None:
    (found,) = deviations(
        instance_of(page_of(element), is_narrow=False),
        {0: Stand(Rect(0, 0, 400, 900)), 1: stand},
    )
    assert found.is_off == (off is not None)
    if off is not None:
        assert (found.across, found.down, found.lines, found.is_broken) == off


@pytest.mark.parametrize(
    ("first", "second", "kind"),
    [
        (lines(20, 40, 100), lines(20, 64, 100), None),
        (lines(20, 40, 100), lines(60, 44, 100), TroubleKind.OVER),
        (lines(20, 40, 100), lines(300, 64, 120), TroubleKind.OUT),
        (Stand(Rect(20, 40, 80, 60)), lines(20, 100, 90), None),
        (Stand(Rect(20, 40, 80, 90)), lines(20, 140, 90), TroubleKind.DISTORTED),
        (Stand(Rect(20, 40, 160, 120)), lines(20, 160, 90), TroubleKind.ENLARGED),
    ],
)
def test_what_goes_wrong_at_a_width(first: Stand, second: Stand, kind: TroubleKind | None) -> None:
    upper = words(20, 40, 100) if first.lines else picture(20, 40, 80, 60)
    page = instance_of(page_of(upper, words(20, 100, 90)), is_narrow=False)
    found = troubles(page, {1: first, 2: second}, 400)
    assert [trouble.kind for trouble in found] == ([kind] if kind else [])


def seen_of(
    root: Path, browser: Browser, folder: Path, spoil: Callable[[Laid], None]
) -> tuple[Roughed, list[Seen]]:
    """What is roughed out of a page that was spoiled when it was laid out, and how it stands."""
    workspace = Workspace.around(root / "mockups")
    mirror = Mirror(Chromium(browser), workspace, folder)

    def look(laid: Laid) -> None:
        spoil(laid)
        mirror.look(laid)

    return rough(workspace, [], Lengths(), look=look), list(mirror.seen.values())


def off_of(seen: Seen) -> list[tuple[str, float, float, int]]:
    """What is off, by its words or its element: to the right, down, by lines."""
    return [
        (one.instance.shown.text or one.instance.shown.name, one.across, one.down, one.lines)
        for one in seen.off
    ]


#: What is spoiled, by element and name: declarations as a page has that stands otherwise.
SPOILED = {
    "a title too low": ("h1", "title", {"margin-top": "52px"}),
    "a list too low": ("ul", "cards", {"margin-top": "31px"}),
    "a text that breaks": ("p", "text", {"max-width": "200px"}),
    "a title that breaks": ("h1", "title", {"width": "300px"}),
    "a card too high": ("li", "card", {"padding-bottom": "60px"}),
    "a title in a card": ("h3", "title", {"margin-top": "33px"}),
    "a footer too high": ("footer", "site-footer", {"padding-top": "44px"}),
}


@pytest.mark.parametrize("case", SPOILED)
def test_what_is_spoiled_is_mended(
    case: str, riffler: Run, browser: Browser, tmp_path: Path
) -> None:
    tag, name, css = SPOILED[case]
    root = draw(tmp_path / "shop", SHOP)
    riffler("draft", "mockups/home.svg", cwd=root)
    spoiled = []

    def spoil(laid: Laid) -> None:
        for element in laid.body.walk():
            if (element.tag, element.name) == (tag, name):
                element.css |= css
                spoiled.append(element)

    _, (seen,) = seen_of(root, browser, tmp_path, spoil)
    assert spoiled
    assert (off_of(seen), seen.troubles, seen.failed, seen.things > 20) == ([], (), "", True)


def test_what_leaves_narrow_windows_gives_way(
    riffler: Run, browser: Browser, tmp_path: Path
) -> None:
    root = draw(tmp_path / "shop", SHOP)
    riffler("draft", "mockups/home.svg", cwd=root)

    def spoil(laid: Laid) -> None:
        title = next(element for element in laid.body.walk() if element.tag == "h1")
        title.css["white-space"] = "nowrap"

    roughed, (seen,) = seen_of(root, browser, tmp_path, spoil)
    assert (off_of(seen), seen.troubles) == ([], ())
    assert "white-space: normal" in dict(roughed.files)["styles/pages/index.css"]


def test_a_narrow_mockup_is_looked_at_in_its_own_window(
    riffler: Run, process: Run, browser: Browser, tmp_path: Path
) -> None:
    root = draw(tmp_path / "site", WIDE, (1000, 1000))
    draw(root, NARROW, (375, 1300), "home-narrow")
    riffler("draft", "mockups/home.svg", cwd=root)
    riffler("draft", "mockups/home-narrow.svg", "--when", "(max-width: 600px)", cwd=root)

    def spoil(laid: Laid) -> None:
        for element in laid.body.walk():
            if element.tag == "h1" and element.twin is not None:
                element.twin.css["margin-top"] = "90px"

    _, seen = seen_of(root, browser, tmp_path, spoil)
    assert [(one.width, off_of(one)) for one in seen] == [(1000, []), (375, [])]
    said = process("rough", "--json", cwd=root).stdout  # the same, without anything spoiled
    assert [
        (one["page"], one["width"], one["off"], one["troubles"], one["failed"])
        for one in json.loads(said)["looked_at"]
    ] == [("index", 1000, [], [], ""), ("index", 375, [], [], "")]


def test_without_a_browser_that_is_said(
    process: Run, riffler: Run, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    root = draw(tmp_path / "shop", SHOP)
    riffler("draft", "mockups/home.svg", cwd=root)
    monkeypatch.setenv("RIFFLER_CHROMIUM", str(tmp_path / "none"))
    assert "Not looked at in a browser. Chromium could not be started." in (
        process("rough", "--dry-run", cwd=root).stdout
    )
    assert "browser" not in process("rough", "--no-look", cwd=root).stdout
