"""Pages as they are written, of one site: marks of current pages, equal steps, tables, parts alike."""

from __future__ import annotations

import json
from pathlib import Path
from types import SimpleNamespace

import pytest
from lxml import html
from playwright.sync_api import Browser

from conftest import Run, run_riffler
from riffler.analyse.style import Border, Stop, Style
from riffler.geometry import Rect
from riffler.markup.area import Area, Shape
from riffler.markup.element import Element
from riffler.markup.evening import pitch_of
from riffler.markup.extents import borders_of, is_button
from riffler.markup.forms import gathered, holds_fields
from riffler.markup.inks import has_all
from riffler.markup.joining import with_words
from riffler.markup.likeness import painted_alike
from riffler.markup.marks import marked
from riffler.markup.places import Edges
from riffler.markup.same import Same
from riffler.markup.texts import settings
from riffler.markup.wrap import wrap_of
from riffler.mockup.font_book import FontBook
from riffler.reading.look import reading_of
from riffler.reading.part import PartKind
from riffler.typeset.dashes import with_spaces
from riffler.workspace import Workspace
from test_markup import picture
from test_rough import FONTS, draw, lines_of, plate, roughed, text, words

#: The middles of the entries of the menu.
MENU = (("Home", 600), ("Honey", 740), ("Visit", 880))

ROWS = (("Meadow walk", "Sunday", "£5"), ("Candles", "Monday", "£9"), ("Queens", "All year", "£12"))

TASTES = (("Clover", "mild"), ("Heather honey", "dark, late, and rare"), ("Lime", "fresh"))


def head(current: str) -> str:
    """The head of a page, whose menu has a line under the page that one is on."""
    at = next(x for word, x in MENU if word == current)
    return (
        plate(0, 0, 1000, 80, "#fffaf0")
        + text(50, 50, "Fernhollow", 24, 600, family="Fraunces")
        + "".join(
            f'<text x="{x}" y="48" text-anchor="middle" font-family="Figtree" font-size="16" fill="#3a2618">{word}</text>'
            for word, x in MENU
        )
        + plate(at - 30, 76, 60, 4, "#b8741a")
    )


def foot(y: int) -> str:
    return plate(0, y, 1000, 90, "#33231a") + text(
        50, y + 50, "© Fernhollow Apiary", color="#fbf4e4"
    )


HOME = (
    plate(0, 0, 1000, 900, "#f6ecd8")
    + head("Home")
    + text(50, 160, "Honey of the year", 40, 600, family="Fraunces")
    # three columns at equal steps, far apart
    + "".join(
        text(50 + 320 * n, 230, title, 22, 600, family="Fraunces") + text(50 + 320 * n, 262, line)
        for n, (title, line) in enumerate(TASTES)
    )
    # a table whose rows are a pixel higher than their words and twice the same room
    + f'<g id="table"><g id="head">{plate(50, 320, 900, 50, "#8a5410")}'
    + "".join(text(66 + 300 * n, 351, word, 16, 600, color="#fff") for n, word in enumerate(("What", "When", "Price")))
    + "</g>"
    + "".join(
        f'<g id="line-{n}">'
        + "".join(text(66 + 300 * k, 400 + 49 * n, cell) for k, cell in enumerate(cells))
        + f"{plate(50, 418 + 49 * n, 900, 1, '#c8b48c')}</g>"
        for n, cells in enumerate(ROWS)
    )
    + "</g>"
    # a list of titles that end with a price of another colour
    + "".join(
        f'<g id="pot-{n}">{plate(50 + 310 * n, 580, 280, 110, "#fffaf0", 8)}<text font-family="Fraunces" font-size="20" '
        f'font-weight="600" fill="#3a2618"><tspan x="{70 + 310 * n}" y="620">{title}</tspan> '
        f'<tspan fill="#b8741a">£{8 + n}</tspan></text>{text(70 + 310 * n, 655, "One jar.")}</g>'
        for n, title in enumerate(("Clover", "Heather", "Lime"))
    )
    + foot(810)
)  # fmt: skip

VISIT = (
    plate(0, 0, 1000, 500, "#f6ecd8")
    + head("Visit")
    + text(50, 160, "Come and see us", 40, 600, family="Fraunces")
    + '<text font-family="Figtree" font-size="16" fill="#3a2618"><tspan x="50" y="214">We open when the lime trees do, and</tspan>'
    '<tspan x="50" y="240">close when <tspan text-decoration="underline" fill="#8a5410">the bees</tspan> are asleep.</tspan></text>'
    + foot(410)
)  # fmt: skip


