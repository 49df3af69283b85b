"""Things of a mockup and a page -> where each lies there, and all that differs."""

from __future__ import annotations

from riffler.fit.expected import Expected, ExpectedThing, ThingKind
from riffler.fit.fault import PLACE, SIZING, Difference, Fault, Placed
from riffler.fit.in_sight import covered
from riffler.fit.of_boxes import box, drawn, line
from riffler.fit.of_pictures import ground, picture
from riffler.fit.of_pixels import unread
from riffler.fit.of_words import words
from riffler.fit.pairing import Pairs
from riffler.fit.seen import SeenPage
from riffler.jobs.runner import Workers

#: Faults by which a thing shows something else, whatever lies on it.
_ELSE = (Fault.ANOTHER, Fault.COLOR, Fault.MISSING)


def compared(wanted: Expected, seen: SeenPage, pairs: Pairs) -> list[Placed]:
    """Every thing of the mockup with its place on the page; pixels are compared side by side."""

    def one(number: int) -> Placed | None:
        placed = _placed(number, wanted, seen, pairs)
        return covered(placed, wanted, seen) if placed and _may_hide(placed) else placed

    with Workers() as pool:
        every = pool.in_order((n, pool.start(one, n)) for n in range(len(wanted.things)))
        return [placed for _, placed in every if placed is not None]


def _may_hide(placed: Placed) -> bool:
    return (
        placed.thing.kind is not ThingKind.BOX
        and placed.off <= PLACE
        and not any(
            difference.fault in SIZING or difference.fault in _ELSE
            for difference in placed.differences
        )
    )


def _is_canvas(thing: ExpectedThing, wanted: Expected, seen: SeenPage) -> bool:
    """Whether a white ground of the whole mockup is a canvas that nothing on the page paints."""
    box, style = thing.box, thing.style
    is_whole = box.width >= wanted.width - 1 and box.height >= wanted.height - 1
    is_white = style is not None and [stop.color for stop in style.stops] == ["#ffffff"]
    return is_whole and is_white and not any(box.fills for box in seen.boxes)


def _placed(number: int, wanted: Expected, seen: SeenPage, pairs: Pairs) -> Placed | None:
    """A thing with its place; None where the mockup itself has too little of it in sight."""
    thing = wanted.things[number]
    if (text := pairs.words.get(number)) is not None:
        if thing.is_read:
            return words(number, thing, text, wanted, seen.is_link)
        return unread(number, thing, text, wanted, seen)
    if (shown := pairs.pictures.get(number)) is not None:
        return picture(number, thing, shown, wanted, seen)
    if (painted := pairs.boxes.get(number)) is not None:
        return box(number, thing, painted, wanted, seen)
    if thing.kind is ThingKind.PICTURE:
        return ground(number, thing, wanted, seen)
    if thing.kind is ThingKind.BOX and (border := line(number, thing, wanted, seen)):
        return border
    if _is_canvas(thing, wanted, seen):
        return Placed(number, thing, thing.box, 0)
    if thing.kind is ThingKind.BOX and (there := drawn(number, thing, wanted, seen)):
        return there
    return Placed(number, thing, thing.box, differences=(Difference(Fault.MISSING),))
