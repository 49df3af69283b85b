"""A matrix -> the shortest transform list that says it. CSS Transforms 1, section 8."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator

from fontTools.misc.transform import Transform

from riffler.mockup.svg import transform
from riffler.tidy.numbers import joined, short
from riffler.tidy.precision import digits_for

_LIST = re.compile(
    r"(?:[\s,]*(?:matrix|translate|scale|rotate|skewX|skewY)\s*\([-+.,eE\d\s]*\))*[\s,]*"
)


def read(text: str | None) -> Transform | None:
    """The matrix of a transform list; None for one with a mistake, or with units of CSS."""
    return transform.parse(text) if _LIST.fullmatch(text or "") else None


def shortest(matrix: Transform, error: float, reach: float) -> str:
    """A transform list, empty for none at all.

    `error` is by how much a point may move in the units that come out, `reach` how far from the
    origin points lie in those that go in.
    """
    forms = list(_forms(matrix, error, reach))
    return min(forms, key=len)


def _forms(matrix: Transform, error: float, reach: float) -> Iterator[str]:
    a, b, c, d, e, f = matrix
    moved, turned = digits_for(error), digits_for(error / reach)
    x, y = short(e, moved), short(f, moved)
    numbers = [*(short(value, turned) for value in (a, b, c, d)), x, y]
    yield f"matrix({joined(numbers)})"
    is_still = x == y == "0"
    if numbers[:4] == ["1", "0", "0", "1"]:
        yield "" if is_still else _call("translate", x, y)
        return
    if numbers[1] == numbers[2] == "0":
        scale = _call("scale", numbers[0], "" if numbers[0] == numbers[3] else numbers[3])
        yield scale if is_still else _call("translate", x, y) + scale
    if abs(a - d) < 1e-9 and abs(b + c) < 1e-9 and abs(math.hypot(a, b) - 1) < 1e-9:
        angle = math.degrees(math.atan2(b, a))
        degrees = short(angle, min(8, turned + 1 if angle % 1 else 0))
        if is_still:
            yield f"rotate({degrees})"
            return
        # The point that stays where it is: (I - R) p = (e, f).
        share = 2 * (1 - a)
        px, py = (e * (1 - a) - f * b) / share, (f * (1 - a) + e * b) / share
        yield f"rotate({joined([degrees, short(px, moved + 1), short(py, moved + 1)])})"


def _call(name: str, first: str, second: str) -> str:
    is_alone = not second or (name == "translate" and second == "0")
    return f"{name}({joined([first] if is_alone else [first, second])})"
