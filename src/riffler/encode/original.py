"""A picture that files are made of, with all that was found out about it on the way.

Formats and levels share it: what one of them tried or measured is there for the next.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from functools import cached_property
from threading import RLock
from typing import TypeVar

import numpy as np

from riffler.color import Bytes, is_solid
from riffler.encode.hues import has_fine_hues
from riffler.encode.palette import Palette, palette
from riffler.encode.visible import Reference

Found = TypeVar("Found")


@dataclass(frozen=True)
class Reduced:
    """A palette with what is seen of its loss."""

    palette: Palette
    loss: float


class Original:
    """straight: (H, W, 4) uint8, with no more transparency than the format holds.

    It may be the pieces that are judged of a `whole` one, which are then judged as there.

    Threads may share one: what one of them is finding out the others wait for.
    """

    def __init__(self, straight: Bytes, whole: Reference | None = None) -> None:
        self.straight = straight
        self._whole = whole
        self._known: dict[object, object] = {}
        self._lock = RLock()

    @cached_property
    def reference(self) -> Reference:
        """What files of it are held against."""
        with self._lock:
            return Reference(self.straight, self._whole)

    @cached_property
    def small(self) -> Original:
        """What a search looks at: the picture itself; of a large one pieces below one another."""
        chosen = self.reference.places
        if self._whole is not None or len(chosen) == 1:
            return self
        pieces = np.concatenate([self.straight[place] for place in chosen])
        return Original(pieces, self.reference)

    @cached_property
    def share(self) -> float:
        """How much of the picture `small` is."""
        return float(self.small.straight.size / self.straight.size)

    @cached_property
    def colors(self) -> int:
        """How many different ones there are, alpha counted."""
        return len(np.unique(np.ascontiguousarray(self.straight).view(np.uint32)))

    @cached_property
    def has_fine_hues(self) -> bool:
        """Whether half the resolution would smear its hues."""
        return has_fine_hues(self.straight)

    @property
    def is_opaque(self) -> bool:
        """Whether nothing shows through."""
        return is_solid(self.straight)

    def known(self, key: object) -> object:
        """What was found for a key; None where nothing was."""
        return self._known.get(key)

    def once(self, key: object, find: Callable[[], Found]) -> Found:
        """What `find` gives, found once for a key."""
        if key not in self._known:
            self._known[key] = find()
        return self._known[key]  # type: ignore[return-value]

    def reduced(self, count: int, *, dither: bool) -> Reduced:
        """The best palette of `count` colours, and its loss."""

        def find() -> Reduced:
            found = palette(self.straight, count, dither=dither)
            return Reduced(found, self.reference.loss(found.straight))

        with self._lock:
            return self.once(("palette", count, dither), find)


def shared(originals: Iterable[Original], straight: Bytes) -> Original:
    """The one of these that has the same pixels, or a new one."""
    same = (one for one in originals if np.array_equal(one.straight, straight))
    return next(same, None) or Original(straight)