@pytest.fixture
def site(riffler: Run, tmp_path: Path) -> Path:
    """Two pages that share what frames them, the second with less room above its foot."""
    root = draw(tmp_path / "site", HOME, (1000, 900))
    draw(root, VISIT, (1000, 500), "visit")
    roughed(riffler, root)
    return root


def test_pages_lie_as_they_were_drawn_when_they_are_built(site: Path, browser: Browser) -> None:
    for name, wanted in (
        ("index", (("Honey of the year", 50, 160), ("fresh", 690, 262), ("dark, late, and rare", 370, 262),
                   ("Candles", 66, 449), ("All year", 366, 498), ("£12", 666, 498), ("© Fernhollow Apiary", 50, 860))),
        ("visit", (("close when", 50, 240), ("© Fernhollow Apiary", 50, 460))),
    ):  # fmt: skip
        got = {line[0]: line[1:] for line in lines_of(browser, site / f"out/{name}.html", 1000)}
        for said, x, y in wanted:
            assert got[said] == pytest.approx((x, y), abs=1.6), (name, said)
    findings = []
    for name in ("index", "visit"):
        done = run_riffler("fit", name, "--json", cwd=site, code=1)
        findings += json.loads(done.stdout)["pages"][0]["findings"]
    faults = [fault["fault"] for finding in findings for fault in finding["faults"]]
    assert "missing" not in faults  # the line is drawn, by no element


def test_the_page_that_one_is_on_is_marked_by_its_link(site: Path, browser: Browser) -> None:
    for name, label in (("index", "Home"), ("visit", "Visit")):
        tree = html.parse(site / f"out/{name}.html").getroot()
        (current,) = tree.xpath("//nav//a[@aria-current='page']")
        assert (current.text_content(), current.get("href")) == (label, f"{name}.html")
        assert not tree.xpath("//header//hr")
        tab = browser.new_page(viewport={"width": 1000, "height": 800})
        tab.goto((site / f"out/{name}.html").as_uri())
        mark = tab.evaluate(
            "() => { const e = document.querySelector('[aria-current]'), b = e.getBoundingClientRect();"
            " const c = getComputedStyle(e, '::after'), n = k => parseFloat(c[k]);"
            " return [b.x + n('left'), b.bottom - n('bottom') - n('height'), n('width'), n('height')]; }"
        )
        tab.close()
        assert mark == pytest.approx((dict(MENU)[label] - 30, 76, 60, 4), abs=1.6)


def test_what_is_alike_is_a_list_and_keeps_its_colours(site: Path) -> None:
    tree = html.parse(site / "out/index.html").getroot()
    lists = [
        [item.text_content().split()[0] for item in ul.xpath("./li")]
        for ul in tree.xpath("//main//ul")
    ]
    assert lists == [["Clover", "Heather", "Lime"], ["Clover", "Heather", "Lime"]]
    prices = tree.xpath("//main//li//span")
    assert [price.text for price in prices] == ["£8", "£9", "£10"]  # no links, and no plain words
    assert len(tree.xpath("//main//table//tr")) == 4


LINE = Style((Stop(0, "#b8741a"),))


def entry(x: float, said: str, *, width: float = 60) -> Area:
    return words(x, 50, said, width=width)


def mark(x: float, width: float, y: float = 76) -> Area:
    return Area(Shape.BOX, Rect(x, y, width, 4), ground=LINE)


@pytest.mark.parametrize(
    "boxes, current",
    [
        ([mark(200, 60)], "Honey"),
        ([mark(190, 80)], "Honey"),  # wider, in the middle
        ([mark(100, 60), mark(200, 60), mark(300, 60)], ""),  # all have one
        ([mark(0, 900)], ""),  # a rule below the head
        ([mark(230, 60)], ""),  # between two
        ([mark(200, 60, y=140)], ""),  # too far away
    ],
)
def test_a_line_at_one_entry_is_its_mark(boxes: list[Area], current: str) -> None:
    entries = tuple(entry(100 + 100 * n, said) for n, said in enumerate(("Home", "Honey", "Visit")))
    row = Area(Shape.ROW, Rect(100, 30, 260, 30), parts=entries)
    page = marked(Area(Shape.STACK, Rect(0, 0, 1000, 600), parts=(row, *boxes)), "honey")
    found = [one for one in page.walk() if one.mark is not None]
    assert [one.setting.text for one in found if one.setting] == ([current] if current else [])
    assert [one.link for one in found] == (["honey"] if current else [])
    assert len(list(page.walk())) == 5 + len(boxes) - (2 if current else 0)


