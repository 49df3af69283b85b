"""Elliptical arcs: centres, points on them, what a matrix makes of them. SVG 2, appendix B.2."""

from __future__ import annotations

import math
from typing import NamedTuple

from fontTools.misc.transform import Transform

Point = tuple[float, float]


class Arc(NamedTuple):
    """An arc about its centre: its radii, and how the ellipse is turned.

    It begins at an angle and goes on by `sweep`; all angles in radians.
    """

    center: Point
    rx: float
    ry: float
    turn: float
    begin: float
    sweep: float

    def at(self, share: float) -> Point:
        """A point on it; 0 and 1 are its ends."""
        angle = self.begin + share * self.sweep
        x, y = self.rx * math.cos(angle), self.ry * math.sin(angle)
        cos, sin = math.cos(self.turn), math.sin(self.turn)
        return self.center[0] + cos * x - sin * y, self.center[1] + sin * x + cos * y


def centered(start: Point, numbers: tuple[float, ...]) -> Arc | None:
    """The arc that an `A` draws from `start`; None for one that is a line or nothing."""
    rx, ry, degrees, is_large, is_sweep, x, y = numbers
    if not rx or not ry or start == (x, y):
        return None
    turn = math.radians(degrees)
    cos, sin = math.cos(turn), math.sin(turn)
    dx, dy = (start[0] - x) / 2, (start[1] - y) / 2
    x1, y1 = cos * dx + sin * dy, cos * dy - sin * dx
    grown = math.sqrt((x1 / rx) ** 2 + (y1 / ry) ** 2)
    if grown > 1:
        rx, ry = rx * grown, ry * grown
    rest = (rx * ry) ** 2 - (rx * y1) ** 2 - (ry * x1) ** 2
    root = math.sqrt(max(0.0, rest) / ((rx * y1) ** 2 + (ry * x1) ** 2))
    if bool(is_large) == bool(is_sweep):
        root = -root
    cx, cy = root * rx * y1 / ry, -root * ry * x1 / rx
    begin = math.atan2((y1 - cy) / ry, (x1 - cx) / rx)
    sweep = math.atan2((-y1 - cy) / ry, (-x1 - cx) / rx) - begin
    if is_sweep and sweep < 0:
        sweep += 2 * math.pi
    elif not is_sweep and sweep > 0:
        sweep -= 2 * math.pi
    center = (cos * cx - sin * cy + (start[0] + x) / 2, sin * cx + cos * cy + (start[1] + y) / 2)
    return Arc(center, rx, ry, turn, begin, sweep)


def transformed(numbers: tuple[float, ...], matrix: Transform) -> tuple[float, ...]:
    """The numbers of an `A` under a matrix: an ellipse stays one, with other axes.

    The new axes are those of the product of the matrices, by its singular values.
    """
    rx, ry, degrees, is_large, is_sweep, x, y = numbers
    a, b, c, d, _, _ = matrix
    end = matrix.transformPoint((x, y))
    if a * d - b * c < 0:
        is_sweep = 1.0 - is_sweep
    turn = math.radians(degrees)
    cos, sin = math.cos(turn), math.sin(turn)
    # The unit circle becomes the ellipse by these four numbers, columns (p, q) and (r, s).
    p, q = rx * (a * cos + c * sin), rx * (b * cos + d * sin)
    r, s = ry * (c * cos - a * sin), ry * (d * cos - b * sin)
    if abs(p * r + q * s) <= 1e-9 * max(p * p + q * q, r * r + s * s):
        first, second = math.hypot(p, q), math.hypot(r, s)
        angle = math.atan2(q, p)
    else:
        middle, spread = (p * p + q * q + r * r + s * s) / 2, 0.0
        along, across = (p * p + r * r - q * q - s * s) / 2, p * q + r * s
        spread = math.hypot(along, across)
        first, second = math.sqrt(middle + spread), math.sqrt(max(0.0, middle - spread))
        angle = math.atan2(across, along) / 2
    if math.isclose(first, second, rel_tol=1e-9):
        angle = 0.0
    angle = math.degrees(angle) % 180
    if math.isclose(angle, 90, abs_tol=1e-7):
        first, second, angle = second, first, 0.0
    return first, second, angle if angle < 180 - 1e-9 else 0.0, is_large, is_sweep, *end
