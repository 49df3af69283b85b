"""Transforms -> into the coordinates of what they move, where that is exact and shorter."""

from __future__ import annotations

import copy
import math

from fontTools.misc.transform import Identity, Transform
from lxml import etree

from riffler.mockup.svg import lengths
from riffler.mockup.svg.references import by_id, href, named
from riffler.mockup.xml import local_name
from riffler.tidy import matrices
from riffler.tidy.arcs import transformed
from riffler.tidy.definitions import GRADIENTS
from riffler.tidy.drawing import Drawing, computed, is_marked, says
from riffler.tidy.numbers import Grid, joined, short
from riffler.tidy.path_data import Segment
from riffler.tidy.path_text import written
from riffler.tidy.precision import Precision, digits_for
from riffler.tidy.properties import EFFECTS, SHAPES
from riffler.tidy.shapes import become, segments_of

#: Lengths of strokes, which grow with what they are around.
_LENGTHS = ("stroke-width", "stroke-dashoffset", "stroke-dasharray")


def fold(drawing: Drawing, precision: Precision) -> None:
    """Fold transforms of shapes and of groups of shapes; shorten those that stay."""
    if drawing.has_sheet:
        return
    folder = _Folder(drawing, precision)
    for element in list(drawing.elements()):
        matrix = matrices.read(element.get("transform"))
        if matrix is None or not says(element, "transform") or element not in folder:
            continue
        if drawing.folds and folder.is_foldable(element, matrix):
            folder.fold(element, matrix)
    for element in drawing.elements():
        if element not in folder.held or local_name(element) in GRADIENTS:
            _shorten(element, precision)


class _Folder:
    """What must be known of a drawing to fold transforms in it."""

    def __init__(self, drawing: Drawing, precision: Precision) -> None:
        self._precision, self._root = precision, drawing.root
        self._known, self._used = by_id(drawing.root), drawing.references()
        named = {element for name, element in self._known.items() if name in self._used}
        self.held = named | drawing.moving()

    def __contains__(self, element: etree._Element) -> bool:
        """Whether it still stands in the drawing: what was folded gives way to another."""
        return element is self._root or any(a is self._root for a in element.iterancestors())

    def is_foldable(self, element: etree._Element, matrix: Transform) -> bool:
        """Whether the coordinates of all in it can take a matrix in exactly."""
        if element in self.held or says(element, *EFFECTS[:3], "style"):
            return False
        if local_name(element) != "g":
            return self._is_foldable_shape(element, matrix)
        for child in element:
            inner = matrices.read(child.get("transform"))
            if local_name(child) == "defs":
                continue
            if inner is None or not self.is_foldable(child, matrix.transform(inner)):
                return False
        return len(element) > 0

    def _is_foldable_shape(self, shape: etree._Element, matrix: Transform) -> bool:
        if local_name(shape) not in SHAPES or len(shape) or says(shape, "pathLength"):
            return False
        if computed(shape, "vector-effect") != "none" or is_marked(shape):
            return False
        texts = [str(computed(shape, key)) for key in ("fill", "stroke")]
        if any("url(" in paint and not self._takes(paint, shape, matrix) for paint in texts):
            return False
        return texts[1] == "none" or _similar(matrix) is not None

    def _takes(self, paint: str, element: etree._Element, matrix: Transform) -> bool:
        """Whether a gradient goes along with what it paints, or can be made to."""
        gradient = self._known.get(named(paint) or "")
        if gradient is None or local_name(gradient) not in GRADIENTS or href(gradient):
            return False
        if gradient.get("gradientUnits") != "userSpaceOnUse":
            a, b, c, d, _, _ = matrix
            return not b and not c and a > 0 and d > 0
        users = self._used.get(str(gradient.get("id")), [])
        return users == [element] and matrices.read(gradient.get("gradientTransform")) is not None

    def fold(self, element: etree._Element, matrix: Transform) -> None:
        """Fold a transform when the result is shorter."""
        parent = element.getparent()
        assert parent is not None
        still = copy.deepcopy(element)
        parent.replace(element, still)
        _shorten_all(still, self._precision)
        before = _length(still)  # while it stands in the tree, which says the same namespaces
        shape = copy.deepcopy(element)
        parent.replace(still, shape)
        del shape.attrib["transform"]
        gradients = dict[str, Transform]()
        is_whole = self._apply(shape, matrix, gradients)
        if not is_whole or _length(shape) > before:
            parent.replace(shape, element)
            return
        for name, moved in gradients.items():
            gradient = self._known[name]
            inner = matrices.read(gradient.get("gradientTransform")) or Identity
            gradient.set(
                "gradientTransform", f"matrix({' '.join(map(repr, moved.transform(inner)))})"
            )

    def _apply(
        self, element: etree._Element, matrix: Transform, gradients: dict[str, Transform]
    ) -> bool:
        """Take a matrix into the coordinates of an element and all in it; whether that went well.

        `gradients` gets those that have to go along.
        """
        if local_name(element) == "g":
            for child in list(element):
                inner = matrices.read(child.attrib.pop("transform", None)) or Identity
                if local_name(child) == "defs":
                    continue
                if not self._apply(child, matrix.transform(inner), gradients):
                    return False
            return True
        for key in ("fill", "stroke"):
            name = named(str(computed(element, key)))
            if name and self._known[name].get("gradientUnits") == "userSpaceOnUse":
                gradients[name] = matrix
        has_stroke = computed(element, "stroke") != "none"
        if has_stroke and not _grow_stroke(element, matrix, self._precision):
            return False
        return _move(element, matrix, self._precision.grid(element))


