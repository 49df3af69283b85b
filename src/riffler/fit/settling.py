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
    """The same, pictures that lie where the other should said to have changed places."""
    found = list(placed)
    for n, one in enumerate(found):
        for m in range(n + 1, len(found)):
            other = found[m]
            if (
                max(one.off, other.off) > SWAPPED
                and one.thing.kind is other.thing.kind
                and not one.is_missing
                and not other.is_missing
                and distance(one.box, other.thing.box) <= SWAPPED
                and distance(other.box, one.thing.box) <= SWAPPED
            ):
                found[n] = _swapped(one, other)
                found[m] = _swapped(other, one)
                break
    return found


def _swapped(one: Placed, other: Placed) -> Placed:
    swap = Difference(Fault.SWAPPED, other.thing.name)
    return replace(one, dx=0, dy=0, dw=0, dh=0, differences=(swap,))


def without_shadows(placed: Sequence[Placed]) -> list[Placed]:
    """The same, without a word on things that only lie under what is off itself."""
    wrong = [
        one
        for one in placed
        if one.off > PLACE or any(other.fault is not Fault.COVERED for other in one.differences)
    ]

    def is_hit(one: Placed) -> bool:
        return any(
            other is not one and (other.box.meets(one.box) or other.thing.box.meets(one.box))
            for other in wrong
        )

    return [
        replace(one, differences=tuple(d for d in one.differences if d.fault is not Fault.COVERED))
        if one.differences and is_hit(one)
        else one
        for one in placed
    ]
