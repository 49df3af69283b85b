"""Slices -> where their pictures touch: one goes on there where the other ends.

A joint is known from boxes, and whether one ground goes on there from a strip across it, which
counts in the fingerprint of a picture as its own drawing does.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import Literal

import numpy as np

from riffler.color import Pixels
from riffler.cutlist.resolved import ResolvedSlice
from riffler.cutlist.roles import Hero, Icon, Role, Tile
from riffler.geometry import Box, EdgeName
from riffler.roles.slice_pictures import PicturePart, parts
from riffler.sides import meeting, sides_of

#: Pixels of the mockup along which pictures must touch for a joint.
LEAST = 8

#: Pixels on either side of a line that are looked at, by how much those next to it differ at most
#: where one ground goes on, and along which part of it.
DEPTH, SAME, PART = 2, 6 / 255, 0.25

_OPPOSITE: dict[EdgeName, EdgeName] = {"right": "left", "bottom": "top"}


@dataclass(frozen=True)
class Seated:
    """A picture where it lies in the mockup: its slice, and which part of it."""

    slice: ResolvedSlice
    part: PicturePart


@dataclass(frozen=True)
class Joint:
    """Two pictures that touch: the second goes on to the `right` of the first, or below it.

    `line` is where, and `start` to `stop` how far along, in mockup pixels.
    """

    first: Seated
    second: Seated
    side: Literal["right", "bottom"]
    line: int
    start: int
    stop: int

    @property
    def place(self) -> Box:
        """The pixels on either side of it."""
        long = self.stop - self.start
        if self.side == "right":
            return Box(self.line - 1, self.start, 2, long)
        return Box(self.start, self.line - 1, long, 2)


def joints(slices: Iterable[ResolvedSlice]) -> Iterator[Joint]:
    """Where pictures of a mockup touch. Framed ones do not: they are not as large as their box."""
    seated = [
        Seated(slice_, part)
        for slice_ in slices
        if not isinstance(slice_.role, Icon | Hero)
        for part in parts(slice_.role, slice_.box)
    ]
    sides = sides_of(one_seated.part.box for one_seated in seated)
    for first in seated:
        box = first.part.box
        to_right = Box(box.right, box.y, 1, box.height)
        below = Box(box.x, box.bottom, box.width, 1)
        for index in np.flatnonzero(meeting(sides, to_right)):
            second, both = seated[index], seated[index].part.box & to_right
            if second.part.box.x == box.right and both.height >= LEAST:
                yield Joint(first, second, "right", box.right, both.y, both.bottom)
        for index in np.flatnonzero(meeting(sides, below)):
            second, both = seated[index], seated[index].part.box & below
            if second.part.box.y == box.bottom and both.width >= LEAST:
                yield Joint(first, second, "bottom", box.bottom, both.x, both.right)


class Joined:
    """At which sides of a picture another one may go on."""

    def __init__(self, slices: Iterable[ResolvedSlice]) -> None:
        result = defaultdict[tuple[str, Box], set[EdgeName]](set)
        for joint in joints(slices):
            result[_key(joint.first)].add(joint.side)
            result[_key(joint.second)].add(_OPPOSITE[joint.side])
        self._found = result

    def strips(self, slice_: ResolvedSlice, part: PicturePart) -> dict[str, Box]:
        """For each side of a part of a slice at which another touches it a strip across the line.

        It has `DEPTH` pixels of the mockup on either side.
        """
        box, deep = part.box, 2 * DEPTH
        strips = {
            "top": Box(box.x, box.y - DEPTH, box.width, deep),
            "bottom": Box(box.x, box.bottom - DEPTH, box.width, deep),
            "left": Box(box.x - DEPTH, box.y, deep, box.height),
            "right": Box(box.right - DEPTH, box.y, deep, box.height),
        }
        return {side: strips[side] for side in sorted(self._found.get(_key_of(slice_, part), ()))}


def goes_on(side: str, strip: Pixels) -> bool:
    """Whether the ground is the same on both sides of a line: along a good part of it.

    strip: (H, W, 4) float32, premultiplied, 0..1, of what `Joined.strips` gives.
    """
    along = strip if side in ("top", "bottom") else strip.transpose(1, 0, 2)
    step = np.abs(along[len(along) // 2] - along[len(along) // 2 - 1]).max(axis=1)
    return bool((step <= SAME).mean() >= PART)


def of_itself(role: Role) -> frozenset[str]:
    """The sides at which a picture goes on in itself: those of a tile, which is a texture."""
    sides = set[str]()
    if isinstance(role, Tile):
        sides.add("texture")
        sides |= {"left", "right"} if role.goes_across else set()
        sides |= {"top", "bottom"} if role.goes_down else set()
    return frozenset(sides)


def _key(seated: Seated) -> tuple[str, Box]:
    return _key_of(seated.slice, seated.part)


def _key_of(slice_: ResolvedSlice, part: PicturePart) -> tuple[str, Box]:
    return slice_.name, part.box
