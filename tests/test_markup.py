"""Parts of roughing out by themselves: names, fields, likeness, rules, placing, and what build adds."""

from __future__ import annotations

import re
from pathlib import Path

import pytest

from conftest import Run
from making import write_project
from riffler.analyse.style import Border, Radii, Stop, Style
from riffler.geometry import Rect
from riffler.markup.area import Area, Piece, Shape
from riffler.markup.class_names import name_of
from riffler.markup.classes import Classes
from riffler.markup.element import Element, Lengths
from riffler.markup.elements import Elements
from riffler.markup.extents import are_columns, hugs
from riffler.markup.fields import free, identifier, singular, variable
from riffler.markup.flow import Flow
from riffler.markup.forms import is_field
from riffler.markup.headings import Texts
from riffler.markup.likeness import aligned, difference, look_name, usual_css
from riffler.markup.loops import data_text, name_data, put_loops
from riffler.markup.places import Edges, Places
from riffler.markup.setting import widest
from riffler.markup.template import lines
from riffler.markup.zones import Zones
from riffler.reading.part import PartKind
from test_rough import words


def plain(color: str, **more: object) -> Style:
    """A box of one colour."""
    return Style((Stop(0.0, color),), **more)  # type: ignore[arg-type]


def area(x: float, y: float, width: float, height: float, *parts: Area, **more: object) -> Area:
    """An area with things in it."""
    shape = more.pop("shape", Shape.STACK if parts else Shape.BOX)
    return Area(shape, Rect(x, y, width, height), parts=parts, **more)  # type: ignore[arg-type]


def picture(x: float, y: float, side: float, name: str = "bee", alt: str | None = "A bee") -> Area:
    """A picture that a slice shows."""
    piece = Piece(name, Rect(x, y, side, side), alt)
    return Area(Shape.PICTURE, piece.paint, PartKind.ICON, (f"icons/{name}",), piece=piece)


@pytest.mark.parametrize(
    "given, as_one, as_field, as_variable",
    [
        ("cards", "card", "cards", "card"),
        ("menu", "entry", "menu", "entry"),
        ("links", "entry", "links", "entry"),
        ("items", "item", "items_one", "item"),
        ("page", "page", "page", "page_one"),
        ("gift-boxes", "gift-box", "gift_boxes", "gift_box"),
        ("", "", "one", "one"),
    ],
)
def test_names_in_templates(given: str, as_one: str, as_field: str, as_variable: str) -> None:
    assert (singular(given), identifier(given), variable(given)) == (as_one, as_field, as_variable)


def test_names_that_are_taken_are_numbered() -> None:
    assert free("card", set()) == "card"
    assert free("card", {"card", "card-2"}) == "card-3"
    assert free("text", {"text"}, "_") == "text_2"


def test_what_most_have_and_what_is_different() -> None:
    every = [{"color": "#111111", "gap": "8px"}, {"color": "#111111"}, {"color": "#222222"}]
    assert usual_css(every) == {"color": "#111111"}
    usual: dict[str, str | None] = {
        "background": "#fffaf0",
        "color": None,
        "border": "1px solid #dccfb4",
    }
    gold: dict[str, str | None] = {"background": "#e8ad3c", "color": None, "border": None}
    assert difference(gold, usual) == {"background": "#e8ad3c", "border-color": "transparent"}
    framed = {"background": None, "border": "2px solid #332319"}
    assert difference(framed, {"background": None, "border": None}) == {
        "box-shadow": "inset 0 0 0 2px #332319"
    }
    assert look_name(gold, usual, set()) == "amber"
    assert look_name(gold, usual, {"amber"}) == "amber-2"


def test_members_are_aligned_by_what_they_are() -> None:
    def one(tag: str, name: str, size: float = 16) -> Element:
        return Element(tag, words(0, 20, name, size=size), name)

    full = [one("h3", "title", 20), one("p", "text"), one("p", "note", 13)]
    lacking = [one("h3", "title", 20), one("p", "note", 13)]
    assert [found and found.name for found in aligned(full, lacking)] == ["title", None, "note"]
    assert aligned(full, full) == full


