"""Role `picture`: the pixels as they are, shown at the slice's size in CSS pixels."""

from __future__ import annotations

from dataclasses import dataclass

from riffler.color import Pixels
from riffler.cutlist.resolve import ResolvedSlice, State
from riffler.geometry import Box, Size


@dataclass(frozen=True)
class Picture:
    """A named picture, ready to be encoded, and the box of the mockup that it stands for.

    `size_name` is the size as the cutlist writes it, empty for the mockup's own pixels.
    """

    name: str
    state: str
    pixels: Pixels
    place: Box
    density: float
    label: str = ""
    size_name: str = ""

    @property
    def size(self) -> Size:
        """Pixels in the file."""
        height, width = self.pixels.shape[:2]
        return Size(width, height)


def stem_of(name: str, state: str = "", label: str = "", size_name: str = "") -> str:
    """A file's name without its extension: NAME[.STATE][.LABEL][@2x][-640w]."""
    parts = [part for part in (name, state, label) if part]
    return ".".join(parts) + _suffix(size_name)


def _suffix(size_name: str) -> str:
    if size_name in ("", "1x"):
        return ""
    return f"@{size_name}" if size_name.endswith("x") else f"-{size_name}"


def picture(of: ResolvedSlice, state: State, pixels: Pixels, size_name: str = "") -> Picture:
    """One state of a slice as a picture of the slice's own size on the page."""
    return Picture(of.name, state.name, pixels, of.box, of.density, of.label, size_name)
