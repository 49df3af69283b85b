"""A slice with nothing left to look up, and how it is saved."""

from __future__ import annotations

from dataclasses import dataclass, field

from riffler.cutlist.boxes import BoxFrom
from riffler.cutlist.file import Entry
from riffler.cutlist.roles import PICTURE, Role
from riffler.geometry import Box, Point, Scale, Size
from riffler.project.saving import Paint

#: What a slice becomes when nothing says otherwise.
SAVE = ("auto",)

#: How much may be seen of what a file loses, when nothing says otherwise: nothing, on the page.
QUALITY = "fair"


@dataclass(frozen=True)
class Saving:
    """How a state is saved. `sizes` are empty for one file at the mockup's own pixels.

    `quality` is None where nothing is said.
    """

    save: tuple[str, ...] = SAVE
    quality: int | str | None = None
    budget: int | None = None
    ground: tuple[float, float, float] | None = None
    sizes: tuple[str, ...] = ()
    paint: Paint = "drawn"

    def quality_of(self, format_name: str) -> int | str:
        """What holds for a format: who asks for a PNG and says no more wants every pixel."""
        if self.quality is not None:
            return self.quality
        return "exact" if format_name == "png" else QUALITY


@dataclass(frozen=True)
class State:
    """One look of a slice: its name, None at rest, the layers that are on, how it is saved."""

    name: str | None
    shown: frozenset[str]
    saving: Saving = Saving()


@dataclass(frozen=True)
class ResolvedSlice:
    """A slice with nothing left to look up: box in whole mockup pixels, layers, role.

    `is_alone` says that it was begun with nothing but named layers, on transparency. `focal` is the
    point of the mockup that narrow windows keep in sight. `label` is set in a cutlist for another
    screen, whose media query is `when`. `hidden` are the layers that `hide` names, as they are
    written.
    """

    name: str
    box: Box
    states: tuple[State, ...]
    density: float
    entry: Entry = field(repr=False, compare=False)
    role: Role = PICTURE
    box_from: BoxFrom = "numbers"
    is_alone: bool = False
    group: str | None = None
    alt: str | None = None
    link: str | None = None
    focal: Point | None = None
    label: str | None = None
    when: str | None = None
    hidden: tuple[str, ...] = ()

    @property
    def outer(self) -> Size:
        """The size of its files in mockup pixels: its frame where it has one, or its box."""
        return self.role.framed or self.box.size

    @property
    def rest(self) -> State:
        """The slice at rest."""
        return self.states[0]


def scale_of(size: str | None, outer: Size, density: float) -> Scale:
    """Output pixels per mockup pixel for a size as it is written; None for the mockup's own.

    `outer` is the size of the file in mockup pixels, which a width like "640w" is for.
    """
    if size is None:
        return 1.0
    value = float(size[:-1])
    return value / density if size.endswith("x") else value / outer.width
