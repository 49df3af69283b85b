"""Things with their places on a page -> what is wrong between them: the page's end, seams.

What something else explains is not told again.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np

from riffler.fit.causes import SAME, Root
from riffler.fit.expected import Expected, ExpectedThing, ThingKind
from riffler.fit.fault import PLACE, Difference, Fault, Placed, px
from riffler.fit.seen import SeenPage
from riffler.geometry import Rect

#: What the whole of a page is called.
PAGE = "page"

#: CSS pixels: what touches in a mockup is no further apart, for so long; what shows on the page.
TOUCH, LONG, SHOWS = 0.05, 12.0, 0.35

#: Levels of 255 by which a seam differs from what the mockup shows there.
SEEN = 10.0


def length(
    wanted: Expected, seen: SeenPage, roots: Sequence[Root], within: float
) -> Iterator[Root]:
    """The page that is too long or too short, where no thing on it is why."""
    by = seen.height - wanted.height
    if abs(by) < max(within, 1.0) or any(
        _reaches(placed, by) for root in roots for placed in (root.placed, *root.followers)
    ):
        return
    box = Rect(0, 0, wanted.width, wanted.height)
    difference = Difference(Fault.LENGTH, px(wanted.height), px(seen.height))
    yield Root(
        Placed(
            -1, ExpectedThing(PAGE, ThingKind.BOX, box), box, 0, dh=by, differences=(difference,)
        ),
        is_carried=True,
    )


def _reaches(placed: Placed, by: float) -> bool:
    """Whether a thing that is wrong takes the end of the page along, or may."""
    if placed.is_missing:
        return True
    return any(abs(edge - by) <= SAME for edge in (placed.dy, placed.dy + placed.dh))


def seams(placed: Sequence[Placed], wanted: Expected, seen: SeenPage) -> Iterator[Root]:
    """Things that touch in the mockup and on the page do not, by less than is a fault of its own.

    A seam counts where one sees it: where the page shows something else along it.
    """
    right = [
        one_placed
        for one_placed in placed
        if one_placed.thing.kind is not ThingKind.WORDS
        and one_placed.off <= PLACE
        and not one_placed.is_missing
        and not one_placed.differences
    ]
    for number, one_first in enumerate(right):
        for other_second in right[number + 1 :]:
            for first, second in ((one_first, other_second), (other_second, one_first)):
                if result := _seam(first, second):
                    by, strip = result
                    if abs(by) >= SHOWS and _is_seen(strip, wanted, seen):
                        fault = Fault.GAP if by > 0 else Fault.OVERLAP
                        difference = Difference(fault, first.thing.name, px(abs(by)))
                        yield Root(
                            Placed(
                                second.number,
                                second.thing,
                                second.box,
                                second.element,
                                differences=(difference,),
                            ),
                            is_carried=True,
                        )


def _seam(first: Placed, second: Placed) -> tuple[float, Rect] | None:
    """How far two things are apart where they touch, and the strip along the seam."""
    one_first, other_second = first.thing.box, second.thing.box
    if abs(one_first.right - other_second.x) <= TOUCH:
        top, bottom = max(one_first.y, other_second.y), min(one_first.bottom, other_second.bottom)
        if bottom - top >= LONG:
            by = second.dx - first.dx - first.dw
            return by, Rect(other_second.x - 1, top + 2, 2, bottom - top - 4)
    if abs(one_first.bottom - other_second.y) <= TOUCH:
        left, right = max(one_first.x, other_second.x), min(one_first.right, other_second.right)
        if right - left >= LONG:
            by = second.dy - first.dy - first.dh
            return by, Rect(left + 2, other_second.y - 1, right - left - 4, 2)
    return None


def _is_seen(strip: Rect, wanted: Expected, seen: SeenPage) -> bool:
    """Whether the page shows something else than the mockup along a strip."""
    on = strip.scaled(seen.density).outward()
    there = seen.shot[max(0, on.y) : on.bottom, max(0, on.x) : on.right]
    mine = wanted.shown(strip)
    if there.shape != mine.shape or not there.size:
        return False
    off = np.abs(there[..., :3].astype(np.float64) - mine[..., :3])
    along = off.mean(axis=(1, 2)) if strip.height < strip.width else off.mean(axis=(0, 2))
    return float(along.max()) > SEEN
