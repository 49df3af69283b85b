"""Two styles of a plain box -> what of it is another now, as a style sheet says it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace

from riffler.analyse.declared import declarations
from riffler.analyse.style import CLEAR, Border, Radii, Shadow, Style
from riffler.changes.change import Aspect, Kind
from riffler.tokens.palette import steps_apart

#: How far lengths may be off in CSS pixels where pixels tell them: corners, borders, shadows.
CORNER, LINE, SOFT = 1.0, 0.6, 3.0

#: The same of colours, in levels of 255: of a fill, of a shadow.
FLAT, TINT = 1, 14

#: What each property is called.
CALLED = {"background": "gradient", "border": "border", "border-radius": "radius",
          "box-shadow": "shadow"}  # fmt: skip


def differences(
    was: Style, now: Style, *, is_exact: bool
) -> Iterator[tuple[Kind, tuple[Aspect, ...]]]:
    """Recoloured, restyled, or both. Lengths are CSS pixels.

    What is not `is_exact` was measured in pixels, and counts when it is off by more than that errs.
    """
    colors = []
    if len(was.stops) == len(now.stops) == 1:
        if _other_color(was.stops[0].color, now.stops[0].color):
            colors.append(Aspect("fill", _plain(was), _plain(now)))
        now = replace(now, stops=was.stops)
    if was.border and now.border and not _other_line(was.border, now.border, is_exact):
        if _other_color(was.border.color, now.border.color):
            colors.append(Aspect("border", was.border.color, now.border.color))
        now = replace(now, border=was.border)
    if colors:
        yield Kind.RECOLOURED, tuple(colors)
    settled = now if is_exact else _settled(was, now)
    before, after = (_said(style) for style in (was, settled))
    aspects = tuple(
        Aspect(CALLED[name], before.get(name, "none"), after.get(name, "none"))
        for name in CALLED if before.get(name) != after.get(name)
    )  # fmt: skip
    if aspects:
        yield Kind.RESTYLED, aspects


def _plain(style: Style) -> str:
    return "none" if style.stops[0] == CLEAR else style.stops[0].color


def _other_color(one: str, other: str) -> bool:
    return one != other and steps_apart(one, other) > FLAT


def _other_line(one: Border, other: Border, is_exact: bool) -> bool:
    return abs(one.width - other.width) > (0.01 if is_exact else LINE)


def _settled(was: Style, now: Style) -> Style:
    """What was measured, with what is off by no more than that errs as it was."""
    if was.radii and now.radii and _near(was.radii, now.radii):
        now = replace(now, radii=was.radii)
    if was.radii is None or now.radii is None:
        now = replace(now, radii=was.radii) if was.radii is None and _is_round(now) else now
    if _near_shadows(was.shadows, now.shadows):
        now = replace(now, shadows=was.shadows)
    if len(was.stops) == len(now.stops) > 1 and (was.radial is None) == (now.radial is None):
        is_near = all(
            steps_apart(one.color, other.color) <= 3 and abs(one.position - other.position) < 0.03
            for one, other in zip(was.stops, now.stops, strict=True)
        )
        if is_near and abs((was.angle or 0) - (now.angle or 0)) <= 2:
            now = replace(now, stops=was.stops, angle=was.angle, radial=was.radial)
    return now


def _is_round(style: Style) -> bool:
    return style.radii is not None and len(set(style.radii.listed)) == 1 and any(style.radii.listed)


def _near(one: Radii, other: Radii) -> bool:
    pairs = zip(one.listed, other.listed, strict=True)
    return all(abs(mine - its) <= CORNER for mine, its in pairs)


def _near_shadows(one: Sequence[Shadow], other: Sequence[Shadow]) -> bool:
    if len(one) != len(other):
        return False
    return all(
        mine.is_inner == its.is_inner and steps_apart(mine.color, its.color) <= TINT
        and max(abs(mine.x - its.x), abs(mine.y - its.y), abs(mine.blur - its.blur) / 2) <= SOFT
        for mine, its in zip(one, other, strict=True)
    )  # fmt: skip


def _said(style: Style) -> dict[str, str]:
    return declarations(style, _length, _length)


def _length(value: float) -> str:
    return f"{round(value, 1):g}px" if round(value, 1) else "0"
