"""A picture that files are made of, with all that was found out about it on the way.

Formats and levels share it: what one of them tried or measured is there for the next.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from concurrent.futures import Future
from dataclasses import dataclass
from functools import cached_property
from threading import RLock
from typing import Any, TypeVar

import numpy as np

from riffler.color import Bytes, is_solid
from riffler.encode.hidden import filled
from riffler.encode.hues import has_fine_hues
from riffler.encode.palette import Counted, Palette, palette
from riffler.encode.visible import Reference

Found = TypeVar("Found")


@dataclass(frozen=True)
class Reduced:
    """A palette of so many colours at the `most`, with what is seen of its loss."""

    palette: Palette
    loss: float
    most: int
    is_dithered: bool = False

    @property
    def setting(self) -> dict[str, int | float | str]:
        """What was settled, as the ledger says it."""
        dither = {"dither": "on"} if self.is_dithered else {}
        return {"colors": len(self.palette.colors), **dither}


class Original:
    """straight: (H, W, 4) uint8, with no more transparency than the format holds.

    It may be the pieces that are judged of a `whole` one, which are then judged as there. `joints`
    are the sides at which other pictures go on.

    Threads may share one: what one of them is finding out the others wait for.
    """

    def __init__(
        self,
        straight: Bytes,
        whole: Reference | None = None,
        joints: frozenset[str] = frozenset(),
    ) -> None:
        self.straight = straight
        self._joints = joints
        self._whole = whole
        self._known: dict[object, Future[Any]] = {}
        self._lock = RLock()

    @cached_property
    def reference(self) -> Reference:
        """What files of it are held against."""
        with self._lock:
            return Reference(self.straight, self._whole, self._joints)

    @cached_property
    def small(self) -> Original:
        """What a search looks at: the picture itself; of a large one pieces below one another."""
        if not self.reference.is_large:
            return self
        return Original(self.reference.pieces(), self.reference)

    @property
    def is_pieces(self) -> bool:
        """Whether it stands for a large picture."""
        return self._whole is not None

    @property
    def is_large(self) -> bool:
        """Whether a search looks at pieces of it."""
        return self.small is not self

    @cached_property
    def filled(self) -> Bytes:
        """The picture with its invisible pixels in the colours of their neighbours."""
        return filled(self.straight)

    @cached_property
    def counted(self) -> Counted:
        """Its different colours."""
        with self._lock:
            return Counted.of(self.straight)

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
        future = self._known.get(key)
        return future.result() if future is not None and future.done() else None

    def once(self, key: object, find: Callable[[], Found]) -> Found:
        """What `find` gives, found once for a key. Raises what it raises."""
        with self._lock:
            is_ours = key not in self._known
            future: Future[Found] = self._known.setdefault(key, Future())
        if is_ours:
            try:
                future.set_result(find())
            except BaseException as error:
                future.set_exception(error)
                raise
        return future.result()

    def reduced(self, count: int, *, dither: bool) -> Reduced:
        """The best palette of `count` colours, and its loss."""

        def find() -> Reduced:
            found_palette = palette(self.counted, count, dither=dither)
            return Reduced(
                found_palette, self.reference.loss(found_palette.straight), count, dither
            )

        return self.once(("palette", count, dither), find)


def shared(
    originals: Iterable[Original], straight: Bytes, joints: frozenset[str] = frozenset()
) -> Original:
    """The one of these that has the same pixels, or a new one."""
    same = (original for original in originals if np.array_equal(original.straight, straight))
    return next(same, None) or Original(straight, None, joints)
