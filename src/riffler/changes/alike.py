"""Two drawings of two versions -> how much speaks for their being one: name, place and content."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from difflib import SequenceMatcher
from operator import eq

import numpy as np
import numpy.typing as npt

from riffler.analyse.thumbnails import GROUNDS, STRANGE, Thumbs, likeness, thumbs
from riffler.changes.version import Version, VersionThing
from riffler.geometry import Rect
from riffler.tokens.palette import lab

#: The same name in the same groups; the same name elsewhere.
CALLED, NAMESAKE = 1.0, 0.7

#: Pairs up to which all that is left on both sides is compared, whatever it is called, and all that
#: is called the same, wherever it lies.
FEW = 4000

#: A corner or a middle this near, in CSS pixels, is in the same place, and how much that says.
NEAR, AT_CORNER = 2.0, 0.8

#: What name, place and content say in sum, at the least, where two things are one.
ENOUGH = 1.25

#: What the weaker of two signs says at the least, and what content says by itself.
LEAST, THE_SAME = 0.4, 0.97

#: What its neighbours in the stack say, next to the rest.
BESIDE = 0.5

#: What the same type says of two texts that have no words in common.
AS_SET = 0.5

#: What the same outline says of two drawings in other colours.
SHAPE = 0.7

#: Colours this far apart in Oklab have nothing in common.
COLORS_APART = 0.4


class Labels:
    """What the names of two versions' things say; numbers only tell how many there are."""

    def __init__(
        self, old_things: Sequence[VersionThing], new_things: Sequence[VersionThing]
    ) -> None:
        self._ones = old_things
        # as objects: an array of text has room for the longest in every place
        self._names = np.array([other_thing.layer.name for other_thing in new_things], object)
        self._addresses = np.array([other_thing.address for other_thing in new_things], object)
        before, after = (
            Counter(thing.layer.name for thing in side) for side in (old_things, new_things)
        )
        self._telling = {name: count * after[name] <= FEW for name, count in before.items()}

    def alike(self, row: int) -> npt.NDArray[np.float64]:
        """How much the names of one thing and of each other say, (m,), 0..1."""
        thing = self._ones[row]
        alone = CALLED if thing.layer.name and "#" not in thing.address else NAMESAKE
        is_namesake = (self._names == thing.layer.name) & bool(thing.layer.name)
        return np.where(self._addresses == thing.address, alone, NAMESAKE * is_namesake)

    def are_telling(self, row: int) -> bool:
        """Whether so few things are called as this is that the name alone makes a candidate."""
        return self._telling[self._ones[row].layer.name]


def overlap(was: Rect, now: Rect, shift: tuple[float, float]) -> float:
    """How much the places of two things say, 0..1, when the first may have moved by `shift`."""
    went = was.moved(*shift)
    x, y, share = went.x, went.y, went.likeness(now)
    is_level = abs(y + was.height / 2 - now.y - now.height / 2) < NEAR + 0.2 * was.height
    ends = (x - now.x, went.right - now.right, x + was.width / 2 - now.x - now.width / 2)
    if is_level and min(map(abs, ends)) < NEAR and 0.6 < was.height / max(now.height, 0.1) < 1.7:
        share = max(share, AT_CORNER)
    return share


@dataclass(frozen=True)
class Evidence:
    """How much speaks for a pair, each 0..1: name, place, content, and its neighbours."""

    name: float = 0.0
    place: float = 0.0
    content: float = 0.0
    neighbours: float = 0.0

    @property
    def whole(self) -> float:
        """All together."""
        return self.name + self.place + self.content + BESIDE * self.neighbours

    @property
    def is_enough(self) -> bool:
        """Whether two things are one: two of these speak for it, or the content alone does."""
        two = max(self.content, min(self.name, self.place), min(self.place, self.neighbours))
        return self.content >= THE_SAME or (self.whole >= ENOUGH and two >= LEAST)


class Alike:
    """How alike what two drawings paint is; their thumbnails are remembered."""

    def __init__(self, old: Version, new: Version) -> None:
        self._old, self._new = old, new
        self._thumbs: dict[tuple[bool, int], Thumbs | None] = {}

    def content(self, first: VersionThing, second: VersionThing) -> float:
        """0..1; 0 for a text and a picture."""
        is_words = self._old.is_words(first)
        if is_words != self._new.is_words(second):
            return 0.0
        if is_words:
            return self._texts(first, second)
        was, now = self._old.rect(first), self._new.rect(second)
        if was is None or now is None:
            return float(was is now)
        size = _ratio(was.width, now.width) * _ratio(was.height, now.height)
        return (0.3 + 0.7 * size) * self._looks(first, second)

    def _looks(self, first: VersionThing, second: VersionThing) -> float:
        was, now = self._old.style(first), self._new.style(second)
        if (was is None) != (now is None):
            return 0.2
        if was is not None and now is not None:
            is_alike = _color_likeness(was.stops[0].color, now.stops[0].color)
            same = sum(
                (
                    was.radii == now.radii,
                    was.border == now.border,
                    was.shadows == now.shadows,
                    len(was.stops) == len(now.stops),
                )
            )
            return 0.5 * is_alike + 0.125 * same
        small = self._thumb(self._old, first), self._thumb(self._new, second)
        if small[0] is None or small[1] is None:
            return 0.0
        alike = likeness(small[0], small[1])
        return max(alike, SHAPE * _shape_likeness(small[0], small[1]))

    def _thumb(self, version: Version, thing: VersionThing) -> Thumbs | None:
        key = (version is self._old, thing.number)
        if key not in self._thumbs:
            art = version.art(thing)
            self._thumbs[key] = thumbs(art.pixels) if art else None
        return self._thumbs[key]

    def _texts(self, first: VersionThing, second: VersionThing) -> float:
        was, now = self._old.words(first), self._new.words(second)
        if was is not None and now is not None:
            alike = SequenceMatcher(None, was.text, now.text, autojunk=False).ratio()
            kinds = (
                (words.families, words.size, words.weight, words.color) for words in (was, now)
            )
            return max(alike, AS_SET * sum(map(eq, *kinds), 0.0) / 4)
        seen = self._old.reading.lettering(first.layer), self._new.reading.lettering(second.layer)
        if seen[0] is None or seen[1] is None:
            return 0.3
        heights = _ratio(seen[0].height / self._old.density, seen[1].height / self._new.density)
        lines = _ratio(len(seen[0].lines), len(seen[1].lines))
        return 0.7 * heights * lines * (0.6 + 0.4 * _color_likeness(seen[0].color, seen[1].color))


def _shape_likeness(first: Thumbs, second: Thumbs) -> float:
    """How alike the outlines of two thumbnails are; 0 where both fill their boxes."""
    clear = [
        (small[0] - small[1]).mean(axis=2) / (GROUNDS[0] - GROUNDS[1]) for small in (first, second)
    ]
    if min(float(plane.max()) for plane in clear) < 0.2:
        return 0.0
    return max(0.0, 1 - float(np.abs(clear[0] - clear[1]).mean()) / STRANGE)


def _ratio(first: float, second: float) -> float:
    return min(first, second) / max(first, second, 1e-9)


def _color_likeness(first: str, second: str) -> float:
    """1 for one colour, 0 for two that are far apart, whatever their alpha."""
    return max(0.0, 1 - math.dist(lab(first), lab(second)) / COLORS_APART)
