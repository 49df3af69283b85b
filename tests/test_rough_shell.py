"""Roughing out what frames pages: heads and feet of several bands, what is sought, what is next."""

from __future__ import annotations

import re
from pathlib import Path
from typing import Any

import pytest
from lxml import html
from playwright.sync_api import Browser

from conftest import Run
from riffler.geometry import Rect
from riffler.markup.area import Area, Shape
from riffler.markup.bands import held_together
from riffler.markup.corners import with_pager
from riffler.markup.element import Element, Lengths, not_said_twice
from riffler.markup.evening import evened
from riffler.markup.flow import Flow
from riffler.markup.likeness import all_looks, is_positioned
from riffler.markup.loops import put_loops
from riffler.markup.places import Edges
from riffler.markup.template import lines
from riffler.reading.part import PartKind
from riffler.typeset.tesseract import _lines
from test_markup import area, picture, plain
from test_rough import draw, plate, roughed, text, words

WIDE = (1000, 900)
INK, PALE = "#33231a", "#fbf4e4"
EDGE = ' stroke="#c8b48c"'


def drawing(name: str, shapes: str) -> str:
    """Shapes that are one drawing."""
    return f'<g id="{name}">{shapes}</g>'


def triangle(name: str, x: float, y: float, by: int) -> str:
    """A sign that points to the left or the right."""
    path = f'<path d="M{x} {y - 8}l{by} 8l{-by} 8z" fill="{INK}"/>'
    return drawing(name, path + f'<circle cx="{x}" cy="{y}" r="1.5" fill="{INK}"/>')


LENS = drawing(
    "lens",
    f'<circle cx="650" cy="78" r="6" fill="none" stroke="{INK}" stroke-width="2"/>'
    f'<path d="M655 83l6 6" stroke="{INK}" stroke-width="2"/>',
)

HEAD = drawing(
    "Header",
    drawing("top", plate(0, 0, 1000, 36, "#eee0c4") + text(560, 23, "Orders by post", 13))
    + drawing("Logo", f'<circle cx="42" cy="80" r="18" fill="none" stroke="{INK}" stroke-width="4"/>'
              '<path d="M42 62v36M24 80h36" stroke="#b8741a" stroke-width="3"/>'
              + text(76, 90, "Fernhollow", 30, 600, family="Fraunces"))
    + drawing("Search", plate(460, 62, 220, 36, "#fff", 4, EDGE) + text(472, 85, "Search honey") + LENS)
    + text(740, 85, "Good day, Ines"),
)  # fmt: skip


def foot(y: int) -> str:
    """The foot of a page that begins at a height: columns, of which one has a form, and a line."""
    form = drawing(
        "letters",
        text(640, y + 50, "Letters from the hives", 20, 600)
        + plate(640, y + 68, 220, 38, "#fff", 4, EDGE) + text(652, y + 92, "Your address")
        + plate(866, y + 68, 70, 38, INK, 4) + text(884, y + 92, "Join", color=PALE),
    )  # fmt: skip
    columns = (
        text(20, y + 50, "Call us", 20, 600)
        + text(20, y + 82, "In the morning")
        + drawing("help", text(360, y + 50, "Help", 20, 600) + text(360, y + 82, "Delivery")
                  + text(360, y + 112, "Repairs"))
    )  # fmt: skip
    line = plate(0, y + 160, 1000, 70, INK) + text(20, y + 200, "Fernhollow Apiary", 14, color=PALE)
    return drawing("Footer", plate(0, y, 1000, 160, "#eee0c4") + columns + form + line)


def hero() -> str:
    """A picture with words on it, and what leads to the next one at both of its sides."""
    photo = '<circle cx="500" cy="280" r="120" fill="#e9b44c"/><path d="M20 440l400 -260l560 200v60z" fill="#8a5410"/>'
    arrows = "".join(
        f'<circle cx="{x}" cy="292" r="18" fill="#fffaf0" opacity="0.85"/>' for x in (52, 948)
    )
    return (
        drawing("photo", plate(20, 120, 960, 320, "#c7d9a0") + photo)
        + text(70, 336, "Honey before breakfast", 38, 600, family="Fraunces", color=PALE)
        + drawing("arrows", arrows + triangle("left", 56, 292, -8) + triangle("right", 944, 292, 8))
    )


@pytest.fixture
def site(riffler: Run, tmp_path: Path) -> Path:
    """Two pages that share head and foot, which begins nearer to what is above it on the second."""
    ground = plate(0, 0, 1000, 900, PALE)
    root = draw(tmp_path / "site", ground + HEAD + hero() + foot(500), WIDE)
    jar = text(20, 170, "Heather honey", 30, 600, family="Fraunces") + text(20, 210, "Dark, late.")
    draw(root, ground + HEAD + jar + foot(240), WIDE, "jar")
    roughed(riffler, root)
    return root


