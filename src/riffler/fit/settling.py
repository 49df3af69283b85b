"""Things with their places on a page -> the same, before it is asked what pushes what.

What changed places is said to have, and nothing is said of what only lies under what is off.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from riffler.fit.fault import PLACE, Difference, Fault, Placed
from riffler.fit.pairing import distance

#: Things that changed places lie where the other should, within so many CSS pixels.
SWAPPED = 4.0


def with_swaps(placed: Sequence[Placed]) -> list[Placed]:
    """The things, with pictures that lie where another one should marked as swapped."""
    placements = list(placed)
    for n, one_placed in enumerate(placements):
        for m in range(n + 1, len(placements)):
            other_placed = placements[m]
            if (
                max(one_placed.off, other_placed.off) > SWAPPED
                and one_placed.thing.kind is other_placed.thing.kind
                and not one_placed.is_missing
                and not other_placed.is_missing
                and distance(one_placed.box, other_placed.thing.box) <= SWAPPED
                and distance(other_placed.box, one_placed.thing.box) <= SWAPPED
            ):
                placements[n] = _swapped(one_placed, other_placed)
                placements[m] = _swapped(other_placed, one_placed)
                break
    return placements


def _swapped(first: Placed, second: Placed) -> Placed:
    swap = Difference(Fault.SWAPPED, second.thing.name)
    return replace(first, dx=0, dy=0, dw=0, dh=0, differences=(swap,))


def without_shadows(placed: Sequence[Placed]) -> list[Placed]:
    """The things, without differences of those that only lie under what is off itself."""
    wrong = [
        one_placed
        for one_placed in placed
        if one_placed.off > PLACE
        or any(
            other_difference.fault is not Fault.COVERED
            for other_difference in one_placed.differences
        )
    ]

    def is_hit(placed: Placed) -> bool:
        return any(
            other_placed is not placed
            and (other_placed.box.meets(placed.box) or other_placed.thing.box.meets(placed.box))
            for other_placed in wrong
        )

    return [
        replace(
            one_placed,
            differences=tuple(d for d in one_placed.differences if d.fault is not Fault.COVERED),
        )
        if one_placed.differences and is_hit(one_placed)
        else one_placed
        for one_placed in placed
    ]
