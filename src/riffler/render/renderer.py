"""The one way to draw: a Renderer for any mockup, whichever engine is behind it."""

from __future__ import annotations

from pathlib import Path
from typing import Protocol

from riffler.color import Pixels
from riffler.geometry import Box, Scale
from riffler.mockup.archive import Archive
from riffler.mockup.fonts import FontBook
from riffler.mockup.model import Mockup
from riffler.project.limits import DEFAULT_LIMITS, Limits
from riffler.render.known import KnownBoxes


class Renderer(Protocol):
    """An open mockup: decoded layers and painted boxes are remembered while it lives."""

    mockup: Mockup

    def render(self, box: Box, scale: Scale, shown: frozenset[str]) -> Pixels:
        """The layers whose addresses are in `shown`, in `box`, at `scale`.

        A layer paints when it and every group around it are in `shown`. Returns (H, W, 4) of
        `box.size.scaled(scale)`; what of the box lies beyond the canvas is empty. Several threads
        may draw at once. Raises MockupError when a layer is damaged.
        """
        ...

    def fingerprint(self, box: Box, scale: Scale, shown: frozenset[str]) -> str:
        """What `render` would draw, in a word: equal words mean equal pixels.

        Nothing is decoded for it. What lies beside the box, or is off, does not count.
        """
        ...

    def warm(self, *, only_large: bool = False) -> None:
        """Begin what takes long, for work that will look at every layer.

        With `only_large` layers that take long each are begun alone: small ones that nobody will
        see are left alone then.
        """
        ...

    def own_box(self, address: str) -> Box | None:
        """The layer's own box, without shadow and glow; None when it is empty."""
        ...

    def solid_box(self, address: str) -> Box | None:
        """The box of the layer's solid parts, where a person sees its edges; None when none."""
        ...

    def painted_box(self, address: str) -> Box | None:
        """The box of all that the layer paints, shadow and glow included; None when nothing."""
        ...


def open_renderer(
    mockup: Mockup,
    fonts: FontBook | None = None,
    limits: Limits = DEFAULT_LIMITS,
    boxes: KnownBoxes | None = None,
) -> Renderer:
    """The engine that draws this mockup, with the fonts that its text may use.

    `boxes` are painted boxes that are known from earlier runs.
    """
    if isinstance(mockup.source, Archive | Path):
        from riffler.render.layered import LayeredRenderer

        return LayeredRenderer(mockup, limits, boxes)
    from riffler.render.vector import VectorRenderer

    return VectorRenderer(mockup, fonts or FontBook(), limits, boxes)
