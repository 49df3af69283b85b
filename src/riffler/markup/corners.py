"""A box and what is in it -> the same, with what sits in a corner of it taken out of the flow."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from riffler.markup.area import Area, Shape
from riffler.markup.extents import has_ground, is_label
from riffler.markup.sections import framed

#: How far from the corner a badge sits, and how high it is at the most, in CSS pixels.
CORNER, HIGHEST = 24, 40

#: What reaches over the edge of a box by so much lies on that edge, in CSS pixels.
OVER = 4

#: How high what leads to the next picture is at the most, and how far from its side, in CSS pixels.
PAGER = 80

#: The longest side of a badge that breaks out of what it sits on, in CSS pixels.
LARGEST = 120


def with_badges(area: Area) -> Area:
    """A box in a corner of which a label sits, at its own size, whatever stands below."""
    if area.shape is not Shape.STACK or not area.parts:
        return area
    first, *others = area.parts
    if first.shape is Shape.PILE and len(first.parts) == 2 and _is_label(first.parts[1]):
        picture, label = first.parts
        return replace(area, parts=(replace(label, is_pinned=True), picture, *others))
    return area if area.ground is None else _with_badge(area)


def given_out(area: Area) -> Area:
    """A pile of a list and labels on it as the list, with each label in a corner of its member."""
    if area.shape is not Shape.PILE or area.parts[0].shape is not Shape.LIST:
        return area
    found, *labels = area.parts
    if not all(_is_label(label, LARGEST) and label.box.width <= LARGEST for label in labels):
        return area
    members = list(found.parts)
    for label in labels:
        shares = [label.box.share_in(member.box) for member in members]
        at = shares.index(max(shares))
        if not shares[at] or members[at].shape is not Shape.STACK:
            return area
        pinned = replace(label, is_pinned=True)
        members[at] = replace(members[at], parts=(pinned, *members[at].parts))
    return replace(found, parts=tuple(members))


def with_pager(pile: Area) -> Area:
    """A picture with things upon it, of which the two alike at its sides stay there."""
    picture, upon = pile.parts
    for row in upon.walk():
        if row.shape is Shape.ROW and row.is_frame and _is_pager(row.parts, picture):
            first, *between, last = row.parts
            pins = [replace(sign, is_pinned=True) for sign in (first, last)]
            left = _without(upon, row, between)
            return replace(pile, parts=(picture, *([left] if left else []), *pins))
    return pile


def _is_pager(parts: Sequence[Area], picture: Area) -> bool:
    """Whether a row on a picture begins and ends with plates alike, each as near to its side."""
    first, last = parts[0].box, parts[-1].box
    if any(part.setting is not None for part in (parts[0], parts[-1])):
        return False
    across, down = first.width - last.width, first.height - last.height
    if max(abs(across), abs(down), abs(first.y - last.y)) > 1 or first.height > PAGER:
        return False
    left, right = first.x - picture.box.x, picture.box.right - last.right
    is_wide = last.x - first.right > picture.box.width / 2
    return is_wide and abs(left - right) <= OVER and left <= PAGER


def _without(area: Area, row: Area, between: Sequence[Area]) -> Area | None:
    """An area with what is left of a row of it."""
    if area is row:
        if len(between) < 2:
            return between[0] if between else None
        return replace(framed(between), shape=Shape.ROW)
    if all(inner is not row for inner in area.walk()):
        return area
    parts = [part for one in area.parts if (part := _without(one, row, between))]
    return replace(framed(parts), shape=area.shape, kind=area.kind) if parts else None


def _with_badge(area: Area) -> Area:
    parts = list(area.parts)
    if parts[0].shape is Shape.ROW and len(parts[0].parts) == 2:
        parts[:1] = parts[0].parts
    badges = [part for part in parts if _is_badge(part, area)]
    others = [part for part in parts if part not in badges]
    if len(badges) != 1 or not others:
        return area
    return replace(area, parts=(replace(badges[0], is_pinned=True), *others))


def _is_label(part: Area, highest: float = HIGHEST) -> bool:
    return has_ground(part) and is_label(part) and part.box.height <= highest


def _is_badge(part: Area, area: Area) -> bool:
    if not _is_label(part) or part.box.width > area.box.width / 2:
        return False
    down, beside = part.box.y - area.box.y, area.box.right - part.box.right
    if -HIGHEST <= down <= -OVER:  # wherever it breaks out of the upper edge
        return True
    return -HIGHEST <= down <= CORNER and -CORNER <= beside <= CORNER
