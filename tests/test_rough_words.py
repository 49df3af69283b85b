"""Roughing out as a person writes: looks said once, roles as names, sections, whole pixels."""

from __future__ import annotations

from dataclasses import replace

import pytest

from riffler.analyse.style import Border, Radii, Style
from riffler.geometry import Rect
from riffler.markup.area import Area, Shape
from riffler.markup.brevity import brief, by_side, gathered
from riffler.markup.classes import Classes
from riffler.markup.element import Element, Lengths, meant, snapped
from riffler.markup.evening import canvassed, even_gap
from riffler.markup.flow import Flow
from riffler.markup.places import Edges
from riffler.markup.role_names import name_by_role
from riffler.markup.sections import in_sections
from riffler.markup.stylesheet import rules_text
from riffler.markup.whole_pixels import on_pixels
from riffler.reading.layer_names import plural, singular
from riffler.reading.part import PartKind
from test_markup import area, picture, plain
from test_rough import words

TITLE = {"color": "#2e2138", "font-family": "Fraunces", "font-size": "36px", "line-height": "42px"}


def title(tag: str = "h2", **css: str) -> Element:
    named = {name.replace("_", "-"): value for name, value in css.items()}
    return Element(tag, words(0, 40, "Our honey", size=36), "title", css={**TITLE, **named})


def button(color: str = "#b8741a", **css: str) -> Element:
    element = Element("a", area(0, 0, 90, 40, words(9, 25, "Buy"), ground=plain(color)), "button")
    element.label = element.space.parts[0].setting
    element.css = {"background": color, "padding-top": "8px", "padding-bottom": "8px",
                   "width": "fit-content", **css}  # fmt: skip
    element.looks = {":hover": {"background": "#8a5410"}}
    return element


def assigned(*elements: Element) -> Classes:
    classes = Classes(is_single=False)
    body = Element("body", area(0, 0, 9, 9), "page", content=[*elements])
    classes.share([*body.walk()])
    classes.assign(body, "index")
    return classes


def test_a_look_is_said_once_and_each_says_its_place() -> None:
    titles = [title(), title(margin_top="40px"), title(color="#ffffff", margin_top="8px")]
    rules = assigned(*titles).rules
    assert rules[".section-title"].css == TITLE
    assert [element.classes[0] for element in titles] == ["section-title"] * 3
    own = [element.css for element in titles]
    assert own == [{}, {"margin-top": "40px"}, {"color": "#ffffff", "margin-top": "8px"}]
    assert next(iter(rules)) == ".section-title"  # what differs stands behind it, and wins
    assert titles[0].classes == ["section-title"]


def test_what_is_set_in_another_size_is_another_thing() -> None:
    small = title("h3", font_size="20px")
    rules = assigned(title(), title(), small).rules
    assert "section-title" not in small.classes
    assert rules[f".{small.classes[0]}"].css["font-size"] == "20px"


@pytest.mark.parametrize(
    "tags, name",
    [(("h1", "h1"), "page-title"), (("h2", "h2", "h3"), "section-title"), (("h4", "h3", "h3"), "small-title")],
)  # fmt: skip
def test_titles_are_called_by_how_deep_they_are(tags: tuple[str, ...], name: str) -> None:
    titles = [title(tag) for tag in tags]
    assigned(*titles)
    assert {element.classes[0] for element in titles} == {name}


def test_buttons_have_one_rule_with_its_states_and_keep_their_margins() -> None:
    buttons = [button(), button(**{"margin-top": "24px"}), button("#ffffff")]
    buttons[2].looks = {}
    classes = assigned(*buttons)
    rule = classes.rules[".button"]
    assert rule.looks == {":hover": {"background": "#8a5410"}}
    assert rule.css["padding"] == "8px 0"
    assert buttons[1].css == {"margin-top": "24px"}
    assert buttons[1].looks == {}
    assert "button" not in buttons[2].classes  # another look
    text = rules_text(list(classes.rules.values()), {})
    assert text.count(":hover") == 1