@pytest.mark.parametrize(
    "rows, text",
    [
        (({"title": 'A "b"', "count": 2, "has_note": False},), '[[list]]\ntitle = "A \\"b\\""\ncount = 2\nhas_note = false\n'),
        (({"day": "Fr", "rows": [{"time": "6"}, {"time": "7"}]},),
         '[[list]]\nday = "Fr"\n[[list.rows]]\ntime = "6"\n[[list.rows]]\ntime = "7"\n'),
    ],
)  # fmt: skip
def test_rows_are_written_as_toml(rows: tuple[dict[str, object], ...], text: str) -> None:
    import tomllib

    from riffler.markup.element import Loop

    loop = Loop("cards", "card", rows)
    assert data_text(loop) == text
    assert tomllib.loads(data_text(loop))["list"] == list(rows)


def card(number: int, x: float, color: str, note: str = "") -> Element:
    """A member of a list: a title, a line, perhaps a note."""
    made = Element("li", area(x, 0, 100, 100, words(x, 20, f"T{number}", size=20)), "card")
    made.css = {"background": color, "padding": "10px"}
    made.content = [Element("h3", words(x, 20, f"T{number}", size=20), "title", content=[f"T{number}"]),
                    Element("p", words(x, 50, "Same"), "text", content=["Same"])]  # fmt: skip
    if note:
        made.content.append(Element("p", words(x, 80, note, size=13), "note", content=[note]))
    return made


def test_a_list_becomes_a_loop_with_what_differs_as_data() -> None:
    members = [
        card(1, 0, "#fffaf0"),
        card(2, 120, "#e8ad3c", "New"),
        card(3, 240, "#fffaf0", "Old"),
    ]
    menu = Element("ul", area(0, 0, 340, 100, shape=Shape.LIST), "cards", content=[*members])
    body = Element("body", area(0, 0, 340, 100), "page", content=[menu])
    taken: set[str] = set()
    put_loops(body)
    name_data(body.walk(), taken)
    assert taken == {"cards"}
    assert menu.loop is not None
    assert menu.loop.rows == (
        {"card_look": "", "title": "T1", "note": ""},
        {"card_look": "amber", "title": "T2", "note": "New"},
        {"card_look": "", "title": "T3", "note": "Old"},
    )
    Classes(is_single=True).assign(body, "index")
    assert "\n".join(lines([menu])) == (
        "<ul>\n  {% for card in data.cards.list %}\n"
        '  <li class="card{% if card.card_look %} {{ card.card_look }}{% endif %}">\n'
        "    <h3>{{ card.title }}</h3>\n    <p>Same</p>\n    {% if card.note %}\n"
        "      <p>{{ card.note }}</p>\n    {% endif %}\n  </li>\n  {% endfor %}\n</ul>"
    )


def test_members_without_enough_in_common_are_written_out() -> None:
    figures = [Element("figure", words(0, 9, str(n)), "view", content=[str(n)]) for n in range(5)]
    odd = Element("li", area(0, 0, 9, 9), "x", content=[*figures])
    menu = Element("ul", area(0, 0, 9, 9, shape=Shape.LIST), "list")
    menu.content = [card(1, 0, "#fff000"), odd]
    put_loops(Element("body", area(0, 0, 9, 9), content=[menu]))
    assert menu.loop is None
    assert len(menu.inner) == 2


