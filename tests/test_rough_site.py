"""Several mockups roughed out as one site; tables, running text, check boxes, texts set alike."""

from __future__ import annotations

import re
import tomllib
from pathlib import Path

import pytest
from lxml import html
from playwright.sync_api import Browser

from conftest import Run
from riffler.geometry import Rect
from riffler.markup.area import Area, Piece, Shape
from riffler.markup.element import Element, Lengths
from riffler.markup.evening import levelled
from riffler.markup.flow import Flow
from riffler.markup.turning import turned
from riffler.markup.type_noise import likened
from riffler.markup.wrap import sheet_of, wrap_of, wrapped
from riffler.mockup.opening import open_mockup
from test_rough import draw, lines_of, plate, roughed, text, words

WIDE = (1000, 900)

HEAD = (
    plate(0, 0, 1000, 80, "#33231a")
    + text(60, 48, "Fernhollow", 26, 600, family="Fraunces", color="#fbf4e4")
    + '<g id="nav">'
    + "".join(
        text(640 + 100 * n, 48, label, color="#fbf4e4")
        for n, label in enumerate(("Home", "Hives", "Visit"))
    )
    + "</g>"
)

FOOT = (
    '<g id="foot">'
    + plate(0, 780, 1000, 120, "#33231a")
    + text(60, 820, "Open from April to October", 14, color="#e9d9bd")
    + text(60, 860, "© Fernhollow Apiary", 14, color="#e9d9bd")
    + "</g>"
)

#: Rows of cells: two that begin at one place and one that ends there; every other row has a plate.
ROWS = (("What", "When", "Price"), ("Honey", "All year", "£6"), ("Candles", "In winter", "£12"),
        ("Comb", "In June", "£9"), ("Tours", "On Sundays", "£4"))  # fmt: skip


def row(n: int) -> str:
    first, second, third = ROWS[n]
    y, ink = 320 + 50 * n, "#fff" if n == 0 else "#3a2618"
    colour = "#8a5410" if n == 0 else "#fff"
    weight = 600 if n == 0 else 400
    return (
        f'<g id="line-{n + 1}">'
        + (plate(60, y, 880, 50, colour) if n % 2 == 0 else "")
        + text(80, y + 31, first, weight=weight, color=ink)
        + text(400, y + 31, second, weight=weight, color=ink)
        + f'<text x="920" y="{y + 31}" text-anchor="end" font-family="Figtree" font-size="16" '
        f'font-weight="{weight}" fill="{ink}">{third}</text></g>'
    )


TABLE = f'<g id="table">{"".join(map(row, range(5)))}</g>'

RUNNING = (
    '<text font-family="Figtree" font-size="16" fill="#3a2618"><tspan x="60" y="240">Bees need no '
    'hurry. See</tspan><tspan x="252" y="240" fill="#1a5fb4" text-decoration="underline">the</tspan>'
    '<tspan x="60" y="266" fill="#1a5fb4" text-decoration="underline">hives</tspan>'
    '<tspan x="104" y="266">and</tspan><tspan x="137" y="266" font-weight="600">candles</tspan>'
    '<tspan x="200" y="266">.</tspan></text>'
)

CHECK = (
    '<g id="letter">'
    + plate(60, 640, 22, 22, "#fff", 4, ' stroke="#8a7f70"')
    + text(96, 657, "Send me the letter")
    + "</g>"
)


def mockup(title: str, inner: str) -> str:
    heading = text(60, 170, title, 44, 600, family="Fraunces")
    return plate(0, 0, 1000, 900, "#f6ecd8") + HEAD + heading + inner + FOOT


@pytest.fixture
def site(riffler: Run, tmp_path: Path) -> Path:
    """Three pages, of which one is nothing but a picture, roughed out and built."""
    root = draw(tmp_path / "site", mockup("Honey", RUNNING + TABLE + CHECK), WIDE)
    draw(root, mockup("Hives", text(60, 240, "Six of them, on the south side.")), WIDE, "hives")
    draw(root, plate(0, 0, 400, 300, "#e9b44c"), (400, 300), "plain")
    roughed(riffler, root)
    return root


def test_what_pages_share_is_written_once(riffler: Run, site: Path) -> None:
    shell = (site / "pages/_shell.html").read_text()
    assert shell.count("<header") == shell.count("<footer") == 1
    assert "Open from April" in shell
    hives = (site / "pages/hives.html").read_text()
    assert "block main" in hives
    assert "<header" not in hives
    assert "block page" in (site / "pages/plain.html").read_text()
    assert "<header" not in (site / "out/plain.html").read_text()
    menu = tomllib.loads((site / "data/menu.toml").read_text())["list"]
    assert [(entry["label"], entry["link"]) for entry in menu] == [
        ("Home", "index"), ("Hives", "hives"), ("Visit", "#"),
    ]  # fmt: skip
    links = html.parse(site / "out/hives.html").xpath('//nav//a[@aria-current="page"]')
    assert [link.text for link in links] == ["Hives"]
    sheets = {path.name: path.read_text() for path in site.glob("styles/**/*.css")}
    assert {*sheets} == {"site.css", "index.css", "hives.css", "plain.css"}
    classes = [set(re.findall(r"^\.([a-z0-9-]+) ", text, re.MULTILINE)) for text in sheets.values()]
    assert len(set.union(*classes)) == sum(map(len, classes))  # no class has two sheets
    linked = html.parse(site / "out/hives.html").xpath('//link[@rel="stylesheet"]/@href')
    assert linked[-2:] == ["styles/site.css", "styles/pages/hives.css"]
    styles = "".join(sheets.values())
    names = set(re.findall(r"^\.([a-z0-9-]+)", styles, re.MULTILINE))
    assert max(map(len, names)) <= 24
    assert not names & {"row", "col", "container"}

    before = {
        path: path.read_bytes() for path in site.glob("*/**/*") if path.suffix in (".html", ".css")
    }
    draw(site, mockup("Visit", text(60, 240, "On Sundays from noon.")), WIDE, "visit")
    riffler("draft", "mockups/visit.svg", cwd=site)
    riffler("rough", "mockups/visit.svg", cwd=site)
    own = (site / "styles/pages/visit.css").read_text()
    assert not names & set(re.findall(r"^\.([a-z0-9-]+)", own, re.MULTILINE))
    assert all(
        path.read_bytes() == body for path, body in before.items() if "out" not in path.parts
    )