def _similar(matrix: Transform) -> float | None:
    """By how much a matrix enlarges all lengths alike; None when it does not."""
    a, b, c, d, _, _ = matrix
    first, second = math.hypot(a, b), math.hypot(c, d)
    is_alike = math.isclose(first, second, rel_tol=1e-6) and abs(a * c + b * d) < 1e-6 * first**2
    return first if is_alike and first > 0 else None


def _length(element: etree._Element) -> int:
    return len(etree.tostring(element, with_tail=False))


def _shorten_all(element: etree._Element, precision: Precision) -> None:
    """Write an element's numbers short where they stand, to be compared with."""
    for inner in element.iter():
        _shorten(inner, precision)
        if local_name(inner) == "path" and (segments := segments_of(inner)) is not None:
            inner.set("d", written(segments, precision.grid(inner)))


def _move(element: etree._Element, matrix: Transform, grid: Grid) -> bool:
    """Take a matrix into the numbers of a shape; False where only a renderer knows them."""
    segments = segments_of(element)
    if segments is None:
        return False
    plain = _moved_circle(element, matrix) or _moved_rect(element, matrix)
    if plain is not None:
        geometry = {key: grid.text(value) for key, value in plain.items()}
        become(element, local_name(element), geometry)
    else:
        data = written([_moved(segment, matrix) for segment in segments], grid)
        become(element, "path", {"d": data})
    return True


def _moved_circle(element: etree._Element, matrix: Transform) -> dict[str, float] | None:
    """The numbers of a circle under a matrix; None where it is none any more."""
    grown = _similar(matrix)
    if local_name(element) != "circle" or grown is None or _is_turned_dashed(element, matrix):
        return None
    x, y = matrix.transformPoint((_side(element, "cx"), _side(element, "cy")))
    return {"cx": x, "cy": y, "r": _side(element, "r") * grown}


def _is_turned_dashed(element: etree._Element, matrix: Transform) -> bool:
    """Whether dashes would begin elsewhere: those of a circle begin at its right."""
    a, b, c, d, _, _ = matrix
    is_straight = not b and not c and a > 0 and d > 0
    return not is_straight and computed(element, "stroke-dasharray") != "none"


def _moved_rect(element: etree._Element, matrix: Transform) -> dict[str, float] | None:
    """The numbers of an upright rectangle under a matrix; None where it is none any more."""
    a, b, c, d, e, f = matrix
    is_upright = not b and not c and a > 0 and d > 0
    is_plain = a == d or not says(element, "rx", "ry")
    if local_name(element) != "rect" or not is_upright or not is_plain:
        return None
    x, y, width, height = (_side(element, key) for key in ("x", "y", "width", "height"))
    values = {"x": x * a + e, "y": y * d + f, "width": width * a, "height": height * d}
    round_ = {key: _side(element, key) * a for key in ("rx", "ry") if says(element, key)}
    return {**values, **round_}


def _side(element: etree._Element, key: str) -> float:
    return lengths.length(element.get(key)) or 0.0


def _grow_stroke(element: etree._Element, matrix: Transform, precision: Precision) -> bool:
    """Make a stroke as much wider as the matrix makes lengths longer."""
    grown = _similar(matrix)
    if grown is None:
        return False
    if math.isclose(grown, 1, rel_tol=1e-9):
        return True
    digits = digits_for(precision.fine / 4)
    for key in _LENGTHS:
        text = computed(element, key) or ""
        if key != "stroke-width" and text in ("none", "0"):
            continue
        parts = [lengths.length(part) for part in text.replace(",", " ").split()]
        if not parts or None in parts:
            return False
        element.set(key, joined(short((part or 0) * grown, digits) for part in parts))
    return True


def _moved(segment: Segment, matrix: Transform) -> Segment:
    """A segment under a matrix."""
    command, numbers = segment
    if command == "A":
        return Segment("A", transformed(numbers, matrix))
    pairs = zip(numbers[::2], numbers[1::2], strict=True)
    return Segment(command, tuple(v for pair in pairs for v in matrix.transformPoint(pair)))


def _shorten(element: etree._Element, precision: Precision) -> None:
    """Write the transforms of an element in their shortest form."""
    for key in ("transform", "gradientTransform", "patternTransform"):
        value = element.get(key)
        matrix = matrices.read(value)
        if value is None or matrix is None:
            continue
        around = element.getparent()
        unit = precision.scale(around) if around is not None else 1.0
        is_share = key != "transform" and element.get(key[:-9] + "Units") != "userSpaceOnUse"
        error = precision.fine / unit / (4 * precision.reach if is_share else 1)
        reach = 2.0 if is_share else precision.reach / precision.scale(element)
        text = matrices.shortest(matrix, error, max(1.0, reach))
        if len(text) < len(value):
            element.set(key, text)
        if not element.get(key):
            del element.attrib[key]
