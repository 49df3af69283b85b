"""Parts of generated pages: heads, tabs, cards, lists, galleries, feet."""

from __future__ import annotations

from random import Random

from benchmarks.pages.art import ICONS, icon, photo, scene
from benchmarks.pages.things import Look, Shadow, Text, Thing, box, group, words
from riffler.geometry import Rect

INK, PAPER, HONEY, WAX, BARK = "#3a2a1c", "#fbf6ec", "#e0a030", "#f3e2b8", "#7a4a20"

NOUNS = (
    "Clover honey", "Lime blossom", "Heather", "Comb in a box", "Candles", "Winter feed",
    "Queen cells", "Smoker fuel", "Straw skep", "Bee bread", "Wax sheets", "Hive tool",
)  # fmt: skip
LINES = (
    "Picked before the rain came in June.", "Soft, pale and slow to set in jars.",
    "From the lower meadow by the brook.", "Bring your own jar and a lid for it.",
    "We open the hives on dry days only.", "Ask at the gate for the long walk.",
)  # fmt: skip


def button(
    name: str, rect: Rect, label: str, fill: str, ink: str, radius: float, *,
    hover: str = "", border: tuple[float, str] | None = None, sign: str = "",
) -> Thing:  # fmt: skip
    """A plate with a label or a sign on it, and what it looks like under the pointer, hidden."""
    plate = box("plate", rect, Look(fill, radius=(radius,) * 4, border=border))
    made = group(name, rect, plate, role="button")
    if hover:
        over = Look(hover, radius=(radius,) * 4, border=border)
        made.add(box("hover", rect, over, state="hover", hidden=True))
    if sign:
        side = round(rect.height * 0.45)
        x, y = rect.x + (rect.width - side) // 2, rect.y + (rect.height - side) // 2
        if label:
            x = rect.x + 14
        made.add(icon("sign", sign, x, y, side, ink, fill))
    if label:
        size = 15
        middle = rect.x + rect.width / 2 + (12 if sign else 0)
        text = Text((label,), size, ink, weight=600, anchor="middle")
        made.add(words("label", middle, rect.y + (rect.height - size) / 2 - 2, text))
    return made


def logo(x: float, y: float, ink: str, chance: Random) -> Thing:
    """A mark with the name beside it."""
    mark = icon("mark", chance.choice(["bee", "comb", "hive"]), x, y, 44, ink, HONEY)
    name = words("name", x + 58, y + 6, Text(("Fernhollow",), 26, ink, "Fraunces", 600))
    return group("logo", Rect(x, y, 230, 44), mark, name, role="logo")


def nav(right: float, y: float, ink: str) -> Thing:
    """Words in a row, set from the right."""
    labels = ["Honey", "Hives", "Visit", "Notes"]
    made = group("nav", Rect(right - 360, y, 360, 24), role="nav")
    for n, label in enumerate(labels):
        made.add(words(label.lower(), right - 340 + 92 * n, y, Text((label,), 16, ink, weight=600)))
    return made


def head(width: float, left: float, chance: Random, *, call: bool = True) -> Thing:
    """A bar with logo, words and, where asked for, a button."""
    dark = chance.random() < 0.5
    fill, ink = (INK, PAPER) if dark else (PAPER, INK)
    line = None if dark else (1.0, "#d8c7a2")
    bar = box("bar", Rect(0, 0, width, 84), Look(fill))
    made = group("header", Rect(0, 0, width, 84), bar, role="header")
    if line:
        made.add(box("line", Rect(0, 83, width, 1), Look(line[1])))
    made.add(logo(left, 20, ink, chance))
    end = width - left - (150 if call else 0)
    made.add(nav(end - 10, 30, ink))
    if call:
        plate = Rect(width - left - 132, 22, 132, 40)
        made.add(button("book", plate, "Book a visit", HONEY, INK, 20, hover="#efb850"))
    return made


def hero(
    width: float, y: float, height: float, left: float, chance: Random, *, real: bool
) -> Thing:
    """The artwork side to side, with a shade, words and a button on it."""
    place = Rect(0, y, width, height)
    art = photo("meadow", place, chance) if real else scene("meadow", place, chance)
    made = group("hero", place, art, role="hero")
    title = Text(("A walk among", "the summer hives"), 52, "#ffffff", "Fraunces", 600, step=1.15)
    panel = Rect(left, y + height - 230, 470, 190)
    made.add(box("panel", panel, Look("#2c1f14", radius=(12, 12, 12, 12))))
    made.add(words("title", left + 28, y + height - 206, title))
    made.add(
        button(
            "go", Rect(left + 28, y + height - 84, 168, 44), "Find us", HONEY, INK, 8, hover="#fff"
        )
    )
    return made


