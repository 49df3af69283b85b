"""A slice with nothing left to look up, and how it is saved."""

from __future__ import annotations

from dataclasses import dataclass, field

from riffler.cutlist.boxes import BoxFrom
from riffler.cutlist.file import Entry
from riffler.cutlist.model import NO_CAPS, Balance, Caps, Role, Side
from riffler.geometry import Box, Scale, Size

#: What a slice becomes when nothing says otherwise.
SAVE = ("png",)

#: How much may be seen of what a lossy format loses, when nothing says otherwise: nothing.
QUALITY = "clear"


@dataclass(frozen=True)
class Saving:
    """How a state is saved. `sizes` are empty for one file at the mockup's own pixels."""

    save: tuple[str, ...] = SAVE
    quality: int | str = QUALITY
    budget: int | None = None
    ground: tuple[float, float, float] | None = None
    sizes: tuple[str, ...] = ()


@dataclass(frozen=True)
class State:
    """One look of a slice: its name, empty at rest, the layers that are on, how it is saved."""

    name: str
    shown: frozenset[str]
    saving: Saving = Saving()


@dataclass(frozen=True)
class ResolvedSlice:
    """A slice with nothing left to look up: box in whole mockup pixels, layers, settings.

    `is_alone` says that it was begun with nothing but named layers, on transparency. In mockup
    pixels: `frame` is what an icon stands on or a hero fills, `focal` the point that narrow windows
    keep in sight, `soften` how far the edges of a tile fade into each other. `label` is set in a
    cutlist for another screen, whose media query is `when`.
    """

    name: str
    box: Box
    states: tuple[State, ...]
    density: float
    entry: Entry = field(repr=False, compare=False)
    role: Role = "picture"
    box_from: BoxFrom = "numbers"
    is_alone: bool = False
    group: str = ""
    alt: str | None = None
    link: str | None = None
    repeat: str = "both"
    caps: Caps = NO_CAPS
    middle: str = "stretch"
    is_split: bool = False
    soften: int = 0
    frame: Size | None = None
    place: Side = "center"
    balance: Balance = "box"
    focal: tuple[float, float] | None = None
    label: str = ""
    when: str = ""

    @property
    def outer(self) -> Size:
        """The size of its files in mockup pixels: its frame where it has one, or its box."""
        return self.frame or self.box.size

    @property
    def rest(self) -> State:
        """The slice at rest."""
        return self.states[0]


def scale_of(size: str, outer: Size, density: float) -> Scale:
    """Output pixels per mockup pixel for a size as it is written; empty for the mockup's own.

    `outer` is the size of the file in mockup pixels, which a width like "640w" is for.
    """
    if not size:
        return 1.0
    value = float(size[:-1])
    return value / density if size.endswith("x") else value / outer.width
