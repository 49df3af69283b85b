"""An element -> a rectangle that surely holds its shapes, without drawing anything.

Generous rather than exact: curves count with their control points, text with wide letters. It
tells the vector engine where to look; None means that only drawing can tell.
"""

from __future__ import annotations

import math
from collections.abc import Iterable

from fontTools.misc.transform import Identity, Transform
from lxml import etree

from riffler.geometry import Coordinates, Rect
from riffler.mockup.svg import lengths, references, style, transform
from riffler.mockup.svg.document import SHAPES, SvgDocument
from riffler.mockup.svg.shapes import DAMAGED
from riffler.mockup.xml import local_name

#: The widest letters and the tallest accents, in font sizes.
WIDEST, TALLEST = 1.4, 1.4

#: How far a stroke's sharp corner can reach, in stroke widths: miter limit 4, half to each side.
MITER = 2.0

#: How far numbers that say the same may differ, as a share of them.
ALIKE = 1e-3

#: How many `use` may follow one another before drawing is asked instead.
DEEPEST = 8

MARKERS = ("marker", "marker-start", "marker-mid", "marker-end")

_Corners = list[tuple[float, float]]


def hull(document: SvgDocument, element: etree._Element) -> Rect | None:
    """A rectangle around one shape, picture, text or `use`, in mockup pixels of the drawing."""
    matrix = to_drawing(document, element)
    if matrix is None:  # the identity counts as false
        return None
    corners = _corners(document, element, DEEPEST)
    if not corners:
        return None
    return _around(matrix.transformPoints(corners))


def to_drawing(document: SvgDocument, element: etree._Element) -> Transform | None:
    """From the coordinates around the element to mockup pixels; None inside another viewport."""
    matrix = Identity
    for around in element.iterancestors():
        if around is document.root:
            break
        if local_name(around) not in ("g", "a"):
            return None
        if not is_plain(around):
            return None
        matrix = transform.parse(around.get("transform")).transform(matrix)
    box = lengths.view_box(document.root.get("viewBox"))
    if box is None:
        return matrix
    x, y, width, height = box
    unit = document.unit
    left = (document.width - width * unit) / 2 - x * unit
    top = (document.height - height * unit) / 2 - y * unit
    return Transform(unit, 0, 0, unit, left, top).transform(matrix)


def own_matrix(document: SvgDocument, element: etree._Element) -> Transform | None:
    """From the element's own coordinates to mockup pixels; None where these numbers do not tell."""
    around = to_drawing(document, element)
    if around is None or not is_plain(element):
        return None
    matrix: Transform = around.transform(transform.parse(element.get("transform")))
    return matrix


def own_coordinates(document: SvgDocument, element: etree._Element) -> Coordinates | None:
    """Those that the element is drawn in where they are not the drawing's; None for all others.

    Those of a group are the ones of the only group in it. They are shifted, scaled by one number,
    and turned: not stretched.
    """
    inner = [child for child in element if isinstance(child.tag, str)]
    if len(inner) == 1 and local_name(inner[0]) == "g":
        return own_coordinates(document, inner[0])
    matrix, whole = own_matrix(document, element), to_drawing(document, document.root)
    if matrix is None or whole is None:
        return None
    across, turned, skewed, down, x, y = matrix
    unit = math.hypot(across, turned)
    if not unit or max(abs(across - down), abs(turned + skewed)) > ALIKE * unit:
        return None
    if (x, y) == tuple(whole)[4:]:
        return None
    return Coordinates(x, y, unit, math.atan2(turned, across))


def is_plain(element: etree._Element) -> bool:
    """Whether its transform is an attribute of the usual kind."""
    return style.own(element, "transform") == element.get("transform") and not element.get(
        "transform-origin"
    )


def _corners(document: SvgDocument, element: etree._Element, deep: int) -> _Corners | None:
    """Points whose hull holds the element, in the coordinates around it; None if unknown."""
    name = local_name(element)
    if deep == 0 or not is_plain(element) or any(style.inherited(element, m) for m in MARKERS):
        return None
    if name == "use":
        inner = _used(document, element, deep)
    elif name == "g":
        inner = _inside(document, element, deep)
    elif name == "text":
        inner = _text(element)
    else:
        inner = _shape(name, element) if name in SHAPES | {"image"} else None
    if not inner:
        return None
    margin = _stroke(element)
    box = _around(inner)
    if box is None:
        return None
    left, top = box.x - margin, box.y - margin
    right, bottom = box.x + box.width + margin, box.y + box.height + margin
    matrix = transform.parse(element.get("transform"))
    corners = [(x, y) for x in (left, right) for y in (top, bottom)]
    points: _Corners = matrix.transformPoints(corners)
    return points


