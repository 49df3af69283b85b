"""Names and the boxes they belong to -> places for them that do not cover each other."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from riffler.geometry import Rect
from riffler.report.sheet_drawing import width_of

#: Space between a label and what is around it, in pixels.
ROOM = 4

#: Rows above and below a box in which its name may stand.
ROWS = 4


@dataclass(frozen=True)
class Label:
    """Where a name stands, and the name as it is written there: a short one has room sooner.

    `is_apart` says that it stands away from its box, so that a line should join them.
    """

    index: int
    text: str
    area: Rect
    is_apart: bool = False


def placed(
    names: Sequence[tuple[str, ...]],
    boxes: Sequence[Rect],
    size: float,
    taken: Sequence[Rect],
    page: Rect,
) -> list[Label]:
    """Labels in or right beside their boxes, where there is room; small boxes choose first.

    `names` are the ways to write each, the fullest first. A label keeps off `taken`, other labels
    and the edges of boxes, and stays on the page.
    """
    high = size + ROOM
    labels: list[Label] = []
    order = sorted(range(len(names)), key=lambda index: boxes[index].width * boxes[index].height)
    for index in order:
        box = boxes[index]
        other_areas = [other_area for at, other_area in enumerate(boxes) if at != index]
        covered = [*taken, *(label.area for label in labels)]
        for text, area, is_apart in _places(names[index], box, size, high):
            is_free = not any(area.meets(other_area) for other_area in covered) and page.contains(
                area
            )
            if is_free and not any(_crosses(area, other_area, box) for other_area in other_areas):
                labels.append(Label(index, text, area, is_apart))
                break
    return labels


def _places(
    texts: Sequence[str], box: Rect, size: float, high: float
) -> Iterator[tuple[str, Rect, bool]]:
    """Everywhere that a name might stand, the best place first."""
    wides = [(text, width_of(text, size) + 2 * ROOM) for text in texts]
    for text, wide in wides:
        if wide <= box.width - 2 and high <= box.height - 2:
            for area in _corners(box, wide, high):
                yield text, area, False
    for step in range(ROWS):
        for text, wide in wides:
            below, above = box.y + box.height + 2, box.y - high - 2
            middle = box.x + (box.width - wide) / 2
            for x in (box.x, middle, box.x + box.width - wide):
                for y in (below + step * (high + 1), above - step * (high + 1)):
                    yield text, Rect(x, y, wide, high), step > 0


def _crosses(area: Rect, other_area: Rect, own_area: Rect) -> bool:
    """Whether a label would cover another box, or lie across its edge."""
    if not area.meets(other_area):
        return False
    is_larger = other_area.width * other_area.height > own_area.width * own_area.height
    return not (is_larger and other_area.contains(area))


def _corners(box: Rect, wide: float, high: float) -> list[Rect]:
    left, top = box.x + 1, box.y + 1
    right, bottom = box.x + box.width - wide - 1, box.y + box.height - high - 1
    middle = box.x + (box.width - wide) / 2
    centre = box.y + (box.height - high) / 2
    places = [
        (left, top),
        (right, top),
        (left, bottom),
        (right, bottom),
        (middle, top),
        (middle, centre),
        (middle, bottom),
        (left, centre),
        (right, centre),
    ]
    return [Rect(x, y, wide, high) for x, y in places]


def spread(wanted: Sequence[float], least: float, first: float, last: float) -> list[float]:
    """Places along a line, each as near to where it is wanted as its neighbours let it.

    `wanted` ascends; places keep `least` apart, and closer only when there is no room at all.
    """
    if not wanted:
        return []
    if (len(wanted) - 1) * least > last - first:
        least = (last - first) / max(1, len(wanted) - 1)
    places: list[float] = []
    for value in wanted:
        floor = places[-1] + least if places else first
        places.append(max(value, floor))
    limit = last
    for index in range(len(places) - 1, -1, -1):
        places[index] = min(places[index], limit)
        limit = places[index] - least
    return places
