"""Roughing out by what is meant: columns, galleries, badges, forms, footers, rows that wrap."""

from __future__ import annotations

from pathlib import Path

import pytest
from lxml import html
from playwright.sync_api import Browser

from conftest import Run
from riffler.geometry import Rect
from riffler.markup.area import Area, Shape
from riffler.markup.evening import at_pitch, evened
from riffler.markup.footers import are_links, with_links
from riffler.markup.lines import are_lines
from test_rough import art, draw, lines_of, plate, roughed, text, words

LINE = ' stroke="#8a7f70"'

FIGURES = (("867", "hives"), ("6", "meadows"), ("12,400", "jars of honey"))

YARD = (
    plate(0, 0, 1000, 1180, "#f6ecd8")
    + text(50, 50, "Fernhollow", 26, 600, family="Fraunces")
    + text(50, 130, "Honey from our meadows", 44, 600, family="Fraunces")
    + '<g id="strip">'
    + "".join(art(f"view-{n + 1}", 250 * n, 170, 250) for n in range(3))
    + f'{art("view-1b3", 750, 170, 250)}</g>'
    # two columns, of which one goes on below the other
    + '<g id="ask"><g id="copy">'
    + text(50, 500, "Write to us", 28, 600, family="Fraunces")
    + text(50, 540, "We answer in a day or two.")
    + '</g><g id="form">'
    + text(550, 490, "Your name", 15, 600)
    + plate(550, 500, 400, 46, "#fff", 6, LINE)
    + text(550, 580, "Your e-mail", 15, 600)
    + plate(550, 590, 400, 46, "#fff", 6, LINE)
    + text(550, 670, "Your message", 15, 600)
    + plate(550, 680, 400, 120, "#fff", 6, LINE)
    + "</g></g>"
    + '<g id="figures">'
    + "".join(
        f'<g id="figure-{n}"><text x="{200 + 300 * n}" y="890" text-anchor="middle" font-family="Fraunces" '
        f'font-size="40" font-weight="600" fill="#8a5410">{figure}</text><text x="{200 + 300 * n}" y="920" '
        f'text-anchor="middle" font-family="Figtree" font-size="16" fill="#3a2618">{what}</text></g>'
        for n, (figure, what) in enumerate(FIGURES)
    )
    + "</g>"
    + f'<g id="foot">{plate(0, 980, 1000, 200, "#33231a")}'
    + "".join(
        f'<g id="column-{n}">{text(50 + 300 * n, 1020, head, 16, 600, color="#fbf4e4")}'
        + "".join(
            text(50 + 300 * n, 1050 + 28 * line, link, 14, color="#e9d9bd")
            for line, link in enumerate(links)
        )
        + "</g>"
        for n, (head, links) in enumerate(
            (("Visit", ("Workshops", "Meadow walks")), ("Buy", ("Gift boxes", "Candles")),
             ("Learn", ("Bees", "Hives")))
        )
    )
    + text(50, 1150, "© Fernhollow Apiary", 14, color="#e9d9bd")
    + "</g>"
)  # fmt: skip


@pytest.fixture
def yard(riffler: Run, tmp_path: Path) -> Path:
    """The yard's page, roughed out and built."""
    return roughed(riffler, draw(tmp_path / "yard", YARD, (1000, 1180))) / "index.html"


def test_what_is_meant_lies_where_the_mockup_has_it(yard: Path, browser: Browser) -> None:
    got = {line[0]: line[1:] for line in lines_of(browser, yard, 1000)}
    for said, x, y in (
        ("Write to us", 50, 500), ("Your message", 550, 670), ("Learn", 650, 1020),
        ("Hives", 650, 1078), ("© Fernhollow Apiary", 50, 1150),
    ):  # fmt: skip
        assert got[said] == pytest.approx((x, y), abs=1.6), said
    for said, y in (("867", 890), ("6", 890), ("12,400", 890), ("jars of honey", 920)):
        assert got[said][1] == pytest.approx(y, abs=1.6), said


def test_fields_have_labels_and_a_footer_its_links(yard: Path) -> None:
    page = html.parse(yard).getroot()
    (form,) = page.iter("form")
    labels = [(label[0].text, label[1].tag, label[1].get("type")) for label in form.iter("label")]
    assert labels == [
        ("Your name", "input", "text"), ("Your e-mail", "input", "email"),
        ("Your message", "textarea", None),
    ]  # fmt: skip
    (footer,) = page.iter("footer")
    assert [link.text for link in footer.iter("a")] == [
        "Workshops", "Meadow walks", "Gift boxes", "Candles", "Bees", "Hives",
    ]  # fmt: skip


@pytest.mark.parametrize("width", [320, 600, 768, 960, 1400])
def test_nothing_reaches_over_the_window(yard: Path, browser: Browser, width: int) -> None:
    tab = browser.new_page(viewport={"width": width, "height": 900})
    tab.goto(yard.as_uri())
    assert tab.evaluate("document.documentElement.scrollWidth") <= width
    tops = tab.evaluate("[...document.querySelectorAll('ul img')].map(e => [e.width, e.height])")
    assert all(abs(across - down) <= 1 for across, down in tops)
    tab.close()


def framed(*parts: Area) -> Area:
    box = Rect.around(part.box for part in parts)
    assert box is not None
    return Area(Shape.STACK, box, parts=parts)


def boxed(x: float, y: float, width: float, height: float) -> Area:
    return Area(Shape.PICTURE, Rect(x, y, width, height))


def test_columns_of_centred_things_have_one_width() -> None:
    columns = [
        framed(boxed(100 * n + 40, 0, 20, 20), boxed(100 * n + 50 - wide / 2, 30, wide, 10))
        for n, wide in enumerate((60, 30, 84))
    ]
    whole = Rect(20, 0, 272, 40)
    area = Area(Shape.LIST, whole, parts=tuple(columns), columns=3)
    made = evened(area)
    assert made.is_centred
    assert [part.box for part in made.parts] == [Rect(100 * n, 0, 100, 40) for n in range(3)]
    assert not at_pitch(area)
    left = Area(Shape.LIST, whole, parts=tuple(boxed(90 * n, 0, 40 + n, 9) for n in range(3)))
    assert at_pitch(left)


def test_a_line_and_what_is_under_it() -> None:
    mark, name, nav = boxed(20, 10, 30, 30), boxed(60, 12, 90, 26), boxed(20, 60, 300, 20)
    assert are_lines([mark, name, nav])
    assert not are_lines([mark, nav])
    assert not are_lines([mark, name])


def test_short_lines_set_alike_are_links() -> None:
    head, *links = (
        words(20, 0, "Visit", size=18),
        words(20, 30, "Workshops"),
        words(20, 58, "Walks"),
    )
    made = with_links([head, *links, words(20, 90, "From 9 to 5")])
    assert [area.shape for area in made] == [Shape.WORDS, Shape.LIST, Shape.WORDS]
    assert are_links(made[1])
