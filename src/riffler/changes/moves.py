"""Slices and guides of the older version -> how far each of their edges goes with what lies there.

All lengths are mockup pixels.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from riffler.changes.comparison import Changed
from riffler.cutlist.resolved import ResolvedSlice
from riffler.geometry import Box, Rect

#: Pixels between an edge and the thing that it belongs to.
ON = 1.0

#: The share of a thing that lies in a slice which holds it.
INSIDE = 0.6

#: Pixels that are no move.
STILL = 0.3


@dataclass(frozen=True)
class Held:
    """A thing where it was, and where it is: None when it is gone."""

    was: Rect
    now: Rect | None


@dataclass(frozen=True)
class Moves:
    """How far each side of a box goes: left, top, right, bottom; None where nothing decides it."""

    sides: tuple[float | None, float | None, float | None, float | None]

    @property
    def is_still(self) -> bool:
        """Whether every side stays."""
        return all(by == 0 for by in self.sides)


class Places:
    """Where the drawings of both versions lie, in mockup pixels."""

    def __init__(self, changed: Changed) -> None:
        self._held: dict[str, Held] = {}
        old, new = changed.old, changed.new
        for thing in old.things:
            was, now = old.rect(thing), new.rect_at(changed.there.get(thing.address))
            if was is not None:
                self._held[thing.address] = Held(
                    was.scaled(old.density), now and now.scaled(new.density)
                )
        self._shown = {thing.address for thing in old.things if old.shows(thing)}

    def in_slice(self, slice_: ResolvedSlice) -> list[Held]:
        """What a slice shows in any state and that lies in it or at its edges."""
        shown = frozenset[str]().union(*(state.shown for state in slice_.states))
        box = Rect.of(slice_.box)
        return [held for key, held in self._held.items() if key in shown and held.was.meets(box)]

    def every(self) -> list[Held]:
        """All that shows."""
        return [held for key, held in self._held.items() if key in self._shown]


def moves_of(box: Box, held: Sequence[Held]) -> Moves:
    """How far the sides of a box go with what lies in it."""
    sides = ("x", "y", "right", "bottom")
    left, top, right, bottom = (_side(getattr(box, side), held, box, side) for side in sides)
    return Moves((left, top, right, bottom))


def guide_move(place: float, axis: str, held_things: Iterable[Held]) -> float | None:
    """How far a guide goes with the things whose edges lie on it; None where these differ."""
    sides = ("x", "right") if axis == "x" else ("y", "bottom")
    moves = [
        _by(held, side)
        for held in held_things
        for side in sides
        if held.now is not None and abs(getattr(held.was, side) - place) <= ON
    ]
    return _agreed(moves)


def _side(place: float, held: Sequence[Held], box: Box, side: str) -> float | None:
    """With the things in the box that end there, with others that do, or with all that is in it."""
    stay = [one_held for one_held in held if one_held.now is not None]
    inside = [held for held in stay if held.was.share_in(Rect.of(box)) >= INSIDE]
    for things in (inside, stay):
        on_it = [_by(held, side) for held in things if abs(getattr(held.was, side) - place) <= ON]
        if on_it:
            return _agreed(on_it)
    return _agreed([_by(held, "x" if side in ("x", "right") else "y") for held in inside])


def _by(held: Held, side: str) -> float:
    """How far an edge of a thing went; 0 of one that is gone."""
    return float(getattr(held.now, side) - getattr(held.was, side)) if held.now else 0.0


def _agreed(moves: Sequence[float]) -> float | None:
    """A move that all make; 0 where there are none; None where they differ."""
    if not moves:
        return 0.0
    if max(moves) - min(moves) > 2 * STILL:
        return None
    middle = sorted(moves)[len(moves) // 2]
    return 0.0 if abs(middle) < STILL else middle
