"""A plain shape of a vector mockup -> what a style sheet says to draw it, from the document.

Exact, and without drawing: rectangles and ellipses with corners of any size, one colour or a
straight gradient, one line around, one shadow. None for anything else: pixels tell then.

The style of a plain vector shape is read from the document, so that it is exact and nothing is
drawn; pixels are measured where the document does not say it plainly.
"""

from __future__ import annotations

import math
from typing import cast

import numpy as np
import tinycss2.color3
from lxml import etree

from riffler.analyse.style import CLEAR, Border, Radii, Shadow, Stop, Style
from riffler.mockup.model import Layer, LayerKind, Mockup
from riffler.mockup.svg import cubics, lengths, references, shapes, style
from riffler.mockup.svg.document import SvgDocument
from riffler.mockup.svg.hull import own_matrix
from riffler.mockup.svg.shadows import DropShadow, drop_shadows
from riffler.mockup.svg.shapes import Edges, UnmeasuredError
from riffler.mockup.xml import local_name

#: How far a curve may be from the corner it stands for, in pixels.
CORNER = 0.6

#: Gradients that refer to one another, at most.
LONGEST_CHAIN = 8

#: What only drawing shows, on a shape or around it.
_EFFECTS = ("clip-path", "mask")


def declared(mockup: Mockup, layer: Layer) -> Style | None:
    """The style of one shape, in mockup pixels; None where the document does not say it plainly."""
    if not mockup.is_vector or layer.kind is not LayerKind.VECTOR:
        return None
    document = cast("SvgDocument", mockup.source)
    element = document.elements.get(layer.source)
    if element is None:
        return None
    try:
        return _Declared(document, element).style(layer)
    except (UnmeasuredError, ValueError):
        return None


def patterned(mockup: Mockup, layer: Layer) -> tuple[float, float] | None:
    """The step of the pattern that fills a box, right and down, in mockup pixels; else None.

    SVG 2, section 14.3: of a pattern that is measured on the page and stands upright.
    """
    if not mockup.is_vector or layer.kind is not LayerKind.VECTOR:
        return None
    document = cast("SvgDocument", mockup.source)
    element = document.elements.get(layer.source)
    pattern = _pattern(document, element) if element is not None else None
    if element is None or pattern is None:
        return None
    try:
        scale = _Declared(document, element).scale_of_box()
    except (UnmeasuredError, ValueError):
        return None
    across, down = (lengths.length(pattern.get(side) or "0") for side in ("width", "height"))
    return (across * scale, down * scale) if across and down else None


def _pattern(document: SvgDocument, element: etree._Element) -> etree._Element | None:
    """The pattern that fills a shape, measured on the page; None where none does."""
    name = references.named(style.inherited(element, "fill") or "")
    pattern = document.known.get(name) if name else None
    if pattern is None or local_name(pattern) != "pattern" or pattern.get("patternTransform"):
        return None
    return pattern if pattern.get("patternUnits") == "userSpaceOnUse" else None


