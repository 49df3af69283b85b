"""How many digits a number of an element needs, so that nothing moves by more than may be."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

from lxml import etree

from riffler.mockup.svg import lengths, transform
from riffler.mockup.xml import local_name
from riffler.tidy.drawing import Drawing
from riffler.tidy.numbers import Grid

#: Digits after the point at the most: beyond that doubles do not tell.
MOST = 8

#: What says that coordinates are shares of a box.
_BY_BOX = ("clipPathUnits", "maskContentUnits", "patternContentUnits")

#: What the box of a thing may be in user units where lengths are shares of it.
SHARED = 1000.0


@dataclass
class Precision:
    """Digits for the elements of a drawing, as it is now.

    `error` is by how much a point may move, in user units of the root, `bend` by how much a curve
    may be bent. Coordinates get `more` digits than the error needs, the last with some `slack`.
    """

    drawing: Drawing
    error: float
    bend: float
    more: int = 0
    slack: int = 0

    @property
    def fine(self) -> float:
        """By how much a point may move for numbers that get as many digits more, all of them."""
        return float(self.error / 10**self.more)

    def scale(self, element: etree._Element) -> float:
        """How many of the root's user units one of the element's is long, about."""
        length, this_element = 1.0, element
        while this_element is not None:
            if any(this_element.get(key) == "objectBoundingBox" for key in _BY_BOX):
                length *= SHARED
            for key in ("transform", "gradientTransform", "patternTransform"):
                if (value := this_element.get(key)) is not None:
                    length *= transform.enlargement(transform.parse(value)) or 1.0
            if (
                local_name(this_element) in ("svg", "symbol")
                and this_element.getparent() is not None
            ):
                length *= _viewport(this_element)
            length *= self._drawn_by.get(this_element.get("id", ""), 1.0)
            this_element = this_element.getparent()  # type: ignore[assignment]
        return length

    @cached_property
    def _drawn_by(self) -> dict[str, float]:
        """For every id that a `use` draws, how much the largest of them enlarges it."""
        result: dict[str, float] = {}
        for name, users in self.drawing.references().items():
            drawn = [
                math.prod(
                    transform.enlargement(transform.parse(value)) or 1.0
                    for around in (user, *user.iterancestors())
                    if (value := around.get("transform"))
                )
                for user in users
                if local_name(user) == "use"
            ]
            if drawn:
                result[name] = max(drawn)
        return result

    def digits(self, element: etree._Element) -> int:
        """Digits of a coordinate."""
        return self.grid(element).digits

    def grid(self, element: etree._Element) -> Grid:
        """Where the coordinates of an element lie."""
        return Grid(digits_for(self.error / self.scale(element)) + self.more, self.slack)

    def tolerance(self, element: etree._Element) -> float:
        """By how much a curve of an element may be bent, in its own units."""
        return self.bend / self.scale(element)

    @cached_property
    def reach(self) -> float:
        """How far from the origin things lie, in user units of the root."""
        box = lengths.view_box(self.drawing.root.get("viewBox"))
        if box:
            return max(abs(box[0]) + box[2], abs(box[1]) + box[3])
        sides = [lengths.length(self.drawing.root.get(key)) or 0 for key in ("width", "height")]
        return max(*sides, 1.0) if any(sides) else SHARED


def digits_for(error: float) -> int:
    """The fewest digits whose rounding stays within an error."""
    if error <= 0 or not math.isfinite(error):
        return MOST
    return min(MOST, max(0, math.ceil(-math.log10(2 * error) - 1e-9)))


def _viewport(element: etree._Element) -> float:
    box = lengths.view_box(element.get("viewBox"))
    width = lengths.length(element.get("width"))
    return width / box[2] if box and width else 1.0