def tabs(x: float, y: float, width: int, count: int, chance: Random) -> Thing:
    """Plates in a row, the first of them the current one; states hidden."""
    made = group("tabs", Rect(x, y, width * count, 44), role="nav")
    radius = chance.choice([0.0, 8.0])
    corners = (radius, radius, 0.0, 0.0)
    for n in range(count):
        place = Rect(x + n * width, y, width - 4, 44)
        tab = group(f"tab-{n + 1}", place, role="tab", rep="tab")
        tab.add(box("bg", place, Look(WAX, radius=corners)))
        tab.add(box("hover", place, Look("#fff6de", radius=corners), state="hover", hidden=True))
        now = box("current", place, Look(HONEY, radius=corners), state="current", hidden=n > 0)
        tab.add(now)
        label = Text((NOUNS[n].split()[0],), 15, INK, weight=600, anchor="middle")
        tab.add(words("label", x + n * width + (width - 4) / 2, y + 13, label))
        made.add(tab)
    return made


def cards(
    x: float, y: float, total: float, count: int, gutter: float, chance: Random, *,
    real: bool, style: str, call: bool,
) -> Thing:  # fmt: skip
    """Columns alike: a picture, a heading, some lines, a price or a button."""
    wide = (total - gutter * (count - 1)) / count
    high = 330.0 if call else 290.0
    made = group("cards", Rect(x, y, total, high))
    for n in range(count):
        left = x + n * (wide + gutter)
        place = Rect(left, y, wide, high)
        card = group(f"card-{n + 1}", place, role="card", rep="card")
        card.add(box("bg", place, _card_look(style)))
        inset = 0.0 if style == "edge" else 16.0
        shown = Rect(left + inset, y + inset, wide - 2 * inset, 150)
        card.add(photo("view", shown, chance) if real else scene("view", shown, chance))
        ink = PAPER if style == "dark" else INK
        card.add(words("title", left + 16, y + 184, Text((NOUNS[n],), 20, ink, "Fraunces", 600)))
        card.add(words("about", left + 16, y + 218, Text((LINES[n][: int(wide / 8.2)],), 14, ink)))
        if call:
            plate = Rect(left + 16, y + 264, 116, 40)
            card.add(button("buy", plate, "Reserve", HONEY, INK, 6, hover="#f2c260"))
        made.add(card)
    return made


def _card_look(style: str) -> Look:
    match style:
        case "soft":
            return Look("#ffffff", radius=(12,) * 4, shadow=Shadow(0, 4, 16, "#3a2a1c", 0.18))
        case "line":
            return Look("#fffdf8", radius=(6,) * 4, border=(1.0, "#d8c7a2"))
        case "dark":
            stops = ((0.0, "#4a3626"), (1.0, "#2c1f14"))
            return Look("#4a3626", stops, 165, (16,) * 4, (2.0, "#6a5240"))
    return Look("#ffffff", radius=(0, 0, 10, 10))


def rows(
    x: float,
    y: float,
    width: float,
    count: int,
    chance: Random,
    *,
    sign: str,
    call: bool,
    lines: bool,
) -> Thing:
    """A list: a sign, a name, a price, now and then a badge; a button at the end where asked for."""
    high = 56.0
    made = group("list", Rect(x, y, width, high * count))
    for n in range(count):
        top = y + n * high
        place = Rect(x, top, width, high)
        row = group(f"row-{n + 1:02}", place, rep="row")
        if lines:
            row.add(box("rule", Rect(x, top + high - 1, width, 1), Look("#e2d3b0")))
        left = x
        if sign:
            row.add(icon("sign", sign, x + 4, top + 14, 28, BARK, WAX))
            left += 48
        row.add(words("name", left, top + 16, Text((NOUNS[n % len(NOUNS)],), 17, INK, weight=600)))
        price = f"{3 + n % 7}.{n * 3 % 10}0"
        end = x + width - (130 if call else 0)
        row.add(words("price", end, top + 17, Text((price,), 16, BARK, anchor="end")))
        if chance.random() < 0.15 and width > 400:
            row.add(box("badge", Rect(left + 190, top + 17, 64, 22), Look(WAX, radius=(11,) * 4)))
            row.add(words("new", left + 222, top + 20, Text(("new",), 12, BARK, anchor="middle")))
        if call:
            plate = Rect(x + width - 104, top + 10, 100, 36)
            line = (1.0, BARK)
            row.add(button("add", plate, "Add", "#ffffff", BARK, 4, border=line, hover=WAX))
        made.add(row)
    return made


