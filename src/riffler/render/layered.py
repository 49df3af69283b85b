"""The engine for pixel mockups: layers composed in bands, only where the wanted box needs them.

Bands of 131 072 px are composed at a time, from the topmost opaque layer that covers the band; what
is hidden below it is never touched.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import Protocol, TypeAlias, cast

import numpy as np

from riffler.color import Bytes, Pixels, empty
from riffler.digests import digest_of
from riffler.geometry import Box, Coordinates, Rect, Scale, union
from riffler.mockup.flat import FORMATS
from riffler.mockup.model import Layer, Mockup, Nature
from riffler.project.limits import DEFAULT_LIMITS, Limits
from riffler.render.boxes import Extent
from riffler.render.composite import CLEARING, composite
from riffler.render.decode import Unpacked, unpacked
from riffler.render.scaling import resized
from riffler.render.store import LayerStore

#: Pixels composed at a time: they take 2 MB, which stays in a processor's near memory while
#: every layer over it is laid down.
BAND = 131_072


@dataclass(frozen=True)
class Paint:
    """A layer that shows, ready to be laid down."""

    layer: Layer
    box: Box
    opacity: float
    blend: str
    operator: str


@dataclass(frozen=True)
class Isolated:
    """A group composed by itself before it is laid down. Section 6.2 of the blending standard."""

    steps: tuple[Step, ...]
    box: Box
    opacity: float
    blend: str
    operator: str


Step: TypeAlias = Paint | Isolated


#: What the pictures of layers may be: OpenRaster 0.0.6 has nothing but PNG.
_IN_ARCHIVES = ("PNG",)


class PixelFiles(Protocol):
    """Where the pictures of layers come from, by what a layer calls its source."""

    def checksum(self, name: str) -> str:
        """What tells a picture from others, without reading it where that can be."""
        ...

    def read(self, name: str) -> bytes:
        """A picture's file. Raises MockupError when it is damaged."""
        ...


