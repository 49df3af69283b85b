"""Heads of pages with a bar upon them, squares of icons, and what phones show in its place."""

from __future__ import annotations

import tomllib
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from lxml import html
from PIL import Image, ImageDraw, ImageFont
from playwright.sync_api import Browser

from conftest import Run
from making import Flat, write_ora, write_project
from riffler.analyse.style import Stop, Style
from riffler.geometry import Box, Coordinates, Rect
from riffler.markup.area import Area, Shape
from riffler.markup.fading import fades, snapped_to
from riffler.markup.lifting import lifted
from riffler.markup.tables import is_table
from riffler.reading.look import reading_of
from riffler.reading.part import PartKind
from riffler.reading.seats import seats
from riffler.reading.squares import Squares
from riffler.workspace import Workspace
from test_rough import FONTS, art, draw, lines_of, plate, roughed, text, words

#: Icons as they are drawn on squares of 24 units: a drop, a hexagon, a bell.
ICONS = (
    "M12 3c3 5 6 8 6 12a6 6 0 0 1-12 0c0-4 3-7 6-12z",
    "M4 8l8-4.500 8 4.500v9l-8 4.500-8-4.500z",
    "M5 18V12a7 7 0 0 1 14 0v6z",
)

TITLES = ("The meadow", "The orchard", "The heath")


def icon(n: int, x: float, y: float, turn: str = "") -> str:
    return f'<g id="icon-{n}" transform="{turn}translate({x} {y}) scale(1.5)"><path fill="#8a5410" d="{ICONS[n]}"/></g>'


def menu(x: int, y: int, step: int) -> str:
    names = ("Honey", "Candles", "Visit")
    return (
        '<g id="menu">'
        + "".join(text(x + step * n, y, name, color="#fbf4e4") for n, name in enumerate(names))
        + "</g>"
    )


def places(x: int, y: int, right: int, down: int, side: int) -> str:
    """Three pictures that are nearly the same, each above its title."""

    def moon(n: int) -> str:
        return f'<circle cx="{x + right * n + side * (3 + n) / 8}" cy="{y + down * n + 30}" r="{9 + 4 * n}" fill="#fff"/></g>'

    return "".join(
        f'<g id="place-{n}">{art("view-1", x + right * n, y + down * n, side).removesuffix("</g>")}{moon(n)}'
        + text(x + right * n, y + down * n + side + 30, title, 20, 600, family="Fraunces")
        + "</g>"
        for n, title in enumerate(TITLES)
    )


def head(width: int, height: int, claim: str) -> str:
    return (
        f'<g id="hero"><g id="sky">{plate(0, 0, width, height, "#33422a")}<circle cx="{width * 0.8}" cy="90" r="70" fill="#b8741a"/>'
        f'<path d="M0 {height}l{width / 2} -140l{width / 2} 140z" fill="#5d6b3a"/></g>{claim}</g>'
    )


WIDE = (
    plate(0, 0, 1000, 1240, "#f6ecd8")
    + head(1000, 420, f'<g id="bar">{text(50, 50, "Fernhollow", 24, 600, color="#fbf4e4", family="Fraunces")}{menu(640, 50, 110)}</g>'
           + text(50, 220, "Honey from the hill", 44, 600, color="#fbf4e4", family="Fraunces") + text(50, 262, "Nine hives and a garden.", color="#fbf4e4"))
    + places(50, 480, 310, 0, 280)
    + "".join(f'<g id="note-{n}">{icon(n, 50 + 310 * n, 860)}{text(50 + 310 * n, 930, word, 18, 600)}{text(50 + 310 * n, 960, "From March to May.")}</g>'
              for n, word in enumerate(("Spring", "Summer", "Autumn")))
    + text(50, 1200, "© Fernhollow Apiary")
)  # fmt: skip

