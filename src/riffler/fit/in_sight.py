"""What of a thing is to be seen in a mockup -> whether something on the page lies on it."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from riffler.color import Bytes
from riffler.fit.expected import Expected, ExpectedThing, ThingKind
from riffler.fit.fault import Difference, Fault, Placed
from riffler.fit.likeness import Mask, beyond, colored, differing, fraction, shifted
from riffler.fit.seen import SeenPage

#: Levels of 255 by which pixels differ that show something else; the share that may of a
#: picture, and of ink.
ELSE, SHARE, INK = 48, 0.06, 0.6

#: The share of a thing that must be in sight for a word on it to be said.
IN_SIGHT = 0.02

#: Alpha of 255 of what is painted wholly.
SOLID = 250

#: The share of a pixel by which a picture may be off and still be drawn as sharply.
SHARP = 0.1


@dataclass(frozen=True)
class InSight:
    """What of a thing is to be seen: its pixels, and which of them nothing lies on."""

    pixels: Bytes
    mask: Mask

    @property
    def is_enough(self) -> bool:
        """Whether it is enough for a word on it to be said."""
        return bool(self.mask.mean() >= IN_SIGHT)


def in_sight(thing: ExpectedThing, wanted: Expected) -> InSight:
    """The pixels of a thing, and where the mockup shows them as they are, wholly painted."""
    mine, whole = wanted.pixels(thing), wanted.shown(thing.box)
    is_off = differing(mine, whole, 3)
    return InSight(mine, (mine[..., 3] >= SOLID) & ~is_off)


def covered(placed: Placed, wanted: Expected, seen: SeenPage) -> Placed:
    """`placed` with a difference where something lies on it that does not in the mockup."""
    thing, to = placed.thing, placed.box
    if thing.kind is ThingKind.WORDS and placed.element not in seen.covered:
        return placed  # its letters are only set a little otherwise
    box = thing.box
    there = shifted(seen, wanted.on_canvas(box), placed.dx, placed.dy)
    whole = wanted.shown(box)
    if there.shape != whole.shape or differing(whole, there, ELSE).mean() <= SHARE / 2:
        return placed
    if thing.kind is ThingKind.PICTURE:
        sight = in_sight(thing, wanted)
        is_sharp = max(fraction(wanted.density * by) for by in (placed.dx, placed.dy)) <= SHARP
        others = differing(sight.pixels, there, ELSE) if is_sharp else beyond(whole, there, ELSE)
        mask, least = sight.mask, SHARE
    else:
        color = thing.setting.type.color if thing.setting else "#000000"
        mask, others, least = colored(whole, color, ELSE), ~colored(there, color, ELSE), INK
    others = others & mask
    if mask.mean() < IN_SIGHT or others.sum() <= least * mask.sum():
        return placed
    rows, columns = np.flatnonzero(others.any(axis=1)), np.flatnonzero(others.any(axis=0))
    by = wanted.density
    place = (
        to.x + columns[0] / by,
        to.y + rows[0] / by,
        (columns[-1] + 1 - columns[0]) / by,
        (rows[-1] + 1 - rows[0]) / by,
    )
    text = " ".join(f"{round(float(side), 1):g}" for side in place)
    return replace(placed, differences=(*placed.differences, Difference(Fault.COVERED, "", text)))
