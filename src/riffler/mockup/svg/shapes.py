"""A shape's element -> path data and edges, as the renderer reads its attributes.

Raises UnmeasuredError for lengths that only the renderer settles: shares, and those in a style.
"""

from __future__ import annotations

from fontTools.misc.transform import Transform
from lxml import etree

from riffler.mockup.svg import lengths, style

#: Areas thinner than this, in pixels, fall between the lines that are looked at.
THINNEST = 0.06

#: What reading path data raises that is damaged, or whose numbers no arc can have.
DAMAGED = (ValueError, IndexError, AssertionError, TypeError, ArithmeticError)

Edges = tuple[float, float, float, float]
"""Left, top, right, bottom."""


class UnmeasuredError(Exception):
    """Only drawing tells how far something reaches."""


def path_data(name: str, element: etree._Element) -> str | None:
    """A shape as path data; None for one that is not drawn."""
    match name:
        case "path":
            return element.get("d") or None
        case "rect" | "circle" | "ellipse":
            x, y, width, height, rx, ry = _box(name, element)
            is_drawn = width > 0 and height > 0
            return _rounded(x, y, width, height, rx, ry) if is_drawn else None
        case "line":
            x1, y1, x2, y2 = (side(element, key) for key in ("x1", "y1", "x2", "y2"))
            return f"M{x1} {y1}L{x2} {y2}"
        case "polyline" | "polygon":
            values = lengths.numbers(element.get("points"))
            pairs = [f"{x} {y}" for x, y in zip(values[::2], values[1::2], strict=False)]
            end = "Z" if name == "polygon" else ""
            return f"M{'L'.join(pairs)}{end}" if len(pairs) > 1 else None
    raise UnmeasuredError


def _box(name: str, element: etree._Element) -> tuple[float, float, float, float, float, float]:
    """Of a rectangle or an ellipse x, y, width, height and the radii. SVG 2, section 10."""
    rx = _length(element, "rx")
    ry = _length(element, "ry")
    rx, ry = (rx or 0.0) if rx is not None else (ry or 0.0), ry if ry is not None else (rx or 0.0)
    if name == "rect":
        x, y, width, height = (side(element, key) for key in ("x", "y", "width", "height"))
        return x, y, width, height, min(rx, width / 2), min(ry, height / 2)
    if name == "circle":
        rx = ry = side(element, "r")
    return side(element, "cx") - rx, side(element, "cy") - ry, 2 * rx, 2 * ry, rx, ry


def _rounded(x: float, y: float, width: float, height: float, rx: float, ry: float) -> str:
    """A rectangle with round corners, SVG 2, section 10.2; an ellipse when they meet."""
    if rx <= 0 or ry <= 0:
        return f"M{x} {y}h{width}v{height}h{-width}z"
    across, down, arc = width - 2 * rx, height - 2 * ry, f"a{rx} {ry} 0 0 1"
    return (
        f"M{x + rx} {y}h{across}{arc} {rx} {ry}v{down}{arc} {-rx} {ry}"
        f"h{-across}{arc} {-rx} {-ry}v{-down}{arc} {rx} {-ry}z"
    )


def upright(name: str, element: etree._Element, matrix: Transform, stroke: float) -> Edges | None:
    """The edges of a rectangle or an ellipse that is not turned: the usual case, told quickly."""
    a, b, c, d, _, _ = matrix
    if b or c or not a or not d or name not in ("rect", "circle", "ellipse"):
        return None
    if style.inherited(element, "shape-rendering") not in (None, "auto", "geometricPrecision"):
        return None
    x, y, width, height, _, _ = _box(name, element)
    half = stroke / 2
    if min(width * abs(a), height * abs(d)) < THINNEST:
        return None
    ends = [(x - half, y - half), (x + width + half, y + height + half)]
    (left, top), (right, bottom) = matrix.transformPoints(ends)
    return min(left, right), min(top, bottom), max(left, right), max(top, bottom)


def side(element: etree._Element, attribute: str) -> float:
    """A length that an attribute says, 0 where it says none."""
    return _length(element, attribute) or 0.0


def _length(element: etree._Element, attribute: str) -> float | None:
    """A length that an attribute says; None where it says none.

    Raises UnmeasuredError for what a style or a share says: of two readings, the renderer's counts.
    """
    said_value = element.get(attribute)
    value = None if said_value in (None, "auto") else lengths.length(said_value)
    if (value is None and said_value not in (None, "auto")) or style.own(
        element, attribute
    ) != said_value:
        raise UnmeasuredError
    return value


def number(text: str | None, default: float = 1.0) -> float:
    """A length or a share, of 1. Raises UnmeasuredError when it can't be told."""
    value = default if text is None else lengths.length(text, whole=1.0)
    if value is None:
        raise UnmeasuredError
    return value
