"""The layers of the home page, lowest first: paper, dusk scene, tabs, panel, smoker, jars."""

from __future__ import annotations

import random
from dataclasses import dataclass

from demo_art.shared import AMBER, BAR, CREAM, HONEY, INK, TABS, bee, mark, text

WIDTH, HEIGHT = 960, 1320


@dataclass(frozen=True)
class Layer:
    """A layer drawn from a piece of SVG, or a group of layers, lowest first."""

    name: str
    svg: str = ""
    hidden: bool = False
    children: tuple[Layer, ...] = ()


Layers = tuple[Layer, ...]

_SKY = """
<linearGradient id="sky" x2="0" y2="1"><stop offset="0" stop-color="#2f2547"/>
<stop offset=".34" stop-color="#6d3f63"/><stop offset=".62" stop-color="#cf7358"/>
<stop offset=".82" stop-color="#f2a95c"/><stop offset="1" stop-color="#f9d28c"/></linearGradient>
"""


def _hills(points: str, top: str, bottom: str, name: str) -> str:
    return (
        f'<linearGradient id="{name}" x2="0" y2="1"><stop stop-color="{top}"/>'
        f'<stop offset="1" stop-color="{bottom}"/></linearGradient>'
        f'<path d="{points}V440H0Z" fill="url(#{name})"/>'
    )


def _hive(x: float, y: float, wide: float, boxes: tuple[str, ...]) -> str:
    """A stacked hive that stands on (x, y), each box with its own colour."""
    high, out = wide * 0.42, []
    for leg in (0.08, 0.82):
        out.append(
            f'<rect x="{x + wide * leg:g}" y="{y - 14:g}" width="{wide * 0.1:g}" height="16" '
            'fill="#20150f"/>'
        )
    base = y - 12
    for index, color in enumerate(boxes):
        top = base - high * (index + 1)
        out.append(
            f'<rect x="{x:g}" y="{top:g}" width="{wide:g}" height="{high:g}" fill="{color}"/>'
            f'<rect x="{x:g}" y="{top:g}" width="{wide * 0.3:g}" height="{high:g}" fill="#ffd79a" '
            'opacity=".28"/>'
            f'<rect x="{x + wide * 0.72:g}" y="{top:g}" width="{wide * 0.28:g}" height="{high:g}" '
            'fill="#1a0f1e" opacity=".3"/>'
            f'<rect x="{x:g}" y="{top + high - 2:g}" width="{wide:g}" height="2" fill="#1a0f1e" '
            'opacity=".45"/>'
            f'<rect x="{x + wide * 0.4:g}" y="{top + high * 0.36:g}" width="{wide * 0.2:g}" '
            f'height="{high * 0.12:g}" rx="2" fill="#1a0f1e" opacity=".55"/>'
        )
    top = base - high * len(boxes)
    out.append(
        f'<rect x="{x - wide * 0.07:g}" y="{top - wide * 0.12:g}" width="{wide * 1.14:g}" '
        f'height="{wide * 0.13:g}" rx="2" fill="#d9cbb4"/>'
        f'<rect x="{x + wide * 0.6:g}" y="{top - wide * 0.12:g}" width="{wide * 0.47:g}" '
        f'height="{wide * 0.13:g}" rx="2" fill="#1a0f1e" opacity=".32"/>'
        f'<rect x="{x + wide * 0.24:g}" y="{base - high * 0.16:g}" width="{wide * 0.52:g}" '
        f'height="{high * 0.1:g}" fill="#140c10"/>'
        f'<rect x="{x - wide * 0.05:g}" y="{base - 2:g}" width="{wide * 1.1:g}" height="5" '
        'fill="#2a1c14"/>'
    )
    return "".join(out)


def _meadow(seed: int, top: float, bottom: float, count: int, colors: tuple[str, ...]) -> str:
    """Stalks and flower heads, the nearer the taller."""
    chance, out = random.Random(seed), []
    for y in sorted(chance.uniform(top, bottom) for _ in range(count)):
        near = (y - top) / (bottom - top)
        x, tall = chance.uniform(-10, WIDTH + 10), 6 + 26 * near * chance.uniform(0.6, 1.2)
        lean, color = chance.uniform(-5, 5), chance.choice(colors)
        out.append(
            f'<path d="M{x:.1f} {y + 4:.1f}q{lean / 2:.1f} {-tall / 2:.1f} {lean:.1f} {-tall:.1f}" '
            f'stroke="#2c3020" stroke-width="{0.7 + near:.2f}" fill="none"/>'
            f'<ellipse cx="{x + lean:.1f}" cy="{y + 4 - tall:.1f}" rx="{1.2 + 1.9 * near:.2f}" '
            f'ry="{1.8 + 3.4 * near:.2f}" fill="{color}" opacity="{0.55 + 0.4 * near:.2f}"/>'
        )
    return "".join(out)


