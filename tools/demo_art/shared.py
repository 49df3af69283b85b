"""Colours, words and small marks that both mockups of the example use."""

from __future__ import annotations

import math

INK, CREAM, HONEY, AMBER, DUSK, LEAF = (
    "#3a2618", "#fbf4e4", "#e2a32b", "#b8741a", "#4a3350", "#5d6b3f",
)  # fmt: skip

BAR = "#33231a"


def text(
    x: float,
    y: float,
    size: float,
    words: str,
    fill: str = INK,
    *,
    font: str = "Figtree",
    weight: int = 400,
    anchor: str = "start",
    style: str = "normal",
    extra: str = "",
) -> str:
    """One or several lines of text, 1.5 lines apart; `|` separates lines."""
    head = (
        f'<text x="{x:g}" y="{y:g}" font-family="{font}" font-size="{size:g}" '
        f'font-weight="{weight}" font-style="{style}" fill="{fill}" text-anchor="{anchor}"{extra}>'
    )
    lines = words.split("|")
    if len(lines) == 1:
        return f"{head}{words}</text>"
    spans = "".join(
        f'<tspan x="{x:g}" dy="{0 if index == 0 else size * 1.5:g}">{line}</tspan>'
        for index, line in enumerate(lines)
    )
    return f"{head}{spans}</text>"


def hexagon(x: float, y: float, radius: float, rounding: float = 0) -> str:
    """The `d` of a hexagon that stands on a corner, its corners rounded by `rounding`."""
    corners = [
        (
            x + radius * math.sin(math.radians(60 * turn)),
            y - radius * math.cos(math.radians(60 * turn)),
        )
        for turn in range(6)
    ]
    if not rounding:
        return "M" + "L".join(f"{a:.2f} {b:.2f}" for a, b in corners) + "Z"
    parts: list[str] = []
    for index, (a, b) in enumerate(corners):
        before, after = corners[index - 1], corners[(index + 1) % 6]
        start = _towards((a, b), before, rounding)
        end = _towards((a, b), after, rounding)
        parts.append(
            f"{'L' if parts else 'M'}{start[0]:.2f} {start[1]:.2f}"
            f"Q{a:.2f} {b:.2f} {end[0]:.2f} {end[1]:.2f}"
        )
    return "".join(parts) + "Z"


def _towards(
    here: tuple[float, float], there: tuple[float, float], by: float
) -> tuple[float, float]:
    length = math.dist(here, there)
    return (
        here[0] + (there[0] - here[0]) * by / length,
        here[1] + (there[1] - here[1]) * by / length,
    )


def mark(x: float, y: float, radius: float, cell: str = HONEY, drop: str = BAR) -> str:
    """The apiary's mark: a honey cell with a fern leaf in it."""
    stem = f"M{x:g} {y + radius * 0.62:g}V{y - radius * 0.58:g}"
    leaves = ""
    for step in range(4):
        height = y + radius * (0.34 - 0.26 * step)
        reach = radius * (0.46 - 0.09 * step)
        leaves += (
            f"M{x:g} {height:.2f}q{reach * 0.5:.2f} {-reach * 0.1:.2f} {reach:.2f} {-reach * 0.55:.2f}"
            f"M{x:g} {height:.2f}q{-reach * 0.5:.2f} {-reach * 0.1:.2f} {-reach:.2f} {-reach * 0.55:.2f}"
        )
    return (
        f'<path d="{hexagon(x, y, radius, radius * 0.22)}" fill="{cell}"/>'
        f'<path d="{stem}{leaves}" fill="none" stroke="{drop}" stroke-width="{radius * 0.13:.2f}" '
        'stroke-linecap="round"/>'
    )


def bee(x: float, y: float, size: float, tilt: float = 0) -> str:
    """A small bee in flight."""
    return (
        f'<g transform="translate({x:g} {y:g}) rotate({tilt:g}) scale({size / 20:g})">'
        '<ellipse cx="-1" cy="-6" rx="4" ry="7" fill="#fff" opacity=".75" transform="rotate(-28)"/>'
        '<ellipse cx="4" cy="-6" rx="3.6" ry="6.4" fill="#fff" opacity=".6" transform="rotate(14)"/>'
        f'<ellipse rx="9" ry="5.6" fill="{HONEY}"/>'
        f'<path d="M-3.6 -5.1V5.1M1 -5.5V5.5M5 -4.6V4.6" stroke="{BAR}" stroke-width="2.2"/>'
        f'<circle cx="-8.6" cy="-.6" r="3.6" fill="{BAR}"/></g>'
    )


TABS = ("Home", "Hives", "Workshops", "Visit")
