"""What a role makes of a slice: pixels and their place; and how its files are called."""

from __future__ import annotations

from dataclasses import dataclass

from riffler.color import Pixels
from riffler.geometry import Box, Size


@dataclass(frozen=True)
class DrawnPicture:
    """Pixels ready to be encoded, and the box of the mockup that they stand for."""

    pixels: Pixels
    place: Box

    @property
    def size(self) -> Size:
        """Pixels in the file."""
        height, width = self.pixels.shape[:2]
        return Size(width, height)


def stem_of(
    name: str,
    state: str | None = None,
    label: str | None = None,
    part: str | None = None,
    size_name: str | None = None,
) -> str:
    """A file's name without its extension: NAME[.STATE][.LABEL][.PART][@2x][-640w]."""
    return ".".join(word for word in (name, state, label, part) if word) + _suffix(size_name)


def _suffix(size_name: str | None) -> str:
    if size_name in (None, "1x"):
        return ""
    return f"@{size_name}" if size_name.endswith("x") else f"-{size_name}"