def gallery(
    x: float,
    y: float,
    columns: int,
    lines: int,
    side: tuple[float, float],
    gap: float,
    chance: Random,
) -> Thing:
    """Photographs on a lattice, edge to edge where there is no gap."""
    wide, high = side
    whole = Rect(x, y, columns * (wide + gap) - gap, lines * (high + gap) - gap)
    made = group("gallery", whole)
    for n in range(columns * lines):
        place = Rect(x + n % columns * (wide + gap), y + n // columns * (high + gap), wide, high)
        made.add(photo(f"view-{n + 1}", place, chance))
    return made


def icons(x: float, y: float, side: float, step: float, kinds: list[str], ink: str) -> Thing:
    """Signs in a row, each another."""
    made = group("signs", Rect(x, y, step * (len(kinds) - 1) + side, side))
    for n, kind in enumerate(kinds):
        made.add(icon(kind, kind, x + n * step, y, side, ink, WAX))
    return made


def features(x: float, y: float, total: float, count: int, chance: Random) -> Thing:
    """A sign over a heading and lines, in columns without a box around them."""
    wide = total / count
    made = group("features", Rect(x, y, total, 170))
    kinds = chance.sample(sorted(set(ICONS) - {"arrow"}), count)
    for n, kind in enumerate(kinds):
        left = x + n * wide
        one = group(f"feature-{n + 1}", Rect(left, y, wide - 24, 160), rep="feature")
        one.add(icon("sign", kind, left, y, 48, BARK, HONEY))
        one.add(words("title", left, y + 66, Text((NOUNS[n + 3],), 20, INK, "Fraunces", 600)))
        room = int(wide / 9)
        said = (LINES[n][:room], LINES[n + 1][:room])
        one.add(words("about", left, y + 102, Text(said, 14, INK)))
        made.add(one)
    return made


def numbers(x: float, y: float, count: int) -> Thing:
    """Pages to turn to: round buttons with a number each."""
    made = group("pager", Rect(x, y, 48 * count, 36))
    for n in range(count):
        plate = Rect(x + 48 * n, y, 36, 36)
        fill, ink = (BARK, PAPER) if n == 0 else ("#ffffff", BARK)
        line = (1.0, BARK)
        made.add(button(f"page-{n + 1}", plate, str(n + 1), fill, ink, 18, border=line, hover=WAX))
    return made


def facts(x: float, y: float, total: float) -> Thing:
    """Large numbers with a label each: nothing to click."""
    made = group("facts", Rect(x, y, total, 110))
    for n, (number, label) in enumerate(
        (("48", "hives"), ("1200", "jars a year"), ("3", "meadows"))
    ):
        left = x + n * total / 3
        one = group(f"fact-{n + 1}", Rect(left, y, total / 3 - 20, 100), rep="fact")
        one.add(words("number", left, y, Text((number,), 44, HONEY, "Fraunces", 600)))
        one.add(words("label", left, y + 70, Text((label,), 15, INK)))
        made.add(one)
    return made


def form(x: float, y: float, width: float) -> Thing:
    """Fields with their names over them, and the button that sends them."""
    made = group("form", Rect(x, y, width, 230))
    for n, label in enumerate(("Your name", "Your jars")):
        top = y + n * 78
        made.add(words(f"label-{n + 1}", x, top, Text((label,), 14, INK, weight=600)))
        look = Look("#ffffff", radius=(4,) * 4, border=(1.0, "#b9a57c"))
        made.add(box(f"field-{n + 1}", Rect(x, top + 22, width, 40), look))
    plate = Rect(x, y + 168, 140, 44)
    made.add(button("send", plate, "Send", BARK, PAPER, 4, hover=INK, sign="arrow"))
    return made


def foot(width: float, y: float, left: float, chance: Random) -> Thing:
    """A dark foot: columns of words, and signs to the right."""
    made = group("footer", Rect(0, y, width, 180), role="footer")
    made.add(box("ground", Rect(0, y, width, 180), Look(INK)))
    for n in range(3):
        lines = tuple(noun.split()[0] for noun in chance.sample(NOUNS, 3))
        made.add(words(f"links-{n + 1}", left + 180 * n, y + 42, Text(lines, 15, WAX, step=1.8)))
    kinds = chance.sample(["bee", "sun", "pin", "star", "drop"], 3)
    made.add(icons(width - left - 132, y + 48, 28, 52, kinds, HONEY))
    return made
