"""Transform attributes -> one affine matrix. CSS Transforms 1, section 8; SVG 2, section 8.5."""

from __future__ import annotations

import math
import re

from fontTools.misc.transform import Identity, Transform

from riffler.mockup.svg.lengths import numbers

_FUNCTION = re.compile(r"(\w+)\s*\(([^)]*)\)")


def parse(text: str | None) -> Transform:
    """The matrix of a transform list; what can't be read counts as nothing."""
    matrix = Identity
    for name, arguments in _FUNCTION.findall(text or ""):
        matrix = matrix.transform(_function(name, numbers(arguments)))
    return matrix if all(map(math.isfinite, matrix)) else Identity


def _function(name: str, values: list[float]) -> Transform:
    match name, values:
        case "matrix", [a, b, c, d, e, f]:
            return Transform(a, b, c, d, e, f)
        case "translate", [x, *y]:
            return Identity.translate(x, y[0] if y else 0)
        case "scale", [x, *y]:
            return Identity.scale(x, y[0] if y else x)
        case "rotate", [angle, x, y]:
            return Identity.translate(x, y).rotate(math.radians(angle)).translate(-x, -y)
        case "rotate", [angle, *_]:
            return Identity.rotate(math.radians(angle))
        case "skewX", [angle]:
            return Identity.skew(math.radians(angle), 0)
        case "skewY", [angle]:
            return Identity.skew(0, math.radians(angle))
    return Identity


def enlargement(matrix: Transform) -> float:
    """How much longer a length becomes: the root of the area's growth."""
    a, b, c, d, _, _ = matrix
    return math.sqrt(abs(a * d - b * c))
