"""Roughing out for every width: a menu in one text, halves, badges, and a narrow mockup."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest
from lxml import html
from playwright.sync_api import Browser

from conftest import Run
from riffler.geometry import Box, Rect
from riffler.markup.area import Area, Piece, Shape
from riffler.markup.contacts import contact_of
from riffler.markup.corners import given_out
from riffler.markup.evening import spread
from riffler.reading.icon_sets import icon_canvas
from riffler.reading.part import PartKind
from test_rough import art, draw, lines_of, plate, text, words

MENU = ("Honey", "Gift boxes", "Visit")
TICK = '<path fill="none" stroke="#8a5410" stroke-width="2" d="M{} {}l4 4l8 -8"/>'


def menu(x: int, y: int) -> str:
    spans = "".join(
        f'<tspan x="{x + 150 * n}" y="{y}">{word}</tspan>' for n, word in enumerate(MENU)
    )
    return f'<text font-family="Figtree" font-size="16" fill="#3a2618">{spans}</text>'


def ticked(x: int, y: int, *lines: str) -> str:
    """A card with ticks before its lines."""
    marks = "".join(
        f'<g id="row-{n}">{TICK.format(x + 22, y + 75 + 34 * n)}'
        + text(x + 46, y + 80 + 34 * n, line)
        + "</g>"
        for n, line in enumerate(lines)
    )
    return (
        f'<g id="plan-{x}-{y}">{plate(x, y, 280, 170, "#fffaf0", 12)}'
        + text(x + 20, y + 40, lines[0].split()[0], 22, 600, family="Fraunces")
        + marks
        + "</g>"
    )


PLANS = (("Two jars", "Spring honey"), ("Three combs", "Summer honey"), ("Six candles", "Wax"))

WIDE = (
    plate(0, 0, 1000, 1000, "#f6ecd8")
    + f'<g id="head">{text(50, 50, "Fernhollow", 24, 600, family="Fraunces")}{menu(560, 50)}</g>'
    + text(50, 150, "Honey and combs", 44, 600, family="Fraunces")
    + "".join(ticked(50 + 310 * n, 200, *lines) for n, lines in enumerate(PLANS))
    + f'<g id="half">{art("view-1b3", 0, 420, 500)}{plate(500, 420, 500, 500, "#33231a")}'
    + text(550, 640, "Come and see us", 28, 600, color="#fbf4e4", family="Fraunces")
    + text(550, 680, "Meadows, hives and cake.", color="#e9d9bd")
    + "</g>"
    + text(50, 970, "© Fernhollow Apiary")
    + text(700, 970, "+44 20 7946 0123")
)

NARROW = (
    plate(0, 0, 375, 1300, "#f6ecd8")
    + text(20, 40, "Fernhollow", 24, 600, family="Fraunces")
    + text(20, 110, "Honey and combs", 34, 600, family="Fraunces")
    + "".join(ticked(20, 150 + 190 * n, *lines) for n, lines in enumerate(PLANS))
    + f'<g id="half">{plate(0, 740, 375, 150, "#33231a")}'
    + text(20, 800, "Come and see us", 28, 600, color="#fbf4e4", family="Fraunces")
    + text(20, 840, "Meadows, hives and cake.", color="#e9d9bd")
    + "</g>"
    + text(20, 940, "© Fernhollow Apiary")
    + text(20, 980, "+44 20 7946 0123")
)


@pytest.fixture
def site(riffler: Run, tmp_path: Path) -> tuple[str, Path]:
    """What `rough` said, and the page that was built with a narrow mockup."""
    root = draw(tmp_path / "site", WIDE, (1000, 1000))
    draw(root, NARROW, (375, 1300), "home-narrow")
    riffler("draft", "mockups/home.svg", cwd=root)
    riffler("draft", "mockups/home-narrow.svg", "--when", "(max-width: 600px)", cwd=root)
    said = riffler("rough", cwd=root).stdout
    riffler("cut", cwd=root)
    riffler("build", cwd=root)
    return said, root / "out/index.html"


def test_a_page_lies_as_its_mockups_have_it(site: tuple[str, Path], browser: Browser) -> None:
    said, page = site
    for width, wanted in (
        (1000, (("Honey", 560, 50), ("Visit", 860, 50), ("Three combs", 406, 280), ("Wax", 716, 314),
                ("Come and see us", 550, 640), ("+44 20 7946 0123", 700, 970))),
        (375, (("Fernhollow", 20, 40), ("Spring honey", 66, 264), ("Wax", 66, 644),
               ("Come and see us", 20, 800), ("+44 20 7946 0123", 20, 980))),
    ):  # fmt: skip
        got = {line[0]: line[1:] for line in lines_of(browser, page, width)}
        for text_said, x, y in wanted:
            assert got[text_said] == pytest.approx((x, y), abs=2), (width, text_said)
    assert 'hidden there: "Honey" (index), "Gift boxes" (index), "Visit" (index)' in said
    links = [link.get("href") for link in html.parse(page).getroot().iter("a")]
    assert links == ["index.html", "#", "#", "#", "tel:+442079460123"]


def test_halves_stay_halves_in_wide_windows(site: tuple[str, Path], browser: Browser) -> None:
    tab = browser.new_page(viewport={"width": 1600, "height": 900})
    tab.goto(site[1].as_uri())
    boxes = tab.evaluate(
        "[...document.querySelectorAll('main *')].map(e => e.getBoundingClientRect()).map(b => "
        "[Math.round(b.left), Math.round(b.right)])"
    )
    assert [0, 800] in boxes  # the picture's half, in which it keeps its size
    assert [800, 1600] in boxes
    assert (
        tab.evaluate(
            "getComputedStyle(document.querySelector('main img[width=\"500\"]')).objectFit"
        )
        == "none"
    )
    tab.close()


@pytest.mark.parametrize(
    ("said", "href"),
    [
        ("+44 20 7946 0123", "tel:+442079460123"), ("020 7946 0123", "tel:02079460123"),
        ("bees@fernhollow.example", "mailto:bees@fernhollow.example"),
        ("0.50", None), ("10 – 16", None), ("01.02.2031", None), ("1,200", None),
        ("Call 020 7946 0123", None), ("a@b", None),
    ],
)  # fmt: skip
def test_what_is_an_address(said: str, href: str | None) -> None:
    assert contact_of(said) == href


def test_columns_fill_their_room_and_icons_have_a_rim() -> None:
    columns = tuple(
        Area(Shape.STACK, Rect(100 + 200 * n, 0, 60, 90),
             parts=(words(100 + 200 * n, 20, "Buy"), words(100 + 200 * n, 50, "Jars")))
        for n in range(3)
    )  # fmt: skip
    row = Area(Shape.LIST, Rect(100, 0, 460, 90), parts=columns, columns=3, pitch=200)
    assert [part.box.width for part in spread(row, 680).parts] == [180] * 3  # gaps of 20
    assert spread(row, 900) == row  # so much room is not theirs
    for side, density, canvas in ((14, 1, 16), (20, 1, 22), (40, 2, 44), (120, 1, None)):
        assert icon_canvas([Box(0, 0, side, side - 4)], density) == canvas


def test_a_label_on_a_list_sits_on_the_thing_it_is_nearest_to() -> None:
    members = tuple(
        Area(Shape.STACK, Rect(200 * n, 0, 180, 90), parts=(words(200 * n, 20, "Jar"),))
        for n in range(2)
    )
    plain = Area(Shape.LIST, Rect(0, 0, 380, 90), parts=members, columns=2)
    label = words(345, 5, "New")
    badge = Area(Shape.STACK, Rect(340, -10, 60, 30), PartKind.BOX, parts=(label,), ground=None)
    pile = Area(Shape.PILE, Rect(0, -10, 400, 100), parts=(plain, badge))
    assert given_out(pile) == pile  # no edges of its own: no badge
    plated = replace(badge, piece=Piece("new", badge.box))
    first, second = given_out(replace(pile, parts=(plain, plated))).parts
    assert first == members[0]
    assert second.box == members[1].box
    assert second.parts == (replace(plated, is_pinned=True), *members[1].parts)