def _hero() -> Layer:
    glow = (
        '<radialGradient id="g"><stop stop-color="#fff1c4" stop-opacity=".95"/>'
        '<stop offset=".3" stop-color="#ffd58a" stop-opacity=".55"/>'
        '<stop offset="1" stop-color="#ffb765" stop-opacity="0"/></radialGradient>'
        '<circle cx="668" cy="262" r="210" fill="url(#g)"/>'
        '<circle cx="668" cy="262" r="34" fill="#fff3cf"/>'
    )
    clouds = (
        '<filter id="b" x="-30%" y="-200%" width="160%" height="500%">'
        '<feGaussianBlur stdDeviation="14 5"/></filter><g filter="url(#b)">'
        '<ellipse cx="250" cy="120" rx="210" ry="9" fill="#e8907a" opacity=".55"/>'
        '<ellipse cx="420" cy="158" rx="170" ry="7" fill="#f3a880" opacity=".5"/>'
        '<ellipse cx="760" cy="108" rx="190" ry="8" fill="#c9747a" opacity=".55"/>'
        '<ellipse cx="860" cy="182" rx="150" ry="7" fill="#f7b988" opacity=".6"/></g>'
    )
    far = _hills(
        "M0 300C90 262 170 250 260 272S430 310 520 278S700 236 790 262S910 292 960 276",
        "#a0596a", "#d98a66", "f",
    )  # fmt: skip
    near = _hills(
        "M0 338C120 300 240 312 340 330S520 352 640 318S840 290 960 322", "#5c3a55", "#8c5350", "n"
    )
    field = _hills(
        "M0 372C180 344 330 356 480 366S800 350 960 366", "#3f3a3c", "#262a1e", "m"
    ) + _meadow(3, 376, 404, 210, ("#a85f78", "#c97a6a", "#7d5a86"))
    front = _meadow(11, 404, 446, 190, ("#c26d8e", "#e0a04a", "#8f6aa5", "#d9846a"))
    boxes = (
        _hive(604, 402, 74, ("#e8d8ba", "#d89a3a", "#e8d8ba"))
        + _hive(716, 410, 84, ("#8fa39a", "#e8d8ba"))
        + _hive(840, 398, 66, ("#d89a3a", "#c9b08a", "#8fa39a"))
    )
    bees = (
        bee(560, 250, 17, -14) + bee(700, 196, 13, 10) + bee(806, 232, 15, -24)
        + bee(640, 316, 12, 18) + bee(898, 160, 11, 6)
    )  # fmt: skip
    return Layer(
        "hero",
        children=(
            Layer("sky", f'{_SKY}<rect width="960" height="440" fill="url(#sky)"/>'),
            Layer("sun", glow),
            Layer("clouds", clouds),
            Layer("hills-far", far),
            Layer("hills-near", near),
            Layer("field", field),
            Layer("hives", boxes),
            Layer("meadow", f'<svg width="960" height="440">{front}</svg>'),
            Layer("bees", bees),
        ),
    )


def _nav() -> Layer:
    children = [Layer("bar", f'<rect y="440" width="960" height="56" fill="{BAR}"/>')]
    for index, name in enumerate(TABS):
        x = 40 + 148 * index
        middle = x + 74
        glow = (
            f'<radialGradient id="g"><stop stop-color="{HONEY}" stop-opacity=".5"/>'
            f'<stop offset="1" stop-color="{HONEY}" stop-opacity="0"/></radialGradient>'
            f'<svg x="{x}" y="440" width="148" height="56">'
            '<ellipse cx="74" cy="56" rx="74" ry="44" fill="url(#g)"/></svg>'
        )
        marker = (
            f'<path d="M{x + 16} 490h116v6h-116z" fill="{HONEY}"/>'
            f'<path d="M{middle - 7} 490l7 -7l7 7z" fill="{HONEY}"/>'
        )
        label = text(middle, 473.5, 16, name, CREAM, weight=600, anchor="middle")
        children.append(
            Layer(
                f"tab-{name.lower()}",
                children=(
                    Layer("glow", glow, hidden=True),
                    Layer("marker", marker, hidden=name != "Home"),
                    Layer("label", label),
                ),
            )
        )
    return Layer("nav", children=tuple(children))