NARROW = (
    plate(0, 0, 375, 1900, "#f6ecd8")
    + head(375, 380, f'<g id="bar">{text(20, 40, "Fernhollow", 24, 600, color="#fbf4e4", family="Fraunces")}{menu(20, 80, 90)}</g>'
           + text(20, 200, "Honey from the hill", 32, 600, color="#fbf4e4", family="Fraunces") + text(20, 236, "Nine hives and a garden.", color="#fbf4e4"))
    + places(20, 420, 0, 400, 335)
    + text(20, 1860, "© Fernhollow Apiary")
)  # fmt: skip


@pytest.fixture
def site(riffler: Run, tmp_path: Path) -> Path:
    root = draw(tmp_path / "site", WIDE, (1000, 1240))
    draw(root, NARROW, (375, 1900), "home-narrow")
    riffler("draft", "mockups/home.svg", cwd=root)
    riffler("draft", "mockups/home-narrow.svg", "--when", "(max-width: 600px)", cwd=root)
    roughed(riffler, root)
    return root


def test_a_bar_upon_the_head_is_a_header_of_its_own(site: Path, browser: Browser) -> None:
    page = html.parse(site / "out/index.html").getroot()
    assert [e.tag for e in page.xpath("/html/body/*")][:2] == ["header", "main"]
    assert page.xpath("//header//nav")
    assert page.xpath("//main//h1")
    assert not page.xpath("//header//h1")
    for width, wanted in (
        (1000, (("Honey", 640, 50), ("Honey from the hill", 50, 220), ("The heath", 670, 790), ("Summer", 360, 930))),
        (375, (("Honey", 20, 80), ("Honey from the hill", 20, 200), ("The orchard", 20, 1185), ("The heath", 20, 1585))),
    ):  # fmt: skip
        got = {line[0]: line[1:] for line in lines_of(browser, site / "out/index.html", width)}
        for said, x, y in wanted:
            assert got[said] == pytest.approx((x, y), abs=2), (width, said)


#: A page whose bar stands on the ground of the page, and one whose bar lies on the head.
PLAIN = (
    plate(0, 0, 1000, 700, "#f6ecd8") + f'<g id="bar">{plate(0, 0, 1000, 90, "#33422a")}{text(50, 50, "Fernhollow", 24, 600, color="#fbf4e4", family="Fraunces")}{menu(640, 50, 110)}</g>'
    + text(50, 220, "What we bring", 44, 600, family="Fraunces") + text(50, 262, "Comb, wax and tea.") + text(50, 660, "© Fernhollow Apiary")
)  # fmt: skip
UPON = WIDE


@pytest.mark.parametrize(("first", "more"), [(UPON, PLAIN), (PLAIN, UPON)])
def test_the_header_stands_on_a_page_more_as_it_was_drawn_there(
    riffler: Run, tmp_path: Path, browser: Browser, first: str, more: str
) -> None:
    root = tmp_path / "site"
    sizes = {UPON: (1000, 1240), PLAIN: (1000, 700)}
    roughed(riffler, draw(root, first, sizes[first]))
    before = {path: path.read_bytes() for path in (root / "pages").iterdir()}
    draw(root, more, sizes[more], "more")
    riffler("draft", "mockups/more.svg", cwd=root)
    riffler("rough", "mockups/more.svg", cwd=root)
    for command in ("cut", "build"):
        riffler(command, cwd=root)
    assert {path: path.read_bytes() for path in before} == before
    wanted = {
        UPON: [("Honey", 640, 50), ("Honey from the hill", 50, 220), ("The heath", 670, 790)],
        PLAIN: [("Honey", 640, 50), ("What we bring", 50, 220), ("© Fernhollow Apiary", 50, 660)],
    }
    got = {line[0]: line[1:] for line in lines_of(browser, root / "out/more.html", 1000)}
    for said, x, y in wanted[more]:
        assert got[said] == pytest.approx((x, y), abs=2), said


def test_pictures_alike_are_those_beside_the_same_words(site: Path) -> None:
    cuts = [
        tomllib.loads((site / f"cuts/{name}.toml").read_text()) for name in ("home", "home-narrow")
    ]
    shown = [
        {
            table["only"][0]: name
            for name, table in cut["slice"].items()
            if "view" in str(table.get("only"))
        }
        for cut in cuts
    ]
    assert len(shown[0]) == 3
    assert shown[0] == shown[1]