def test_lists_in_lists_are_loops_in_loops() -> None:
    def day(name: str, *times: str) -> Element:
        members = [
            Element(
                "li",
                None,
                "item",
                content=[Element("p", words(0, 20, time), "time", content=[time])],
            )
            for time in times
        ]
        inner = Element("ul", area(0, 0, 9, 9, shape=Shape.LIST), "rows", content=[*members])
        title = Element("h2", words(0, 20, name, size=24), "title", content=[name])
        return Element("li", area(0, 0, 9, 9), "day", content=[title, inner])

    days = Element("ul", area(0, 0, 9, 9, shape=Shape.LIST), "days")
    days.content = [day("Friday", "06:00", "07:30"), day("Sunday", "09:00", "10:00", "11:00")]
    put_loops(Element("body", area(0, 0, 9, 9), content=[days]))
    assert days.loop is not None
    assert days.loop.rows == (
        {"title": "Friday", "rows": [{"time": "06:00"}, {"time": "07:30"}]},
        {"title": "Sunday", "rows": [{"time": "09:00"}, {"time": "10:00"}, {"time": "11:00"}]},
    )
    text = "\n".join(lines([days]))
    assert "{% for day in data.days.list %}" in text
    assert "{% for row in day.rows %}" in text
    assert "<li><p>{{ row.time }}</p></li>" in text


def test_the_current_tab_is_a_state_and_no_look() -> None:
    def tab(name: str, color: str) -> Element:
        anchor = Element("a", words(0, 20, name), "tab", {"href": "#"}, [name])
        anchor.css = {"background": color}
        return Element("li", None, "item", content=[anchor])

    menu = Element("ul", area(0, 0, 9, 9, shape=Shape.LIST), "menu")
    menu.content = [tab("Home", "#f0a848"), tab("Hives", "#2e2138"), tab("Visit", "#2e2138")]
    put_loops(Element("body", area(0, 0, 9, 9), content=[menu]))
    (item,) = menu.inner
    anchor = item.inner[0]
    assert anchor.css["background"] == "#2e2138"
    assert anchor.looks == {'[aria-current="page"]': {"background": "#f0a848"}}
    assert menu.loop is not None
    assert menu.loop.rows[0] == {"label": "Home"}


def test_classes_are_one_where_looks_are_one() -> None:
    classes = Classes(is_single=True)
    body = Element("body", area(0, 0, 9, 9), "page")
    texts = [Element("p", words(0, 20, str(n)), "text", css={"color": color})
             for n, color in enumerate(("#111111", "#111111", "#222222"))]  # fmt: skip
    box = Element("div", area(0, 0, 9, 9), "intro", content=[*texts])
    main = Element("main", area(0, 0, 9, 9), "main", content=[box], css={"gap": "8px"})
    body.content = [main]
    classes.assign(body, "index")
    assert [one.classes for one in texts] == [["intro-text"], ["intro-text"], ["text"]]
    assert list(classes.rules) == ["main", ".intro-text", ".text"]
    several = Classes(is_single=False)
    again = Element("main", area(0, 0, 9, 9), "main", css={"gap": "8px"})
    several.assign(again, "index")
    assert again.classes == ["main"]


@pytest.mark.parametrize(
    "box, edges, css",
    [  # in the middle; at the left; filling; over the whole page, as wide as its content
        ((100, 0, 200, 10), (0, 400), {"width": "min(200px, 100% - 32px)", "margin-inline": "auto"}),
        ((20, 0, 200, 10), (0, 400), {"margin-left": "20px", "max-width": "200px"}),
        ((0, 0, 400, 10), (0, 400), {}),
        ((100, 0, 800, 10), (0, 1000), {"margin-inline": "max(16px, 50% - 400px)"}),
    ],
)  # fmt: skip
def test_places_across(box: tuple[int, ...], edges: tuple[int, int], css: dict[str, str]) -> None:
    inner = words(box[0], 5, "a", "b")
    own = area(box[0], box[1], box[2], box[3], inner, inner, ground=plain("#ffffff"))
    element = Element("div", own)
    Places(1000, Lengths()).across(element, own, Edges(*edges))
    assert element.css == css


