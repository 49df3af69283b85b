"""Two styles of a plain box -> what of it is another now, as a style sheet says it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace

from riffler.analyse.declared import declarations
from riffler.analyse.style import CLEAR, Border, Radii, Shadow, Style
from riffler.changes.change import Aspect, ChangeKind
from riffler.csslength import px
from riffler.tokens.palette import steps_apart

#: How far lengths may be off in CSS pixels where pixels tell them: corners, borders, shadows.
CORNER, LINE, SOFT = 1.0, 0.6, 3.0

#: The same of colours, in levels of 255: of a fill, of a shadow.
FLAT, TINT = 1, 14

#: The same of a gradient: of a stop in levels and as a share of its line, and degrees of its angle.
STOP, AT, TURN = 3, 0.03, 2

#: What each property is called.
CALLED = {
    "background": "gradient",
    "border": "border",
    "border-radius": "radius",
    "box-shadow": "shadow",
}


def differences(
    was: Style, now: Style, *, is_exact: bool
) -> Iterator[tuple[ChangeKind, tuple[Aspect, ...]]]:
    """Recoloured, restyled, or both. Lengths are CSS pixels.

    What is not `is_exact` was measured in pixels, and counts when it is off by more than that errs.
    """
    was, now = _shown_border(was, now), _shown_border(now, was)
    colors = []
    if len(was.stops) == len(now.stops) == 1:
        if _other_color(was.stops[0].color, now.stops[0].color, is_exact):
            colors.append(Aspect("fill", _plain(was), _plain(now)))
        now = replace(now, stops=was.stops)
    if was.border and now.border and not _other_line(was.border, now.border, is_exact):
        if _other_color(was.border.color, now.border.color, is_exact):
            colors.append(Aspect("border", was.border.color, now.border.color))
        now = replace(now, border=was.border)
    if colors:
        yield ChangeKind.RECOLOURED, tuple(colors)
    settled = now if is_exact else _settled(was, now)
    before, after = (_said(style) for style in (was, settled))
    aspects = tuple(
        Aspect(CALLED[name], before.get(name, "none"), after.get(name, "none"))
        for name in CALLED
        if before.get(name) != after.get(name)
    )
    if aspects:
        yield ChangeKind.RESTYLED, aspects


def _shown_border(first: Style, second: Style) -> Style:
    """A style with the border that only the other shows, where it would not be seen on its fill."""
    if first.border is None and second.border and _plain(first) == second.border.color:
        return replace(first, border=second.border)
    return first


def _plain(style: Style) -> str:
    return "none" if style.stops[0] == CLEAR else style.stops[0].color


def _other_color(first: str, second: str, is_exact: bool) -> bool:
    return first != second and steps_apart(first, second) > (0 if is_exact else FLAT)


def _other_line(first: Border, second: Border, is_exact: bool) -> bool:
    return abs(first.width - second.width) > (0.01 if is_exact else LINE)


def _settled(was: Style, now: Style) -> Style:
    """What was measured, with what is off by no more than that errs as it was."""
    if _near_corners(was.radii, now.radii):
        now = replace(now, radii=was.radii)
    if _near_shadows(was.shadows, now.shadows):
        now = replace(now, shadows=was.shadows)
    if _near_gradient(was, now):
        now = replace(now, stops=was.stops, angle=was.angle, radial=was.radial)
    return now


def _near_corners(first: Radii | None, second: Radii | None) -> bool:
    """Whether corners are about equal; an ellipse is about a box that is round at its ends."""
    if first is None or second is None:
        round_ = first or second
        return round_ is None or (round_.is_one and any(round_.listed))
    pairs = zip(first.listed, second.listed, strict=True)
    return all(abs(mine - its) <= CORNER for mine, its in pairs)


def _near_gradient(was: Style, now: Style) -> bool:
    if len(was.stops) != len(now.stops) or (was.radial is None) != (now.radial is None):
        return False
    if abs((was.angle or 0) - (now.angle or 0)) > TURN:
        return False
    return all(
        steps_apart(first.color, second.color) <= STOP
        and abs(first.position - second.position) < AT
        for first, second in zip(was.stops, now.stops, strict=True)
    )


def _near_shadows(first: Sequence[Shadow], second: Sequence[Shadow]) -> bool:
    if len(first) != len(second):
        return False
    return all(
        mine.is_inner == its.is_inner
        and steps_apart(mine.color, its.color) <= TINT
        and max(abs(mine.x - its.x), abs(mine.y - its.y), abs(mine.blur - its.blur) / 2) <= SOFT
        for mine, its in zip(first, second, strict=True)
    )


def _said(style: Style) -> dict[str, str]:
    return declarations(style, _length, _length)


def _length(value: float) -> str:
    return px(value, 1) if round(value, 1) else "0"