def boxes(browser: Browser, page: Path, selector: str, width: int = 1000) -> list[list[float]]:
    """Where a browser has what a selector finds."""
    tab = browser.new_page(viewport={"width": width, "height": 900})
    tab.goto(page.as_uri())
    places: list[list[float]] = tab.evaluate(
        "s => [...document.querySelectorAll(s)].map(e => e.getBoundingClientRect())"
        ".map(b => [b.x, b.y, b.width, b.height])",
        selector,
    )
    tab.close()
    return places


def test_head_and_foot_have_all_their_bands_and_are_written_once(
    site: Path, browser: Browser
) -> None:
    shell = html.fromstring((site / "pages/_shell.html").read_text())
    (header,), (footer,) = shell.xpath("//header"), shell.xpath("//footer")
    assert "Orders by post" in header.text_content()
    (logo,) = header.xpath(".//a[contains(., 'Fernhollow')]")
    assert logo.xpath("./span")  # no heading of the page
    assert {"Call us", "Fernhollow Apiary"} <= {part.strip() for part in footer.itertext()}
    (form,) = footer.xpath(".//form")
    assert "Call us" not in form.text_content()
    assert [button.text for button in form.xpath(".//button[@type='submit']")] == ["Join"]
    (search,) = header.xpath(".//form[@role='search']")
    (field,) = search.xpath("./input[@type='search']")
    assert field.get("placeholder") == "Search honey"
    assert len(search.xpath("./button[@type='submit']")) == 1
    for name, top in (("index", 500), ("jar", 240)):
        page = site / f"out/{name}.html"
        assert len(html.parse(page).xpath("//h1")) == 1
        assert boxes(browser, page, "footer")[0][:3] == pytest.approx([0, top, 1000], abs=1.5)
        ((x, y, width, height),) = boxes(browser, page, "form[role=search]")
        assert [x, y, width, height] == pytest.approx([460, 62, 220, 36], abs=1.5)
    rules = (site / "styles/site.css").read_text()
    assert "margin-bottom" not in re.sub(r"\.unseen.*", "", rules)


def test_what_leads_on_stays_at_the_sides_of_its_picture(site: Path, browser: Browser) -> None:
    page = site / "out/index.html"
    assert boxes(browser, page, "h1")[0][:2] == pytest.approx([70, 300], abs=3)
    for width in (1000, 700, 375):
        signs = [box for box in boxes(browser, page, "main img", width) if box[2] < 60]
        (photo,) = (box for box in boxes(browser, page, "main img", width) if box[2] > 300)
        middles = sorted((x + w / 2 - photo[0], y + h / 2) for x, y, w, h in signs)
        assert len(middles) == 2
        assert [middles[0][0], photo[2] - middles[1][0]] == pytest.approx([32, 32], abs=3)
        assert max(y for _, y in middles) - min(y for _, y in middles) <= 3


@pytest.mark.parametrize(
    ("groups", "count"),
    [
        (["Foot/low", "Foot/high", "Page"], 2),
        (["Foot/low", "Foot/high", "Foot/main"], 1),  # the group holds all there is
        (["Foot", "Head", "Page"], 1),
        (["a/b/low", "a/b/high", "a/c"], 2),
        (["", "", ""], 1),  # no groups at all
    ],
)
def test_bands_are_together_where_a_group_holds_them_alone(groups: list[str], count: int) -> None:
    layers = [f"{group}/plate".lstrip("/") for group in groups]
    bands = [area(0, 100 * n, 1000, 80, layers=(name,)) for n, name in enumerate(layers)]
    assert held_together(bands) == count


@pytest.mark.parametrize(
    ("right", "side", "count"), [(930, 36, 2), (900, 36, 0), (930, 40, 0), (560, 36, 0)]
)
def test_plates_alike_at_both_sides_are_a_pager(right: float, side: float, count: int) -> None:
    photo = Area(Shape.PICTURE, Rect(20, 120, 960, 320), layers=("photo",))
    signs = [picture(34, 274, 36, "left"), picture(right, 274, side, "right")]
    row = area(34, 274, 932, 73, signs[0], words(70, 301, "Honey"), signs[1], shape=Shape.ROW)
    upon = area(34, 274, 932, 140, row, words(70, 380, "Shop"), kind=PartKind.ROWS)
    pile = with_pager(Area(Shape.PILE, photo.box, parts=(photo, upon)))
    assert sum(part.is_pinned for part in pile.parts) == count
    assert [setting.text for setting in pile.words()] == ["Honey", "Shop"]


