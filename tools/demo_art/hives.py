"""hives.svg: the page about adopting a hive, drawn in vectors with live text."""

from __future__ import annotations

import math

from demo_art.shared import AMBER, BAR, CREAM, HONEY, INK, TABS, hexagon, mark, text

WIDTH, HEIGHT = 960, 1140

_DEFS = f"""
<defs>
  <linearGradient id="dusk" x2="0" y2="1">
    <stop offset="0" stop-color="#2f2547"/><stop offset=".55" stop-color="#7a4564"/>
    <stop offset="1" stop-color="#d9825a"/>
  </linearGradient>
  <linearGradient id="honey" x2="0" y2="1">
    <stop offset="0" stop-color="#f3c25a"/><stop offset="1" stop-color="#d08a1e"/>
  </linearGradient>
  <linearGradient id="plate" x2="0" y2="1">
    <stop offset="0" stop-color="#fffaf0"/><stop offset="1" stop-color="#f8ecd2"/>
  </linearGradient>
  <radialGradient id="glow" cy="1"><stop stop-color="{HONEY}" stop-opacity=".5"/>
    <stop offset="1" stop-color="{HONEY}" stop-opacity="0"/></radialGradient>
  <filter id="soft-shadow" x="-10%" y="-10%" width="120%" height="125%">
    <feDropShadow dx="0" dy="5" stdDeviation="8" flood-color="#6b4a24" flood-opacity=".26"/>
  </filter>
  <clipPath id="head-edge"><rect width="{WIDTH}" height="300"/></clipPath>
</defs>"""

_ICONS = (
    ("bee", "Your own bees", "Forty thousand of them,|looked after by us",
     "M-13 1a13 9 0 0 0 26 0a13 9 0 0 0 -26 0M-5 -7v16M3 -8v18M-3 -9c-10 -12 2 -18 5 -1"
     "M4 -9c2 -14 14 -10 5 1"),
    ("jar", "Six jars", "Of the honey they made,|with the hive on the label",
     "M-9 -15h18v6h-18zM-9 -9q-5 3 -5 8v11q0 5 5 5h18q5 0 5 -5v-11q0 -5 -5 -8M-14 3h28"),
    ("letter", "Four letters", "One a season, by post,|with what the hive did",
     "M-15 -10h30v21h-30zM-15 -9l15 12l15 -12"),
    ("sun", "A summer day", "Open your hive with us,|veil and gloves are here",
     "M-6 0a6 6 0 0 0 12 0a6 6 0 0 0 -12 0M0 -16v5M0 11v5M-16 0h5M11 0h5M-11 -11l4 4M7 7l4 4"
     "M-11 11l4 -4M7 -7l4 -4"),
    ("leaf", "A strip of meadow", "Sown each spring, two|metres for every hive",
     "M-12 12C-14 -8 -2 -15 14 -15C14 2 4 14 -12 12zM-12 12L5 -6"),
    ("tag", "A name", "Yours, or one you choose,|burned into the lid",
     "M-14 -12h14l14 13l-13 13l-15 -13zM-8 -6a1.6 1.6 0 1 0 .1 0"),
)  # fmt: skip

_PLANS = (
    ("swarm", "Swarm", "£24", "a year, shared by twelve", "Two jars|One letter"),
    ("colony", "Colony", "£60", "a year, shared by four", "Six jars|Four letters"),
    ("apiary", "Apiary", "£140", "a year, all yours", "Twenty jars|A day with us"),
)


def drawing() -> str:
    """The whole file."""
    body = "\n".join((_backdrop(), _head(), _nav(), _gifts(), _plans(), _footer()))
    return (
        '<?xml version="1.0" encoding="UTF-8"?>\n'
        '<svg xmlns="http://www.w3.org/2000/svg" '
        'xmlns:layer="https://fernhollow.example/layers" '
        f'width="{WIDTH}" height="{HEIGHT}" viewBox="0 0 {WIDTH} {HEIGHT}">'
        f"{_DEFS}\n{body}\n</svg>\n"
    )


def _group(name: str, *inside: str, more: str = "") -> str:
    return f'<g layer:label="{name}"{more}>\n' + "\n".join(inside) + "\n</g>"


def _named(name: str, element: str) -> str:
    """The element with its name as a label."""
    head, _, tail = element.partition(" ")
    return f'{head} layer:label="{name}" {tail}'


def _backdrop() -> str:
    return f'<rect layer:label="paper" width="{WIDTH}" height="{HEIGHT}" fill="#f6ecd8"/>'


