"""A measured style -> the declarations of a style sheet that draw it."""

from __future__ import annotations

from collections.abc import Iterator

from riffler.analyse.style import Border, Radii, Shadow, Style


def declarations(style: Style) -> dict[str, str]:
    """What draws the box behind live text: its gradient, corners, border and shadows.

    Lengths of `style` are CSS pixels and come out whole, as people write them. A flat colour is
    left to who knows what lies on it; opacity and blending would change the words, too.
    """
    return dict(_declared(style))


def _declared(style: Style) -> Iterator[tuple[str, str]]:
    if len(style.stops) > 1:
        stops = ", ".join(f"{stop.color} {100 * stop.position:.3g}%" for stop in style.stops)
        yield "background", f"linear-gradient({style.angle or 0}deg, {stops})"
    if style.border:
        yield "box-sizing", "border-box"
        yield "border", _border(style.border)
    if style.radii is None:
        yield "border-radius", "50%"
    elif any(round(radius) for radius in style.radii.listed):
        yield "border-radius", _radii(style.radii)
    if style.shadows:
        yield "box-shadow", ", ".join(map(_shadow, style.shadows))


def _border(border: Border) -> str:
    return f"{max(1, round(border.width))}px solid {border.color}"


def _radii(radii: Radii) -> str:
    shown = [f"{round(radius)}px" if round(radius) else "0" for radius in radii.listed]
    return shown[0] if len(set(shown)) == 1 else " ".join(shown)


def _shadow(shadow: Shadow) -> str:
    lengths = [round(length) for length in (shadow.x, shadow.y, shadow.blur, shadow.spread)]
    lengths = lengths if lengths[-1] else lengths[:-1]
    return " ".join([*(f"{length}px" if length else "0" for length in lengths), shadow.color])
