"""The engine for vector mockups: a pruned copy of the drawing, given to the SVG renderer."""

from __future__ import annotations

import threading
from dataclasses import replace
from typing import cast

import numpy as np
from lxml import etree

from riffler.color import Bytes, Pixels, from_bytes
from riffler.digests import digest_of
from riffler.files import as_typed
from riffler.geometry import Box, Coordinates, Rect, Scale, Size
from riffler.mockup.font_book import FontBook
from riffler.mockup.model import Layer, Mockup
from riffler.mockup.svg import extent as extents
from riffler.mockup.svg import style
from riffler.mockup.svg.document import SvgDocument
from riffler.mockup.svg.essence import essence, placed
from riffler.mockup.svg.hull import hull, own_coordinates
from riffler.project.limits import DEFAULT_LIMITS, Limits
from riffler.render.boxes import Extent
from riffler.render.painted import painted_box
from riffler.render.pruning import Pruner
from riffler.render.reaches import Reaches
from riffler.render.svg_drawing import draw, font_hashes

NO_FONTS = FontBook()

#: Longest side of the coarse drawing that finds roughly where a layer paints.
COARSE = 1024

#: So much of a pixel may be covered at the rim without being seen: it is rounded to nothing.
ROUNDED = 0.02

#: By how much paint may be seen beyond its measured box, in mockup pixels.
BESIDE = 2

#: Room left for shadow and glow around a layer at the first try, in mockup pixels.
SHADOW = 64

#: Pixels from which the box of a layer is looked for along its edges, and how deep there.
LARGE, STRIP = 160_000, 72

#: Output pixels drawn in one piece: within the limit on seconds even with several filters.
PIECE = 1_050_000


