"""Roughing out: drawn mockups become pages whose text, boxes and meaning a browser is asked about."""

from __future__ import annotations

import json
import re
import shutil
import tomllib
from pathlib import Path
from typing import Any

import pytest
from lxml import etree
from playwright.sync_api import Browser

from conftest import Run
from known_drawing import WIDTHS, compared, drawn
from known_pages import page
from making import Flat, write_project
from riffler.geometry import Box, Rect
from riffler.markup.area import Area, Shape
from riffler.markup.columns import shares
from riffler.markup.element import Lengths, snapped
from riffler.markup.grouping import grouped
from riffler.markup.headings import Texts
from riffler.markup.joining import joined
from riffler.markup.setting import SetLine, Setting, Type
from riffler.reading.arranging import Arranging
from riffler.reading.part import PagePart, PartKind

FONTS = Path(__file__).parents[1] / "src/riffler/demo/fernhollow/fonts"


def text(x: float, y: float, words: str, size: int = 16, weight: int = 400, **more: str) -> str:
    """A text of one line, its pen at a place."""
    family = more.get("family", "Figtree")
    color = more.get("color", "#3a2618")
    name = f' id="{more["name"]}"' if "name" in more else ""
    return (
        f'<text{name} x="{x}" y="{y}" font-family="{family}" font-size="{size}" '
        f'font-weight="{weight}" fill="{color}">{words}</text>'
    )


def plate(
    x: int, y: int, width: int, height: int, fill: str, radius: int = 0, more: str = ""
) -> str:
    """A plain box."""
    return f'<rect x="{x}" y="{y}" width="{width}" height="{height}" rx="{radius}" fill="{fill}"{more}/>'


#: What drawings stand on, by the last sign of their names.
GROUNDS = {"1": "#c7d9a0", "2": "#d9a0a0", "3": "#a0b8d9"}


def art(name: str, x: int, y: int, side: int) -> str:
    """A drawing of three shapes."""
    return (
        f'<g id="{name}"><rect x="{x}" y="{y}" width="{side}" height="{side}" fill="{GROUNDS[name[-1]]}"/>'
        f'<circle cx="{x + side / 2}" cy="{y + side / 2}" r="{side / 3}" fill="#b8741a"/>'
        f'<path d="M{x} {y + side}l{side / 2} -{side / 3}l{side / 2} {side / 3}z" fill="#33231a"/></g>'
    )


def card(number: int, x: int, title: str, line: str, price: str) -> str:
    """A card with a picture and words; the second one is of another colour."""
    fill = "#e8ad3c" if number == 2 else "#fffaf0"
    return (
        f'<g id="card-{number}">{plate(x, 340, 280, 260, fill, 14)}{art(f"jar-{number}", x + 80, 360, 120)}'
        + text(x + 24, 520, title, 20, 600, family="Fraunces")
        + text(x + 24, 548, line)
        + text(x + 24, 580, price, 16, 600, color="#8a5410")
        + "</g>"
    )


SHOP = (
    plate(0, 0, 1000, 720, "#f6ecd8")
    + f'<g id="top">{plate(0, 0, 1000, 80, "#33231a")}'
    + text(50, 50, "Fernhollow", 26, 600, family="Fraunces", color="#fbf4e4")
    + '<g id="menu">'
    + "".join(
        text(x, 48, name, 16, 600, color="#fbf4e4", name=f"link-{name.lower()}")
        for x, name in ((620, "Home"), (700, "Hives"), (777, "Workshops"), (894, "Visit"))
    )
    + "</g></g>"
    + text(50, 150, "Honey from our meadows", 44, 600, family="Fraunces")
    + '<text font-family="Figtree" font-size="18" fill="#59412a"><tspan x="50" y="196">Poured by hand, '
    "in jars that come back to us,</tspan><tspan x=\"50\" y=\"224\">and sent in paper you can plant.</tspan></text>"
    + text(50, 310, "This week", 28, 600, family="Fraunces")
    + "".join(
        card(n + 1, 50 + 310 * n, *words)
        for n, words in enumerate(
            (("Clover", "Light and mild", "£6"), ("Heather", "Dark, like toffee", "£8"),
             ("Lime", "Fresh, a hint of mint", "£7"))
        )
    )
    + f'<g id="foot">{plate(0, 640, 1000, 80, "#33231a")}'
    + text(50, 685, "Fernhollow Apiary, Mill Lane", 14, color="#e9d9bd")
    + "</g>"
)  # fmt: skip


