"""A box and what is in it -> the same, with what sits in a corner of it taken out of the flow."""

from __future__ import annotations

from dataclasses import replace

from riffler.markup.area import Area, Shape

#: How far from the corner a badge sits, and how high it is at the most, in CSS pixels.
CORNER, HIGHEST = 24, 40


def with_badges(area: Area) -> Area:
    """A box in whose upper right corner a label sits, at its own size, whatever stands below."""
    if area.shape is not Shape.STACK or area.ground is None or len(area.parts) < 2:
        return area
    parts = list(area.parts)
    if parts[0].shape is Shape.ROW and len(parts[0].parts) == 2:
        parts[:1] = parts[0].parts
    badges = [part for part in parts if _is_badge(part, area)]
    others = [part for part in parts if part not in badges]
    if len(badges) != 1 or not others:
        return area
    return replace(area, parts=(replace(badges[0], is_pinned=True), *others))


def _is_badge(part: Area, area: Area) -> bool:
    if part.ground is None or len(part.parts) != 1 or part.parts[0].setting is None:
        return False
    if part.box.height > HIGHEST or part.box.width > area.box.width / 2:
        return False
    down, beside = part.box.y - area.box.y, area.box.right - part.box.right
    return -HIGHEST <= down <= CORNER and -CORNER <= beside <= CORNER
