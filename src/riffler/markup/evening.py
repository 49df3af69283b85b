"""Things in columns whose edges nobody sees -> boxes as wide as their columns are meant to be."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from itertools import pairwise

from riffler.geometry import Rect
from riffler.markup.area import Area, Shape
from riffler.markup.element import snapped
from riffler.markup.extents import has_ground, height_of, is_small, top_of

#: How far from its place at equal steps something may be, in CSS pixels.
OFF = 1.0

#: What is nearer than this is at the same place; what is centred may be so far off, in CSS pixels.
NEAR, CENTRED = 1.5, 2.5

#: The least room between columns whose edges nobody sees, and the most where these fill their
#: room, in CSS pixels.
LEAST, WIDEST = 8, 96

#: The fewest words in cells of one width, and how unequal the gaps between them are, in CSS pixels.
CELLS, UNEVEN = 4, 4

#: How far what stands beside icons may be from the middle of each, more or less, in CSS pixels.
CANVAS = 4

#: The largest icon, and how far the middles of icons on one line may be apart, and that of one
#: from the middle of what it heads, in CSS pixels.
ICON, MIDDLES = 96, 6


def evened(area: Area) -> Area:
    """A list with one row of columns, whose words are centred in them, with boxes of one width.

    Equal pitch is what is meant there, and not the gaps between words that happen to be so long.
    """
    middles = [part.box.x + part.box.width / 2 for part in area.parts]
    if area.columns != len(middles) or not _are_even(middles):
        return area
    pitch = (middles[-1] - middles[0]) / (len(middles) - 1)
    if pitch <= max(part.box.width for part in area.parts):
        return area
    if not all(map(_is_centred, area.parts)) and not _are_in_cells(area):
        return area
    leaves = {round(leaf.box.width / 4) for leaf in area.walk() if not leaf.parts}
    if at_pitch(area) and len(leaves) == 1:
        return area
    parts = tuple(
        replace(part, box=Rect(middle - pitch / 2, part.box.y, pitch, part.box.height))
        for part, middle in zip(area.parts, middles, strict=True)
    )
    box = Rect(parts[0].box.x, area.box.y, pitch * len(parts), area.box.height)
    return replace(area, parts=parts, box=box, pitch=pitch, is_centred=True)


def _are_in_cells(area: Area) -> bool:
    """Whether words whose middles are at equal steps have unequal gaps: each is in a cell."""
    gaps = [after.box.x - part.box.right for part, after in pairwise(area.parts)]
    are_words = all(part.setting is not None and not part.parts for part in area.parts)
    return are_words and len(area.parts) >= CELLS and max(gaps) - min(gaps) > UNEVEN


def spread(area: Area, right: float) -> Area:
    """A row of columns that begin at equal steps, so wide that they fill the room up to `right`.

    Nobody sees where such columns end: not at their ink.
    """
    parts = area.parts
    is_row = area.shape is Shape.LIST and area.columns == len(parts) > 1
    if not is_row or area.is_centred or not at_pitch(area) or not all(map(_is_loose, parts)):
        return area
    pitch = (parts[-1].box.x - parts[0].box.x) / (len(parts) - 1)
    gap = snapped(len(parts) * pitch - (right - parts[0].box.x))
    width = pitch - gap
    if gap < LEAST or width <= max(part.box.width for part in parts):
        return area
    wide = tuple(replace(part, box=replace(part.box, width=width)) for part in parts)
    return replace(area, parts=wide, box=Rect.around(part.box for part in wide) or area.box)


def even_gap(areas: Sequence[Area], right: float) -> float | None:
    """The gap between columns of lines that begin at equal steps and fill their room.

    The first may be wider than the others. None for what are no such columns.
    """
    are_plain = all(
        area.shape in (Shape.STACK, Shape.LIST) and not has_ground(area) and len(area.parts) > 1
        for area in areas
    )
    lefts = [area.box.x for area in areas]
    tail = lefts if len(areas) == 2 else lefts[1:]
    if not are_plain or len(areas) < 2:
        return None
    steps = [after - left for left, after in pairwise(tail)]
    gap = tail[-1] + steps[-1] - right
    is_even = max(steps) - min(steps) <= NEAR and -NEAR <= gap <= WIDEST
    has_room = all(area.box.width <= steps[-1] - max(gap, 0.0) + NEAR for area in areas[1:])
    return max(0.0, float(round(gap))) if is_even and has_room else None


def _is_loose(area: Area) -> bool:
    """Whether it is some things under one another, and no edge of it is seen."""
    is_stack = area.shape is Shape.STACK and len(area.parts) > 1
    return is_stack and area.ground is None and area.piece is None


def flush(parts: Sequence[Area]) -> list[Area]:
    """What stands under one another, with the icon that heads it where its texts begin.

    Its drawing begins somewhere on its canvas; what is meant is one edge.
    """
    icon, *others = parts
    lefts = [part.box.x for part in others if part.setting and part.setting.align == "left"]
    if not lefts or not _is_icon(icon) or icon.piece is None:
        return [icon, *others]
    by = min(lefts) - icon.piece.paint.x
    middles = [part.box.x + part.box.width / 2 for part in others]
    middle = icon.box.x + icon.box.width / 2
    is_centred = any(abs(middle - other) <= CENTRED for other in middles)
    if is_centred or abs(by) > MIDDLES:
        return [icon, *others]
    piece = replace(icon.piece, paint=icon.piece.paint.moved(by, 0))
    return [replace(icon, box=icon.box.moved(by, 0), piece=piece), *others]


def _seen(area: Area) -> Iterator[Area]:
    """What is seen of an area: with edges, or by itself."""
    for part in area.parts:
        if part.ground is not None or not part.parts:
            yield part
        else:
            yield from _seen(part)


def levelled(area: Area) -> Area:
    """A row of things, each headed by an icon, with the icons in tracks of one height.

    What is meant there is one canvas: what stands below each begins at one height.
    """
    icons = [part.parts[0] for part in area.parts if part.shape is Shape.STACK and part.parts]
    is_row = len(icons) == len(area.parts) == area.columns > 1
    if not is_row or not all(map(_is_icon, icons)):
        return area
    heights = [height_of(icon) for icon in icons]
    middles = [top_of(icon) + height / 2 for icon, height in zip(icons, heights, strict=True)]
    middle, high = sum(middles) / len(middles), max(heights)
    if _are_even_tops(icons) or max(middles) - min(middles) > MIDDLES:
        return area
    top = float(round(middle - high / 2))
    parts = tuple(_with_track(part, top, high) for part in area.parts)
    box = Rect.around(part.box for part in parts)
    return replace(area, box=box or area.box, parts=parts)


def _are_even_tops(icons: Sequence[Area]) -> bool:
    """Whether icons begin at one height, and are as high as one another or as they were drawn."""
    tops, heights = [icon.box.y for icon in icons], [height_of(icon) for icon in icons]
    are_known = all(icon.piece and icon.piece.on_square for icon in icons)
    return (are_known or _range(heights) <= NEAR) and _range(tops) <= NEAR


def canvassed(area: Area) -> Area:
    """Rows that begin with icons of several sizes, each in the middle of a canvas of one size.

    What stands beside them begins at one place, as far from the middle of each.
    """
    pairs = list(filter(None, map(_leading, area.parts)))
    if len(pairs) < 2 or len(pairs) < len(area.parts):
        return area
    boxes = [icon for icon, _ in pairs]
    middles = [_from_middle(icon, text) for icon, text in pairs]
    widths, heights = [box.width for box in boxes], [box.height for box in boxes]
    are_apart = max(_range([x for x, _ in middles]), _range([y for _, y in middles])) > CANVAS
    if are_apart or max(_range(widths), _range(heights)) <= NEAR:
        return area
    parts = (_on_canvas(part, max(widths), max(heights)) for part in area.parts)
    return replace(area, parts=tuple(parts))


def _leading(part: Area) -> tuple[Rect, Rect] | None:
    """Where the icon lies that begins a thing, and the text beside it."""
    row = part.parts[0] if part.shape is Shape.STACK and part.parts else part
    if row.shape is not Shape.ROW or len(row.parts) < 2:
        return None
    icon, beside = row.parts[:2]
    text = next((leaf for leaf in beside.walk() if leaf.setting), None)
    if text is None or not may_have_canvas(icon) or icon.piece is None:
        return None
    return icon.piece.paint, text.box


def may_have_canvas(icon: Area) -> bool:
    """Whether a picture is an icon that a browser shows in its own size in a larger box."""
    piece = icon.piece
    if not _is_icon(icon) or piece is None:
        return False
    return not (piece.is_fine or piece.on_square or any(piece.room))


def _on_canvas(part: Area, wide: float, high: float) -> Area:
    """A thing with the icon that begins it in the middle of a canvas."""
    if part.shape is Shape.STACK:
        return replace(part, parts=(_on_canvas(part.parts[0], wide, high), *part.parts[1:]))
    icon, *others = part.parts
    return replace(part, parts=(in_the_middle(icon, wide, high), *others))


def in_the_middle(icon: Area, wide: float, high: float) -> Area:
    """An icon in the middle of a canvas of this size."""
    if icon.piece is None:
        return icon
    x, y = _middle(icon.piece.paint)
    canvas = Rect(x - wide / 2, y - high / 2, wide, high)
    return replace(icon, box=canvas, piece=replace(icon.piece, paint=canvas, has_canvas=True))


def _middle(box: Rect) -> tuple[float, float]:
    return box.x + box.width / 2, box.y + box.height / 2


def _from_middle(icon: Rect, text: Rect) -> tuple[float, float]:
    """How far a text begins beside the middle of an icon, and its own middle is below it."""
    x, y = _middle(icon)
    return text.x - x, _middle(text)[1] - y


def _range(lengths: Sequence[float]) -> float:
    return max(lengths) - min(lengths)


def _is_icon(area: Area) -> bool:
    return is_small(area, ICON)


def on_track(icon: Area, top: float, high: float) -> Area:
    """An icon in a track that begins at `top`."""
    piece = icon.piece
    if piece is not None:
        piece = replace(piece, paint=replace(piece.paint, y=top, height=high))
    box = replace(icon.box, y=top, height=high)
    return replace(icon, box=box, track=high, piece=piece)


def _with_track(part: Area, top: float, high: float) -> Area:
    icon = on_track(part.parts[0], top, high)
    box = part.box
    if not part.ground:
        box = replace(box, y=top, height=box.bottom - top)
    return replace(part, box=box, parts=(icon, *part.parts[1:]))


def at_pitch(area: Area) -> bool:
    """Whether the things of a list with one row begin at equal steps."""
    return _are_even([part.box.x for part in area.parts])


def pitch_of(row: Sequence[Area], step: float) -> float:
    """The step from each thing of a row to the next, by where they begin: ink begins anywhere.

    It is `step`, that of their ink, where these are no equal steps, or the same.
    """
    lefts = [area.box.x for area in row]
    if not _are_even(lefts):
        return step
    pitch = (lefts[-1] - lefts[0]) / (len(lefts) - 1)
    return step if abs(pitch - step) < OFF / 2 else float(round(pitch))


def _are_even(places: Sequence[float]) -> bool:
    """Whether places, of which there are several, lie at equal steps."""
    if len(places) < 2:
        return False
    step = (places[-1] - places[0]) / (len(places) - 1)
    return all(abs(place - places[0] - n * step) <= OFF for n, place in enumerate(places))


def _is_centred(part: Area) -> bool:
    """Whether all that is seen of a thing stands in its middle, and its edges are not seen."""
    if part.ground or part.piece or part.shape is not Shape.STACK:
        return False
    middle = part.box.x + part.box.width / 2
    leaves = list(_seen(part))
    return len(leaves) > 1 and all(
        abs(leaf.box.x + leaf.box.width / 2 - middle) <= (MIDDLES if _is_icon(leaf) else CENTRED)
        for leaf in leaves
    )