def draw(root: Path, drawing: str, size: tuple[int, int] = (1000, 720), name: str = "home") -> Path:
    """A project with one drawn mockup and its fonts."""
    if not (root / "riffler.toml").exists():
        write_project(root, {"riffler.toml": ""})
        (root / "mockups/m.ora").unlink()
    for font in FONTS.glob("*.ttf"):
        (root / "fonts").mkdir(exist_ok=True)
        shutil.copy(font, root / "fonts")
    (root / f"mockups/{name}.svg").write_text(
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{size[0]}" height="{size[1]}">{drawing}</svg>'
    )
    return root


def roughed(riffler: Run, root: Path) -> Path:
    """The project drafted, roughed out, cut and built."""
    for mockup in sorted((root / "mockups").iterdir()):
        if not (root / f"cuts/{mockup.stem}.toml").exists():
            riffler("draft", mockup, cwd=root)
    riffler("rough", cwd=root)
    riffler("cut", cwd=root)
    riffler("build", cwd=root)
    return root / "out"


@pytest.fixture
def shop(riffler: Run, tmp_path: Path) -> Path:
    """The shop's page, roughed out and built."""
    root = draw(tmp_path / "shop", SHOP)
    roughed(riffler, root)
    return root


#: Where each line of text begins and its baseline lies, as the browser has it.
LINES = """() => {
  const found = [], pen = document.createElement('canvas').getContext('2d');
  const texts = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  while (texts.nextNode()) {
    const node = texts.currentNode, range = document.createRange(), said = node.textContent;
    const style = getComputedStyle(node.parentElement);
    pen.font = `${style.fontStyle} ${style.fontWeight} ${style.fontSize} ${style.fontFamily}`;
    const rise = pen.measureText('x').fontBoundingBoxAscent;
    let line = null;
    for (let i = 0; i < said.length; i++) {
      if (/\\s/.test(said[i])) { if (line) line[0] += ' '; continue; }
      range.setStart(node, i); range.setEnd(node, i + 1);
      const box = range.getBoundingClientRect();
      if (!line || Math.abs(line[2] - box.y - rise) > 4) found.push(line = ['', box.x, box.y + rise]);
      line[0] += said[i];
    }
  }
  return found.map(([words, x, y]) => [words.trim(), x, y]);
}"""


def drawn_lines(path: Path) -> list[tuple[str, float, float]]:
    """The lines of text that an SVG shows, with their pens and baselines, by its own attributes."""
    found = []
    for element in etree.parse(path).getroot().iter("{*}text", "{*}tspan"):
        x, y = element.get("x"), element.get("y")
        owner = element if element.get("font-family") else element.getparent()
        if owner is not None and owner.get("text-anchor") == "middle":
            continue  # its pen is not where it says
        if x and y and element.text and element.text.strip():
            found.append((" ".join(element.text.split()), float(x), float(y)))
    return found


def lines_of(browser: Browser, page: Path, width: int) -> list[tuple[str, float, float]]:
    tab = browser.new_page(viewport={"width": width, "height": 900})
    try:
        tab.goto(page.as_uri())
        tab.evaluate("document.fonts.ready")
        return [tuple(line) for line in tab.evaluate(LINES)]
    finally:
        tab.close()


def test_text_begins_and_breaks_where_the_mockup_has_it(shop: Path, browser: Browser) -> None:
    wanted = drawn_lines(shop / "mockups/home.svg")
    assert len(wanted) == 19
    got = lines_of(browser, shop / "out/index.html", 1000)
    for words, x, y in wanted:
        near = [line for line in got if line[0] == words]
        assert near, words
        assert any(abs(line[1] - x) <= 1 and abs(line[2] - y) <= 1.5 for line in near), (
            words,
            near,
        )


