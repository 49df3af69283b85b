"""The one way to draw: a Renderer for any mockup, whichever engine is behind it.

Boxes of layers are remembered between runs under the digests of what is painted, so that a slice
without a box of its own needs no decoding when nothing changed.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Protocol

from riffler.color import Pixels
from riffler.digests import digest_of
from riffler.geometry import Box, Coordinates, Rect, Scale, union
from riffler.mockup.font_book import FontBook
from riffler.mockup.model import Layer, Mockup
from riffler.project.limits import DEFAULT_LIMITS, Limits
from riffler.render.boxes import BoxMemory, Extent

if TYPE_CHECKING:
    from lxml import etree


class Engine(Protocol):
    """What draws one nature of mockups; it knows layers and pixels, the Renderer all the rest."""

    def render(self, box: Box, scale: Scale, shown: frozenset[str]) -> Pixels:
        """As `Renderer.render`."""
        ...

    def fingerprint(self, box: Box, scale: Scale, shown: frozenset[str]) -> str:
        """As `Renderer.fingerprint`."""
        ...

    def copied(self, box: Box, shown: frozenset[str]) -> etree._Element | None:
        """As `Renderer.copied`."""
        ...

    def warm(self, *, only_large: bool) -> None:
        """As `Renderer.warm`."""
        ...

    def content(self, layer: Layer, extent: Extent) -> str:
        """What tells a layer's own paint from any other, as far as a box of this extent goes."""
        ...

    def essence(self, layer: Layer) -> str:
        """As `Renderer.essence`."""
        ...

    def placed(self, layer: Layer) -> str:
        """As `Renderer.placed`."""
        ...

    def is_whole(self, group: Layer, extent: Extent) -> bool:
        """Whether a group's box is more than the union of what it shows: a filter is on it."""
        ...

    def rough_box(self, layer: Layer) -> Box | None:
        """Where a drawing lies, by its numbers alone; None where these do not tell."""
        ...

    def measured_box(self, layer: Layer, extent: Extent) -> Box | None:
        """The box by numbers alone, empty when nothing is painted; None where only drawing tells.

        To within a pixel of what is drawn.
        """
        ...

    def exact_box(self, layer: Layer, extent: Extent) -> Rect | None:
        """As `measured_box`, with fractions of pixels."""
        ...

    def coordinates(self, layer: Layer) -> Coordinates | None:
        """As `Renderer.coordinates`."""
        ...

    def find_box(self, layer: Layer, extent: Extent) -> Box | None:
        """The box of one layer, or of a group that is whole; None when there is nothing in it."""
        ...


