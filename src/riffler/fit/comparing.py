"""Things of a mockup and a page -> where each lies there, and all that differs."""

from __future__ import annotations

from collections.abc import Iterator

from riffler.fit.expected import Expected, Kind, Thing
from riffler.fit.fault import PLACE, SIZING, Difference, Fault, Placed
from riffler.fit.of_boxes import box, line
from riffler.fit.of_pictures import covered, ground, picture
from riffler.fit.of_pixels import unread
from riffler.fit.of_words import words
from riffler.fit.pairing import Pairs
from riffler.fit.seen import Seen

#: Faults by which a thing shows something else, whatever lies on it.
_ELSE = (Fault.ANOTHER, Fault.COLOR, Fault.MISSING)


def compared(wanted: Expected, seen: Seen, pairs: Pairs) -> list[Placed]:
    """Every thing of the mockup with its place on the page."""
    return [covered(one, wanted, seen) if _may_hide(one) else one
            for one in _placed(wanted, seen, pairs)]  # fmt: skip


def _may_hide(placed: Placed) -> bool:
    return placed.thing.kind is not Kind.BOX and placed.off <= PLACE and not any(
        one.fault in SIZING or one.fault in _ELSE for one in placed.differences
    )  # fmt: skip


def _is_canvas(thing: Thing, wanted: Expected, seen: Seen) -> bool:
    """Whether a white ground of the whole mockup is a canvas that nothing on the page paints."""
    box, style = thing.box, thing.style
    is_whole = box.width >= wanted.width - 1 and box.height >= wanted.height - 1
    is_white = style is not None and [stop.color for stop in style.stops] == ["#ffffff"]
    return is_whole and is_white and not any(one.fills for one in seen.boxes)


def _placed(wanted: Expected, seen: Seen, pairs: Pairs) -> Iterator[Placed]:
    for number, thing in enumerate(wanted.things):
        if (text := pairs.words.get(number)) is not None:
            if thing.is_read:
                yield words(number, thing, text, wanted)
            else:
                yield unread(number, thing, text, wanted, seen)
        elif (shown := pairs.pictures.get(number)) is not None:
            yield picture(number, thing, shown, wanted, seen)
        elif (painted := pairs.boxes.get(number)) is not None:
            yield box(number, thing, painted, wanted, seen)
        elif thing.kind is Kind.PICTURE:
            found = ground(number, thing, wanted, seen)
            if found is not None:
                yield found
        elif thing.kind is Kind.BOX and (border := line(number, thing, wanted, seen)):
            yield border
        elif _is_canvas(thing, wanted, seen):
            yield Placed(number, thing, thing.box, 0)
        else:
            yield Placed(number, thing, thing.box, differences=(Difference(Fault.MISSING),))