def test_plates_and_pictures_lie_where_the_mockup_has_them(shop: Path, browser: Browser) -> None:
    tab = browser.new_page(viewport={"width": 1000, "height": 900})
    tab.goto((shop / "out/index.html").as_uri())
    boxes = tab.evaluate(
        "[...document.querySelectorAll('body *')].map(e => {const b = e.getBoundingClientRect();"
        "return [e.tagName, getComputedStyle(e).backgroundColor, b.x, b.y, b.width, b.height]})"
    )
    drawn = [(tag, color, tuple(round(side, 1) for side in sides)) for tag, color, *sides in boxes]
    for n, color in enumerate(("rgb(255, 250, 240)", "rgb(232, 173, 60)", "rgb(255, 250, 240)")):
        assert ("LI", color, (50 + 310 * n, 340, 280, 260)) in drawn
        assert ("IMG", "rgba(0, 0, 0, 0)", (130 + 310 * n, 360, 120, 120)) in drawn
    assert ("HEADER", "rgb(51, 35, 26)", (0, 0, 1000, 80)) in drawn
    assert ("FOOTER", "rgb(51, 35, 26)", (0, 640, 1000, 80)) in drawn
    for width in (375, 600, 960, 1440):
        tab.set_viewport_size({"width": width, "height": 900})
        assert tab.evaluate("document.documentElement.scrollWidth") <= width
    tab.close()


def test_markup_says_what_things_are(shop: Path) -> None:
    page = (shop / "out/index.html").read_text()
    tags = re.findall(r"<(header|nav|main|aside|footer|h[1-6]|ul)\b", page)
    assert tags == ["header", "nav", "ul", "main", "h1", "h2", "ul", *["h3"] * 3, "footer"]
    assert re.search(r"<h1>Honey from our meadows</h1>", page)
    assert '<html lang="en">' in page
    assert "<title>Honey from our meadows</title>" in page
    assert page.count("data-unsaid") == page.count('href="#"') == 3  # of Home there is a page
    assert "<br>" not in page
    data = tomllib.loads((shop / "data/cards.toml").read_text())["list"]
    assert [row["title"] for row in data] == ["Clover", "Heather", "Lime"]
    assert [row["picture"] for row in data] == ["jar-1", "jar-2", "jar-3"]
    assert [row["price"] for row in data] == ["£6", "£8", "£7"]
    assert [row["card_look"] != "" for row in data] == [False, True, False]
    menu = tomllib.loads((shop / "data/menu.toml").read_text())["list"]
    assert [row["label"] for row in menu] == ["Home", "Hives", "Workshops", "Visit"]
    template = (shop / "pages/index.html").read_text()
    assert "{% for card in data.cards.list %}" in template
    assert template.count("<li") == 1
    styles, own = ((shop / "styles" / name).read_text() for name in ("site.css", "pages/index.css"))
    assert "position: absolute" not in styles.partition(".unseen")[0] + own
    assert styles.index("header {") < styles.index("footer {")
    assert own.index("main {") < own.index("h1 {")
    assert not {"header {", "footer {"} & {*own.splitlines()}
    assert 'src: url("../fonts/fraunces-600.ttf")' in styles


def test_what_is_there_stays(riffler: Run, shop: Path) -> None:
    index = shop / "pages/index.html"
    assert "All of it is there as it was roughed out" in riffler("rough", cwd=shop).stdout
    said = index.read_text().replace("<main>", "<main><!-- mine -->")
    index.write_text(said)
    refused = riffler("rough", cwd=shop, code=2).stderr
    assert "pages/index.html" in refused
    assert "nothing is roughed out over what is there" in refused
    assert index.read_text() == said
    printed = riffler("rough", "--print", cwd=shop).stdout
    assert "== pages/index.html" in printed
    header = riffler("rough", "--part", "header", cwd=shop).stdout
    assert header.startswith("<header>")
    assert "header {" in header
    assert "main {" not in header
    card = riffler("rough", "--part", "card", cwd=shop).stdout
    assert '<li class="card' in card  # as it was called when nothing was there
    assert set(re.findall(r"^\.([\w-]+) \{", card, re.MULTILINE)) <= set(
        re.findall(r"^\.([\w-]+) \{", (shop / "styles/pages/index.css").read_text(), re.MULTILINE)
    )
    assert (
        'There is no part "sidebar".'
        in riffler("rough", "--part", "sidebar", cwd=shop, code=2).stderr
    )
    data = json.loads(riffler("rough", "--json", "--print", cwd=shop).stdout)
    assert data["pages"] == ["index"]
    for name in ("pages", "styles", "data"):
        shutil.rmtree(shop / name)
    assert "Nothing was written" in riffler("rough", "--dry-run", cwd=shop).stdout
    assert not index.parent.exists()
    riffler("rough", "--unit", "rem", cwd=shop)
    style = (shop / "styles/pages/index.css").read_text()
    assert re.search(
        r"font-size: clamp\(1\.8125rem, [\d.]+rem \+ [\d.]+vw, 2\.75rem\)", style
    )  # 44 px
    assert "There is no unit" in riffler("rough", "--unit", "pt", cwd=shop, code=2).stderr