def test_tables_have_headers_and_lie_where_they_are_drawn(site: Path, browser: Browser) -> None:
    page = site / "out/index.html"
    (table,) = html.parse(page).getroot().iter("table")
    assert [cell.text for cell in table.iter("th")] == list(ROWS[0])
    assert [[cell.text for cell in line] for line in table[1]] == [list(line) for line in ROWS[1:]]
    got = {line[0]: line[1:] for line in lines_of(browser, page, 1000)}
    for n, line in enumerate(ROWS):
        assert got[line[0]] == pytest.approx((80, 351 + 50 * n), abs=1.6)
        assert got[line[1]] == pytest.approx((400, 351 + 50 * n), abs=1.6)


def test_running_text_keeps_its_links_and_a_box_its_label(site: Path) -> None:
    layers = open_mockup(site / "mockups/home.svg").by_address.values()
    (said,) = [layer.words for layer in layers if layer.words and layer.words.runs]
    assert said.lines == ("Bees need no hurry. See the", "hives and candles.")
    assert [(run.line, said.lines[run.line][run.start : run.end]) for run in said.runs] == [
        (0, "the"), (1, "hives"), (1, "candles"),
    ]  # fmt: skip
    page = html.parse(site / "out/index.html").getroot()
    (text_,) = page.xpath('//p[contains(., "no hurry")]')
    assert text_.text_content() == "Bees need no hurry. See the hives and candles."
    assert [(inner.tag, inner.text) for inner in text_] == [
        ("a", "the hives"),
        ("strong", "candles"),
    ]
    (label,) = page.iter("label")
    assert label.xpath(".//input/@type") == ["checkbox"]
    assert label.text_content().strip() == "Send me the letter"


def stack(*parts: Area, **more: object) -> Area:
    box = Rect.around(part.box for part in parts)
    assert box is not None
    return Area(Shape.STACK, box, parts=parts, **more)  # type: ignore[arg-type]


def mark(x: float, y: float, width: float, height: float) -> Area:
    box = Rect(x, y, width, height)
    return Area(Shape.PICTURE, box, piece=Piece("mark", box))


def test_a_mark_stands_on_a_canvas_that_begins_where_the_page_does() -> None:
    texts = [words(100, 100 + 40 * n, "Honey from the meadow") for n in range(4)]
    line = Area(
        Shape.ROW, Rect(106, 20, 300, 36), parts=(mark(106, 20, 36, 36), words(160, 26, "A"))
    )
    page = Area(Shape.STACK, Rect(0, 0, 1000, 900), parts=(line, *texts))
    edges = wrap_of(page)
    assert edges is not None
    assert (edges.left, edges.right) == (100, 900)
    made = wrapped(page, edges).parts[0].parts[0]
    assert made.piece is not None
    assert (made.box, made.piece.room) == (Rect(100, 14, 48, 48), (6, 6, 6, 6))
    element = Element("img", made)
    Flow(1000, Lengths()).lay(element, edges, 0)
    assert (element.css["width"], element.css["padding-left"]) == ("48px", "6px")
    assert sheet_of(page) == 1000


def test_icons_of_a_row_stand_in_tracks_of_one_height() -> None:
    members = [
        stack(mark(200 * n + 20, 100 - high / 2, 30, high), words(200 * n, 130, "Honey"))
        for n, high in enumerate((20, 32, 28))
    ]
    whole = Rect(0, 84, 600, 70)
    made = levelled(Area(Shape.LIST, whole, parts=tuple(members), columns=3))
    assert [part.parts[0].track for part in made.parts] == [32, 32, 32]
    assert {(part.box.y, part.parts[0].box.height) for part in made.parts} == {(84, 32)}


def test_rows_that_are_set_otherwise_each_are_columns() -> None:
    def line(y: float, size: float, *texts: str) -> Area:
        parts = tuple(words(200 * n, y, said, size=size) for n, said in enumerate(texts))
        box = Rect.around(part.box for part in parts)
        assert box is not None
        return Area(Shape.ROW, box, parts=parts)

    heads, notes = line(0, 22, "Comb", "Wax", "Honey"), line(40, 16, "In June", "Always", "Now")
    (made,) = turned([heads, notes])
    assert [[part.setting.text for part in column.parts if part.setting] for column in made.parts] == [
        ["Comb", "In June"], ["Wax", "Always"], ["Honey", "Now"],
    ]  # fmt: skip
    again = line(80, 16, "In May", "Never", "Soon")
    assert turned([heads, notes, again]) == [heads, notes, again]


def test_texts_that_are_set_nearly_alike_are_set_alike() -> None:
    seen = [words(0, 30 * n, "Honey", size=size) for n, size in enumerate((16, 16, 15.5, 20))]
    (made,) = likened([(stack(*seen), False)])
    assert [setting.type.size for setting in made.words()] == [16, 16, 16, 20]
    (exact,) = likened([(stack(*seen), True)])
    assert [setting.type.size for setting in exact.words()] == [16, 16, 15.5, 20]
