"""Layers of one group -> the rows of things alike among them: tabs, cards, items in a list."""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass
from functools import partial
from itertools import pairwise
from typing import Literal, TypeAlias

from riffler.analyse.repetition import TOLERANCE, Lattice, evened, in_parts, lattice, lattices
from riffler.geometry import Box, Size, union
from riffler.mockup.model import Layer, drawings, is_drawing
from riffler.reading import layer_names
from riffler.reading.judgement import Becomes
from riffler.reading.make import ODD, families, make_of
from riffler.reading.reading import Reading
from riffler.reading.tabs import bar_of, from_the_left, tab_boxes

RowKind: TypeAlias = Literal["tabs", "cards", "items", "bars"]

#: The same where text alone says where a thing begins: letters are not of one height.
LOOSE = 5

#: The part of their height that cards in a row have in common at the least.
SIDE_BY_SIDE = 0.7


@dataclass(frozen=True)
class Row:
    """Things alike in one group, on a lattice. `kind` says what they are.

    `boxes` lie as `members`, row by row; `bar` is what tabs lie on.
    """

    parent: Layer | None
    kind: RowKind
    members: tuple[Layer, ...]
    boxes: tuple[Box, ...]
    lattice: Lattice
    bar: Layer | None = None


def rows_of(reading: Reading, parent: Layer | None, layers: Sequence[Layer]) -> Iterator[Row]:
    """The sets of siblings that are made alike and lie on a lattice."""
    alike = [_without_odd(reading, family) for family in families(reading, layers)]
    for members in _joined(reading, parent, alike, layers):
        yield from _rows(reading, parent, layers, members)


def _joined(
    reading: Reading, parent: Layer | None, result: list[list[Layer]], layers: Sequence[Layer]
) -> list[list[Layer]]:
    """Families, joined by those siblings that fill their gaps: rows with a badge, or without one.

    A row that has some parts more than the others stands among them all the same.
    """
    known = {layer.address for family in result for layer in family}
    alone = [
        [layer]
        for layer in layers
        if layer.visible and layer.is_group and not is_drawing(layer) and layer.address not in known
    ]
    order = {layer.address: number for number, layer in enumerate(layers)}
    joined: list[list[Layer]] = []
    for family in [*sorted(result, key=lambda family: -len(family)), *alone]:
        homes = (home for home in joined if _fits_into(reading, parent, home, family))
        home = next(homes, None)
        if home is None:
            joined.append([*family])
        else:
            home[:] = sorted([*home, *family], key=lambda layer: order[layer.address])
    return _paired(reading, joined)


def _paired(reading: Reading, joined: list[list[Layer]]) -> list[list[Layer]]:
    """Families of several, and two that are alone but for a badge on one of them."""
    single = [family[0] for family in joined if len(family) == 1]
    pairs = [[*pair] for pair in pairwise(single) if _are_plates(reading, pair)]
    return [*(family for family in joined if len(family) > 1), *pairs[:1]]


def _are_plates(reading: Reading, pair: Sequence[Layer]) -> bool:
    """Whether two things are cards of one size beside each other, one of them with a badge, say."""
    plates = [plate_of(reading, layer) for layer in pair]
    boxes = [reading.box(plate) for plate in plates if plate is not None]
    first, second = (*boxes, None, None)[:2]
    if first is None or second is None or not _is_more_of(reading, *pair):
        return False
    return first.size == second.size and (first.x == second.x or first.y == second.y)


def _fits_into(
    reading: Reading, parent: Layer | None, home: list[Layer], family: list[Layer]
) -> bool:
    """Whether the fewer of two families stand in the gaps between the others."""
    if len(home) < 2 or not home[0].is_group or not family[0].is_group:
        return False
    if not _is_more_of(reading, home[0], family[0]):
        return False
    texts = [box.size for layer in home if (box := _text_box(reading, layer))]
    text = _text_box(reading, family[0])
    if text is None or not _has_side_of(text, texts, LOOSE * reading.density):
        return False
    both = [*home, *family]
    return _kind_of_row(reading, parent, both) == "items" and _is_even(reading, both)