def icon(x: float) -> Area:
    return Area(Shape.PICTURE, Rect(x, 40, 24, 24), PartKind.ICON)


@pytest.mark.parametrize(
    "parts, kinds",
    [
        ([icon(0), words(32, 58, "Fernhollow"), words(400, 58, "Honey")], [PartKind.LOGO, PartKind.WORDS]),
        ([words(0, 58, "Honey"), icon(300), words(330, 58, "Call us")], [PartKind.WORDS, PartKind.COLUMNS]),
        ([icon(0), words(32, 58, "Fernhollow")], [PartKind.ICON, PartKind.WORDS]),  # nothing else
        ([icon(0), words(32, 58, "Wax"), words(140, 58, "Comb")], [PartKind.ICON, PartKind.WORDS, PartKind.WORDS]),
    ],
)  # fmt: skip
def test_a_sign_and_its_words_are_one(parts: list[Area], kinds: list[PartKind]) -> None:
    assert [part.kind for part in with_words(parts)] == kinds


@pytest.mark.parametrize(
    "plate_box, x, said, is_one",
    [
        (Rect(0, 0, 160, 50), 30, "Send it", True),
        (Rect(0, 0, 164, 54), 30, "Send it", True),  # with a hard shadow below and to the right
        (Rect(0, 0, 110, 24), 5, "New", False),  # a badge
        (Rect(0, 0, 300, 50), 30, "Send it", False),  # at its left
        (Rect(0, 0, 160, 50), 30, "What to do with old combs", False),
    ],
)
def test_words_in_the_middle_of_a_plate_are_a_button(
    plate_box: Rect, x: float, said: str, is_one: bool
) -> None:
    assert is_button(plate_box, words(x, 30, said, width=100)) is is_one


def test_borders_move_what_is_in_them_on_their_side_alone() -> None:
    for side, edges in (("top", (0, 100)), ("left", (3, 100)), (None, (3, 97))):
        ground = Style((Stop(0, "#fff"),), border=Border("#b8741a", 3, side))
        inner = Edges(0, 100).inset(
            borders_of(Area(Shape.STACK, Rect(0, 0, 100, 50), ground=ground))
        )
        assert (inner.left, inner.right) == edges


@pytest.mark.parametrize(
    "lefts, step, pitch",
    [((102, 433, 764), 330, 331), ((102, 432.2, 762), 330, 330), ((0, 100, 230), 120, 120)],
)
def test_steps_are_from_where_things_begin(
    lefts: tuple[float, ...], step: float, pitch: float
) -> None:
    row = [Area(Shape.STACK, Rect(left, 0, 50, 50)) for left in lefts]
    assert pitch_of(row, step) == pitch


def test_the_edge_of_a_page_is_not_that_of_its_longest_list() -> None:
    ground = Style((Stop(0, "#fff"),))
    outer = [words(100, 100 + 200 * n, "Honey") for n in range(4)]
    inner = [words(150, 300 + 20 * n, "Clover") for n in range(9)]
    panel = Area(Shape.STACK, Rect(100, 280, 700, 300), parts=tuple(inner), ground=ground)
    bands = [Area(Shape.STACK, Rect(40, 200 * n, 920, 200), ground=ground) for n in range(5)]
    page = Area(Shape.STACK, Rect(0, 0, 1000, 1000), parts=(*outer, panel, *bands))
    wrap = wrap_of(page)
    assert wrap is not None
    assert (wrap.left, wrap.right) == (100, 900)


def inked(*gaps: int) -> SimpleNamespace:
    """A line of letters, as far apart as that."""
    spans = [(0, 8)]
    for gap in gaps:
        spans.append((spans[-1][1] + gap, spans[-1][1] + gap + 8))
    return SimpleNamespace(spans=spans)