def _head() -> str:
    cells = []
    radius = 34
    for row in range(6):
        for column in range(9):
            x = 560 + column * radius * math.sqrt(3) + (row % 2) * radius * math.sqrt(3) / 2
            y = 16 + row * radius * 1.5
            near = min(1.0, max(0.0, (x - 540) / 420)) * (1 - abs(y - 150) / 420)
            if (row * 7 + column * 5) % 11 in (3, 8):
                continue
            cells.append(
                f'<path d="{hexagon(x, y, radius - 3, 5)}" opacity="{0.12 + 0.62 * near:.2f}"/>'
            )
    return _group(
        "head",
        f'<rect layer:label="sky" width="{WIDTH}" height="300" fill="url(#dusk)"/>',
        _group("comb", *cells, more=' fill="url(#honey)"'),
        _named("title", text(40, 158, 60, "Adopt a hive", CREAM, font="Fraunces", weight=600)),
        _named("claim", text(42, 204, 20, "A year with forty thousand bees.", "#fbe3bd",
                             font="Fraunces", style="italic")),
        more=' clip-path="url(#head-edge)"',
    )  # fmt: skip


def _nav() -> str:
    parts = [f'<rect layer:label="bar" y="300" width="{WIDTH}" height="56" fill="{BAR}"/>']
    for index, name in enumerate(TABS):
        x = 40 + 148 * index
        middle = x + 74
        hidden = "" if name == "Hives" else ' display="none"'
        parts.append(
            _group(
                f"tab-{name.lower()}",
                f'<rect layer:label="glow" x="{x}" y="300" width="148" height="56" '
                'fill="url(#glow)" display="none"/>',
                f'<path layer:label="marker" d="M{x + 16} 350h{middle - 7 - x - 16}l7 -7l7 7'
                f'h{x + 132 - middle - 7}v6h-116z" fill="{HONEY}"{hidden}/>',
                _named("label", text(middle, 333.5, 16, name, CREAM, weight=600, anchor="middle")),
            )
        )
    return _group("nav", *parts)


def _gifts() -> str:
    parts = [_named("title", text(40, 420, 28, "What you get", font="Fraunces", weight=600))]
    for index, (name, title, line, path) in enumerate(_ICONS):
        x, y = 40 + 300 * (index % 3), 452 + 120 * (index // 3)
        icon = _group(
            "icon",
            f'<path d="{hexagon(x + 38, y + 42, 42, 8)}" fill="url(#honey)"/>',
            f'<path d="{path}" transform="translate({x + 38} {y + 42})" fill="none" '
            f'stroke="{CREAM}" stroke-width="2.6" stroke-linecap="round" stroke-linejoin="round"/>',
        )
        parts.append(
            _group(
                name,
                icon,
                _named("title", text(x + 92, y + 28, 20, title, font="Fraunces", weight=600)),
                _named("line", text(x + 92, y + 52, 15, line, "#6b5136")),
            )
        )
    return _group("gifts", *parts)


def _plans() -> str:
    parts = [_named("title", text(40, 740, 28, "Three ways to share", font="Fraunces", weight=600))]
    for index, (name, title, price, line, inside) in enumerate(_PLANS):
        x, y = 40 + 300 * index, 768
        is_best = name == "colony"
        fill = "url(#honey)" if is_best else "url(#plate)"
        second = INK if is_best else "#6b5136"
        parts.append(
            _group(
                name,
                f'<rect layer:label="plate" x="{x}" y="{y}" width="280" height="220" rx="14" '
                f'fill="{fill}" filter="url(#soft-shadow)"/>',
                _named("title", text(x + 24, y + 46, 22, title, font="Fraunces", weight=600)),
                _named("price", text(x + 24, y + 100, 44, price, INK if is_best else AMBER,
                                     font="Fraunces", weight=600)),
                _named("share", text(x + 24, y + 130, 16, line, second)),
                _named("inside", text(x + 24, y + 168, 16, inside, second)),
                _group(
                    "sold-out",
                    f'<rect layer:label="shade" x="{x}" y="{y}" width="280" height="220" rx="14" '
                    'fill="#f6ecd8" opacity=".7"/>',
                    _named("words", text(x + 140, y + 118, 22, "Sold out until spring",
                                         font="Fraunces", weight=600, anchor="middle")),
                    more=' display="none"',
                ),
            )
        )  # fmt: skip
    return _group("plans", *parts)


def _footer() -> str:
    return _group(
        "footer",
        f'<rect layer:label="band" y="1028" width="{WIDTH}" height="112" fill="{BAR}"/>',
        _group("mark", mark(66, 1084, 26)),
        _named("words", text(112, 1078, 16, "Fernhollow Apiary, Mill Lane", "#e9d9bd")),
        _named("hours", text(112, 1102, 16, "Open Thursday to Sunday, ten till dusk", "#bfa985")),
    )
