"""Small drawings -> icons, in sets that share a canvas."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import TypeAlias

from riffler.geometry import Box
from riffler.mockup.model import Layer
from riffler.reading.reading import Reading

#: The largest icon, in CSS pixels, how much smaller than the next of a set one may be, and how
#: many times as long as high it is not any more: that is lettering.
ICON, ALIKE, LONG = 128, 0.6, 2

#: Icons of a set whose longer sides are within this ratio look alike in size. Those of a row may
#: differ more, and the largest of two rows less; how far apart the middles of a row are, as a share
#: of a side.
SET, ROW, SAME, BESIDE = 1.3, 1.6, 1.1, 0.25

#: How much larger than its largest drawing the canvas of a set is, which has a clear rim as icons
#: are drawn with, and what its side is a multiple of, in CSS pixels. Larger drawings than this are
#: cropped to what they paint.
CANVAS, STEP, LARGEST = 1.08, 2, 64

#: How many times as long as high a large icon is at the most: longer drawings are pictures.
SQUARE = 1.2

#: The layers of one drawing.
Drawing: TypeAlias = tuple[Layer, ...]


def has_size_of_icon(box: Box, density: float) -> bool:
    """Whether a box in mockup pixels is as small as icons are, and no long one."""
    shorter, longer = sorted((box.width, box.height))
    return longer <= ICON * density and longer < LONG * shorter


def _is_icon(box: Box, density: float) -> bool:
    """Whether a drawing in such a box may be one of a set: what is large is nearly square."""
    shorter, longer = sorted((box.width, box.height))
    is_even = longer <= LARGEST * density or longer <= SQUARE * shorter
    return is_even and has_size_of_icon(box, density)


def icon_sets(reading: Reading, boxes: Mapping[Drawing, Box]) -> list[list[Drawing]]:
    """Small drawings of about one size, in sets of one size: icons. Photographs are none.

    Three and more of a kind are icons, and then those of them that are as large stand together;
    what stands in a row is one set.
    """
    small = [
        layers
        for layers, box in boxes.items()
        if _is_icon(box, reading.density) and not any(map(reading.has_own_edges, layers))
    ]
    sets: list[list[Drawing]] = []
    for layers in sorted(small, key=lambda layers: -_side(boxes[layers])):
        if sets and _side(boxes[layers]) >= ALIKE * _side(boxes[sets[-1][-1]]):
            sets[-1].append(layers)
        else:
            sets.append([layers])
    return [
        icons for icon_set in sets if len(icon_set) > 2 for icons in _of_a_size(icon_set, boxes)
    ]


def icon_canvas(boxes: Sequence[Box], density: float) -> int | None:
    """The side of the square canvas of a set, in mockup pixels; None for what needs no rim."""
    largest = max(map(_side, boxes))
    if largest > LARGEST * density:
        return None
    return max(largest, round(round(CANVAS * largest / density / STEP) * STEP * density))


def _of_a_size(icons: Sequence[Drawing], boxes: Mapping[Drawing, Box]) -> list[list[Drawing]]:
    """Icons from the largest, in sets of which all rows have about one size."""
    sets: list[list[Drawing]] = []
    for row in _in_rows(icons, boxes):
        if sets and _side(boxes[row[0]]) * SAME >= _side(boxes[sets[-1][0]]):
            sets[-1].extend(row)
        else:
            sets.append(row)
    return sets


def _in_rows(icons: Sequence[Drawing], boxes: Mapping[Drawing, Box]) -> list[list[Drawing]]:
    """Icons from the largest, with those together that look alike in size and share a height."""
    rows: list[list[Drawing]] = []
    for layers in icons:
        side, middle = _side(boxes[layers]), boxes[layers].y + boxes[layers].height / 2
        for row in rows:
            first = boxes[row[0]]
            apart = abs(middle - first.y - first.height / 2)
            if side * ROW >= _side(first) and apart <= BESIDE * side:
                row.append(layers)
                break
        else:
            rows.append([layers])
    return rows


def _side(box: Box) -> int:
    return max(box.width, box.height)