class _Declared:
    """One shape, in mockup pixels. Raises UnmeasuredError for what is not plain."""

    def __init__(self, document: SvgDocument, element: etree._Element) -> None:
        matrix = own_matrix(document, element)
        if matrix is None:
            raise UnmeasuredError
        self._document, self._element, self._matrix = document, element, matrix
        a, b, c, d, _, _ = self._matrix
        if b or c or a <= 0 or abs(a - d) > 1e-6 * a:
            raise UnmeasuredError  # turned, mirrored or stretched
        self._scale = a

    def scale_of_box(self) -> float:
        """How large its units are. Raises UnmeasuredError for any shape but an upright box."""
        _, radii = self._box()
        if radii is None:
            raise UnmeasuredError
        return float(self._scale)

    def style(self, layer: Layer) -> Style:
        self._refuse_effects()
        edges, radii = self._box()
        border = self._border()
        half = border.width / 2 if border else 0.0
        left, top, right, bottom = edges
        if min(right - left, bottom - top) < 1:
            raise UnmeasuredError
        if radii is not None and any(radii.listed):
            radii = Radii(*(round(radius + half, 3) if radius else 0.0 for radius in radii.listed))
        stops, angle = self._fill((left, top, right, bottom), half)
        if stops == (CLEAR,) and (border is None or style.has(self._element, "filter")):
            raise UnmeasuredError
        if border and stops == (Stop(0.0, border.color),):
            border = None  # a line of the fill's own colour only makes it larger
        return Style(stops, angle, radii, border, self._shadows(), layer.opacity, layer.blend)

    def _refuse_effects(self) -> None:
        """Raises UnmeasuredError for clips and masks, and for filters of the groups around."""
        for inner in (self._element, *self._element.iterancestors()):
            for effect in (*_EFFECTS, *(() if inner is self._element else ("filter",))):
                if style.has(inner, effect):
                    raise UnmeasuredError

    def _box(self) -> tuple[Edges, Radii | None]:
        """The edges of the fill, and its corners; None for an ellipse."""
        name = local_name(self._element)
        data = shapes.path_data(name, self._element)
        curves = cubics.parse(data) if data else []
        result = cubics.reach(curves, self._matrix, None)
        if len(curves) != 1 or result is None:
            raise UnmeasuredError
        (left, top), (right, bottom) = result.tolist()
        edges = left, top, right, bottom
        if name in ("circle", "ellipse"):
            return edges, None
        points = curves[0].curves * self._scale + np.array(self._matrix[4:])
        return edges, _corners(points, edges)

    def _fill(self, edges: Edges, half: float) -> tuple[tuple[Stop, ...], int | None]:
        text = style.inherited(self._element, "fill") or "black"
        if shapes.number(style.inherited(self._element, "fill-opacity")) != 1:
            raise UnmeasuredError
        if text == "none":
            return (CLEAR,), None
        if not (name := references.named(text)):
            return (Stop(0.0, _opaque(text)),), None
        grown = edges[0] - half, edges[1] - half, edges[2] + half, edges[3] + half
        return self._gradient(name, edges, grown)

    def _gradient(
        self, name: str, filled: Edges, edges: Edges
    ) -> tuple[tuple[Stop, ...], int | None]:
        """The stops of a straight gradient along the line that CSS draws it on.

        CSS Images 3, section 3.1.1: the line goes through the middle, as long as the box is deep.
        """
        chain = self._gradients(name)
        stops = next((inside for element in chain if (inside := _stops(element))), [])
        if not stops or any(_said(chain, key) for key in ("gradientTransform", "spreadMethod")):
            raise UnmeasuredError
        start, end = self._line(chain, filled)
        along = end - start
        length = float(np.hypot(*along))
        if length < 1e-6:
            raise UnmeasuredError
        angle = math.degrees(math.atan2(along[0], -along[1])) % 360
        middle = np.array([edges[0] + edges[2], edges[1] + edges[3]]) / 2
        unit = along / length
        whole = float(abs(unit) @ [edges[2] - edges[0], edges[3] - edges[1]])
        begin = float((start - middle) @ unit) + whole / 2
        found_stops: list[Stop] = []
        for stop in stops:
            at = begin + shapes.number(stop.get("offset"), 0.0) * length
            color = _opaque(style.own(stop, "stop-color") or "black")
            seen = shapes.number(style.own(stop, "stop-opacity"))
            alpha = "" if seen >= 1 else f"{round(255 * max(0.0, seen)):02x}"
            found_stops.append(Stop(round(at / whole, 4) + 0.0, f"{color}{alpha}"))
        if len(found_stops) < 2:
            raise UnmeasuredError
        return tuple(found_stops), round(angle) % 360

    def _gradients(self, name: str) -> list[etree._Element]:
        """A straight gradient and those that say what it leaves open. SVG 2, section 14.2.2."""
        chain: list[etree._Element] = []
        while name and len(chain) < LONGEST_CHAIN:
            element = self._document.known.get(name)
            if element is None or (not chain and local_name(element) != "linearGradient"):
                raise UnmeasuredError
            chain.append(element)
            name = references.href(element).removeprefix("#")
        return chain

    def _line(
        self, chain: list[etree._Element], filled: Edges
    ) -> tuple[cubics.Points, cubics.Points]:
        """The ends of a gradient's line, in mockup pixels."""
        left, top, right, bottom = filled
        is_share = _said(chain, "gradientUnits") != "userSpaceOnUse"
        values = [
            lengths.length(_said(chain, key) or default, whole=1.0 if is_share else None)
            for key, default in (("x1", "0%"), ("y1", "0%"), ("x2", "100%"), ("y2", "0%"))
        ]
        if None in values:
            raise UnmeasuredError
        ends = np.array(values, float).reshape(2, 2)
        if not is_share:
            ends = ends * self._scale + np.array(self._matrix[4:])
        elif 0 in (ends[1] - ends[0]):
            ends = ends * [right - left, bottom - top] + [left, top]
        else:
            raise UnmeasuredError  # across a box that is no square its lines lean
        return ends[0], ends[1]

    def _border(self) -> Border | None:
        element = self._element
        text = style.inherited(element, "stroke") or "none"
        if text == "none":
            return None
        width = lengths.length(style.inherited(element, "stroke-width") or "1")
        dashes = (style.inherited(element, "stroke-dasharray") or "none").strip()
        if not width or dashes not in ("none", ""):
            raise UnmeasuredError
        if shapes.number(style.inherited(element, "stroke-opacity")) != 1:
            raise UnmeasuredError
        return Border(_opaque(text), width * self._scale)

    def _shadows(self) -> tuple[Shadow, ...]:
        if not style.has(self._element, "filter"):
            return ()
        shadows = drop_shadows(self._document, self._element)
        return tuple(_shadow(shadow).scaled(self._scale) for shadow in shadows)


