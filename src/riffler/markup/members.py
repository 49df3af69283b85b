"""Members of a list -> what they have: edges, pictures as wide as they are, labels in full rows."""

from __future__ import annotations

from collections.abc import Sequence

from riffler.geometry import Rect
from riffler.markup.area import Area, Shape
from riffler.markup.element import Element
from riffler.markup.extents import area_of, has_ground, hugs, is_label

#: A picture takes so much of the width of what it is in.
PICTURED = 0.7

#: What is nearer than this is at the same place, in CSS pixels.
NEAR = 1.5


def has_edges(part: Area) -> bool:
    """Whether the width of a thing is seen: by its own edges, or those of something in it."""
    return has_ground(part) or any(
        has_ground(inner) and inner.box.width >= part.box.width - NEAR for inner in part.parts
    )


def is_pictured(area: Area) -> bool:
    """Whether each thing of a list has a picture that is nearly as wide as it is."""
    return area.columns > 1 and all(
        any(
            leaf.shape is Shape.PICTURE and leaf.box.width >= PICTURED * part.box.width
            for leaf in part.walk()
        )
        for part in area.parts
    )


def needed(part: Area) -> float:
    """The least width of a thing: that of its widest label, with the room beside it."""
    whole, boxes = part.box, [leaf.box for leaf in part.walk() if hugs(leaf)]
    return max(
        (box.width + 2 * min(box.x - whole.x, whole.right - box.right) for box in boxes),
        default=0.0,
    )


def is_strip(area: Area) -> bool:
    """Whether a list is one row of pictures and nothing else."""
    are_pictures = all(part.shape is Shape.PICTURE and part.piece for part in area.parts)
    return are_pictures and area.columns == len(area.parts)


def fills_rows(items: Sequence[Element], boxes: Sequence[Rect]) -> bool:
    """Whether labels lie in several rows, each of which they share evenly from end to end."""
    rows: dict[int, list[Rect]] = {}
    for box in boxes:
        rows.setdefault(round(box.y), []).append(box)
    are_labels = all(hugs(area) or is_label(area) for area in map(area_of, items))
    if len(rows) < 2 or len(boxes) == len(rows) or not are_labels:
        return False
    left, right = boxes[0].x, max(box.right for box in boxes)
    return all(
        abs(row[0].x - left) <= NEAR
        and abs(row[-1].right - right) <= 2 * NEAR
        and max(box.width for box in row) - min(box.width for box in row) <= NEAR
        for row in rows.values()
    )
