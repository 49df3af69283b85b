"""Transform attributes -> one affine matrix. CSS Transforms 1, section 8; SVG 2, section 8.5."""

from __future__ import annotations

import math
import re
from typing import TypeAlias

from riffler.mockup.svg.lengths import numbers

Matrix: TypeAlias = tuple[float, float, float, float, float, float]
"""a, b, c, d, e, f: a point (x, y) goes to (ax + cy + e, bx + dy + f)."""

IDENTITY: Matrix = (1, 0, 0, 1, 0, 0)

_FUNCTION = re.compile(r"(\w+)\s*\(([^)]*)\)")


def multiply(outer: Matrix, inner: Matrix) -> Matrix:
    """The matrix that applies `inner` first."""
    a, b, c, d, e, f = outer
    g, h, i, j, k, m = inner
    return (
        a * g + c * h,
        b * g + d * h,
        a * i + c * j,
        b * i + d * j,
        a * k + c * m + e,
        b * k + d * m + f,
    )


def parse(text: str | None) -> Matrix:
    """The matrix of a transform list; what can't be read counts as nothing."""
    matrix = IDENTITY
    for name, arguments in _FUNCTION.findall(text or ""):
        matrix = multiply(matrix, _one(name, numbers(arguments)))
    return matrix


def _one(name: str, values: list[float]) -> Matrix:
    match name, values:
        case "matrix", [a, b, c, d, e, f]:
            return (a, b, c, d, e, f)
        case "translate", [x, *y]:
            return (1, 0, 0, 1, x, y[0] if y else 0)
        case "scale", [x, *y]:
            return (x, 0, 0, y[0] if y else x, 0, 0)
        case "rotate", [angle, *centre]:
            turn = math.radians(angle)
            spin = (math.cos(turn), math.sin(turn), -math.sin(turn), math.cos(turn), 0.0, 0.0)
            if len(centre) != 2:
                return spin
            to_centre: Matrix = (1, 0, 0, 1, centre[0], centre[1])
            back: Matrix = (1, 0, 0, 1, -centre[0], -centre[1])
            return multiply(multiply(to_centre, spin), back)
        case "skewX", [angle]:
            return (1, 0, math.tan(math.radians(angle)), 1, 0, 0)
        case "skewY", [angle]:
            return (1, math.tan(math.radians(angle)), 0, 1, 0, 0)
    return IDENTITY


def enlargement(matrix: Matrix) -> float:
    """How much longer a length becomes: the root of the area's growth."""
    a, b, c, d, _, _ = matrix
    return math.sqrt(abs(a * d - b * c))