class VectorEngine:
    """Draws SVG mockups; a box at a scale is drawn at that scale, not enlarged."""

    def __init__(
        self, mockup: Mockup, fonts: FontBook = NO_FONTS, limits: Limits = DEFAULT_LIMITS
    ) -> None:
        self.mockup = mockup
        self._document = cast("SvgDocument", mockup.source)
        self._fonts = fonts
        self._limits = limits
        self._pruner = Pruner(self._document, fonts)
        self._reaches = Reaches(mockup, self._paint_of, self._has_filter)
        self._lock = threading.Lock()
        self._measured: dict[tuple[str, bool], Rect | None] = {}

    def render(self, box: Box, scale: Scale, shown: frozenset[str]) -> Pixels:
        """The layers that are shown, in `box`, at `scale`: (H, W, 4) of `box.size.scaled(scale)`.

        What of the box lies beyond the canvas is empty.
        """
        shown, size = self._near(box, shown), box.size.scaled(scale)
        rows = max(1, min(box.height, PIECE // size.width, int(PIECE / size.width / scale)))
        with self._lock:
            if rows >= box.height:
                pixels = from_bytes(self._draw(box, size, shown))
            else:
                pixels = self._render_in_pieces(box, scale, shown, rows)
        _clear_beyond(self.mockup.box, box, pixels)
        return pixels

    def _render_in_pieces(self, box: Box, scale: Scale, shown: frozenset[str], rows: int) -> Pixels:
        size = box.size.scaled(scale)
        pixels = np.zeros((size.height, size.width, 4), np.float32)
        for band in box.bands(rows):
            top = round((band.y - box.y) * size.height / box.height)
            bottom = round((band.bottom - box.y) * size.height / box.height)
            if bottom > top:
                piece = self._draw(band, Size(size.width, bottom - top), shown)
                pixels[top:bottom] = from_bytes(piece)
        return pixels

    def fingerprint(self, box: Box, scale: Scale, shown: frozenset[str]) -> str:
        """A digest of the pruned drawing and the fonts that its text is drawn with."""
        size, near = box.size.scaled(scale), self._near(box, shown)
        drawing = self._pruner.pruned(near, box.moved(*self.mockup.origin), size)
        return self._digest(drawing, self.mockup.box)

    def copied(self, box: Box, shown: frozenset[str]) -> etree._Element:
        """The pruned drawing, with which layer each element is."""
        near, place = self._near(box, shown), box.moved(*self.mockup.origin)
        return self._pruner.pruned(near, place, box.size, is_copy=True)

    def _near(self, box: Box, shown: frozenset[str]) -> frozenset[str]:
        """The shown layers that may paint in a box: no picture is unpacked that lies elsewhere."""
        return self._reaches.near(box, shown)

    def _paint_of(self, layer: Layer) -> Box | None:
        """A box that holds all that a layer paints; None where that may be anywhere."""
        reach = self.measured_box(layer, Extent.PAINTED)
        return reach and reach.grown(BESIDE)

    def _digest(self, drawing: etree._Element, *more: object) -> str:
        files = font_hashes(drawing, self._fonts)
        return digest_of("vector", etree.tostring(drawing, encoding="unicode"), *files, *more)

    def warm(self, *, only_large: bool = False) -> None:
        """Nothing takes long before it is drawn."""

    def content(self, layer: Layer, extent: Extent) -> str:
        """A digest of the drawing with nothing but this layer in it."""
        shown = self.mockup.alone(layer.address)
        canvas = self.mockup.box.moved(*self.mockup.origin)
        without_filters = self._without_filters(layer, extent)
        drawing = self._pruner.pruned(shown, canvas, canvas.size, without_filters=without_filters)
        return self._digest(drawing)

    def essence(self, layer: Layer) -> str:
        """A digest of the layer's element, of what it refers to and of what it inherits."""
        element = self._document.elements.get(layer.source)
        return digest_of(layer.source) if element is None else essence(self._document, element)

    def placed(self, layer: Layer) -> str:
        """Where the element lies, and where the canvas does."""
        element = self._document.elements.get(layer.source)
        return digest_of(
            self.mockup.origin, element is not None and placed(self._document, element)
        )

    def is_whole(self, group: Layer, extent: Extent) -> bool:
        """Whether the group has a filter that is looked at."""
        return extent is Extent.PAINTED and self._has_filter(group)

    def rough_box(self, layer: Layer) -> Box | None:
        """The hull of the layer's shapes; None for what only drawing tells, such as text."""
        element = self._document.elements.get(layer.source)
        rect = hull(self._document, element) if element is not None else None
        x, y = self.mockup.origin
        return None if rect is None else rect.outward().moved(-x, -y)

    def measured_box(self, layer: Layer, extent: Extent) -> Box | None:
        """The box by the numbers of the drawing, and of the fonts; as `Engine.measured_box`."""
        rect = self.exact_box(layer, extent)
        if rect is None:
            return None
        inner = Rect(
            rect.x + ROUNDED, rect.y + ROUNDED, rect.width - 2 * ROUNDED, rect.height - 2 * ROUNDED
        )
        return inner.outward() & self._reach()

    def exact_box(self, layer: Layer, extent: Extent) -> Rect | None:
        """Box that a layer paints, with fractions of pixels; None where only drawing tells."""
        key = (layer.address, extent is not Extent.PAINTED)
        if key not in self._measured:
            self._measured[key] = self._measure(layer, without_filters=key[1])
        return self._measured[key]

    def coordinates(self, layer: Layer) -> Coordinates | None:
        """Those that the layer's element is drawn in, where it has its own."""
        element = self._document.elements.get(layer.source)
        own = None if element is None else own_coordinates(self._document, element)
        x, y = self.mockup.origin
        return own and replace(own, x=own.x - x, y=own.y - y)

    def _measure(self, layer: Layer, *, without_filters: bool) -> Rect | None:
        element = self._document.elements.get(layer.source)
        if element is None:
            return None
        rect = extents.painted(
            self._document, element, self._fonts, without_filters=without_filters
        )
        x, y = self.mockup.origin
        return rect and Rect(rect.x - x, rect.y - y, rect.width, rect.height)

    def _reach(self) -> Box:
        """The canvas and all around it in which layers are looked for."""
        canvas = self.mockup.box
        return Box(-canvas.width, -canvas.height, 3 * canvas.width, 3 * canvas.height)

    def find_box(self, layer: Layer, extent: Extent) -> Box | None:
        """The box that is painted, to within a pixel; without filters unless all paint is meant."""
        without_filters = self._without_filters(layer, extent)
        shown = self.mockup.alone(layer.address)
        if likely := self._likely_box(layer, without_filters):
            if likely.area > LARGE and (box := self._along_rim(likely, shown, without_filters)):
                return box
            box = self._painted_in(likely, 1.0, shown, without_filters)
            if box and likely.grown(-1).contains(box):
                return box
        return self._search(shown, without_filters)

    def _without_filters(self, layer: Layer, extent: Extent) -> bool:
        """Whether filters do not count: shapes have edges of their own, without their shadow.

        True also where there is no filter, so that what is known of one extent serves for all.
        """
        return extent is not Extent.PAINTED or not self._is_filtered(layer)

    def _is_filtered(self, layer: Layer) -> bool:
        """Whether the layer looks any different without filters."""
        near = (*self.mockup.ancestors(layer.address), *layer.walk())
        return any(self._has_filter(layer) for layer in near)

    def _has_filter(self, layer: Layer) -> bool:
        element = self._document.elements.get(layer.source)
        if element is None:
            return False
        inside = element.iter() if not layer.is_group else [element]
        return any(style.has(inner, "filter") for inner in inside)

    def _likely_box(self, layer: Layer, without_filters: bool) -> Box | None:
        """Where the layer's shapes lie, with room for the usual shadow; None if that is unknown."""
        rough = self.rough_box(layer)
        if rough is None:
            return None
        box = rough.grown(2 if without_filters else SHADOW) & self._reach()
        return box if box and box.area <= 4 * COARSE * COARSE else None

    def _search(self, shown: frozenset[str], without_filters: bool) -> Box | None:
        """Where layers paint: a coarse drawing of all around the canvas, then the rim exactly."""
        wide = self._reach()
        scale = min(1.0, COARSE / max(wide.width, wide.height))
        box = self._painted_in(wide, scale, shown, without_filters)
        if box is None:
            return None
        margin = int(2 / scale) + 1
        rough = box.grown(margin)
        if rough.area <= 4 * COARSE * COARSE:
            return self._painted_in(rough, 1.0, shown, without_filters)
        return self._rim(rough, 2 * margin, shown, without_filters)

    def _along_rim(self, likely: Box, shown: frozenset[str], without_filters: bool) -> Box | None:
        """The box of a large layer, from strips along its edges; None where one of them is empty.

        What is nearer to an edge than the first strip would be seen in the others.
        """
        result = {
            edge: self._painted_in(strip, 1.0, shown, without_filters)
            for edge, strip in likely.strips(STRIP).items()
        }
        if not all(result.values()):
            return None
        whole = Box.from_edges(*(getattr(box, edge) for edge, box in result.items()))
        return whole if likely.grown(-1).contains(whole) else None

    def _rim(
        self, rough: Box, depth: int, shown: frozenset[str], without_filters: bool
    ) -> Box | None:
        """The exact box of a large layer, from strips `depth` px deep along each edge."""
        edges = {}
        for edge, strip in rough.strips(depth).items():
            box = self._painted_in(strip, 1.0, shown, without_filters) or strip
            edges[edge] = getattr(box, edge)
        return Box.from_edges(edges["x"], edges["y"], edges["right"], edges["bottom"])

    def _painted_in(
        self, box: Box, scale: Scale, shown: frozenset[str], without_filters: bool
    ) -> Box | None:
        size = box.size.scaled(scale)
        drawn = self._draw(box, size, shown, without_filters=without_filters)
        found_box = painted_box(drawn)
        if found_box is None or scale == 1:
            return found_box and found_box.moved(box.x, box.y)
        across, down = box.width / size.width, box.height / size.height
        return Box.from_edges(
            int(box.x + found_box.x * across),
            int(box.y + found_box.y * down),
            int(box.x + found_box.right * across) + 1,
            int(box.y + found_box.bottom * down) + 1,
        )

    def _draw(
        self,
        box: Box,
        size: Size,
        shown: frozenset[str],
        *,
        without_filters: bool = False,
    ) -> Bytes:
        place = box.moved(*self.mockup.origin)
        drawing = self._pruner.pruned(shown, place, size, without_filters=without_filters)
        return draw(drawing, self._fonts, as_typed(self.mockup.path), self._limits)


def _clear_beyond(canvas: Box, box: Box, pixels: Pixels) -> None:
    """Empty the part of a picture of `box` that lies beyond the canvas."""
    if canvas.contains(box):
        return
    rows, columns = (canvas & box).within(box)
    down, across = pixels.shape[0] / box.height, pixels.shape[1] / box.width
    pixels[: round(rows.start * down)] = 0
    pixels[round(rows.stop * down) :] = 0
    pixels[:, : round(columns.start * across)] = 0
    pixels[:, round(columns.stop * across) :] = 0