def _used(document: SvgDocument, element: etree._Element, deep: int) -> _Corners | None:
    target = document.known.get(references.href(element).removeprefix("#"))
    if target is None or local_name(target) in ("symbol", "svg"):
        return None
    inner = _corners(document, target, deep - 1)
    x, y = (lengths.length(element.get(side)) or 0.0 for side in ("x", "y"))
    return inner and [(a + x, b + y) for a, b in inner]


def _inside(document: SvgDocument, element: etree._Element, deep: int) -> _Corners | None:
    points: _Corners = []
    for child in element:
        if local_name(child) in SHAPES | {"image", "text", "g"}:
            inner = _corners(document, child, deep - 1)
            if inner is None:
                return None
            points.extend(inner)
    return points or None


def _shape(name: str, element: etree._Element) -> _Corners | None:
    def number(attribute: str) -> float:
        return lengths.length(style.own(element, attribute)) or 0.0

    match name:
        case "rect" | "image":
            width, height = (lengths.length(style.own(element, k)) for k in ("width", "height"))
            if width is None or height is None:
                return None
            x, y = number("x"), number("y")
            return [(x, y), (x + width, y + height)]
        case "circle" | "ellipse":
            across, down = _radii(*map(number, ("r", "rx", "ry")))
            x, y = number("cx"), number("cy")
            return [(x - across, y - down), (x + across, y + down)]
        case "line":
            return [(number("x1"), number("y1")), (number("x2"), number("y2"))]
        case "polyline" | "polygon":
            values = lengths.numbers(element.get("points"))
            return list(zip(values[::2], values[1::2], strict=False)) or None
        case "path":
            return _path(style.own(element, "d") or "")
    return None


def _radii(r: float, rx: float, ry: float) -> tuple[float, float]:
    """How far a circle or an ellipse reaches; a side that is not said is as long as the other."""
    return r or rx or ry, r or ry or rx


def _path(d: str) -> _Corners | None:
    from fontTools.pens.boundsPen import ControlBoundsPen
    from fontTools.svgLib.path import parse_path

    pen = ControlBoundsPen(None)
    try:
        parse_path(d, pen)
    except DAMAGED:
        return None
    if pen.bounds is None:
        return None
    left, top, right, bottom = pen.bounds
    return [(left, top), (right, bottom)]


def _text(element: etree._Element) -> _Corners | None:
    """Every place that a run may start at, with room for all the letters to both sides."""
    size, count, xs, ys = 16.0, 0, [0.0], [0.0]
    shift = 0.0
    for inner in element.iter():
        if local_name(inner) not in ("text", "tspan") or inner.get("rotate"):
            return None
        if style.own(inner, "baseline-shift") or style.own(inner, "writing-mode"):
            return None
        own = lengths.length(style.inherited(inner, "font-size"))
        if own is None:
            return None
        size = max(size, own)
        spacing = lengths.length(style.inherited(inner, "letter-spacing") or "0") or 0.0
        count += len(inner.text or "") + len(inner.tail or "")
        shift += abs(spacing) * count
        for axis, result in (("x", xs), ("y", ys)):
            result.extend(lengths.numbers(inner.get(axis)))
            shift += sum(abs(value) for value in lengths.numbers(inner.get(f"d{axis}")))
    xs, ys = xs[1:] or xs, ys[1:] or ys
    aside, above = count * size * WIDEST + shift, size * TALLEST + shift
    return [(min(xs) - aside, min(ys) - above), (max(xs) + aside, max(ys) + above)]


def _stroke(element: etree._Element) -> float:
    if style.inherited(element, "stroke") in (None, "none"):
        return 0.0
    width = lengths.length(style.inherited(element, "stroke-width") or "1")
    return MITER * (1.0 if width is None else width)


def _around(points: Iterable[tuple[float, float]]) -> Rect | None:
    xs, ys = zip(*points, strict=True)
    left, top, right, bottom = min(xs), min(ys), max(xs), max(ys)
    if not all(math.isfinite(value) for value in (left, top, right, bottom)):
        return None
    return Rect(left, top, right - left, bottom - top)
