"""An element's area -> where its box begins and ends, border, shadow and all."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import NamedTuple

from riffler.analyse.style import SQUARE
from riffler.geometry import Rect
from riffler.markup.area import Area, Shape
from riffler.markup.element import Element
from riffler.reading.part import PartKind

#: A line no higher than this, in CSS pixels, leads from one text to another.
LEADER = 4

#: The longest side of a plate for a sign, and how far from its middle that is, in CSS pixels.
PLATE, MIDDLE = 160, 2

#: The heights of a button, the least room beside its words, by how much more of that there is on
#: one side at the most, as of a plate with a hard shadow, in CSS pixels; the most of its words.
LOWEST, HIGHEST, ROOM, UNEVEN, FEW = 36, 80, 12, 8, 4

#: The least width of a row of columns, and how much wider one thing of a grid may be than another,
#: in CSS pixels.
COLUMNS, SAME = 420, 3.0


@dataclass(frozen=True)
class Member:
    """What an element is of a list: one row of a table, and of a height of its own."""

    is_table: bool = False
    has_height: bool = False


PLAIN = Member()


def area_of(element: Element) -> Area:
    """The area of an element, or of the only one in it."""
    return element.laid.space


def top_of(area: Area) -> float:
    """Where an element of this area begins: a picture where its file does, shadow and all.

    A row of nothing but what is in it begins where the highest picture in it does.
    """
    if area.shape is Shape.PICTURE and area.piece:
        return area.piece.paint.y
    return min([area.box.y, *(top_of(part) for part in _pictures(area))])


def has_ground(area: Area) -> bool:
    """Whether its own edges are seen."""
    return area.ground is not None or area.piece is not None


def is_run(area: Area) -> bool:
    """Whether it is a line of words, each as wide as it is."""
    is_line = area.shape is Shape.LIST and area.columns == len(area.parts) and area.is_frame
    return is_line and not area.is_centred and all(part.setting for part in area.parts)


def is_grid(area: Area) -> bool:
    """Whether a list is of things of one width that fill a grid; others are as wide as they are."""
    widths = [part.box.width for part in area.parts]
    if max(widths) - min(widths) > SAME or widths[0] <= 60:
        return False
    return area.parts[0].kind not in (PartKind.TAB, PartKind.BUTTON)


def is_text_and_end(text: Area, end: Area) -> bool:
    """Whether texts under one another, some of which wrap, have a short one at their right."""
    settings = [*text.words()]
    is_short = end.setting is not None and len(end.setting.lines) == 1
    is_plain = text.is_frame and text.shape is Shape.STACK and len(settings) == len(text.parts)
    return is_short and is_plain and any(len(setting.lines) > 1 for setting in settings)


def is_framed(area: Area) -> bool:
    """Whether it is a box that is drawn as one: with a border, or corners that are round."""
    ground = area.ground
    return ground is not None and (ground.border is not None or ground.radii != SQUARE)


class Borders(NamedTuple):
    """How wide the border of each side is."""

    top: float = 0.0
    right: float = 0.0
    bottom: float = 0.0
    left: float = 0.0


def is_small(area: Area, longest: float) -> bool:
    """Whether it is a picture of which no side is longer than this, in CSS pixels."""
    return area.shape is Shape.PICTURE and max(area.box.width, area.box.height) <= longest


def borders_of(area: Area) -> Borders:
    """The borders of an area, none where it has none."""
    border = area.ground.border if area.ground else None
    return Borders(*border.widths) if border else Borders()


def left_of(area: Area) -> float:
    """Where an element of this area begins: a picture where its file does, and a row with it."""
    if area.shape is Shape.PICTURE and area.piece:
        return area.piece.paint.x
    return min([area.box.x, *(left_of(part) for part in _pictures(area))])


def right_of(area: Area) -> float:
    """Where an element of this area ends: a picture where its file does, and a row with it."""
    if area.shape is Shape.PICTURE and area.piece:
        return area.piece.paint.right
    return max([area.box.right, *(right_of(part) for part in _pictures(area))])


def height_of(area: Area) -> float:
    """How high an element of this area is."""
    if area.shape is Shape.PICTURE and area.piece:
        return area.piece.paint.height
    bottoms = (top_of(part) + height_of(part) for part in _pictures(area))
    return max([area.box.bottom, *bottoms]) - top_of(area)


def _pictures(area: Area) -> list[Area]:
    """What may reach beyond the box of a row that is no more than the boxes of what is in it."""
    if area.shape is not Shape.ROW or has_ground(area):
        return []
    return [part for part in area.parts if part.shape in (Shape.PICTURE, Shape.ROW)]


def is_plate(area: Area) -> bool:
    """Whether it is a small box with a sign in its middle, and nothing else."""
    box = area.box
    if area.ground is None or len(area.parts) != 1 or max(box.width, box.height) > PLATE:
        return False
    sign = area.parts[0]
    if sign.shape is not Shape.PICTURE:
        return False
    paint = sign.piece.paint if sign.piece else sign.box
    across = paint.x + paint.width / 2 - box.x - box.width / 2
    down = paint.y + paint.height / 2 - box.y - box.height / 2
    return max(abs(across), abs(down)) <= MIDDLE


def is_leader(area: Area) -> bool:
    """Whether it is a thin line between things in a row."""
    return area.shape is Shape.BOX and area.box.height <= LEADER and area.box.width > 24


def is_label(area: Area) -> bool:
    """Whether it holds nothing but one text."""
    return len(area.parts) == 1 and area.parts[0].setting is not None


def are_columns(areas: Sequence[Area]) -> bool:
    """Whether what stands beside one another are columns of a page."""
    width = areas[-1].box.right - areas[0].box.x
    if width < COLUMNS:
        return False
    blocks = [area for area in areas if _is_block(area)]
    pictures = [area for area in areas if area.shape is Shape.PICTURE]
    if len(blocks) > 1 or len(areas) == 2 == len(
        [area for area in pictures if area.box.width > 160]
    ):
        return True
    is_large = any(area.box.width > 0.3 * width for area in pictures)
    return len(blocks) == 1 and len(areas) == 2 and is_large and blocks[0].ground is not None


def _is_block(area: Area) -> bool:
    """Whether it is a column: several things under one another, or a list that goes down."""
    if area.shape is Shape.STACK:
        return len(area.parts) > 1 and area.box.height > 60 and area.box.width > 160
    if area.shape is Shape.LIST:
        return area.columns == 1 and area.box.width > 160
    return area.ground is not None and area.box.height > 120


def hugs(area: Area) -> bool:
    """Whether it is a label with room around it: as wide as its words make it."""
    if area.piece is not None and area.shape is not Shape.PICTURE:
        return not area.parts or (len(area.parts) == 1 and area.parts[0].setting is not None)
    return (
        area.ground is not None
        and len(area.parts) == 1
        and (
            area.parts[0].setting is not None
            and len(area.parts[0].setting.lines) == 1
            and area.kind in (PartKind.BUTTON, PartKind.TAB, PartKind.BOX)
            and area.box.height < 80
        )
    )


def is_button(plate: Rect, upon: Area) -> bool:
    """Whether a few words in the middle of a low plate are all that lies on it.

    A badge has no room around its words that one could click.
    """
    label = upon.parts[0] if is_label(upon) else upon
    setting = label.setting
    if setting is None or len(setting.lines) > 1 or len(setting.text.split()) > FEW:
        return False
    above, below = label.box.y - plate.y, plate.bottom - label.box.bottom
    left, right = label.box.x - plate.x, plate.right - label.box.right
    is_low = LOWEST <= plate.height <= HIGHEST and plate.width > plate.height
    is_within = min(left, right) >= ROOM and abs(left - right) <= UNEVEN
    return is_low and is_within and min(above, below) >= 0


def is_mount(area: Area | None) -> bool:
    """Whether a plate has one picture in it, about as far from all of its sides."""
    if (
        area is None
        or area.ground is None
        or [part.shape for part in area.parts] != [Shape.PICTURE]
    ):
        return False
    box, inner = area.box, area.parts[0].box
    rooms = (inner.x - box.x, box.right - inner.right, inner.y - box.y, box.bottom - inner.bottom)
    return min(rooms) > 0 and max(rooms) - min(rooms) <= UNEVEN


def widest_leaf(area: Area) -> float:
    """How wide the widest thing is that is seen by itself."""
    return max(leaf.box.width for leaf in area.walk() if not leaf.parts)