def test_what_narrow_windows_share_is_shared_where_nobody_says_otherwise() -> None:
    when = "(max-width: 600px)"
    titles = [title(), title(margin_top="40px")]
    for number, element in enumerate(titles):
        element.mockups = {when: {"font-size": "24px", "margin-top": f"{number}px"}}
    rule = assigned(*titles).rules[".section-title"]
    assert rule.mockups == {when: {"font-size": "24px"}}
    assert [element.mockups[when] for element in titles] == [
        {"margin-top": "0px"}, {"margin-top": "1px"},
    ]  # fmt: skip


def test_a_rule_belongs_to_its_page_or_to_all() -> None:
    classes = Classes(is_single=False)
    for page, color in (("", "#111111"), ("index", "#111111"), ("index", "#222222")):
        element = Element("p", words(0, 20, page), "text", css={"color": color})
        classes.assign(element, page)
    assert [(rule.is_shared, rule.pages) for rule in classes.rules.values()] == [
        (True, {"", "index"}), (False, {"index"}),
    ]  # fmt: skip


@pytest.mark.parametrize(
    "css, is_first, said",
    [
        ({"margin-top": "8px", "margin-left": "4px"}, True, {"margin": "8px 0 0 4px"}),
        ({"margin-top": "8px", "margin-left": "4px"}, False, {"margin-top": "8px", "margin-left": "4px"}),
        ({"margin-top": "8px"}, True, {"margin-top": "8px"}),
        ({"padding-top": "1px", "padding-right": "2px", "padding-bottom": "1px", "padding-left": "2px"},
         False, {"padding": "1px 2px"}),
        ({"padding-top": "1px", "padding-bottom": "1px"}, False, {"padding-block": "1px"}),
        ({"margin-block-start": "2px", "margin-left": "4px"}, True,
         {"margin-block-start": "2px", "margin-left": "4px"}),
    ],
)  # fmt: skip
def test_sides_are_said_together(
    css: dict[str, str], said: dict[str, str], *, is_first: bool
) -> None:
    assert brief(css, is_first=is_first) == said
    if "margin" not in said and "padding" not in said:
        assert by_side(said) == by_side(css)


def test_rules_that_say_the_same_are_one() -> None:
    rules = {".a": {"gap": "0"}, ".b": {"gap": "1px"}, ".c": {"gap": "0"}}
    assert gathered(rules) == {".a,\n.c": {"gap": "0"}, ".b": {"gap": "1px"}}


@pytest.mark.parametrize(
    "box, has_border, whole",
    [  # CSS pixels; a stroke drawn on the edge, halves of fine screens, anything else
        ((119.5, 9.5, 385, 41), True, (120, 10, 384, 40)),
        ((119.5, 9.5, 385, 41), False, (119, 9, 385, 41)),
        ((10.3, 10.6, 20.1, 20.2), False, (10, 11, 20, 20)),
        ((10, 10.2, 300, 0.3), False, (10, 10, 300, 1)),
    ],
)
def test_edges_lie_on_whole_pixels(
    box: tuple[float, ...], whole: tuple[float, ...], *, has_border: bool
) -> None:
    border = Border("#000000", 1.0) if has_border else None
    x, y, width, height = box
    placed = on_pixels(area(x, y, width, height, ground=plain("#ffffff", border=border))).box
    assert (placed.x, placed.y, placed.width, placed.height) == whole


@pytest.mark.parametrize(
    ("radius", "height", "whole"), [(16.5, 80, 16), (22.4, 45, 23), (8, 45, 8)]
)
def test_radii_are_whole_and_pills_stay_round(radius: float, height: float, whole: float) -> None:
    ground = plain("#ffffff", radii=Radii(*[radius] * 4))
    rounded = on_pixels(area(0, 0, 200, height, ground=ground)).ground
    assert isinstance(rounded, Style)
    assert rounded.radii == Radii(*[whole] * 4)


def test_words_keep_where_they_begin_and_plates_how_wide_their_label_makes_them() -> None:
    label = words(24.25, 25.4, "Buy", width=51.6)
    plate = area(0.25, 0, 99.6, 40, label, kind=PartKind.BUTTON, ground=plain("#b8741a"))
    placed = on_pixels(plate)
    setting = placed.parts[0].setting
    assert (placed.box.x, placed.box.width) == (0.25, 99.6)
    assert setting is not None
    assert (setting.lines[0].x, setting.baseline) == (24.25, 25)


