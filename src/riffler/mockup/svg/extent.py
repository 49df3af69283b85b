"""A drawing -> the rectangle that it paints, from its numbers alone, to a fraction of a pixel.

None where only drawing can tell: most filters, masks, patterns, fading colours, markers. What is
drawn in colours that nothing is seen of paints the empty rectangle.

The box of a vector layer comes from numbers: outlines as curves, strokes with their joins and ends,
letters as HarfBuzz lays them out, clips that are rectangles, plain shadows. What only drawing tells
(other filters, masks, patterns, fading colours) is drawn where its shapes must lie (`svg/hull.py`
guesses generously), of large ones the rim alone; when the paint touches the rim of the guess, the
whole surroundings are searched.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import reduce

import numpy as np
import tinycss2.color3
from fontTools.misc.transform import Transform
from lxml import etree

from riffler.geometry import Rect
from riffler.mockup.font_book import FontBook
from riffler.mockup.svg import cubics, references, shapes, style, transform
from riffler.mockup.svg.document import SHAPES, SvgDocument
from riffler.mockup.svg.hull import MARKERS, own_matrix, to_drawing
from riffler.mockup.svg.images import image_edges
from riffler.mockup.svg.lettering import lines_reach
from riffler.mockup.svg.shadows import drop_shadows
from riffler.mockup.svg.shapes import Edges, UnmeasuredError
from riffler.mockup.xml import local_name

#: What paints nothing.
NOTHING = Rect(0, 0, 0, 0)

#: What nothing is cut off by.
BOUNDLESS: Edges = (-math.inf, -math.inf, math.inf, math.inf)

#: Less than this of a colour is rounded to nothing in 8 bits.
FAINTEST = 0.5 / 255

#: Path data of more characters is drawn rather than measured.
LONGEST = 400_000

#: Lines times rows of pixels that are looked at, where edges are not smoothed.
MOST_CROSSINGS = 2_000_000


def painted(
    document: SvgDocument, element: etree._Element, fonts: FontBook, *, without_filters: bool
) -> Rect | None:
    """The rectangle in mockup pixels of the drawing; None when only drawing tells."""
    try:
        return _Measured(document, fonts, without_filters).painted(element)
    except (UnmeasuredError, ValueError):
        return None


@dataclass(frozen=True)
class _Measured:
    """Measures drawings of one document. Raises UnmeasuredError where only drawing tells."""

    document: SvgDocument
    fonts: FontBook
    without_filters: bool

    def painted(self, element: etree._Element) -> Rect:
        name = local_name(element)
        if name not in (SHAPES - {"use"}) | {"text", "image"}:
            raise UnmeasuredError
        if self._opacity(element) < FAINTEST:
            return NOTHING
        matrix = self._matrix(element)
        if name == "image":
            return _rect(self._clipped(element, _turned(image_edges(element), matrix)))
        filled, stroke = self._inked(element, "fill"), self._inked(element, "stroke")
        if name == "text":
            if stroke:
                raise UnmeasuredError
            is_seen = filled and self.fonts.faces()  # without any font there are no letters
            edges = lines_reach(element, matrix, self.fonts) if is_seen else None
        else:
            edges = self._shape(element, name, matrix, filled, stroke)
        if edges is None:
            return NOTHING
        if self._has_shadow(element):
            if edges != self._clipped(element, edges):
                raise UnmeasuredError
            return _rect(self._shadowed(element, edges, matrix))
        return _rect(self._clipped(element, edges))

    def _has_shadow(self, element: etree._Element) -> bool:
        return not self.without_filters and style.has(element, "filter")

    def _shadowed(self, element: etree._Element, edges: Edges, matrix: Transform) -> Edges:
        """With the shadows that the element's own filter lays under it."""
        a, b, c, d, e, f = matrix
        if b or c or a <= 0 or d <= 0:
            raise UnmeasuredError
        (left, top), (right, bottom) = matrix.inverse().transformPoints([edges[:2], edges[2:]])
        reaches = [
            shadow.reach((left, top, right, bottom), FAINTEST)
            for shadow in drop_shadows(self.document, element)
        ]
        starts, ends = [reach[:2] for reach in reaches], [reach[2:] for reach in reaches]
        (x1, y1), (x2, y2) = map(min, zip(*starts, strict=True)), map(max, zip(*ends, strict=True))
        return a * x1 + e, d * y1 + f, a * x2 + e, d * y2 + f

    def _shape(
        self, element: etree._Element, name: str, matrix: Transform, filled: bool, stroke: bool
    ) -> Edges | None:
        shape = _path_data(name, element)
        if shape is None or not (stroke or (filled and name != "line")):
            return None
        pen = _pen(element) if stroke else None
        if edges := shapes.upright(name, element, matrix, pen.width if pen else 0.0):
            return edges
        is_hard = style.inherited(element, "shape-rendering") in ("crispEdges", "optimizeSpeed")
        curves = cubics.parse(shape)
        if is_hard and not stroke and curves:
            return _edges(cubics.centers_inside(curves, matrix, MOST_CROSSINGS))
        edges = _edges(cubics.reach(curves, matrix, pen))
        if edges is None or stroke:
            return edges
        is_thin = min(edges[2] - edges[0], edges[3] - edges[1]) < shapes.THINNEST
        return None if is_thin else edges

    def _opacity(self, element: etree._Element) -> float:
        whole = shapes.number(style.own(element, "opacity"))
        for around in element.iterancestors():
            whole *= shapes.number(style.own(around, "opacity"))
        return whole

    def _inked(self, element: etree._Element, what: str) -> bool:
        """Whether the whole of a fill or a stroke is seen, or nothing of it."""
        text = style.inherited(element, what) or ("none" if what == "stroke" else "black")
        if text in ("none", "transparent"):
            return False
        if what == "stroke" and not shapes.number(style.inherited(element, "stroke-width"), 1.0):
            return False
        if shapes.number(style.inherited(element, f"{what}-opacity"), 1.0) < FAINTEST:
            return False
        if name := references.named(text):
            self._refuse_fading(name)
            return True
        if text.startswith("context-") or (text.startswith("#") and len(text) in (5, 9)):
            raise UnmeasuredError
        color = tinycss2.color3.parse_color(text)
        return not isinstance(color, tuple) or color[3] >= FAINTEST

    def _refuse_fading(self, name: str) -> None:
        """Raises UnmeasuredError unless it is a gradient of solid colours."""
        for _ in range(8):
            server = self.document.known.get(name)
            if server is None or local_name(server) not in ("linearGradient", "radialGradient"):
                raise UnmeasuredError
            stops = [stop for stop in server if local_name(stop) == "stop"]
            if stops:
                break
            name = references.href(server).removeprefix("#")
        for stop in stops:
            text = style.own(stop, "stop-color") or "black"
            color = tinycss2.color3.parse_color(text)
            seen = shapes.number(style.own(stop, "stop-opacity"), 1.0)
            if not isinstance(color, tuple) or color[3] * seen < 0.1:
                raise UnmeasuredError
        if not stops:
            raise UnmeasuredError

    def _clipped(self, element: etree._Element, edges: Edges) -> Edges:
        """What clips leave of it: those that are rectangles, and those that it fills."""
        self._refuse_effects(element)
        clips = [self._hole(e) for e in _and_around(element) if style.has(e, "clip-path")]
        hole = reduce(_inner, (clip for clip, _ in clips), BOUNDLESS)
        inner = _inner(edges, hole)
        if inner[0] >= inner[2] or inner[1] >= inner[3]:
            return 0, 0, 0, 0
        rounded = {clip for clip, is_straight in clips if not is_straight}
        if inner == edges and not rounded:
            return inner
        is_full = local_name(element) == "image" or self._inked(element, "fill")
        if is_full and _is_straight(element, self._matrix(element)):
            if rounded - {inner}:
                raise UnmeasuredError
            return inner
        return self._cut(element, hole, is_straight=not rounded)

    def _refuse_effects(self, element: etree._Element) -> None:
        if any(style.has(around, "mask") for around in _and_around(element)):
            raise UnmeasuredError
        if not self.without_filters and any(
            style.has(e, "filter") for e in element.iterancestors()
        ):
            raise UnmeasuredError

    def _cut(self, element: etree._Element, hole: Edges, *, is_straight: bool) -> Edges:
        """A shape that is cut by the edges of a hole."""
        is_shape = local_name(element) in SHAPES
        if not is_straight or not is_shape or self._inked(element, "stroke"):
            raise UnmeasuredError
        shape = _path_data(local_name(element), element)
        kept = cubics.reach_within(cubics.parse(shape or ""), self._matrix(element), hole)
        return _edges(kept) or (0, 0, 0, 0)

    def _hole(self, around: etree._Element) -> tuple[Edges, bool]:
        """The edges of what a clip leaves, and whether it is a rectangle."""
        name = references.named(str(style.own(around, "clip-path")))
        clip = self.document.known.get(name) if name else None
        matrix = to_drawing(self.document, around)
        if clip is None or matrix is None or local_name(clip) != "clipPath":
            raise UnmeasuredError
        drawn = [shape for shape in clip if local_name(shape) in SHAPES | {"text"}]
        if len(drawn) != 1 or clip.get("clipPathUnits") == "objectBoundingBox":
            raise UnmeasuredError
        if any(style.has(inner, "clip-path") for inner in (clip, drawn[0])):
            raise UnmeasuredError
        shape = _path_data(local_name(drawn[0]), drawn[0])
        for inner in (around, clip, drawn[0]):
            matrix = matrix.transform(transform.parse(inner.get("transform")))
        hole = _edges(cubics.reach(cubics.parse(shape), matrix, None)) if shape else None
        if hole is None:
            raise UnmeasuredError
        return hole, _is_straight(drawn[0], matrix)

    def _matrix(self, element: etree._Element) -> Transform:
        matrix = own_matrix(self.document, element)
        if matrix is None:
            raise UnmeasuredError
        return matrix