def _panel() -> Layer:
    box = (
        '<filter id="s" x="-10%" y="-10%" width="120%" height="130%">'
        '<feDropShadow dx="0" dy="6" stdDeviation="10" flood-color="#6b4a24" flood-opacity=".28"/>'
        f'</filter><rect x="40" y="540" width="560" height="228" rx="16" fill="{CREAM}" '
        'filter="url(#s)"/>'
        '<rect x="40.5" y="540.5" width="559" height="227" rx="15.5" fill="none" '
        'stroke="#dcc79c"/>'
    )
    plate = f'<rect x="72" y="700" width="168" height="44" rx="22" fill="{AMBER}"/>'
    hover = f'<rect x="72" y="700" width="168" height="44" rx="22" fill="{INK}"/>'
    label = text(156, 727.5, 16, "Adopt a hive", "#ffffff", weight=600, anchor="middle")
    return Layer(
        "panel",
        children=(
            Layer("box", box),
            Layer(
                "button",
                children=(
                    Layer("plate", plate),
                    Layer("plate-hover", hover, hidden=True),
                    Layer("label", label),
                ),
            ),
        ),
    )


def _smoker() -> Layer:
    shadow = (
        '<filter id="s" x="-40%" y="-200%" width="180%" height="500%">'
        '<feGaussianBlur stdDeviation="9"/></filter>'
        '<ellipse cx="744" cy="762" rx="132" ry="15" fill="#3a2010" opacity=".5" '
        'filter="url(#s)"/>'
    )
    metal = (
        '<linearGradient id="c"><stop stop-color="#8e9494"/><stop offset=".24" '
        'stop-color="#eef0ec"/><stop offset=".55" stop-color="#a9afae"/><stop offset="1" '
        'stop-color="#5a6060"/></linearGradient>'
        '<linearGradient id="w"><stop stop-color="#c98d4e"/><stop offset=".5" '
        'stop-color="#e4b473"/><stop offset="1" stop-color="#8a5526"/></linearGradient>'
        '<linearGradient id="l"><stop stop-color="#4a2a1a"/><stop offset=".4" '
        'stop-color="#8a5434"/><stop offset="1" stop-color="#35190e"/></linearGradient>'
    )
    can = (
        '<path d="M642 626h96v132q-48 10 -96 0z" fill="url(#c)"/>'
        '<path d="M642 650q48 9 96 0v5q-48 9 -96 0zM642 730q48 9 96 0v5q-48 9 -96 0z" '
        'fill="#565c5c" opacity=".5"/>'
        '<path d="M640 626q50 -10 100 0v8q-50 9 -100 0z" fill="#c9cecb"/>'
        '<path d="M646 632Q660 588 640 560L626 546L638 532L660 552Q706 586 734 632Q690 622 646 632z" '
        'fill="url(#c)"/>'
        '<path d="M624 546l15 -16l6 5l-15 16z" fill="#4d5353"/>'
    )
    bellows = (
        '<path d="M760 612l14 -4v138l-14 -2z" fill="url(#w)"/>'
        '<path d="M774 614L834 596v166L774 744z" fill="url(#l)"/>'
        '<path d="M786 611v136M800 607v144M816 602v154" stroke="#1f0f08" stroke-width="3" '
        'opacity=".5" fill="none"/>'
        '<path d="M834 588l16 -6v190l-16 -8z" fill="url(#w)"/>'
        '<path d="M738 700h24v12h-24zM738 648h24v8h-24z" fill="#6b7070"/>'
    )
    smoke = (
        '<filter id="f" x="-60%" y="-60%" width="220%" height="220%">'
        '<feGaussianBlur stdDeviation="5"/></filter><g filter="url(#f)" fill="none" '
        'stroke="#8a7f78" stroke-linecap="round">'
        '<path d="M622 536C600 520 612 500 590 488" stroke-width="11" opacity=".42"/>'
        '<path d="M616 530C588 524 590 508 566 506" stroke-width="8" opacity=".3"/></g>'
    )
    moved = '<g transform="translate(-34 4)">'
    return Layer(
        "tools",
        children=(
            Layer("smoker", f"{moved}{shadow}{metal}{bellows}{can}</g>"),
            Layer("smoke", f"{moved}{smoke}</g>"),
        ),
    )


_JARS = (
    ("clover", "Clover", "Light and mild", "£6", "#f3c659", "#d99a22"),
    ("heather", "Heather", "Dark, like toffee", "£8", "#c9752b", "#8a4314"),
    ("lime", "Lime", "Fresh, a hint of mint", "£7", "#e3cf6a", "#b3982a"),
)


