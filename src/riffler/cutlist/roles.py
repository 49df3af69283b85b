"""What becomes of a slice: a class for each role, with what it needs to know and nothing else.

Settled once from the text of a cutlist (`role_of`), and used by cutting and by the pages alike.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar, Literal

from riffler.cutlist.file import CutlistFile, Entry
from riffler.cutlist.model import NO_CAPS, Balance, Caps, Side
from riffler.geometry import Size

Repeat = Literal["x", "y", "both"]


@dataclass(frozen=True)
class Role:
    """What all roles have: a name, and how what they make is shown on a page.

    `has_files` says that it becomes pictures; `needs_alt` that these have something to tell;
    `is_styled` that only CSS can show it.
    """

    name: ClassVar[str]
    has_files: ClassVar[bool] = True
    needs_alt: ClassVar[bool] = False
    is_styled: ClassVar[bool] = False

    @property
    def framed(self) -> Size | None:
        """What its pictures fill, in mockup pixels; None for the slice's own box."""
        return None


@dataclass(frozen=True)
class Picture(Role):
    """The box as seen, or layers by themselves."""

    name = "picture"
    needs_alt = True


#: What a slice becomes when nothing says otherwise.
PICTURE = Picture()


@dataclass(frozen=True)
class Words(Role):
    """No picture: a box for live text."""

    name = "words"
    has_files = False


@dataclass(frozen=True)
class Tile(Role):
    """A chunk that CSS repeats; `soften` is how far its edges fade into each other, in pixels."""

    name = "tile"
    is_styled = True
    repeat: Repeat = "both"
    soften: int = 0

    @property
    def goes_across(self) -> bool:
        """Whether it repeats to the right."""
        return self.repeat in ("x", "both")

    @property
    def goes_down(self) -> bool:
        """Whether it repeats downwards."""
        return self.repeat in ("y", "both")


@dataclass(frozen=True)
class Panel(Role):
    """A box that grows: caps keep their size, the middle stretches or repeats."""

    name = "panel"
    is_styled = True
    caps: Caps = NO_CAPS
    middle: Literal["stretch", "repeat"] = "stretch"
    is_split: bool = False

    @property
    def is_upright(self) -> bool:
        """Whether it has caps above or below."""
        return bool(self.caps.top or self.caps.bottom)


@dataclass(frozen=True)
class Icon(Role):
    """Artwork in the middle of a frame, in mockup pixels, that a set of icons shares."""

    name = "icon"
    needs_alt = True
    frame: Size | None = None
    balance: Balance = "box"

    @property
    def framed(self) -> Size | None:
        """The frame; None until that of its set is known."""
        return self.frame


@dataclass(frozen=True)
class Hero(Role):
    """Artwork on one side of a wide frame, in mockup pixels, which its own ground fills."""

    name = "hero"
    needs_alt = True
    frame: Size
    place: Side = "center"

    @property
    def framed(self) -> Size | None:
        """The frame."""
        return self.frame


def role_of(file: CutlistFile, entry: Entry) -> Role:
    """The role of a slice with its settings. Raises WrittenError for a hero without a frame."""
    frame: list[int] | None = file.setting(entry, "frame", None)
    size = Size(*frame) if frame else None
    match file.setting(entry, "role", Picture.name):
        case "words":
            return Words()
        case "tile":
            repeat: Repeat = file.setting(entry, "repeat", "both")
            return Tile(repeat, file.setting(entry, "soften", 0))
        case "panel":
            return Panel(
                file.setting(entry, "caps", NO_CAPS),
                file.setting(entry, "middle", "stretch"),
                file.setting(entry, "split", False),
            )
        case "icon":
            return Icon(size, file.setting(entry, "balance", "box"))
        case "hero":
            if size is None:
                raise file.mistake(
                    entry,
                    "role",
                    "A hero needs a frame to fill.",
                    "For example frame = [1920, 880]",
                )
            return Hero(size, file.setting(entry, "place", "center"))
    return PICTURE
