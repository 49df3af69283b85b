"""The edges that most of a page keeps -> rows and stacks that reach them, if their ink does not.

A mark whose drawing begins inside its box, or signs that end before theirs, stand in a row that
goes from edge to edge: what is meant is the edge, and the rest is room in the row.
"""

from __future__ import annotations

from collections import Counter
from dataclasses import replace

from riffler.geometry import Rect
from riffler.markup.area import Area, Shape
from riffler.markup.evening import spread
from riffler.markup.places import Edges
from riffler.reading.part import PartKind

#: How far before an edge what is drawn may end, how far over it what is measured may, and how
#: wide a mark is at the most with as much room on both sides, in CSS pixels.
REACH, OFF, MARK = 12, 1, 64

#: How many things begin at one place at least, and how far from the side at the most, as a share
#: of the page.
COMMON, FARTHEST = 4, 0.25

#: The share of those at the most common place that begin at the page's own, at the least; a band
#: takes so much of a page's width, or of its sheet's.
FEW, BAND = 0.25, 0.8

#: How high a logo is at the most, and how far down the page it ends, in CSS pixels; how much clear
#: space it has at its sides, as a share of its height.
LOW, HEAD, CLEAR = 80, 140, 0.5

#: A sheet takes so much of a page's width and height at least; it lies in the middle, give or take
#: CSS pixels.
SHEET, NEAR = 0.6, 2

_LOOSE = (Shape.ROW, Shape.STACK, Shape.LINES)


def wrap_of(page: Area) -> Edges | None:
    """The edges from which most of a page begins, alike on both sides; None where it has none.

    What is in a plate, or in a column, begins farther in, however much of it there is.
    """
    width = page.box.width
    lefts = Counter(
        round(area.box.x)
        for area in page.walk()
        if area.setting or (area.ground and area.box.width < BAND * width)
    )
    near = [x for x in lefts if x <= FARTHEST * width]
    counts = {x: lefts[x - 1] + lefts[x] + lefts[x + 1] for x in near}
    least = max(COMMON, FEW * max(counts.values(), default=0))
    left = min((x for x, count in counts.items() if count >= least), default=None)
    if left is None:
        return None
    left = max((left, left + 1), key=lambda x: lefts[x])  # the next may be the one that is meant
    return Edges(float(left), width - left)


def wrapped(area: Area, wrap: Edges | None) -> Area:
    """An area, with frames in it that nearly reach the edges made to.

    What is in a plate that begins there keeps to that plate.
    """
    box = area.box
    if wrap is None or (area.ground is not None and box.x >= wrap.left - OFF):
        return area
    parts = [
        part if area.shape is Shape.ROW and _is_of_pictures(part) else wrapped(part, wrap)
        for part in area.parts
    ]
    is_frame = area.ground is None and area.piece is None
    is_loose = is_frame and area.shape in _LOOSE
    box = _reaching(box, wrap) if is_loose else box
    parts = _with_marks(area, _spread(area.shape, parts, max(wrap.right, box.right)), wrap.left)
    if is_frame:
        box = Rect.around([box, *(part.box for part in parts if not part.is_pinned)]) or box
    box = _reaching(box, wrap) if is_loose else box
    return replace(area, box=box, parts=tuple(parts))


def _reaching(box: Rect, wrap: Edges) -> Rect:
    """A box to the edges of the page, where it ends a little before or over them."""
    left = wrap.left if -OFF <= box.x - wrap.left <= REACH else box.x
    right = wrap.right if -OFF <= wrap.right - box.right <= REACH else box.right
    return Rect(left, box.y, right - left, box.height)


def _spread(shape: Shape, parts: list[Area], right: float) -> list[Area]:
    """The parts of a row with the columns that end it as wide as there is room.

    Those that stand by themselves know their room when they are laid out.
    """
    return [*parts[:-1], spread(parts[-1], right)] if shape is Shape.ROW else parts


def _is_of_pictures(part: Area) -> bool:
    """Whether it is a row of nothing but pictures beside something else, which keep their place."""
    return part.shape is Shape.ROW and all(one.shape is Shape.PICTURE for one in part.parts)


def _with_marks(area: Area, parts: list[Area], left: float) -> list[Area]:
    """Parts with the mark that begins a row, or the logo in a stack, on its canvas."""
    if area.shape is Shape.ROW and parts[0].shape is Shape.PICTURE:
        highest = max(part.box.height for part in area.parts)
        beside = parts[1].box.y + parts[1].box.height / 2
        return [on_canvas(parts[0], left, highest, beside), *parts[1:]]
    if area.shape is Shape.STACK:
        return [
            on_canvas(part, left, part.box.height) if _is_logo(part) else part for part in parts
        ]
    return parts


def _is_logo(part: Area) -> bool:
    """Whether it is one: a low picture at the head of a page is, whoever is named in it."""
    is_low = part.shape is Shape.PICTURE and part.box.height <= LOW and part.box.bottom <= HEAD
    return part.kind is PartKind.LOGO or is_low


def on_canvas(area: Area, left: float, highest: float, middle: float | None = None) -> Area:
    """A mark that begins a little inside the edge, on a canvas that begins there.

    That of a small one is a square with the mark in its middle, or with that of what stands beside
    it, at `middle`, where the mark has the room. A long one has half the room above and below that
    it has at its sides.
    """
    if area.piece is None:
        return area
    paint = area.piece.paint
    reach = max(REACH, CLEAR * paint.height) if _is_logo(area) else REACH
    if not 0 < paint.x - left <= reach:
        return area
    beside = paint.x - left
    side = paint.width + 2 * beside
    above, after = max(0.0, (min(side, highest + REACH) - paint.height) / 2), beside
    if side > MARK:
        above, after = beside / 2, beside
    lower = 0.0 if middle is None else middle - paint.y - paint.height / 2
    lower = lower if abs(lower) <= above else 0.0
    canvas = Rect(
        left, paint.y - above + lower, beside + paint.width + after, paint.height + 2 * above
    )
    room = (above - lower, after, above + lower, beside)
    piece = replace(area.piece, paint=canvas, room=room)
    return replace(area, box=canvas, piece=piece)


def sheet_of(page: Area) -> float:
    """How wide the sheet is that all of a page lies on; the page itself where there is none."""
    whole = page.box
    for area in page.walk():
        box = area.box
        is_middle = abs(box.x - (whole.width - box.right)) <= NEAR
        is_large = box.width >= SHEET * whole.width and box.height >= SHEET * whole.height
        if area.ground is not None and area.parts and is_middle and is_large:
            return box.width
    return whole.width