def test_a_new_project_makes_room_and_a_shell_is_kept(riffler: Run, tmp_path: Path) -> None:
    riffler("start", "site")
    root = draw(tmp_path / "site", SHOP, name="hives")
    riffler("draft", "mockups/hives.svg", cwd=root)
    assert "has no cutlist" not in riffler("rough", cwd=root).stdout  # untouched files make room
    shell = root / "pages/_shell.html"
    assert "<footer>" in shell.read_text()
    shell.write_text(shell.read_text().replace("<footer>", "<footer><p>Mine</p>"))
    draw(root, SHOP.replace("Honey from our meadows", "Where we meet"), name="visit")
    assert "No mockup" not in riffler("draft", "mockups/visit.svg", cwd=root).stdout
    riffler("rough", "mockups/visit.svg", cwd=root)
    assert "<p>Mine</p>" in shell.read_text()
    page = (root / "pages/visit.html").read_text()
    assert page.startswith('{% extends "_shell.html" %}')
    assert "Where we meet" in page
    assert "<footer" not in page
    assert (root / "styles/pages/visit.css").exists()
    riffler("cut", cwd=root)
    riffler("build", cwd=root)
    assert "<p>Mine</p>" in (root / "out/visit.html").read_text()
    bare = draw(tmp_path / "bare", SHOP)
    said = riffler("rough", "mockups/home.svg", cwd=bare, code=2).stderr
    assert "has no cutlist yet" in said
    assert "riffler draft" in said


def test_names_of_layers_cost_names_only(riffler: Run, shop: Path, tmp_path: Path) -> None:
    numbers = iter(range(999))
    nameless = re.sub(r'id="[\w-]+"', lambda _: f'id="Layer {next(numbers)}"', SHOP)
    out = roughed(riffler, draw(tmp_path / "nameless", nameless))

    def shape(path: Path) -> list[str]:
        return re.findall(r"<(/?[a-z]+\d?)\b", path.read_text())

    assert shape(out / "index.html") == shape(shop / "out/index.html")


def test_the_demos_drawing_is_roughed_out_as_it_is(
    riffler: Run, demo: Path, browser: Browser
) -> None:
    root = demo
    for name in ("pages", "styles", "data"):
        shutil.rmtree(root / name, ignore_errors=True)
    out = roughed(riffler, root)
    wanted = drawn_lines(root / "mockups/hives.svg")
    got = lines_of(browser, out / "hives.html", 960)
    right = [
        any(line[0] == words and abs(line[1] - x) <= 2 and abs(line[2] - y) <= 2 for line in got)
        for words, x, y in wanted
    ]  # fmt: skip
    assert len(right) >= 21
    assert sum(right) >= 0.9 * len(right)
    assert [path.name for path in sorted((root / "pages").iterdir())] == [
        "_shell.html", "hives.html", "index.html",
    ]  # fmt: skip
    home = (root / "pages/index.html").read_text()
    assert 'inlay("banner"' in home
    assert 'inlay("smoker"' in home
    assert 'inlay("mark"' in home
    assert "piece-{{ entry.piece }}" in home
    assert 'aria-current="page"' in (out / "index.html").read_text()


