"""Areas -> the same with lists of what repeats: what stands alike in a row, or comes in turns.

A reading finds things alike by their layers; what was drawn apart is found here by its look.
"""

from __future__ import annotations

from collections.abc import Hashable, Iterator, Sequence
from dataclasses import replace
from itertools import pairwise

from riffler.geometry import Rect
from riffler.markup.area import Area, Piece, Shape
from riffler.markup.evening import evened, flush
from riffler.markup.joining import joined, with_words
from riffler.markup.sections import framed
from riffler.markup.turning import turned
from riffler.reading.part import PartKind

#: The fewest things alike that are a list: of single things, and of those with something in them.
FEWEST, FEWEST_FILLED = 3, 2

#: How many different things may come in turns.
LONGEST_TURN = 3

#: By how much pictures in one row may differ in width, as a part of it.
REST = 0.04

#: The longest side of signs in a row, and how far their middles are apart, in CSS pixels.
SIGN, LEVEL = 48, 4

#: How far steps between columns may differ, in CSS pixels: the ink of letters begins anywhere.
STEP = 4.0

#: Between things alike there is less than this, in CSS pixels.
APART = 120

_PICTURES = (PartKind.PICTURE, PartKind.ICON)


def grouped(area: Area) -> Area:
    """The area with lists in it, and in all that it holds."""
    parts = turned(area.parts) if area.shape is Shape.STACK else list(area.parts)
    parts = [grouped(part) for part in parts]
    if area.shape is Shape.STACK:
        parts = flush(joined([area for part in parts for area in _spliced(part)]))
    if area.shape is Shape.ROW:
        parts = with_words(parts)
    if area.shape is Shape.LIST:
        parts = _with_the_same_pictures(parts)
    if area.shape in (Shape.STACK, Shape.ROW):
        parts = _in_lists(parts, area.shape)
        if area.shape is Shape.STACK:
            parts = _in_turns(parts)
        if len(parts) == 1 and parts[0].shape is Shape.LIST and area.is_frame:
            return parts[0]
    return area.holding(*parts)


def _spliced(area: Area) -> tuple[Area, ...]:
    """What is in a stack that is nothing but a part of the stack around it."""
    return area.parts if area.shape is Shape.STACK and area.is_frame else (area,)


def signature(area: Area) -> Hashable:
    """What an area looks like, without its words, its colours and its place."""
    if area.setting is not None:
        type_ = area.setting.type
        return "words", type_.family, type_.size, type_.weight, type_.is_italic
    if area.shape is Shape.PICTURE:
        return "picture", round(area.box.width / 8) if area.kind in _PICTURES else 0
    members = [signature(part) for part in area.parts]
    if area.shape is Shape.LIST:
        return "list", members[0]
    return area.shape, area.ground is not None, area.piece is not None, tuple(members)


def _in_lists(parts: Sequence[Area], shape: Shape) -> list[Area]:
    """Neighbours alike put into lists."""
    areas: list[Area] = []
    for run in _runs(parts):
        is_filled = len(run[0].parts) > 1 or (run[0].ground is not None and bool(run[0].parts))
        fewest = FEWEST_FILLED if is_filled else FEWEST
        if len(run) < fewest or len(run) == len(parts) < FEWEST or not _may_be_list(run, shape):
            areas.extend(run)
        elif _are_signs(run[0], run[-1]) and len(run) < len(parts):
            box = Rect.around(part.piece.paint if part.piece else part.box for part in run)
            areas.append(replace(framed(run), shape=Shape.ROW, box=box or run[0].box))
        elif _are_signs(run[0], run[-1]):
            areas.extend(run)
        else:
            areas.append(_listed(run, len(run) if shape is Shape.ROW else 1))
    return areas


def _runs(parts: Sequence[Area]) -> Iterator[list[Area]]:
    """Neighbours that look alike and stand as near to one another."""
    run: list[Area] = []
    for number, part in enumerate(parts):
        is_other = bool(run) and not _are_alike(part, run[0])
        if is_other or (run and _is_apart(run, part) and not _is_in_step(parts, number)):
            yield run
            run = []
        run.append(part)
    if run:
        yield run


def _is_in_step(parts: Sequence[Area], number: int) -> bool:
    """Whether something with things in it is one of three alike at equal steps, however far."""
    for first in range(number - 2, number + 1):
        three = parts[max(0, first) : first + 3]
        if first < 0 or len(three) < 3 or any(len(part.parts) < 2 for part in three):
            continue
        left, middle, right = (part.box.x for part in three)
        is_even = middle > left and abs(right - 2 * middle + left) <= STEP
        if is_even and all(signature(part) == signature(three[0]) for part in three):
            return True
    return False


