"""A box and what is in it -> the same, with what sits in a corner of it taken out of the flow."""

from __future__ import annotations

from dataclasses import replace

from riffler.markup.area import Area, Shape
from riffler.markup.extents import has_ground, is_label

#: How far from the corner a badge sits, and how high it is at the most, in CSS pixels.
CORNER, HIGHEST = 24, 40


def with_badges(area: Area) -> Area:
    """A box in a corner of which a label sits, at its own size, whatever stands below."""
    if area.shape is not Shape.STACK or not area.parts:
        return area
    first, *others = area.parts
    if first.shape is Shape.PILE and len(first.parts) == 2 and _is_label(first.parts[1]):
        picture, label = first.parts
        return replace(area, parts=(replace(label, is_pinned=True), picture, *others))
    return area if area.ground is None else _with_badge(area)


def _with_badge(area: Area) -> Area:
    parts = list(area.parts)
    if parts[0].shape is Shape.ROW and len(parts[0].parts) == 2:
        parts[:1] = parts[0].parts
    badges = [part for part in parts if _is_badge(part, area)]
    others = [part for part in parts if part not in badges]
    if len(badges) != 1 or not others:
        return area
    return replace(area, parts=(replace(badges[0], is_pinned=True), *others))


def _is_label(part: Area) -> bool:
    return has_ground(part) and is_label(part) and part.box.height <= HIGHEST


def _is_badge(part: Area, area: Area) -> bool:
    if not _is_label(part) or part.box.width > area.box.width / 2:
        return False
    down, beside = part.box.y - area.box.y, area.box.right - part.box.right
    return -HIGHEST <= down <= CORNER and -CORNER <= beside <= CORNER