def test_pixels_without_words_are_marked(riffler: Run, tmp_path: Path) -> None:
    """A layer that is words without a text has its name, for `check` to find."""
    cutlist = 'mockup = "../mockups/m.ora"\nwords = ["big-title"]\n'
    layers = [
        Flat("big-title", (20, 30, 120, 24)),
        Flat("paper", (0, 0, 300, 200), (255, 255, 255, 255)),
    ]
    root = write_project(tmp_path / "p", {"riffler.toml": "", "cuts/m.toml": cutlist}, layers)
    riffler("rough", cwd=root)
    assert 'data-unsaid="words">Big title</' in (root / "pages/index.html").read_text()
    riffler("build", cwd=root)
    done = riffler("check", cwd=root, code=1)
    assert 'Still to be said: words ("Big title").' in done.stdout


def part(kind: PartKind, x: int, y: int, width: int, height: int) -> PagePart:
    """A part that is nothing but a box."""
    box = Box(x, y, width, height)
    return PagePart(kind, box, box, (f"{kind}-{x}-{y}",))


@pytest.mark.parametrize(
    "boxes, kinds",
    [  # columns that are not in step go before rows; those in step are rows; lines lead on
        ([("words", 0, 0, 300, 200), ("box", 400, 0, 100, 300), ("words", 0, 320, 300, 300),
          ("words", 400, 360, 100, 100)], ["columns"]),
        ([("words", 0, 0, 100, 20), ("box", 200, 0, 100, 20), ("words", 0, 60, 100, 20),
          ("box", 200, 60, 100, 20)], ["columns", "columns"]),
        ([("words", 0, 0, 100, 20), ("box", 120, 19, 300, 1), ("words", 440, 0, 40, 20)], ["columns"]),
        ([("picture", 300, 0, 200, 200), ("box", 0, 20, 320, 160)], ["columns"]),
        ([("box", 0, 0, 100, 100), ("box", 50, 50, 100, 100)], ["pile"]),
    ],
)  # fmt: skip
def test_parts_are_put_in_order(boxes: list[tuple[Any, ...]], kinds: list[str]) -> None:
    cut = Arranging(1.0).cut([part(PartKind(kind), *box) for kind, *box in boxes])
    assert [one.kind.value for one in cut] == kinds
    assert sum(1 for one in cut for inner in one.walk() if inner.layers) == len(boxes)


def words(x: float, baseline: float, *said: str, size: float = 16, width: float = 100) -> Area:
    """A text as an area."""
    type_ = Type("Figtree", "sans-serif", size, 600 if size > 20 else 400, False, 0.0, "#000000")
    lines = tuple(SetLine(line, x, width) for line in said)
    setting = Setting(lines, type_, "left", baseline, 1.25 * size, len(said) > 1, 15, 4)
    return Area(Shape.WORDS, setting.box, PartKind.WORDS, (said[0],), setting=setting)


@pytest.mark.parametrize(
    "areas, count",
    [  # a title of two layers; a paragraph a line each; names under one another; other sizes
        ([words(0, 50, "Fernhollow", size=60), words(0, 115, "Apiary", size=60)], 1),
        ([words(0, 20, "A line that goes on", width=190), words(0, 44, "and on to an end", width=150)], 1),
        ([words(0, 20, "Clover", width=60), words(0, 44, "Heather honey", width=120)], 2),
        ([words(0, 50, "Fernhollow", size=60), words(0, 90, "Since 1924")], 2),
    ],
)  # fmt: skip
def test_lines_of_one_text_are_joined(areas: list[Area], count: int) -> None:
    assert len(joined(areas)) == count


def test_headings_and_turns() -> None:
    rows = [words(0, 200 * n + y, f"{name} {n}", size=size) for n in range(3)
            for name, y, size in (("Day", 20, 28.0), ("Six", 60, 16.0))]  # fmt: skip
    lists = [
        Area(
            Shape.LIST, Rect(0, 200 * n + 50, 100, 60), PartKind.ITEM, parts=(rows[2 * n + 1],) * 3
        )
        for n in range(3)
    ]
    stack = [one for n in range(3) for one in (rows[2 * n], lists[n])]
    page = Area(Shape.STACK, Rect(0, 0, 400, 600), PartKind.ROWS, parts=tuple(stack))
    turned = grouped(page)
    assert turned.shape is Shape.LIST
    assert [len(one.parts) for one in turned.parts] == [2, 2, 2]
    texts = Texts.of(page)
    assert texts.first is rows[0].setting
    assert not texts.may_head(words(0, 0, "£140", size=44).setting)  # type: ignore[arg-type]
    assert not texts.may_head(words(0, 0, "HK", size=44).setting)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    "widths, gap, spans",
    [
        ([280, 600], 40, [1, 2]),
        ([300, 300], 30, [1, 1]),
        ([200, 420, 200], 20, [1, 2, 1]),
        ([640, 300], 60, []),
        ([660, 300], 40, []),
        ([216, 696], 24, [1, 3]),
    ],
)
def test_columns_are_the_shares_that_are_meant(
    widths: list[float], gap: float, spans: list[int]
) -> None:
    assert shares(widths, gap) == spans