def _are_alike(part: Area, first: Area) -> bool:
    """Whether two neighbours look alike; of pictures in a row the last may take what is left."""
    if part.shape is Shape.PICTURE is first.shape:
        if _are_signs(part, first):
            return True
        width = max(part.box.width, first.box.width)
        is_as_wide = abs(part.box.width - first.box.width) <= REST * width
        return is_as_wide and part.box.y == first.box.y and part.box.height == first.box.height
    return signature(part) == signature(first)


def _are_signs(part: Area, first: Area) -> bool:
    """Whether two icons are small ones in one row: signs that lead elsewhere."""
    if part.kind is not PartKind.ICON or first.kind is not PartKind.ICON:
        return False
    middle, other = (area.box.y + area.box.height / 2 for area in (part, first))
    sides = [side for area in (part, first) for side in (area.box.width, area.box.height)]
    return abs(middle - other) <= LEVEL and max(sides) <= SIGN


def _is_apart(run: Sequence[Area], part: Area) -> bool:
    """Whether a part is much farther from a run than those in it are from one another."""
    gap = part.box.x - run[-1].box.right
    gaps = [after.box.x - area.box.right for area, after in pairwise(run)]
    return gap > APART if not gaps else gap > max(2 * max(gaps), APART / 2)


def _may_be_list(run: Sequence[Area], shape: Shape) -> bool:
    """Whether neighbours alike are a list: paragraphs are none, and plain boxes."""
    first = run[0]
    if first.shape in (Shape.BOX, Shape.LIST):
        return False
    if first.setting is not None:
        return shape is Shape.ROW and all(
            area.setting and len(area.setting.lines) == 1 for area in run
        )
    return True


def _in_turns(parts: Sequence[Area]) -> list[Area]:
    """A heading and its list, and again a heading and its list: a list of such sections."""
    looks = [signature(part) for part in parts]
    for length in range(2, LONGEST_TURN + 1):
        for start in range(len(parts) - 2 * length + 1):
            count = 1
            while looks[start : start + length] == looks[start + count * length :][:length]:
                count += 1
            turn = parts[start : start + length]
            if count > 1 and any(part.shape is Shape.LIST for part in turn):
                end = start + count * length
                sections = [
                    framed(parts[first : first + length]) for first in range(start, end, length)
                ]
                return [*parts[:start], _listed(sections, 1), *_in_turns(parts[end:])]
    return list(parts)


def _listed(members: Sequence[Area], columns: int) -> Area:
    kind, parts = members[0].kind, tuple(_with_the_same_pictures(list(members)))
    pitch = 0.0
    if columns == len(members) and all(_is_in_step(members, number) for number in range(columns)):
        pitch = (members[-1].box.x - members[0].box.x) / (columns - 1)
    box = framed(members).box
    return evened(Area(Shape.LIST, box, kind, parts=parts, columns=columns, pitch=pitch))


def _with_the_same_pictures(members: list[Area]) -> list[Area]:
    """Members whose pictures have no slice of their own show those of another, in its place."""
    known_pieces = {
        _place(part, member): part.piece
        for member in reversed(members)
        for part in member.walk()
        if part.shape is Shape.PICTURE and part.piece
    }

    def filled(area: Area, member: Area) -> Area:
        parts = tuple(filled(part, member) for part in area.parts)
        piece = area.piece
        if area.shape is Shape.PICTURE and piece is None:
            same = known_pieces.get(_place(area, member))
            piece = same and _moved(same, area, member, members)
        return replace(area, parts=parts, piece=piece)

    return [filled(member, member) for member in members]


def _place(area: Area, member: Area) -> tuple[int, int]:
    """About how large something in a member is, and how far from its left edge."""
    return round(area.box.width / 4), round((area.box.x - member.box.x) / 8)


def _moved(piece: Piece, area: Area, member: Area, members: Sequence[Area]) -> Piece:
    """A piece in the place that it has in another member."""
    owner = next(
        part
        for other_area in members
        for part in other_area.walk()
        if part.piece == piece and _place(part, other_area) == _place(area, member)
    )
    x, y = area.box.x - owner.box.x, area.box.y - owner.box.y
    paint = piece.paint
    return replace(piece, paint=Rect(paint.x + x, paint.y + y, paint.width, paint.height))
