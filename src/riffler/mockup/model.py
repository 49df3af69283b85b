"""What a mockup is once it is read: sizes, canvases and a tree of layers, top layer first."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field, replace
from enum import StrEnum
from functools import cached_property
from pathlib import Path

from riffler.geometry import Box, Size


class LayerKind(StrEnum):
    """What a layer is made of."""

    GROUP = "group"
    PIXELS = "pixels"
    VECTOR = "vector"
    WORDS = "words"


class Nature(StrEnum):
    """What a mockup's file is, and so which engine draws it and what can be asked of it."""

    LAYERED = "layered"
    """An archive of layers made of pixels."""
    FLAT = "flat"
    """A single picture."""
    VECTOR = "vector"
    """A drawing, sharp at any size."""


@dataclass(frozen=True)
class TextRun:
    """Letters of a line, from `start` up to `end`, that are set otherwise than most of a text."""

    line: int
    start: int
    end: int
    color: str
    weight: int = 400
    is_italic: bool = False
    is_underlined: bool = False


@dataclass(frozen=True)
class LayerText:
    """Text as data. Lengths are mockup pixels; `line_step` is from one baseline to the next.

    `runs` are letters that are set otherwise, in order. `stops` are letters of a single line that
    are placed by themselves, each with its number and how far it is from the first.
    """

    lines: tuple[str, ...]
    families: tuple[str, ...] = ()
    size: float = 16.0
    weight: int = 400
    style: str = "normal"
    letter_spacing: float = 0.0
    line_step: float | None = None
    anchor: str = "start"
    color: str = "#000000"
    runs: tuple[TextRun, ...] = ()
    stops: tuple[tuple[int, float], ...] = ()

    @property
    def text(self) -> str:
        """All lines, one below the other."""
        return "\n".join(self.lines)


@dataclass(frozen=True)
class Layer:
    """One layer or group.

    `note` is what a person should know of how it was read.
    `box` is the layer's own box where the file says it: None for groups and for vectors, whose
    box only drawing tells. `source` is what the renderer finds the layer's content by.
    """

    address: str
    name: str
    kind: LayerKind
    visible: bool = True
    opacity: float = 1.0
    blend: str = "normal"
    operator: str = "source-over"
    isolated: bool = False
    box: Box | None = None
    source: str = ""
    words: LayerText | None = None
    note: str = ""
    children: tuple[Layer, ...] = ()

    @property
    def is_group(self) -> bool:
        """Whether it holds layers instead of paint."""
        return self.kind is LayerKind.GROUP

    @property
    def look(self) -> tuple[bool, float, str, str, bool]:
        """How it is laid over what lies beneath: on or off, opacity, blending, isolation."""
        return self.visible, self.opacity, self.blend, self.operator, self.isolated

    def walk(self) -> Iterator[Layer]:
        """The layer and all inside it, as they are listed."""
        yield self
        for child in self.children:
            yield from child.walk()


@dataclass(frozen=True)
class Canvas:
    """One of several drawings in a file: its name and its box in the whole file's pixels."""

    name: str
    box: Box


@dataclass(frozen=True)
class Mockup:
    """A mockup as data; it knows nothing of pixels.

    `origin` is where the chosen canvas lies in the file's own pixels, in which boxes of layers are;
    engines draw and measure in those of the canvas. Layers are listed from the
    top of the stack, group by group. `source` belongs to the engine that draws the file.
    """

    path: Path
    size: Size
    layers: tuple[Layer, ...]
    nature: Nature
    source: object = field(repr=False, compare=False)
    canvases: tuple[Canvas, ...] = ()
    origin: tuple[int, int] = (0, 0)
    resolution: tuple[float, float] | None = None

    @property
    def box(self) -> Box:
        """The canvas."""
        return Box.of_size(self.size)

    @property
    def is_vector(self) -> bool:
        """Whether it is drawn sharp at any size."""
        return self.nature is Nature.VECTOR

    def walk(self) -> Iterator[Layer]:
        """Every layer, in the order `look` prints them."""
        for layer in self.layers:
            yield from layer.walk()

    @cached_property
    def by_address(self) -> dict[str, Layer]:
        """Every layer under its address, in listed order."""
        return {layer.address: layer for layer in self.walk()}

    @cached_property
    def of_kind(self) -> dict[str, list[str]]:
        """The addresses of the layers of each kind, in listed order."""
        result = defaultdict[str, list[str]](list)
        for layer in self.walk():
            result[layer.kind].append(layer.address)
        return dict(result)

    @cached_property
    def parents(self) -> dict[str, str]:
        """The address of the group around each layer that is in one."""
        return {child.address: layer.address for layer in self.walk() for child in layer.children}

    @cached_property
    def hidden(self) -> tuple[Layer, ...]:
        """The outermost hidden layers of what is shown."""
        return tuple(_hidden(self.layers))

    def ancestors(self, address: str) -> Iterator[Layer]:
        """The groups around a layer, the innermost first."""
        while address in self.parents:
            address = self.parents[address]
            yield self.by_address[address]

    def visible_inside(self, layer: Layer) -> Iterator[Layer]:
        """What the file itself shows below `layer`."""
        for child in layer.children:
            if child.visible:
                yield child
                yield from self.visible_inside(child)

    @cached_property
    def drawn(self) -> frozenset[str]:
        """The layers that are switched on in the file, wherever the groups around them are not."""
        return frozenset(layer.address for layer in self.walk() if layer.visible)

    def shows(self, layer: Layer) -> bool:
        """Whether the file shows the layer: it and every group around it are on."""
        return layer.visible and all(group.visible for group in self.ancestors(layer.address))

    def alone(self, address: str) -> frozenset[str]:
        """What is on when one layer is looked at: it, what shows inside, the groups around it."""
        inside = (below.address for below in self.visible_inside(self.by_address[address]))
        return frozenset((address, *inside, *(up.address for up in self.ancestors(address))))

    def marked(self, words: frozenset[str], left: frozenset[str]) -> Mockup:
        """The mockup with these layers known to be words, and those switched off; by addresses.

        Groups stay groups.
        """

        def marked(layer: Layer) -> Layer:
            is_words = layer.address in words and not layer.is_group
            return replace(
                layer,
                kind=LayerKind.WORDS if is_words else layer.kind,
                visible=layer.visible and layer.address not in left,
                children=tuple(marked(child) for child in layer.children),
            )

        return replace(self, layers=tuple(marked(layer) for layer in self.layers))


def drawings(layers: Iterable[Layer]) -> Iterator[Layer]:
    """The layers that hold paint, as a person counts them, in listed order.

    A group of nothing but unnamed shapes is one drawing.
    """
    for layer in layers:
        if is_drawing(layer):
            yield layer
        else:
            yield from drawings(layer.children)


def is_drawing(layer: Layer) -> bool:
    """Whether a person would call it one thing: a layer, or a group of unnamed shapes."""
    if not layer.is_group:
        return True
    return bool(layer.children) and not any(
        below.name or below.kind is LayerKind.WORDS for below in layer.walk() if below is not layer
    )


def _hidden(layers: Iterable[Layer]) -> Iterator[Layer]:
    for layer in layers:
        if not layer.visible:
            yield layer
        elif layer.is_group:
            yield from _hidden(layer.children)