class Renderer:
    """An open mockup: decoded layers and the boxes of layers are remembered while it lives."""

    def __init__(self, mockup: Mockup, engine: Engine, memory: BoxMemory) -> None:
        self.mockup = mockup
        self._engine = engine
        self._memory = memory
        self._boxes: dict[tuple[str, Extent], Box | None] = {}

    def render(self, box: Box, scale: Scale, shown: frozenset[str]) -> Pixels:
        """The layers whose addresses are in `shown`, in `box`, at `scale`.

        A layer paints when it and every group around it are in `shown`. Returns (H, W, 4) float32
        of `box.size.scaled(scale)`, premultiplied, 0..1; what of the box lies beyond the canvas is
        empty. Several threads may draw at once. Raises MockupError when a layer is damaged.
        """
        return self._engine.render(box, scale, shown)

    def fingerprint(self, box: Box, scale: Scale, shown: frozenset[str]) -> str:
        """A digest of what `render` would draw: equal ones mean equal pixels.

        Nothing is decoded for it. What lies beside the box, or is off, does not count.
        """
        return self._engine.fingerprint(box, scale, shown)

    def copied(self, box: Box, shown: frozenset[str]) -> etree._Element | None:
        """The layers as an SVG that shows `box`, an element of a layer with `document.KEY`.

        None for a mockup of pixels. The tree is the caller's own.
        """
        return self._engine.copied(box, shown)

    def content(self, address: str) -> str:
        """A digest of what a layer paints: equal ones mean that it paints the same pixels.

        Nothing is decoded for it. Of a group it tells what is inside, hidden or not, and how that
        is laid down; the place of a pixel layer does not count, unless it is in a group.
        """
        layer = self.mockup.by_address[address]
        if not layer.is_group:
            return self._engine.content(layer, Extent.PAINTED)
        inside = ((self.content(below.address), below.box, *below.look) for below in layer.children)
        return digest_of("group", *layer.look, *inside)

    def essence(self, address: str) -> str:
        """A digest of what a layer paints wherever it lies: equal ones mean equal paint.

        Nothing is drawn for it, and what it is called does not count. Paint that is equal may have
        two digests.
        """
        return self._engine.essence(self.mockup.by_address[address])

    def placed(self, address: str) -> str:
        """A digest of where a layer lies: equal ones of equal essence mean that nothing moved.

        Nothing is drawn for it.
        """
        return self._engine.placed(self.mockup.by_address[address])

    def warm(self, *, only_large: bool = False) -> None:
        """Begin what takes long, for work that will look at every layer.

        With `only_large` layers that take long each are begun alone: small ones that nobody will
        see are left alone then.
        """
        self._engine.warm(only_large=only_large)

    def own_box(self, address: str) -> Box | None:
        """The layer's own box, without shadow and glow, as the file says it where it does.

        None when it is empty; of a group the box of all that is inside.
        """
        boxes = [inside.box for inside in self.mockup.by_address[address].walk() if inside.box]
        return union(boxes) if boxes else self._box(address, Extent.OWN)

    def exact_box(self, address: str) -> Rect | None:
        """Where a person sees its edges, as `solid_box`, with the fractions that vectors have.

        Soft things have the box of all that they paint; of a group it is the box around what shows
        inside.
        """
        layer = self.mockup.by_address[address]
        if layer.is_group:
            inside = (self.exact_box(child.address) for child in layer.children if child.visible)
            return Rect.around(box for box in inside if box)
        exact = self._engine.exact_box(layer, Extent.SOLID)
        if exact is not None:
            return exact if exact.width > 0 and exact.height > 0 else None
        box = self.solid_box(address) or self.painted_box(address)
        return Rect.of(box) if box else None

    def coordinates(self, address: str) -> Coordinates | None:
        """Those that a vector is drawn in; None for what has none of its own, and for pixels."""
        return self._engine.coordinates(self.mockup.by_address[address])

    def rough_box(self, address: str) -> Box | None:
        """Where a drawing lies, by its numbers where these say it: quick, and a little generous."""
        return self._engine.rough_box(self.mockup.by_address[address]) or self.own_box(address)

    def solid_box(self, address: str) -> Box | None:
        """The box of the layer's solid parts, where a person sees its edges; None when none."""
        return self._box(address, Extent.SOLID)

    def painted_box(self, address: str) -> Box | None:
        """The box of all that the layer paints, shadow and glow included; None when nothing."""
        return self._box(address, Extent.PAINTED)

    def _box(self, address: str, extent: Extent) -> Box | None:
        key = (address, extent)
        if key not in self._boxes:
            self._boxes[key] = self._find(self.mockup.by_address[address], extent)
        return self._boxes[key]

    def _find(self, layer: Layer, extent: Extent) -> Box | None:
        if layer.is_group and not self._engine.is_whole(layer, extent):
            inside = (self._box(child.address, extent) for child in layer.children if child.visible)
            return union(box for box in inside if box) or None
        measured = self._engine.measured_box(layer, extent)
        if measured is not None:
            return measured or None
        place = layer.box and layer.box.moved(*(-start for start in self.mockup.origin))
        digest = digest_of(place, self._engine.content(layer, extent))
        if digest not in self._memory:
            self._memory[digest] = self._engine.find_box(layer, extent)
        return self._memory[digest]


def open_renderer(
    mockup: Mockup,
    fonts: FontBook | None = None,
    limits: Limits = DEFAULT_LIMITS,
    memory: BoxMemory | None = None,
) -> Renderer:
    """The renderer of this mockup, with the fonts that its text may use.

    `memory` has boxes that earlier runs found.
    """
    engine: Engine
    if mockup.is_vector:
        from riffler.render.vector import VectorEngine

        engine = VectorEngine(mockup, fonts or FontBook(), limits)
    else:
        from riffler.render.layered import LayeredEngine

        engine = LayeredEngine(mockup, limits)
    return Renderer(mockup, engine, BoxMemory() if memory is None else memory)