def _card(index: int) -> Layer:
    name, title, line, price, light, dark = _JARS[index]
    x, y = 40 + 300 * index, 858
    plate = (
        '<filter id="s" x="-10%" y="-10%" width="120%" height="125%">'
        '<feDropShadow dx="0" dy="4" stdDeviation="7" flood-color="#6b4a24" flood-opacity=".22"/>'
        f'</filter><rect x="{x}" y="{y}" width="280" height="304" rx="14" fill="{CREAM}" '
        'filter="url(#s)"/>'
    )
    middle = x + 140
    jar = (
        f'<linearGradient id="h"><stop stop-color="{dark}"/><stop offset=".3" stop-color="{light}"/>'
        f'<stop offset=".7" stop-color="{light}"/><stop offset="1" stop-color="{dark}"/>'
        '</linearGradient><linearGradient id="t"><stop stop-color="#8d7a55"/><stop offset=".35" '
        'stop-color="#efe2bf"/><stop offset="1" stop-color="#7d6a45"/></linearGradient>'
        '<filter id="s" x="-40%" y="-200%" width="180%" height="500%"><feGaussianBlur '
        'stdDeviation="5"/></filter>'
        f'<ellipse cx="{middle}" cy="{y + 194}" rx="66" ry="8" fill="#5a3510" opacity=".4" '
        'filter="url(#s)"/>'
        f'<path d="M{middle - 44} {y + 62}q-20 8 -20 28v86q0 18 18 18h92q18 0 18 -18v-86q0 -20 -20 '
        '-28z" fill="url(#h)"/>'
        f'<path d="M{middle - 44} {y + 62}q-20 8 -20 28v10h128v-10q0 -20 -20 -28z" fill="#fff" '
        'opacity=".38"/>'
        f'<path d="M{middle - 52} {y + 92}q-5 42 0 84" stroke="#fff" stroke-width="6" opacity=".5" '
        'fill="none" stroke-linecap="round"/>'
        f'<rect x="{middle - 48}" y="{y + 36}" width="96" height="28" rx="5" fill="url(#t)"/>'
        f'<rect x="{middle - 48}" y="{y + 54}" width="96" height="3" fill="#5f4e2c" opacity=".45"/>'
        f'<rect x="{middle - 40}" y="{y + 110}" width="80" height="56" rx="4" fill="{CREAM}"/>'
        f"{mark(middle, y + 138, 20, dark, CREAM)}"
    )
    words = text(x + 24, y + 244, 22, title, font="Fraunces", weight=600)
    return Layer(
        name,
        children=(
            Layer("plate", plate),
            Layer("jar", jar),
            Layer("title", words),
            Layer("line", text(x + 24, y + 272, 16, line, "#6b5136")),
            Layer("price", text(x + 256, y + 244, 22, price, AMBER, font="Fraunces", weight=600,
                                anchor="end")),
        ),
    )  # fmt: skip


def _titles() -> Layer:
    return Layer(
        "titles",
        children=(
            Layer("name", text(40, 150, 60, "Fernhollow", CREAM, font="Fraunces", weight=600)),
            Layer("name-two", text(40, 214, 60, "Apiary", CREAM, font="Fraunces", weight=600)),
            Layer("claim", text(42, 254, 20, "Honey, hives and slow evenings.", "#fbe3bd",
                                font="Fraunces", style="italic")),
            Layer("intro-title", text(72, 592, 28, "Keep bees, without the stings", font="Fraunces",
                                      weight=600)),
            Layer("intro", text(72, 626, 16, "Adopt a hive and we look after it for you. Letters in "
                                "spring,|a visit in summer, and in autumn a box of honey from your|"
                                "own bees.", "#59412a")),
            Layer("jars-title", text(40, 826, 28, "From our meadows", font="Fraunces", weight=600)),
        ),
    )  # fmt: skip


def _footer() -> Layer:
    return Layer(
        "footer",
        children=(
            Layer("band", f'<rect y="1208" width="960" height="112" fill="{BAR}"/>'),
            Layer("mark", mark(66, 1264, 26)),
            Layer("words", text(112, 1258, 16, "Fernhollow Apiary, Mill Lane", "#e9d9bd")),
            Layer(
                "hours", text(112, 1282, 16, "Open Thursday to Sunday, ten till dusk", "#bfa985")
            ),
        ),
    )


LAYERS: Layers = (
    Layer("backdrop", children=(Layer("paper"),)),
    _hero(),
    _nav(),
    _panel(),
    _smoker(),
    Layer("cards", children=tuple(_card(index) for index in range(3))),
    _footer(),
    _titles(),
)