def test_icons_are_cut_on_the_squares_that_they_were_drawn_on(site: Path) -> None:
    cut = tomllib.loads((site / "cuts/home.toml").read_text())
    icons = {table["only"][0][-1]: table for table in cut["slice"].values() if "at" in table}
    assert {n: table["at"] for n, table in icons.items()} == {
        str(n): [50 + 310 * n, 860, 36, 36] for n in range(3)
    }
    assert not any("frame" in group for group in cut["group"].values())


@pytest.mark.parametrize(
    ("drawing", "squares"),
    [
        (icon(0, 10, 10) + icon(1, 60, 10), [(10, 10, 36, 36), (60, 10, 36, 36)]),
        # one is turned, and one stands in its column
        (icon(0, 10, 10) + icon(1, 60, 10) + icon(2, 10, 60, "rotate(45 28 78) "), [None, (60, 10, 36, 36), None]),
        # coordinates that begin where the ink does are those of a group, and no square
        ('<g id="icon-0" transform="translate(20 20)"><path d="M0 0h20v12l-8 9z" fill="#8a5410"/></g>', [None]),
        ('<path id="icon-0" d="M22 26l8 -6 9 11z" fill="#8a5410"/>', [None]),
        # what lies far from where its coordinates begin has none of its own, and says nothing
        (icon(0, 10, 10) + icon(1, 60, 10) + '<g id="icon-2" transform="translate(4 4)"><path fill="#8a5410" d="M90 90h20v12l-8 9z"/></g>',
         [(10, 10, 36, 36), (60, 10, 36, 36), None]),
        # it would reach beyond the canvas
        (icon(0, -4, 10) + icon(1, 60, 10), [None, (60, 10, 36, 36)]),
    ],
)  # fmt: skip
def test_where_squares_lie(
    tmp_path: Path, drawing: str, squares: list[tuple[int, ...] | None]
) -> None:
    root = draw(tmp_path / "icons", plate(0, 0, 200, 200, "#f6ecd8") + drawing, (200, 200))
    (opened,) = Workspace.around(root / "mockups/home.svg").meant([root / "mockups/home.svg"])
    reading = reading_of(opened)
    known, layers = Squares(reading), reading.mockup.by_address
    got = [
        known.of(layers[name])
        for name in sorted(layers)
        if name.startswith("icon") and "/" not in name
    ]
    assert got == [square and Box(*square) for square in squares]
    assert Coordinates(5, 5, 2, 0).at(3, 4) == (11, 13)


def shape(side: int, width: int, height: int) -> np.ndarray:
    """An odd shape of so much ink: three triangles."""
    image = Image.new("RGBA", (4 * width, 4 * height))
    draw_ = ImageDraw.Draw(image)
    draw_.polygon(
        [(0, 0), (4 * width - 1, 2 * height), (0, 4 * height - 1), (side, 2 * height)], "#8a5410"
    )
    return np.asarray(image.resize((width, height), Image.Resampling.BOX))