@pytest.mark.parametrize(
    ("pixels", "whole", "said"),
    [(0.6, 1, 0), (1.0, 1, 0), (-1.0, -1, 0), (1.4, 1, 1), (-2.4, -2, -2)],
)
def test_a_pixel_is_how_a_drawing_is_measured(pixels: float, whole: float, said: float) -> None:
    assert (snapped(pixels), meant(pixels)) == (whole, said)


def column(x: float, width: float = 80) -> Area:
    texts = [words(x, 20 + 26 * n, f"Line {n}", width=width) for n in range(3)]
    return area(x, 0, width, 76, *texts)


@pytest.mark.parametrize(
    "lefts, right, gap, tracks",
    [  # all equal; two halves; a wider first one; unequal steps; no room for another
        ((0, 308, 616, 924), 1200, 32, "repeat(4, minmax(0, 1fr))"),
        ((0, 600), 1200, 0, "repeat(2, minmax(0, 1fr))"),
        ((0, 290, 560), 800, 30, "minmax(0, 260fr) repeat(2, minmax(0, 240fr))"),
        ((0, 300, 640, 924), 1200, None, None),
        ((0, 100), 1200, None, None),
    ],
)
def test_columns_that_fill_their_room_are_fractions(
    lefts: tuple[float, ...], right: float, gap: float | None, tracks: str | None
) -> None:
    areas = [column(left) for left in lefts]
    assert even_gap(areas, right) == gap
    if tracks is None:
        return
    row = Element("div", Area(Shape.ROW, Rect(0, 0, right, 76), parts=tuple(areas)), "line")
    row.content = [Element("nav", own, "links", content=[]) for own in areas]
    Flow(right, Lengths()).lay(row, Edges(0, right), 0)
    assert row.css["grid-template-columns"] == tracks
    assert row.css.get("column-gap") == (f"{gap}px" if gap else None)


@pytest.mark.parametrize(
    ("one", "several"), [("person", "people"), ("card", "cards"), ("story", "stories")]
)
def test_one_and_several(one: str, several: str) -> None:
    assert (plural(one), plural(several), singular(several)) == (several, several, one)


def listed(*members: tuple[Area, ...]) -> Element:
    """A list whose layers say nothing, of members with these things in them."""
    parts = [area(200 * n, 0, 180, 200, *own) for n, own in enumerate(members)]
    element = Element("ul", Area(Shape.LIST, Rect(0, 0, 800, 200), parts=tuple(parts)), "entries")
    element.content = [Element("li", own, "entry") for own in parts]
    return element


@pytest.mark.parametrize(
    "inner, name",
    [
        ((picture(0, 0, 160), words(0, 180, "Clover"), words(0, 198, "Light")), "cards"),
        ((picture(0, 0, 40), words(0, 60, "Clover"), words(0, 80, "Light")), "features"),
        ((picture(0, 0, 20), words(30, 20, "Clover")), "points"),
        ((words(0, 20, "1"), words(0, 50, "Light the smoker", size=22), words(0, 80, "Gently")), "steps"),
        ((words(0, 40, "1,924", size=44), words(0, 80, "hives since then")), "figures"),
        ((words(0, 20, "“It was the best honey.”"), words(0, 50, "A guest")), "quotes"),
        ((picture(0, 0, 300),), "photos"),
        ((picture(0, 0, 48),), "icons"),
        ((words(0, 20, "Monday"), words(90, 20, "closed")), "entries"),
    ],
)  # fmt: skip
def test_lists_are_called_by_what_their_members_have(inner: tuple[Area, ...], name: str) -> None:
    element = listed(inner, inner)
    name_by_role(Element("body", area(0, 0, 9, 9), content=[element]))
    assert element.name == name
    assert {member.name for member in element.inner} == {singular(name)}


def holder(tag: str, *inner: Element, name: str = "copy", **more: object) -> Element:
    return Element(tag, area(0, 0, 900, 300, **more), name, content=[*inner])


def simple(tag: str, name: str = "", **more: object) -> Element:
    return Element(tag, words(0, 20, "Fernhollow"), name or tag, **more)  # type: ignore[arg-type]