@pytest.mark.parametrize(
    "read, gaps, said",
    [
        ("21June", (3, 10, 5, 5, 4), "21 June"),
        ("21June", (3, 4, 5, 5, 4), "21June"),  # letters apart
        ("16 March", (4, 11, 5, 5, 4, 5), "16 March"),
        ("at 21June", (3, 9, 3, 8, 4, 4, 4), "at 21 June"),
        ("330ml", (3, 9, 3, 3), "330ml"),  # no word
    ],
)
def test_a_space_after_a_figure_is_seen(read: str, gaps: tuple[int, ...], said: str) -> None:
    assert with_spaces(read, inked(*gaps)) == said  # type: ignore[arg-type]


def test_a_sheet_with_a_form_is_no_form_and_no_form_is_in_one() -> None:
    form = Element("form", content=[Element("input")])
    ground = Area(Shape.STACK, Rect(0, 0, 900, 900), ground=LINE)
    titles: list[Element | str] = [Element("h2"), Element("h2")]
    sheet = Element("div", ground, content=[*titles, form])
    gathered(sheet)
    assert (sheet.tag, form.tag) == ("div", "form")
    plate_of_form = Element("div", ground, content=[Element("h2"), form])
    gathered(plate_of_form)
    assert (plate_of_form.tag, form.tag) == ("form", "div")
    field = Area(Shape.STACK, Rect(0, 0, 300, 40), parts=(words(12, 26, "Your name"),),
                 ground=Style((Stop(0, "#fff"),), border=Border("#8a7f70", 1)))  # fmt: skip
    row = Area(Shape.ROW, Rect(0, 0, 400, 40), parts=(field,))
    assert holds_fields(row, Element("div"))
    assert not holds_fields(row, Element("div", content=[Element("form")]))


def test_a_ground_in_a_narrow_mockup_may_hold_a_little_more() -> None:
    ground = Style((Stop(0, "#33231a"),))
    texts = [words(20, 40 + 40 * n, said) for n, said in enumerate(("One", "Two", "Three"))]
    sign = picture(300, 40, 12)
    band = Area(Shape.STACK, Rect(0, 0, 375, 200), parts=(*texts, sign), ground=ground)
    narrow = Area(Shape.STACK, Rect(0, 0, 375, 400), parts=(band,))
    elements = [Element("p", own) for own in texts]
    body = Element("body", content=[*elements, Element("img", sign)])
    same = Same(narrow, body)
    assert same.around(texts) is None
    assert same.around(texts, LINE) is None
    assert same.around(texts, ground) is band


def test_members_that_are_painted_alike_are_so_in_the_narrow_mockup() -> None:
    shadow = {"box-shadow": "0 1px 2px #000", "background": "#fff"}
    made = Element("li", css=shadow)
    for twins, css in (
        (({"background": "#fff"}, {"background": "#fff"}), {"background": "#fff"}),
        ((shadow, {"background": "#fff"}), shadow),
    ):
        pairs = [(Element("li", css=shadow), Element("li", css=dict(twin))) for twin in twins]
        assert painted_alike(("box-shadow", "background"), made, pairs) == css


def test_letters_that_a_face_lacks_are_known() -> None:
    (face,) = FontBook((FONTS / "figtree-400.ttf",)).faces()
    for said, is_whole in (("Clover honey", True), ("Clover 蜜", False), ("", True)):
        assert has_all(face, said) is is_whole
    assert not has_all(None, "Clover")


def test_a_line_under_first_letters_begins_at_the_pen(tmp_path: Path) -> None:
    said = (
        '<tspan x="50" y="100" text-decoration="underline">Jars</tspan><tspan y="100"> of honey</tspan>'
        '<tspan x="50" y="126">and candles</tspan>'
    )
    text_element = f'<text font-family="Figtree" font-size="16" fill="#3a2618">{said}</text>'
    root = draw(tmp_path / "p", plate(0, 0, 400, 200, "#f6ecd8") + text_element, (400, 200))
    (opened,) = Workspace.around(root / "mockups/home.svg").meant([root / "mockups/home.svg"])
    reading = reading_of(opened)
    layers = [layer for layer in reading.drawings() if reading.is_words(layer)]
    (setting,) = settings(reading, opened.fonts, {}, layers).values()
    assert (setting.lines[0].x, setting.baseline) == pytest.approx((50, 100), abs=0.3)
