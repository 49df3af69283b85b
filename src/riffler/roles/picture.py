"""Role `picture`: the pixels as they are, shown at the slice's size in CSS pixels."""

from __future__ import annotations

from dataclasses import dataclass

from riffler.color import Pixels
from riffler.cutlist.resolve import ResolvedSlice, State
from riffler.geometry import Size


@dataclass(frozen=True)
class Picture:
    """A named picture, ready to be encoded. `css_width` and `css_height` are CSS pixels."""

    name: str
    state: str
    pixels: Pixels
    css_width: float
    css_height: float

    @property
    def stem(self) -> str:
        """The file's name without its extension."""
        return f"{self.name}.{self.state}" if self.state else self.name

    @property
    def size(self) -> Size:
        """Pixels in the file."""
        height, width = self.pixels.shape[:2]
        return Size(width, height)


def picture(of: ResolvedSlice, state: State, pixels: Pixels) -> Picture:
    """One state of a slice as a picture of the slice's own size on the page."""
    width, height = of.box.width / of.density, of.box.height / of.density
    return Picture(of.name, state.name, pixels, width, height)