def label(said: str, size: int) -> np.ndarray:
    font = ImageFont.truetype(FONTS / "fraunces-600.ttf", 4 * size)
    left, top, right, bottom = (int(edge) for edge in font.getbbox(said))
    image = Image.new("RGBA", ((right - left) // 4 * 4 + 4, (bottom - top) // 4 * 4 + 4))
    ImageDraw.Draw(image).text((-left, -top), said, "#3a2618", font)
    return np.asarray(image.resize((image.width // 4, image.height // 4), Image.Resampling.BOX))


def test_icons_in_pixels_have_boxes_that_put_their_titles_where_they_are(tmp_path: Path) -> None:
    sides, inks = (40, 36, 48), ((8, 5, 30, 29), (9, 5, 28, 25), (3, 13, 42, 23))
    layers, wanted = [], {}
    for n, (side, (x, y, width, height)) in enumerate(zip(sides, inks, strict=True)):
        title, left, top = label("Honey", 22), 40 + 300 * n, 60
        layers.append(Flat(f"card-{n}", inside=[
            Flat("icon", (left + 24 + x, top + 24 + y, width, height), pixels=shape(9 * n, width, height)),
            Flat("title", (left + 24, top + 40 + side, title.shape[1], title.shape[0]), pixels=title),
            Flat("plate", (left, top, 280, 160 + side), (251, 244, 228, 255)),
        ]))  # fmt: skip
        wanted[f"card-{n}/icon"] = Box(left + 27, top + 29, 42, side - 11)
    root = write_project(tmp_path / "cards", {})
    write_ora(
        root / "mockups/m.ora",
        (980, 400),
        [*layers, Flat("ground", (0, 0, 980, 400), (199, 217, 160, 255))],
    )
    (opened,) = Workspace.around(root / "mockups/m.ora").meant([root / "mockups/m.ora"])
    reading = reading_of(opened)
    assert seats(reading) == wanted
    known = Squares(reading)
    assert [known.of(reading.mockup.by_address[name]) for name in wanted] == [*wanted.values()]


def test_boxes_that_fade_out_end_where_nobody_sees_it() -> None:
    shade = Style((Stop(0, "#000000bf"), Stop(1, "#00000000")), 90)
    assert [
        fades(style) for style in (shade, replace(shade, stops=shade.stops[:1], angle=None))
    ] == [True, False]
    assert snapped_to(Rect(0, 10, 196, 50), Rect(0, 0, 200, 300), 8) == Rect(0, 10, 200, 50)


def test_heads_are_lifted_on_all_pages_or_on_none() -> None:
    picture = Area(Shape.PICTURE, Rect(0, 0, 900, 400), PartKind.PICTURE, ("sky",), tint="#123456")
    links = tuple(words(500 + 90 * n, 50, name) for n, name in enumerate(("Honey", "Wax", "Visit")))
    nav = Area(Shape.LIST, Rect(500, 38, 280, 20), parts=links, columns=3)
    claim = words(40, 200, "Honey from the hill", size=40)
    stack = Area(Shape.STACK, Rect(40, 38, 740, 200), PartKind.ROWS, parts=(nav, claim))
    pile = Area(Shape.PILE, picture.box, parts=(picture, stack))
    rest = words(40, 600, "And all the rest.")
    page = Area(Shape.STACK, Rect(0, 0, 900, 700), PartKind.ROWS, parts=(pile, rest))
    plain = page.holding(nav, claim, rest)
    (raised,) = lifted([page])
    header, hero, last = raised.parts
    assert header.is_upon
    assert header.tint == "#123456"
    assert header.parts == (nav,)
    assert header.box == Rect(0, 0, 900, 58)
    assert hero.parts == (
        picture,
        stack.holding(claim) and replace(stack, box=claim.box, parts=(claim,)),
    )
    assert last is rest
    assert lifted([page, plain]) == [page, plain]


def test_cells_in_a_list_of_their_own_are_cells() -> None:
    def row(y: float, *cells: str, size: float = 16) -> Area:
        parts = tuple(words(40 + 200 * n, y, cell, size=size) for n, cell in enumerate(cells))
        return Area(Shape.ROW, Rect(40, y - 16, 600, 20), PartKind.ROWS, parts=parts)

    head, first, second = (
        row(40, "What", "When", "Price", size=24),
        row(80, "Wax", "May", "£5"),
        row(120, "Comb", "June", "£8"),
    )
    grouped = Area(Shape.LIST, first.box, parts=second.parts[:2], columns=2)
    second = replace(second, parts=(grouped, second.parts[2]))
    rows = Area(Shape.LIST, Rect(40, 20, 600, 120), parts=(head, first, second))
    assert is_table(rows)
    assert not is_table(replace(rows, parts=(head, first, row(120, "Comb", "June"))))