@pytest.mark.parametrize(
    "pixels, px, rem",
    [
        (24.0, "24px", "1.5rem"),
        (0.0, "0", "0"),
        (-1.0, "-1px", "-0.0625rem"),
        (10.25, "10.25px", "0.6406rem"),
    ],
)
def test_lengths(pixels: float, px: str, rem: str) -> None:
    assert (Lengths("px").say(pixels), Lengths("rem").say(pixels)) == (px, rem)
    assert snapped(pixels) in (pixels, round(2 * pixels) / 2)


@pytest.mark.parametrize("name", ["article", "sidebar", "dark", "form", "overlap", "pricing"])
def test_known_pages_come_back(riffler: Run, tmp_path: Path, browser: Browser, name: str) -> None:
    """A page, drawn as a mockup and roughed out, is the page that it was drawn of."""
    source, root = tmp_path / "known.html", draw(tmp_path / "site", "")
    source.write_text(page(name, FONTS.as_uri()), encoding="utf-8")
    tab = browser.new_page(viewport={"width": 1280, "height": 800})
    wanted, drawing = drawn(tab, source, is_unnamed=name == "dark")
    (root / "mockups/home.svg").write_text(drawing, encoding="utf-8")
    if has_narrow := name in ("article", "overlap"):
        source.write_text(page(name, FONTS.as_uri(), is_narrow=True), encoding="utf-8")
        narrow, drawing = drawn(tab, source)
        riffler("draft", "mockups/home.svg", cwd=root)
        (root / "mockups/home-narrow.svg").write_text(drawing, encoding="utf-8")
        riffler("draft", "mockups/home-narrow.svg", "--when", "(max-width: 600px)", cwd=root)
    built = roughed(riffler, root) / "index.html"
    found = compared(tab, wanted, built)
    for kind in ("lines", "pictures", "plates", "landmarks", "headings", "order"):
        right, of = found[kind]
        assert right == of, (kind, found["wrong"], found["missing"], found["heads"])
    if has_narrow:
        found = compared(tab, narrow, built)
        assert found["lines"] == (len(narrow["lines"]),) * 2, found["wrong"]
    for width in WIDTHS:
        tab.set_viewport_size({"width": width, "height": 800})
        assert tab.evaluate("document.documentElement.scrollWidth") <= width
    tab.close()


@pytest.mark.parametrize("count", [1, 2, 20, 40, 61])
def test_a_plain_sheet_of_like_cards_is_roughed_out(
    riffler: Run, tmp_path: Path, count: int
) -> None:
    """Of so many that some stand alone where rows end."""
    parts = [
        f'<g id="card{n}"><rect x="{x}" y="{y}" width="55" height="45" fill="#fff" stroke="#ccc"/>'
        f'<circle cx="{x + 20}" cy="{y + 20}" r="9"/>'
        f'<text x="{x + 5}" y="{y + 40}" font-size="9">C {n}</text></g>'
        for n in range(count)
        for x, y in [(n % 20 * 60, n // 20 * 50)]
    ]
    root = write_project(tmp_path / "p", {})
    (root / "mockups").mkdir(exist_ok=True)
    shutil.copytree(FONTS, root / "fonts")
    head = '<svg xmlns="http://www.w3.org/2000/svg" width="1200" height="3000">'
    (root / "mockups/c.svg").write_text(f"{head}{''.join(parts)}</svg>")
    for command in ("draft mockups/c.svg", "rough", "cut", "build"):
        riffler(*command.split(), cwd=root)
    text = (root / "out/index.html").read_text()
    assert all(re.search(rf"\bC {n}\b", text) for n in range(count))