def _path_data(name: str, element: etree._Element) -> str | None:
    """As `shapes.path_data`. Raises UnmeasuredError for markers, and for what takes long."""
    if any(style.inherited(element, marker) not in (None, "none") for marker in MARKERS):
        raise UnmeasuredError
    shape = shapes.path_data(name, element)
    if shape and len(shape) > LONGEST:
        raise UnmeasuredError
    return shape


def _and_around(element: etree._Element) -> Iterator[etree._Element]:
    yield element
    yield from element.iterancestors()


def _inner(edges: Edges, hole: Edges) -> Edges:
    return (
        max(edges[0], hole[0]),
        max(edges[1], hole[1]),
        min(edges[2], hole[2]),
        min(edges[3], hole[3]),
    )


def _pen(element: etree._Element) -> cubics.Stroke:
    """How the stroke of an element is drawn. Raises UnmeasuredError for dashes and the like."""
    if (style.inherited(element, "stroke-dasharray") or "none").strip() not in ("none", ""):
        raise UnmeasuredError
    if style.has(element, "vector-effect"):
        raise UnmeasuredError
    return cubics.Stroke(
        shapes.number(style.inherited(element, "stroke-width"), 1.0),
        style.inherited(element, "stroke-linejoin") or "miter",
        style.inherited(element, "stroke-linecap") or "butt",
        shapes.number(style.inherited(element, "stroke-miterlimit"), 4.0),
    )


def _turned(edges: Edges, matrix: Transform) -> Edges:
    """The edges around a box that is turned."""
    left, top, right, bottom = edges
    corners = [(left, top), (right, top), (right, bottom), (left, bottom)]
    xs, ys = zip(*matrix.transformPoints(corners), strict=True)
    return min(xs), min(ys), max(xs), max(ys)


def _is_straight(element: etree._Element, matrix: Transform) -> bool:
    """Whether the element is a rectangle with square corners and upright."""
    a, b, c, d, _, _ = matrix
    upright = (abs(b) < 1e-9 and abs(c) < 1e-9) or (abs(a) < 1e-9 and abs(d) < 1e-9)
    is_round = any(style.own(element, key) not in (None, "0") for key in ("rx", "ry"))
    return local_name(element) in ("rect", "image") and upright and not is_round


def _edges(corners: cubics.Points | None) -> Edges | None:
    if corners is None or not np.isfinite(corners).all():
        return None
    (left, top), (right, bottom) = corners.tolist()
    return left, top, right, bottom


def _rect(edges: Edges) -> Rect:
    left, top, right, bottom = edges
    if not all(map(math.isfinite, edges)) or right <= left or bottom <= top:
        return NOTHING
    return Rect(left, top, right - left, bottom - top)