class LayeredEngine:
    """Draws OpenRaster files and flat pictures; keeps decoded layers while they fit a budget."""

    def __init__(self, mockup: Mockup, limits: Limits = DEFAULT_LIMITS) -> None:
        self.mockup = mockup
        self._files = cast("PixelFiles", mockup.source)
        self._formats = _IN_ARCHIVES if mockup.nature is Nature.LAYERED else FORMATS
        self._limits = limits
        self._store = LayerStore(self._decode)
        self._steps: dict[frozenset[str], tuple[Step, ...]] = {}

    def render(self, box: Box, scale: Scale, shown: frozenset[str]) -> Pixels:
        """The layers that are shown, in `box`, at `scale`: (H, W, 4) of `box.size.scaled(scale)`.

        What of the box lies beyond the canvas is empty.
        """
        steps = self._steps_for(shown)
        pixels = empty(box.height, box.width)
        place, wanted = box.moved(*self.mockup.origin), self._wanted(box)
        for band in wanted.bands(max(16, BAND // max(1, wanted.width))):
            self._compose(steps, band, pixels[band.within(place)])
        return pixels if scale == 1 else resized(pixels, box.size.scaled(scale))

    def _wanted(self, box: Box) -> Box:
        """What of a box lies on the canvas, in the file's own pixels."""
        return (box & self.mockup.box).moved(*self.mockup.origin)

    def _steps_for(self, shown: frozenset[str]) -> tuple[Step, ...]:
        steps = self._steps.get(shown)
        if steps is None:
            steps = _steps(self.mockup.layers, shown)
            self._steps = {shown: steps}
        return steps

    def fingerprint(self, box: Box, scale: Scale, shown: frozenset[str]) -> str:
        """A digest of the layers that touch the box, their places and ways of blending."""
        wanted = self._wanted(box)
        touching = self._described(_near(self._steps_for(shown), wanted), wanted)
        return digest_of("pixels", box, scale, wanted, *touching)

    def copied(self, box: Box, shown: frozenset[str]) -> None:
        """Pixels are no drawing."""

    def _described(self, steps: Iterable[Step], wanted: Box) -> Iterator[object]:
        for step in steps:
            if not (step.box & wanted) and step.operator not in CLEARING:
                continue
            yield (step.box, step.opacity, step.blend, step.operator)
            if isinstance(step, Paint):
                yield self._files.checksum(step.layer.source)
            else:
                yield from self._described(step.steps, wanted)
                yield "end"

    def warm(self, *, only_large: bool = False) -> None:
        """Begin to decode layers, for work that will look at every one, or at what is seen."""
        layers = [layer for layer in self.mockup.walk() if not layer.is_group]
        self._store.warm(layers, only_large=only_large)

    def content(self, layer: Layer, extent: Extent) -> str:
        """The checksum of the layer's picture."""
        return f"{extent}-{self._files.checksum(layer.source)}"

    def essence(self, layer: Layer) -> str:
        """The checksum of the layer's picture; of a group those of all in it, with their places."""
        if not layer.is_group:
            return self._files.checksum(layer.source)
        return digest_of(*((self.essence(child), child.box) for child in layer.children))

    def placed(self, layer: Layer) -> str:
        """The boxes as the file says them."""
        return digest_of(*(one_layer.box for one_layer in layer.walk()))

    def is_whole(self, group: Layer, extent: Extent) -> bool:  # noqa: ARG002
        """Groups of pixels have no paint of their own."""
        return False

    def rough_box(self, layer: Layer) -> Box | None:
        """The layer's own box; of a group none."""
        return layer.box and self._on_canvas(layer.box)

    def _on_canvas(self, box: Box) -> Box:
        left, top = self.mockup.origin
        return box.moved(-left, -top)

    def measured_box(self, _layer: Layer, _extent: Extent) -> Box | None:
        """Only pixels tell what a pixel layer paints."""
        return None

    def exact_box(self, _layer: Layer, _extent: Extent) -> Rect | None:
        """Pixels have no fractions."""
        return None

    def coordinates(self, _layer: Layer) -> Coordinates | None:
        """Pixels are drawn in those of the canvas."""
        return None

    def find_box(self, layer: Layer, extent: Extent) -> Box | None:
        """The box of what is not clear, or of what is more than half opaque, from the pixels."""
        inked = self._store.get(layer).extent
        box = inked.painted_box() if extent is Extent.PAINTED else inked.solid_box()
        return box and self._on_canvas(box)

    def _decode(self, layer: Layer) -> Bytes | Unpacked:
        what = f'Layer "{layer.address}"'
        data = self._files.read(layer.source)
        if self.mockup.nature is Nature.LAYERED and layer.source.lower().endswith(".svg"):
            from riffler.render.svg_drawing import draw_whole

            return draw_whole(data, what, self._limits)
        return unpacked(data, what, self._limits, self._formats)

    def _compose(self, steps: tuple[Step, ...], band: Box, backdrop: Pixels) -> None:
        """Lay the steps over `backdrop`, which holds `band`, from the lowest that is seen."""
        steps = _near(steps, band)
        for step in steps[self._lowest_seen(steps, band) :]:
            area = step.box & band
            if area:
                self._lay(step, area, backdrop[area.within(band)])
            if step.operator in CLEARING:
                _clear_around(area, band, backdrop)

    def _lay(self, step: Step, area: Box, backdrop: Pixels) -> None:
        """Lay one step over its own area."""
        is_plain = step.operator == "source-over" and step.blend == "normal" and step.opacity == 1
        if isinstance(step, Paint):
            decoded = self._store.get(step.layer)
            if step.operator not in CLEARING:
                part = area & decoded.kept
                if not part or not decoded.extent.is_painted(part):
                    return
                area, backdrop = part, backdrop[part.within(area)]
            opaque = decoded.extent.opaque_part(area) if is_plain else None
            if opaque:
                decoded.cover(opaque, backdrop[opaque.within(area)])
                for beside in area.beside(opaque):
                    composite(backdrop[beside.within(area)], decoded.cut(beside))
                return
            source = decoded.cut(area)
        else:
            source = empty(area.height, area.width)
            self._compose(step.steps, area, source)
        if step.opacity < 1:
            source *= np.float32(step.opacity)
        composite(backdrop, source, step.blend, step.operator)

    def _lowest_seen(self, steps: tuple[Step, ...], band: Box) -> int:
        """The first step that can be seen: the topmost one that covers the band and is opaque."""
        for index in range(len(steps) - 1, 0, -1):
            step = steps[index]
            if (
                isinstance(step, Paint)
                and step.operator == "source-over"
                and step.blend == "normal"
                and step.opacity == 1
                and step.box.contains(band)
                and self._store.get(step.layer).extent.opaque_part(band) == band
            ):
                return index
        return 0


def _steps(layers: Iterable[Layer], shown: frozenset[str]) -> tuple[Step, ...]:
    """What is to be laid down, lowest first; groups that need not be isolated are taken apart."""
    steps: list[Step] = []
    for layer in reversed(tuple(layers)):
        if layer.address not in shown or (layer.opacity == 0 and layer.operator not in CLEARING):
            continue
        if not layer.is_group:
            box = layer.box or Box(0, 0, 0, 0)
            steps.append(Paint(layer, box, layer.opacity, layer.blend, layer.operator))
            continue
        inner = _steps(layer.children, shown)
        if _is_isolated(layer):
            box = union(step.box for step in inner)
            steps.append(Isolated(inner, box, layer.opacity, layer.blend, layer.operator))
        else:
            steps.extend(inner)
    return tuple(steps)


def _near(steps: tuple[Step, ...], band: Box) -> tuple[Step, ...]:
    """The steps that have something to say about the rows of a band."""
    top, bottom = band.y, band.bottom
    return tuple(
        step
        for step in steps
        if (step.box.y < bottom and step.box.y + step.box.height > top) or step.operator in CLEARING
    )


def _is_isolated(group: Layer) -> bool:
    """OpenRaster 0.0.6: `isolate`, or an opacity or operator that needs the group as a whole."""
    return (
        group.isolated
        or group.opacity < 1
        or group.blend != "normal"
        or group.operator != "source-over"
    )


def _clear_around(area: Box, band: Box, backdrop: Pixels) -> None:
    """Empty the band outside `area`: there the source of a clearing operator is transparent."""
    if not area:
        backdrop[...] = 0
        return
    rows, columns = area.within(band)
    backdrop[: rows.start] = 0
    backdrop[rows.stop :] = 0
    backdrop[:, : columns.start] = 0
    backdrop[:, columns.stop :] = 0