@pytest.mark.parametrize(
    "needed, too_wide, width", [(100, 200, 120), (100, 110, 105), (100.0, 101.5, 100.8)]
)
def test_a_text_is_held_between_two_widths(needed: float, too_wide: float, width: float) -> None:
    assert widest(needed, too_wide) == width
    assert needed < width < too_wide


def test_labels_fields_and_columns_are_told() -> None:
    label = area(
        0,
        0,
        120,
        40,
        words(30, 25, "Send", width=60),
        ground=plain("#b8741a"),
        kind=PartKind.BUTTON,
    )
    assert hugs(label)
    assert not is_field(label)
    rim = plain("#ffffff", border=Border("#cdbb93", 1), radii=Radii(6, 6, 6, 6))
    field = area(0, 0, 300, 44, words(15, 26, "Your name", width=90), ground=rim)
    assert is_field(field)
    assert not is_field(area(0, 0, 300, 44, words(105, 26, "Your name", width=90), ground=rim))
    column = area(0, 0, 300, 200, words(0, 20, "a"), words(0, 60, "b"))
    aside = area(340, 0, 200, 200, words(340, 20, "a"), words(340, 60, "b"))
    assert are_columns([column, aside])
    assert not are_columns([words(0, 20, "a"), words(200, 20, "b")])


def test_names_come_from_layers_or_from_what_things_are() -> None:
    assert name_of(area(0, 0, 9, 9, layers=("sheet/hours/bg",), kind=PartKind.BOX)) == "hours"
    assert name_of(area(0, 0, 9, 9, layers=("Layer 7",), kind=PartKind.BOX)) == "box"
    assert name_of(picture(0, 0, 9)) == "bee"
    rows = tuple(area(0, n, 9, 9, words(0, n, "a"), layers=(f"list/row-{n}",)) for n in range(3))
    assert name_of(area(0, 0, 9, 30, *rows, shape=Shape.LIST)) == "boxes"


def laid(root: Area, width: float = 1000) -> Element:
    """The elements of a page, laid out."""
    texts = Texts.of(root)
    body = Elements(Zones.find(root, texts), lambda link: link).page(root)
    Flow(width, Lengths()).page(body)
    return body


@pytest.mark.parametrize(("small", "size"), [("a" * 30, 16.0), ("a" * 70, 16.0), ("a" * 90, 12.0)])
def test_a_body_stays_set_as_it_was(small: str, size: float) -> None:
    """It does while half as many letters are."""
    texts = words(0, 30, "b" * 40), words(0, 60, small, size=12.0)
    page = area(0, 0, 1000, 400, *texts)
    was = Texts.of(area(0, 0, 1000, 400, words(0, 30, "b" * 40))).body
    assert was[1] == 16.0
    assert Texts.of(page, was).size == size
    assert Texts.of(page).size == (12.0 if len(small) > 40 else 16.0)


def test_what_is_rounded_above_is_made_good_below() -> None:
    """Bottoms of lines are 24.4 px high each: margins add up to where the last one begins."""
    texts = [words(0, 30 + 40.4 * n, f"Line {n}") for n in range(8)]
    body = laid(area(0, 0, 1000, 400, *texts, shape=Shape.STACK, kind=PartKind.ROWS))
    inner = [one for one in body.walk() if one.tag in ("p", "footer")]
    y = float(re.sub("px", "", body.css.get("padding-top", "0")))
    for element, text in zip(inner, texts, strict=True):
        y += float(re.sub("px", "", element.css.get("margin-top", "0")))
        assert abs(y - text.box.y) <= 0.5
        y += 20
    assert len(inner) == 8