def test_sections_are_called_by_what_they_hold() -> None:
    cards = Element("ul", area(0, 0, 9, 9), "cards", content=[simple("li")])
    form = holder("form", simple("label"), name="box")
    held = {
        "hero": holder("section", simple("h1"), simple("p")),
        "cards-section": holder("section", simple("h2"), cards),
        "contact": holder("div", simple("p"), form, name="line"),
        "newsletter": holder("div", holder("form", simple("input")), name="line"),
        "story": holder("div", holder("aside", simple("p")), simple("p"), name="line"),
        "quote": holder("div", Element("p", words(0, 20, "“Honey!”"), "text"), name="box"),
        "call": holder("section", simple("h2"), simple("a", "button")),
        "figures-section": holder("div", Element("ul", area(0, 0, 9, 9), "figures"), name="box"),
        "ring": holder("div", simple("h2"), name="ring"),  # a layer says so
    }
    name_by_role(Element("body", area(0, 0, 9, 9), content=[*held.values()]))
    assert [element.name for element in held.values()] == list(held)
    assert form.name == "form"


def test_headings_begin_sections_that_end_where_the_next_or_a_band_begins() -> None:
    def at(y: float, element: Element, size: float = 16) -> Element:
        element.area = words(0, y, "Fernhollow", size=size)
        return element

    band = Element("div", area(0, 400, 1000, 80, ground=plain("#33231a")), "box")
    elements = [
        at(50, simple("h1"), 48), at(90, simple("p")),
        at(140, simple("p", "kicker")), at(180, simple("h2"), 32), at(220, simple("p")),
        holder("div", at(260, simple("h3"), 20)), band, at(500, simple("p")),
    ]  # fmt: skip
    made = [*in_sections(elements)]
    assert [element.tag for element in made] == ["section", "section", "div", "p"]
    assert [len(element.inner) for element in made[:2]] == [2, 4]
    assert made[2] is band
    alone = [at(50, simple("h1"), 48), at(90, simple("p"))]
    assert [*in_sections(alone)] == alone  # all of a page is no section of it


def test_a_sign_stands_in_the_middle_of_its_plate() -> None:
    sign = replace(picture(21, 22, 24), box=Rect(21, 22, 24, 24))
    plate = Element("div", area(0, 0, 64, 64, sign, ground=plain("#b8741a")), "disc")
    plate.content = [Element("img", sign, "icon")]
    assert Flow(400, Lengths()).lay(plate, Edges(0, 64), 0) == 64
    wanted = {"display": "grid", "place-items": "center", "width": "64px", "height": "64px"}
    assert {name: plate.css[name] for name in wanted} == wanted
    assert "padding" not in "".join(plate.css)


def test_icons_of_several_sizes_that_begin_rows_stand_on_one_canvas() -> None:
    def dish(y: float, wide: float, high: float, off: float = 0) -> Area:
        icon = picture(40 - wide / 2 + off, y + 20 - high / 2, wide)
        assert icon.piece is not None
        paint = Rect(icon.box.x, icon.box.y, wide, high)
        icon = replace(icon, box=paint, piece=replace(icon.piece, paint=paint))
        return area(20, y, 300, 40, icon, words(80, y + 25, "Smoked eel"), shape=Shape.ROW)

    dishes = (dish(0, 26, 12), dish(60, 30, 32), dish(120, 14, 40))
    menu = Area(Shape.LIST, Rect(20, 0, 300, 160), parts=dishes)
    icons = [part.parts[0] for part in canvassed(menu).parts]
    assert [(icon.box.x, icon.box.width, icon.box.height) for icon in icons] == [(25, 30, 40)] * 3
    assert [icon.box.y for icon in icons] == [0, 60, 120]
    assert all(icon.piece is not None and icon.piece.has_canvas for icon in icons)
    alike = replace(menu, parts=(dish(0, 26, 12), dish(60, 26, 12)))
    assert canvassed(alike) is alike
    apart = replace(menu, parts=(dish(0, 26, 12), dish(60, 14, 40, off=9)))
    assert canvassed(apart) is apart  # no one canvas has both