@pytest.mark.parametrize(
    ("lefts", "justified", "pushed"),
    [
        ((560, 790), "flex-end", False),  # where they begin is where their words end
        ((20, 740, 850), "", True),  # its last thing ends a little before the edge
        ((20, 300, 560), "", False),
    ],
)
def test_rows_begin_or_end_at_an_edge(
    lefts: tuple[float, ...], justified: str, pushed: bool
) -> None:
    parts = [words(left, 24, "Honey") for left in lefts]
    row = Element(
        "div", area(0, 0, 1000, 40, *parts, shape=Shape.ROW, ground=plain("#eee")), "line"
    )
    row.content = [Element("p", part, "text") for part in parts]
    Flow(1000, Lengths()).lay(row, Edges(0, 1000), 0)
    assert row.css.get("justify-content", "") == justified
    assert ("padding-inline" in row.css) == (lefts[0] == 20)
    assert any(child.css.get("margin-left") == "auto" for child in row.inner) == pushed


@pytest.mark.parametrize(("off", "is_even"), [(0.9, True), (1.6, False)])
def test_words_of_a_navigation_are_in_cells_of_one_width(off: float, is_even: bool) -> None:
    widths, middles = (59, 44, 75, 79), (680, 810 - off, 940, 1070)
    parts = tuple(
        Area(
            Shape.WORDS,
            Rect(middle - width / 2, 30, width, 26),
            setting=words(0, 0, "Hives").setting,
        )
        for width, middle in zip(widths, middles, strict=True)
    )
    row = evened(Area(Shape.LIST, Rect(650, 30, 460, 26), parts=parts, columns=4))
    assert [part.box.width for part in row.parts] == ([130] * 4 if is_even else list(widths))


def test_one_has_the_states_of_all_that_it_stands_for() -> None:
    hover, current = {"background": "#fff"}, {"background": "#000"}
    members = [
        Element("a", looks={'[aria-current="page"]': current}),
        Element("a", looks={":hover": hover, ":focus-visible": hover}),
    ]
    assert all_looks(members) == {
        ":hover": hover, ":focus-visible": hover, '[aria-current="page"]': current,
    }  # fmt: skip
    nudged = Element("img", css={"position": "relative", "top": "1px"})
    assert [is_positioned(one) for one in (members[0], nudged)] == [False, False]
    assert is_positioned(Element("li", css={"position": "relative"}))


def test_what_a_text_says_is_not_said_of_the_picture_again() -> None:
    pictures = [picture(0, 0, 40, "cat", "Our cat"), picture(50, 0, 40, "dog", "A dog")]
    inner = [Element("img", one, "picture") for one in pictures]
    not_said_twice(Element("li", None, "item", content=[*inner, Element("p", text="Our cat")]))
    assert [element.attributes for element in inner] == [{"alt": '""'}, {}]


@pytest.mark.parametrize(
    ("alts", "said", "written", "rows"),
    [
        (["Cat", "Dog"], [], "alt=item.alt, ", ["Cat", "Dog"]),
        (["Cat", "Dog"], ["Cat"], "alt=item.alt, ", ["", "Dog"]),
        (["Cat", "Dog"], ["Cat", "Dog"], 'alt="", ', [None, None]),
        (["Cat", ""], ["Cat"], 'alt="", ', [None, None]),
        (["Cat", None], ["Cat"], "", [None, None]),
    ],
)
def test_pictures_in_a_loop_say_what_words_do_not(
    alts: list[str | None], said: list[str], written: str, rows: list[str | None]
) -> None:
    items = []
    for number, alt in enumerate(alts):
        one = picture(50 * number, 0, 40, f"pet-{number}", alt)
        items.append(Element("li", None, "item", content=[Element("img", one, "picture")]))
        if alt in said:
            items[-1].content.append(Element("p", text=alt))
            not_said_twice(items[-1])
            items[-1].content.pop()
    holder = Element("div", content=[Element("ul", None, "items", content=[*items])])
    put_loops(holder)
    (listed,) = holder.inner
    assert listed.loop is not None
    assert [row.get("alt") for row in listed.loop.rows] == rows
    (call,) = (line.strip() for line in lines([holder]) if "inlay" in line)
    assert written in call
    assert call.count("alt=") == bool(written)
    assert ("unsaid=true" in call) is (None in alts)


@pytest.mark.parametrize(
    ("read", "said"),
    [
        (["post", "@fernhollow.example"], "post@fernhollow.example"),
        (["post@", "fernhollow.example"], "post@fernhollow.example"),
        (["Six", "@", "two", "pounds"], "Six @ two pounds"),
    ],
)
def test_an_address_that_was_read_has_no_room_in_it(read: list[str], said: str) -> None:
    ones = [1] * len(read)
    data: dict[str, list[Any]] = {"text": read, "conf": [90] * len(read), "page_num": ones, "block_num": ones,
            "par_num": ones, "line_num": ones}  # fmt: skip
    reading = _lines(data, 1)
    assert reading is not None
    assert reading.text == said