@pytest.mark.parametrize(("room", "is_padded"), [(40, True), (64, True), (66, False), (120, False)])
def test_much_room_below_is_a_height_and_little_is_padding(room: int, is_padded: bool) -> None:
    texts = [words(60, 130, "A title"), words(60, 170, "A line")]
    bottom = texts[-1].box.y + 20  # a line is 20 px high
    card = area(
        40, 100, 400, bottom + room - 100, *texts, ground=plain("#ffffff"), kind=PartKind.CARD
    )
    other = words(40, bottom + room + 60, "Below it")
    body = laid(area(0, 0, 1000, bottom + room + 120, card, other, kind=PartKind.ROWS))
    (element,) = [one for one in body.walk() if one.area is not None and one.area.ground]
    assert ("min-height" not in element.css) is is_padded


def test_landmarks_of_a_page_of_columns() -> None:
    links = tuple(
        area(
            16,
            80 + 50 * n,
            180,
            40,
            words(60, 105 + 50 * n, f"Part {chr(65 + n)}"),
            kind=PartKind.ITEM,
        )
        for n in range(4)
    )
    menu = Area(Shape.LIST, Rect(16, 80, 180, 190), PartKind.ITEM, parts=links)
    side = area(0, 0, 220, 800, words(24, 40, "Fernhollow", size=22), menu, ground=plain("#33231a"))
    rest = area(260, 0, 700, 800, words(260, 60, "Good morning", size=34),
                words(260, 120, "Six hives are awake, two are not."))  # fmt: skip
    root = area(0, 0, 1000, 800, side, rest, shape=Shape.ROW)
    tags = [one.tag for one in laid(root).walk()]
    assert [tag for tag in tags if tag in ("aside", "nav", "ul", "main", "h1", "h2")] == [
        "aside", "nav", "ul", "main", "h1",
    ]  # fmt: skip


HEAD = "<html><head>{{ head() }}</head><body>{% block b %}{% endblock %}</body></html>"


def test_build_says_where_a_page_lives_and_copies_scripts(riffler: Run, tmp_path: Path) -> None:
    files = {
        "riffler.toml": '[site]\naddress = "https://fernhollow.example/"\ndescription = "Honey & hives"\n',
        "pages/_shell.html": HEAD,
        "pages/index.html": '{% extends "_shell.html" %}',
        "pages/visit.html": HEAD.replace("head()", 'head(description="How to find us")'),
    }
    root = write_project(tmp_path / "p", files)
    (root / "scripts").mkdir()
    (root / "scripts/menu.js").write_text("let open = false;\n")
    riffler("build", cwd=root)
    index, visit = ((root / f"out/{name}.html").read_text() for name in ("index", "visit"))
    assert '<meta name="description" content="Honey &amp; hives">' in index
    assert '<link rel="canonical" href="https://fernhollow.example/">' in index
    assert 'content="How to find us"' in visit
    assert 'href="https://fernhollow.example/visit.html"' in visit
    assert (root / "out/scripts/menu.js").read_text() == "let open = false;\n"
    (root / "scripts/menu.js").unlink()
    riffler("build", cwd=root)
    assert not (root / "out/scripts/menu.js").exists()


@pytest.mark.parametrize(
    "name, text, said",
    [
        ("data/cards.toml", "[[list]\n", "data/cards.toml, line 1"),
        ("data/cards.toml", "[[list]]\ntitle = 1\n", None),
        ("pages/index.html", '{{ link("index#gone") }}<i id="here"></i>', 'called "#gone"'),
        ("pages/index.html", '{{ link("index#here") }}<i id="here"></i>', None),
        ("pages/index.html", "{{ data.cards.list }}", "line 1"),
        ("pages/index.html", "{{ site.language }}", None),
    ],
)  # fmt: skip
def test_mistakes_in_data_and_anchors(
    riffler: Run, tmp_path: Path, name: str, text: str, said: str | None
) -> None:
    root = write_project(tmp_path / "p", {"riffler.toml": "", "pages/index.html": "{{ data.cards.list }}"
                                          if name.startswith("data") else text})  # fmt: skip
    (root / "data").mkdir()
    (root / name).write_text(text)
    done = riffler("build", cwd=root, code=2 if said else 0)
    assert (said or "") in done.stderr
