"""The pages themselves: a dozen of one made-up place, each from sections in another order."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from random import Random

from benchmarks.pages import art, sections
from benchmarks.pages.things import Look, Shadow, Text, Thing, box, group, words
from riffler.geometry import Rect


@dataclass(frozen=True)
class Page:
    """A page: its size in CSS pixels, what lies on it from the bottom up, the columns it was set in.

    `columns` and `gutter` are None where no grid was used.
    """

    name: str
    width: int
    height: int
    things: list[Thing]
    left: float
    right: float
    columns: int | None = None
    gutter: float | None = None


def _ground(width: int, height: int, color: str = sections.PAPER) -> Thing:
    return box("ground", Rect(0, 0, width, height), Look(color))


def _title(x: float, y: float, text: str) -> Thing:
    return words("heading", x, y, Text((text,), 34, sections.INK, "Fraunces", 600))


def shop(chance: Random) -> Page:
    """Cards in four columns, lines around them, a button on each."""
    cards = sections.cards(80, 200, 1120, 4, 24, chance, real=False, style="line", call=True)
    more = sections.cards(80, 560, 1120, 4, 24, chance, real=True, style="soft", call=False)
    things = [
        _ground(1280, 1120), sections.head(1280, 80, chance), _title(80, 124, "From our hives"),
        cards, more, sections.foot(1280, 940, 80, chance),
    ]  # fmt: skip
    return Page("shop", 1280, 1120, things, 80, 1200, 4, 24)


def visit(chance: Random) -> Page:
    """A photograph behind the head, three features, a form."""
    things = [
        _ground(1200, 1240), sections.hero(1200, 84, 420, 60, chance, real=True),
        sections.head(1200, 60, chance), _title(60, 550, "What you will see"),
        sections.features(60, 620, 1080, 3, chance), sections.form(60, 830, 460),
        sections.foot(1200, 1060, 60, chance),
    ]  # fmt: skip
    return Page("visit", 1200, 1240, things, 60, 1140)


def prices(chance: Random) -> Page:
    """A long list with a sign, a price and a button in each row."""
    things = [
        _ground(1000, 1640), sections.head(1000, 40, chance, call=False),
        _title(40, 124, "What is in stock"),
        sections.rows(40, 200, 920, 22, chance, sign="jar", call=True, lines=True),
        sections.foot(1000, 1460, 40, chance),
    ]  # fmt: skip
    return Page("prices", 1000, 1640, things, 40, 960)


def pictures(chance: Random) -> Page:
    """A mosaic of photographs, edge to edge, and pages to turn to."""
    things = [
        _ground(1200, 1180, "#ffffff"), sections.head(1200, 60, chance, call=False),
        sections.gallery(60, 130, 4, 3, (270, 220), 0, chance), sections.numbers(456, 840, 6),
        sections.foot(1200, 1000, 60, chance),
    ]  # fmt: skip
    return Page("pictures", 1200, 1180, things, 60, 1140)


def album(chance: Random) -> Page:
    """Photographs with gaps between them and round corners, a caption under each."""
    made = group("album", Rect(70, 210, 1060, 560))
    for n in range(6):
        x, y = 70 + n % 3 * 360, 210 + n // 3 * 290
        place = Rect(x, y, 340, 220)
        one = group(f"picture-{n + 1}", Rect(x, y, 340, 256), rep="picture")
        one.add(art.photo(f"view-{n + 1}", place, chance, clip=14))
        one.add(words("caption", x, y + 232, Text((sections.NOUNS[n],), 15, sections.BARK)))
        made.add(one)
    things = [
        _ground(1200, 1020), sections.head(1200, 70, chance), _title(70, 124, "A year in pictures"),
        made, sections.foot(1200, 840, 70, chance),
    ]  # fmt: skip
    return Page("album", 1200, 1020, things, 70, 1130, 3, 20)


def notes(chance: Random) -> Page:
    """On a woven ground: a sheet with tabs and short notices beside a list without signs."""
    sheet = box(
        "sheet", Rect(90, 120, 1020, 720), Look("#fffdf8", shadow=Shadow(0, 2, 20, "#000000", 0.3))
    )
    page = group("paper", Rect(90, 120, 1020, 720), sheet)
    page.add(sections.tabs(90, 120, 150, 5, chance), _title(130, 210, "Notes from the hives"))
    for n in range(3):
        top = 290 + n * 150
        card = group(f"note-{n + 1}", Rect(130, top, 580, 130), role="card", rep="note")
        look = Look("#ffffff", radius=(6,) * 4, border=(1.0, "#dccfb4"))
        card.add(box("bg", Rect(130, top, 580, 130), look))
        card.add(art.scene("view", Rect(146, top + 16, 130, 98), chance))
        card.add(
            words(
                "title",
                296,
                top + 18,
                Text((sections.NOUNS[n],), 20, sections.INK, "Fraunces", 600),
            )
        )
        card.add(words("about", 296, top + 56, Text(sections.LINES[n : n + 2], 14, sections.INK)))
        page.add(card)
    page.add(sections.rows(750, 290, 330, 6, chance, sign="", call=False, lines=True))
    things = [
        art.weave("cloth", Rect(0, 0, 1200, 1060), 16, ("#d9c79c", "#cdb988")),
        art.strip("edging", Rect(0, 0, 1200, 18), 24, (sections.INK, sections.HONEY)),
        sections.logo(90, 46, sections.INK, chance), page, sections.foot(1200, 880, 90, chance),
    ]  # fmt: skip
    return Page("notes", 1200, 1060, things, 90, 1110)


def year(chance: Random) -> Page:
    """Bars of a chart, large numbers, signs in a row."""
    chart = group("chart", Rect(60, 210, 720, 300))
    chart.add(box("back", Rect(60, 210, 720, 300), Look("#ffffff", radius=(10,) * 4)))
    for n in range(12):
        high = chance.randrange(40, 220)
        x = 96 + n * 54
        bar = group(f"month-{n + 1}", Rect(x, 470 - high, 32, high + 24), rep="month")
        look = Look(sections.HONEY, ((0.0, "#f0c060"), (1.0, "#c07818")), radius=(4, 4, 0, 0))
        bar.add(box("bar", Rect(x, 470 - high, 32, high), look))
        name = "JFMAMJJASOND"[n]
        bar.add(words("name", x + 16, 478, Text((name,), 13, sections.BARK, anchor="middle")))
        chart.add(bar)
    kinds = chance.sample(sorted(art.ICONS), 6)
    things = [
        _ground(1240, 980), sections.head(1240, 60, chance), _title(60, 124, "The year in jars"),
        chart, sections.facts(800, 230, 390), sections.icons(60, 580, 64, 130, kinds, sections.BARK),
        sections.rows(840, 380, 340, 4, chance, sign="drop", call=False, lines=False),
        sections.foot(1240, 800, 60, chance),
    ]  # fmt: skip
    return Page("year", 1240, 980, things, 60, 1180)


def people(chance: Random) -> Page:
    """Round portraits, what people said, tags that are nothing to click."""
    made = group("people", Rect(100, 210, 1000, 240))
    for n, name in enumerate(("Ada", "Jon", "Mira")):
        x = 100 + n * 340
        card = group(f"person-{n + 1}", Rect(x, 210, 320, 230), role="card", rep="person")
        look = Look("#ffffff", radius=(16,) * 4, shadow=Shadow(0, 3, 12, "#3a2a1c", 0.2))
        card.add(box("bg", Rect(x, 210, 320, 230), look))
        card.add(art.photo("portrait", Rect(x + 20, 230, 64, 64), chance, clip=32))
        card.add(words("name", x + 100, 236, Text((name,), 22, sections.INK, "Fraunces", 600)))
        card.add(words("trade", x + 100, 268, Text(("keeps bees",), 14, sections.BARK)))
        said = (sections.LINES[n], sections.LINES[n + 1][:30])
        card.add(words("said", x + 20, 320, Text(said, 15, sections.INK)))
        tag = Rect(x + 20, 392, 84, 26)
        card.add(box("tag", tag, Look(sections.WAX, radius=(13,) * 4)))
        card.add(words("about", x + 62, 396, Text(("Meadow",), 12, sections.BARK, anchor="middle")))
        made.add(card)
    things = [
        _ground(1200, 900, "#f3ead8"), sections.head(1200, 100, chance), _title(100, 124, "Who we are"),
        made, sections.features(100, 500, 1000, 4, chance), sections.foot(1200, 720, 100, chance),
    ]  # fmt: skip
    return Page("people", 1200, 900, things, 100, 1100, 3, 20)


def evening(chance: Random) -> Page:
    """Dark cards with leaning gradients under a drawn hero."""
    cards = sections.cards(64, 660, 1152, 3, 32, chance, real=False, style="dark", call=False)
    things = [
        _ground(1280, 1180, "#1f1712"), sections.head(1280, 64, chance),
        sections.hero(1280, 84, 500, 64, chance, real=False), cards,
        sections.foot(1280, 1000, 64, chance),
    ]  # fmt: skip
    return Page("evening", 1280, 1180, things, 64, 1216, 3, 32)


def map_(chance: Random) -> Page:
    """Two columns: a narrow list with signs, a wide drawing with pins on it."""
    drawn = group("map", Rect(420, 130, 780, 560))
    drawn.add(art.scene("land", Rect(420, 130, 780, 560), chance))
    for n in range(5):
        x, y = 460 + chance.randrange(680), 160 + chance.randrange(440)
        drawn.add(art.icon(f"pin-{n + 1}", "pin", x, y, 36, "#a02c1c", "#ffffff"))
    aside = group("aside", Rect(60, 130, 330, 560))
    aside.add(
        box(
            "bg", Rect(60, 130, 330, 560), Look("#ffffff", radius=(8,) * 4, border=(1.0, "#d8c7a2"))
        )
    )
    aside.add(words("heading", 84, 154, Text(("On the way",), 22, sections.INK, "Fraunces", 600)))
    aside.add(sections.rows(84, 200, 282, 7, chance, sign="pin", call=False, lines=True))
    aside.add(
        sections.button(
            "print",
            Rect(84, 626, 150, 44),
            "Print it",
            "none",
            sections.BARK,
            22,
            hover="#f2c260",
            border=(2.0, sections.BARK),
        )
    )
    things = [
        _ground(1260, 920), sections.head(1260, 60, chance, call=False), aside, drawn,
        sections.foot(1260, 740, 60, chance),
    ]  # fmt: skip
    return Page("map", 1260, 920, things, 60, 1200)


def start(chance: Random) -> Page:
    """A drawn hero, cards whose pictures go to the edge, two edgings down the sides."""
    things = [
        _ground(1280, 1240), sections.hero(1280, 84, 460, 100, chance, real=False),
        sections.head(1280, 100, chance),
        art.strip("left", Rect(0, 544, 20, 516), 28, (sections.WAX, sections.HONEY)),
        sections.cards(100, 620, 1080, 3, 30, chance, real=True, style="edge", call=True),
        sections.foot(1280, 1060, 100, chance),
    ]  # fmt: skip
    return Page("start", 1280, 1240, things, 100, 1180, 3, 30)


def stock(chance: Random) -> Page:
    """Two lists side by side, of rows without lines between, and tabs over them."""
    things = [
        _ground(1160, 1020, "#ffffff"), sections.head(1160, 50, chance),
        sections.tabs(50, 120, 170, 4, chance),
        sections.rows(50, 200, 500, 9, chance, sign="leaf", call=False, lines=False),
        sections.rows(610, 200, 500, 9, chance, sign="", call=True, lines=True),
        sections.foot(1160, 840, 50, chance),
    ]  # fmt: skip
    return Page("stock", 1160, 1020, things, 50, 1110)


PAGES: list[Callable[[Random], Page]] = [
    shop, visit, prices, pictures, album, notes, year, people, evening, map_, start, stock,
]  # fmt: skip
