"""One change between two versions of a mockup, as data."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from riffler.geometry import Rect


class ChangeKind(StrEnum):
    """What became of a thing."""

    MOVED = "moved"
    RESIZED = "resized"
    RECOLOURED = "recoloured"
    RESTYLED = "restyled"
    """Another gradient, radius, border, shadow, opacity or blend mode."""
    WORDS = "words"
    TYPE = "type"
    """The same words in another size, weight, family or spacing."""
    REDRAWN = "redrawn"
    HIDDEN = "hidden"
    SHOWN = "shown"
    ADDED = "added"
    REMOVED = "removed"
    RENAMED = "renamed"
    REGROUPED = "regrouped"
    REORDERED = "reordered"
    PAGE = "page"
    """The canvas has another size."""


@dataclass(frozen=True)
class Aspect:
    """One thing that is another now, and what it was and is, as a person would write it."""

    what: str
    was: str
    now: str


@dataclass(frozen=True)
class Change:
    """What became of a thing, or of several in the same way.

    `old` and `new` are its addresses in the two versions, None where it is not in one; `was` and
    `now` its boxes in CSS pixels, with fractions. `dx`, `dy`, `dw` and `dh` are how far it moved
    and grew, in CSS pixels. `shows` says whether it is seen in either version. `others` are more
    drawings that the same line is about, by both addresses, and `where` says in words which.
    """

    kind: ChangeKind
    old: str | None
    new: str | None
    was: Rect | None = None
    now: Rect | None = None
    aspects: tuple[Aspect, ...] = ()
    dx: float = 0.0
    dy: float = 0.0
    dw: float = 0.0
    dh: float = 0.0
    shows: bool = True
    others: tuple[tuple[str | None, str | None], ...] = ()
    where: str = ""

    @property
    def pairs(self) -> tuple[tuple[str | None, str | None], ...]:
        """Every drawing that it is about, by both addresses."""
        return ((self.old, self.new), *self.others)
