"""One version of a mockup -> its drawings, with what tells them from others; found when asked.

All lengths are CSS pixels, so that versions of two densities can be compared.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property
from typing import cast

from riffler.analyse.style import Style
from riffler.color import Bytes, to_bytes
from riffler.geometry import Box, Point, Rect
from riffler.mockup.model import Layer, LayerText, drawings
from riffler.mockup.svg.document import SvgDocument
from riffler.mockup.svg.hull import own_matrix
from riffler.mockup.svg.text_element import pen
from riffler.reading.judgement import Becomes
from riffler.reading.reading import Reading
from riffler.reading.style_fit import by_hand
from riffler.workspace import Opened

#: Texts in pixels that are read and whose type is looked for: each takes half a second.
READINGS = 24

#: Pixels of a drawing that are looked at, along the longer side.
LONGEST = 1200


@dataclass(frozen=True)
class VersionThing:
    """A drawing: its place in the list of all, the group around it, what tells its paint and place.

    `essence` and `placed` are the renderer's digests.
    """

    number: int
    layer: Layer
    group: str
    essence: str
    placed: str

    @property
    def address(self) -> str:
        """Its layer's address."""
        return self.layer.address


@dataclass(frozen=True)
class Art:
    """What a drawing paints by itself: (H, W, 4) uint8, straight, and the mockup pixels of it."""

    pixels: Bytes
    box: Box


class Version:
    """A version of a mockup; what is found of its drawings is remembered."""

    def __init__(self, opened: Opened, density: float, language: str = "eng") -> None:
        """`language` is what words in pixels are written in."""
        self.opened, self.density, self.language = opened, density, language
        self.renderer, self.mockup = opened.renderer, opened.mockup
        self.reading = Reading(opened.renderer, density, opened.says)
        parents, renderer = self.mockup.parents, self.renderer
        self.things = tuple(
            VersionThing(
                number, layer, parents.get(at, ""), renderer.essence(at), renderer.placed(at)
            )
            for number, layer in enumerate(drawings(self.mockup.layers))
            for at in (layer.address,)
        )
        self.readings = READINGS
        self._rects: dict[int, Rect | None] = {}
        self._styles: dict[int, Style | None] = {}
        self._art: dict[int, Art | None] = {}

    @cached_property
    def by_address(self) -> dict[str, VersionThing]:
        """Every drawing under its address."""
        return {thing.address: thing for thing in self.things}

    @property
    def page(self) -> Rect:
        """The canvas."""
        return Rect.of(self.mockup.box).scaled(1 / self.density)

    def shows(self, thing: VersionThing) -> bool:
        """Whether the file shows it."""
        return self.mockup.shows(thing.layer)

    def rect(self, thing: VersionThing) -> Rect | None:
        """Where its edges lie, in CSS pixels; None for what paints nothing."""
        if thing.number not in self._rects:
            found_rect = self._edges(thing)
            self._rects[thing.number] = found_rect and found_rect.scaled(1 / self.density)
        return self._rects[thing.number]

    def place(self, thing: VersionThing) -> Rect | None:
        """Where it lies; for a text whose font is not there, a square where its letters begin."""
        return self.rect(thing) or self._begins(thing)

    def _begins(self, thing: VersionThing) -> Rect | None:
        point, words = self.pen(thing), self.words(thing)
        if point is None or words is None:
            return None
        return Rect(point.x, point.y - words.size, words.size, words.size)

    def rect_at(self, address: str | None) -> Rect | None:
        """Rectangle of the drawing at `address`; None where there is none."""
        thing = self.by_address.get(address or "")
        return self.rect(thing) if thing else None

    def _edges(self, thing: VersionThing) -> Rect | None:
        if self.mockup.is_vector:
            return self.renderer.exact_box(thing.address)
        box = self.renderer.solid_box(thing.address) or self.renderer.painted_box(thing.address)
        return Rect.of(box) if box else None

    def painted(self, thing: VersionThing) -> Rect | None:
        """The box of all the pixels that it paints, in CSS pixels; None for vectors."""
        box = None if self.mockup.is_vector else self.renderer.painted_box(thing.address)
        return Rect.of(box).scaled(1 / self.density) if box else None

    def stored(self, thing: VersionThing) -> Rect | None:
        """The box of a layer of pixels as the file says it, without a look at them."""
        box = thing.layer.box
        return None if box is None else Rect.of(box).scaled(1 / self.density)

    def is_words(self, thing: VersionThing) -> bool:
        """Whether it is text, said or seen."""
        return self.reading.is_words(thing.layer)

    def words(self, thing: VersionThing) -> LayerText | None:
        """A text of the document, its lengths in CSS pixels; None for text in pixels."""
        words = thing.layer.words
        return None if words is None else self.on_page(words)

    def on_page(self, words: LayerText) -> LayerText:
        """A text with its lengths in CSS pixels."""
        by = 1 / self.density
        return replace(
            words,
            size=round(words.size * by, 2),
            letter_spacing=round(words.letter_spacing * by, 2),
            line_step=words.line_step and round(words.line_step * by, 2),
        )

    def pen(self, thing: VersionThing) -> Point | None:
        """Where the first letters of a text of the document are set, in CSS pixels."""
        if not self.mockup.is_vector or thing.layer.words is None:
            return None
        document = cast("SvgDocument", self.mockup.source)
        element = document.elements[thing.layer.source]
        matrix = own_matrix(document, element)
        if matrix is None:
            return None
        point, (left, top) = pen(element, matrix), self.mockup.origin
        return Point((point.x - left) / self.density, (point.y - top) / self.density)

    def style(self, thing: VersionThing) -> Style | None:
        """What a style sheet says to draw it, in CSS pixels; None for text and pictures."""
        if thing.number not in self._styles:
            self._styles[thing.number] = self._judged(thing)
        return self._styles[thing.number]

    def _judged(self, thing: VersionThing) -> Style | None:
        if self.is_words(thing):
            return None
        judgement = self.reading.judgement(thing.layer)
        if judgement.becomes is not Becomes.CSS or judgement.style is None:
            return None
        style = judgement.style
        if not judgement.is_said:
            style = by_hand(style, self.density)
        return style.scaled(1 / self.density)

    def art(self, thing: VersionThing) -> Art | None:
        """What it paints by itself on the canvas and beyond it, as it is drawn."""
        if thing.number not in self._art:
            self._art[thing.number] = self._drawn(thing)
        return self._art[thing.number]

    def _drawn(self, thing: VersionThing) -> Art | None:
        painted = self.renderer.painted_box(thing.address)
        box = painted & self.mockup.box if painted else None
        if not box:
            return None
        shown = self.mockup.alone(thing.address)
        scale = min(1.0, LONGEST / max(box.width, box.height)) if self.mockup.is_vector else 1.0
        return Art(to_bytes(self.renderer.render(box, scale, shown)), box)


@dataclass(frozen=True)
class Both:
    """A drawing in both versions, with its boxes in CSS pixels."""

    old: Version
    new: Version
    one: VersionThing
    other: VersionThing
    was: Rect
    now: Rect
