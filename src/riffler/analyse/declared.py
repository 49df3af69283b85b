"""A measured style -> the declarations of a style sheet that draw it."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import TypeAlias

from riffler.analyse.style import Radii, Shadow, Style

Say: TypeAlias = Callable[[float], str]
"""A length as it is written."""


def whole(length: float) -> str:
    """Whole CSS pixels."""
    return f"{round(length)}px" if round(length) else "0"


def hairline(width: float) -> str:
    """Whole CSS pixels, one at the least."""
    return f"{max(1, round(width))}px"


def declarations(style: Style, length: Say = whole, line: Say = hairline) -> dict[str, str]:
    """What draws the box behind live text: its gradient, corners, border and shadows.

    A flat colour is left to who knows what lies on it; opacity and blending would change the words,
    too. `length` and `line` say lengths and the widths of borders; unless told otherwise those of
    `style` are CSS pixels and come out whole, as people write them.
    """
    return dict(_declared(style, length, line))


def _declared(style: Style, length: Say, line: Say) -> Iterator[tuple[str, str]]:
    if len(style.stops) > 1:
        yield "background", _gradient(style)
    if style.border:
        yield "box-sizing", "border-box"
        side = f"border-{style.border.side}" if style.border.side else "border"
        yield side, f"{line(style.border.width)} solid {style.border.color}"
    if style.radii is None:
        yield "border-radius", "50%"
    elif any(length(radius) != "0" for radius in style.radii.listed):
        yield "border-radius", _radii(style.radii, length)
    if style.shadows:
        yield "box-shadow", ", ".join(shadow_of(shadow, length) for shadow in style.shadows)


def _gradient(style: Style) -> str:
    stops = ", ".join(f"{stop.color} {100 * stop.position:.3g}%" for stop in style.stops)
    if (radial := style.radial) is None:
        return f"linear-gradient({style.angle or 0}deg, {stops})"
    shape = "circle" if radial.is_circle else "ellipse"
    centre = f"{100 * radial.x:.4g}% {100 * radial.y:.4g}%"
    return f"radial-gradient({shape} at {centre}, {stops})"


def _radii(radii: Radii, length: Say) -> str:
    shown = [length(radius) for radius in radii.listed]
    return shown[0] if len(set(shown)) == 1 else " ".join(shown)


def shadow_of(shadow: Shadow, length: Say) -> str:
    """A shadow as one of `box-shadow`."""
    shown = [length(value) for value in (shadow.x, shadow.y, shadow.blur, shadow.spread)]
    shown = shown if shown[-1] != "0" else shown[:-1]
    return " ".join([*(["inset"] if shadow.is_inner else []), *shown, shadow.color])