def _is_more_of(reading: Reading, first: Layer, second: Layer) -> bool:
    """Whether one of two things has all the kinds of parts of the other, and few more."""
    a, b = make_of(reading, first), make_of(reading, second)
    return (a.holds(b) or b.holds(a)) and a.off(b) <= max(2, min(a.parts, b.parts) // ODD)


def _is_even(reading: Reading, members: list[Layer]) -> bool:
    """Whether all of them lie on one lattice."""
    boxes = [box for member in members if (box := _member_box(reading, "items", member))]
    if len(boxes) < len(members):
        return False
    is_even = lattice(boxes, round(LOOSE * reading.density)) is not None
    return is_even or _in_line(reading, members, boxes) is not None


def _in_line(reading: Reading, members: list[Layer], boxes: list[Box]) -> list[Box] | None:
    """The boxes of items that are in line by another edge, or by their text; as `evened`."""
    texts = [_text_box(reading, member) for member in members]
    return evened(boxes, texts, round(LOOSE * reading.density))


def _rows(
    reading: Reading, parent: Layer | None, siblings: Sequence[Layer], members: list[Layer]
) -> Iterator[Row]:
    """The rows that things made alike stand in: one, or several with gaps between."""
    kind, bar = _kind_and_bar(reading, parent, siblings, members)
    if kind is None or (kind == "items" and len(members) < 3 and not _is_pair(reading, members)):
        return
    boxes = [box for member in members if (box := _member_box(reading, kind, member))]
    if len(boxes) < len(members):
        return
    if kind == "cards" and not _are_of_a_size(boxes, round(TOLERANCE * reading.density)):
        return
    boxes = _settled(reading, kind, members, boxes, bar)
    for grid in _lattices(boxes, kind, reading.density):
        yield Row(
            parent,
            kind,
            tuple(members[index] for index in grid.members),
            tuple(boxes[index] for index in grid.members),
            grid,
            bar,
        )


def _without_odd(reading: Reading, members: list[Layer]) -> list[Layer]:
    """Things made alike, without those of another make that have another width and height, too."""
    makes = [make_of(reading, member) for member in members]
    usual, count = Counter(makes).most_common(1)[0]
    if count < 2 or count == len(members) or not members[0].is_group:
        return members
    boxes = [_member_box(reading, "items", member) for member in members]
    sizes = {box.size for box, make in zip(boxes, makes, strict=True) if box and make == usual}
    return [
        member
        for member, box, make in zip(members, boxes, makes, strict=True)
        if make == usual or (box is not None and _has_side_of(box, sizes, LOOSE * reading.density))
    ]


def _has_side_of(box: Box, sizes: Collection[Size], off: float) -> bool:
    """Whether a box is about as wide, or as high, as one of some sizes."""
    return any(
        abs(box.width - size.width) <= off or abs(box.height - size.height) <= off for size in sizes
    )


def _is_pair(reading: Reading, members: Sequence[Layer]) -> bool:
    """Whether two things alone are made alike: of one size and in line, words with more than words.

    So are the halves of a band, cards without plates, labels with their fields.
    """
    boxes = [reading.extent(member) for member in members]
    if len(members) != 2 or boxes[0] is None or boxes[1] is None:
        return False
    first, second = boxes[0], boxes[1]
    make = make_of(reading, members[0])
    if make != make_of(reading, members[1]) or make.texts == 0 or make.parts == make.texts:
        return False
    off = round(2 * TOLERANCE * reading.density)
    same = abs(first.width - second.width) <= off and abs(first.height - second.height) <= off
    return same and min(abs(first.x - second.x), abs(first.y - second.y)) <= off


def _kind_and_bar(
    reading: Reading, parent: Layer | None, siblings: Sequence[Layer], members: list[Layer]
) -> tuple[RowKind | None, Layer | None]:
    """What a row is, and what tabs lie on; without a bar each has a plate, as cards have."""
    kind = _kind_of_row(reading, parent, members)
    if kind != "tabs":
        return kind, None
    bar = bar_of(reading, siblings, members)
    if bar is None:
        kind = "cards" if members[0].is_group and plate_of(reading, members[0]) else None
    return kind, bar


def _settled(
    reading: Reading, kind: RowKind, members: list[Layer], boxes: list[Box], bar: Layer | None
) -> list[Box]:
    """Tabs as high as their bar, items in line with one another; others as they are."""
    if bar is not None:
        return tab_boxes(reading, boxes, bar)
    return (_in_line(reading, members, boxes) or boxes) if kind == "items" else boxes


def _lattices(boxes: Sequence[Box], kind: RowKind, density: float) -> list[Lattice]:
    """Where things of a kind lie; tabs of several widths are one row without a step."""
    tolerance = round((LOOSE if kind == "items" else TOLERANCE) * density)
    if kind != "tabs":
        parts = in_parts(boxes, tolerance) if len(boxes) > 2 else None
        whole = parts or (_beside(boxes, tolerance) if kind == "cards" else None)
        return [whole] if whole else lattices(boxes, tolerance)
    even = lattice(boxes, tolerance)
    return [even or Lattice(tuple(from_the_left(boxes)), len(boxes), (0, 0))]


def _beside(boxes: Sequence[Box], tolerance: int) -> Lattice | None:
    """Where cards stand side by side, be some higher or lower, as the one that matters is."""
    shared = min(box.bottom for box in boxes) - max(box.y for box in boxes)
    if shared < SIDE_BY_SIDE * min(box.height for box in boxes):
        return None
    return lattice([Box(box.x, 0, box.width, 1) for box in boxes], tolerance)


def _are_of_a_size(boxes: Sequence[Box], tolerance: int) -> bool:
    """Whether cards are as wide, or as high, as one another; two of them must be both."""
    same = [
        max(sides) - min(sides) <= 2 * tolerance
        for sides in ([box.width for box in boxes], [box.height for box in boxes])
    ]
    return all(same) if len(boxes) == 2 else any(same)


def _kind_of_row(reading: Reading, parent: Layer | None, members: list[Layer]) -> RowKind | None:
    first = members[0]
    is_called_tabs = _is_navigation(parent, members)
    if not first.is_group:
        return "tabs" if is_called_tabs and len(members) >= 3 else None
    shown = [part for part in drawings(first.children) if part.visible]
    texts = sum(reading.is_words(part) for part in shown)
    if texts == 1 and is_called_tabs:
        return "tabs"
    if any(layer_names.means(member, layer_names.BUTTON) for member in members):
        return None
    least = 1 if len(members) >= 3 else 2
    has_plates = texts >= least and all(map(partial(plate_of, reading), members))
    return ("cards" if has_plates else "items") if texts else None


def _is_navigation(parent: Layer | None, members: Sequence[Layer]) -> bool:
    """Whether the group is called what people call navigation, or every group in it a tab."""
    if parent is not None and layer_names.means(parent, layer_names.NAVIGATION):
        return True
    return all(member.is_group and layer_names.means(member, layer_names.TAB) for member in members)


def plate_of(reading: Reading, member: Layer) -> Layer | None:
    """The box that all else in a card lies on; None when there is none."""
    shown = [part for part in drawings(member.children) if part.visible]
    for part in reversed(shown):
        box = reading.box(part)
        if box is None or reading.judgement(part).becomes is not Becomes.CSS:
            continue
        others = [reading.box(other_layer) for other_layer in shown if other_layer is not part]
        if others and all(other_box is None or box.contains(other_box) for other_box in others):
            return part
    return None


def _member_box(reading: Reading, kind: str, member: Layer) -> Box | None:
    if kind == "cards" and (plate := plate_of(reading, member)):
        return reading.box(plate)
    if kind == "items":
        shown = [part for part in drawings(member.children) if part.visible]
        return union(box for box in map(reading.box, shown) if box) or None
    return reading.extent(member)


def _text_box(reading: Reading, member: Layer) -> Box | None:
    """The box of the text that a thing shows."""
    shown = [part for part in drawings(member.children) if part.visible and reading.is_words(part)]
    return union(box for box in map(reading.box, shown) if box) or None