def _shadow(said: DropShadow) -> Shadow:
    """As CSS says it, whose blur is twice the deviation; Backgrounds and Borders 3, section 6.1."""
    color = f"{_opaque(said.color)}{round(255 * said.alpha):02x}"
    return Shadow(said.x, said.y, 2 * said.deviation, color, said.spread, said.is_inner)


def _stops(gradient: etree._Element) -> list[etree._Element]:
    return [stop for stop in gradient if local_name(stop) == "stop"]


def _said(chain: list[etree._Element], attribute: str) -> str | None:
    """An attribute as the first of a chain of gradients says it."""
    return next((value for element in chain if (value := element.get(attribute)) is not None), None)


def _corners(curves: cubics.Points, edges: Edges) -> Radii:
    """The radii of an upright box with round corners. Raises UnmeasuredError for other outlines."""
    left, top, right, bottom = edges
    corners = np.array([[left, top], [right, top], [right, bottom], [left, bottom]])
    radii = [0.0] * 4
    for curve in curves:
        start, end = curve[0], curve[3]
        on_line = np.abs(curve - start).max(axis=0) < 0.01
        if on_line.all():
            continue  # no longer than a rounding error
        if on_line.any():
            axis = 0 if on_line[0] else 1
            if min(abs(start[axis] - edges[axis]), abs(start[axis] - edges[axis + 2])) > 0.05:
                raise UnmeasuredError  # a straight line inside the box
            continue
        which = int(np.abs(corners - (start + end) / 2).sum(axis=1).argmin())
        across, down = np.maximum(np.abs(start - corners[which]), np.abs(end - corners[which]))
        center = corners[which] + np.sign(corners[which - 2] - corners[which]) * [across, down]
        at = np.array([1, 3, 3, 1]) / 8 @ curve
        off = abs(float(np.hypot(*(at - center))) - float(across + down) / 2)
        if abs(across - down) > CORNER or off > CORNER or radii[which]:
            raise UnmeasuredError
        radii[which] = float(across + down) / 2
    return Radii(*radii)


def _opaque(text: str) -> str:
    color = tinycss2.color3.parse_color(text)
    if not isinstance(color, tuple) or color[3] != 1:
        raise UnmeasuredError
    return "#" + "".join(f"{round(255 * value):02x}" for value in color[:3])
