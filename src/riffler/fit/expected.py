"""What a page should show of a mockup, as data: texts, boxes and pictures, in CSS pixels."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum

import numpy as np

from riffler.analyse.style import Style
from riffler.analyse.thumbnails import Thumbs
from riffler.color import Bytes, to_bytes
from riffler.cutlist.resolved import ResolvedSlice
from riffler.geometry import Box, Rect
from riffler.markup.setting import Setting
from riffler.mockup.font_book import FontBook
from riffler.render.renderer import Renderer

#: Rows that are drawn at once.
STRIP = 256


class ThingKind(StrEnum):
    """What a thing is."""

    PICTURE = "picture"
    WORDS = "words"
    BOX = "box"


@dataclass(frozen=True)
class ExpectedThing:
    """A thing of the mockup: what it is called, its layers, its box.

    Of a picture the box is what it paints by itself, of words their ink, of a box its plate.
    `is_read` says of words that what they say and how they are set is known.
    """

    name: str
    kind: ThingKind
    box: Rect
    layers: tuple[str, ...] = ()
    setting: Setting | None = None
    style: Style | None = None

    @property
    def is_read(self) -> bool:
        """Whether it is text that the mockup, or its cutlist, says."""
        return self.setting is not None and self.setting.is_said


@dataclass(frozen=True)
class Frame:
    """How large a page is, in CSS pixels, and mockup pixels to one of them."""

    width: float
    height: float
    density: float


@dataclass(frozen=True)
class Expected(Frame):
    """What a page should show; `whole` is the mockup as it is drawn, straight 8-bit RGBA.

    `looks` are small pictures of pictures, by the numbers of things; `slices` those of its cutlist.
    """

    things: tuple[ExpectedThing, ...]
    looks: Mapping[int, Thumbs]
    slices: tuple[ResolvedSlice, ...]
    fonts: FontBook
    is_vector: bool
    renderer: Renderer
    whole: Bytes = field(repr=False)

    def pixels(self, thing: ExpectedThing) -> Bytes:
        """What a thing paints by itself, straight 8-bit RGBA, as large as its box."""
        shown = alone(self.renderer, thing.layers)
        return drawn(self.renderer, self.on_canvas(thing.box), shown)

    def on_canvas(self, box: Rect) -> Box:
        """A box in mockup pixels, as large as pixels that it touches."""
        return box.scaled(self.density).outward()

    def shown(self, box: Rect) -> Bytes:
        """The mockup as it is drawn, in a box on its canvas, straight 8-bit RGBA."""
        on = self.on_canvas(box)
        return self.whole[max(0, on.y) : on.bottom, max(0, on.x) : on.right]


@dataclass(frozen=True)
class Coming(Frame):
    """A mockup that is read beside all else. Raises MockupError for a damaged one.

    How large its page is, is known before; `wait` for all that it should show.
    """

    wait: Callable[[], Expected]


def drawn(renderer: Renderer, box: Box, shown: frozenset[str]) -> Bytes:
    """Layers in a box, (H, W, 4) uint8, straight; in strips, as floats are four times as large."""
    pixels = np.empty((box.height, box.width, 4), np.uint8)
    for band in box.bands(STRIP):
        pixels[band.within(box)] = to_bytes(renderer.render(band, 1.0, shown))
    return pixels


def alone(renderer: Renderer, layers: Sequence[str]) -> frozenset[str]:
    """All that is drawn of some layers by themselves."""
    return frozenset().union(*(renderer.mockup.alone(layer) for layer in layers))
