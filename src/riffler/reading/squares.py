"""Icons of a vector mockup -> the squares that they were drawn on.

An icon is drawn on a square of so many units, with room around its ink, and then put into place
and scaled: where its own coordinates begin, its square does. How many units the square has is
what holds all such icons of a mockup and is a whole number of CSS pixels for each.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from riffler.geometry import Box, Coordinates, Rect
from riffler.mockup.model import Layer
from riffler.reading.reading import Reading
from riffler.reading.seats import is_small_picture, seats

#: The squares that icons are drawn on, in their units.
SQUARES = (12, 16, 20, 24, 32, 40, 48, 64, 96, 100, 128, 256, 512)

#: How far ink may reach over its square, as a share of it; how far from whole its side may be, in
#: CSS pixels; how near to where its coordinates begin, in shares of its side, ink has no square.
OVER, WHOLE, CORNER = 0.03, 0.05, 0.02

#: How far a turn is none, in radians; how near middles are one, in mockup pixels.
TURNED, NEAR = 0.01, 1.0

#: How far the middle of ink is from that of its square at the most, as a share of it.
OFF = 0.17


@dataclass(frozen=True)
class _Drawn:
    """An icon: its own coordinates, and its ink in these. Lengths of `own` are mockup pixels."""

    own: Coordinates
    ink: Rect

    def fits(self, square: int, density: float) -> bool:
        """Whether the ink lies on a square of so many units, about in its middle."""
        side, over = square * self.own.unit / density, OVER * square
        is_whole = abs(side - round(side)) <= WHOLE
        ink = self.ink
        is_inside = min(ink.x, ink.y) >= -over and max(ink.right, ink.bottom) <= square + over
        off = max(abs(ink.x + ink.right - square), abs(ink.y + ink.bottom - square)) / 2
        return is_whole and is_inside and off <= OFF * square

    def middle(self, square: int) -> float:
        """Where the middle of a square of so many units is across, in mockup pixels."""
        return self.own.at(square / 2, square / 2)[0]

    @property
    def is_turned(self) -> bool:
        """Whether its coordinates are: then its box says nothing of its ink in them."""
        return abs(self.own.turn) > TURNED

    @property
    def is_far(self) -> bool:
        """Whether the ink is so far from where the coordinates begin that they are not its own."""
        return abs(self.ink.x) > self.ink.width or abs(self.ink.y) > self.ink.height

    @property
    def is_at_corner(self) -> bool:
        """Whether the coordinates begin where the ink does: nobody left room around it."""
        side = max(self.ink.width, self.ink.height)
        return max(abs(self.ink.x), abs(self.ink.y)) <= CORNER * side


class Squares:
    """The squares that the icons of one mockup are drawn on, as far as it tells."""

    def __init__(self, reading: Reading) -> None:
        self._reading = reading

    @cached_property
    def _units(self) -> int | None:
        """How many units those of this mockup have; None where they have none in common."""
        icons = [drawn for drawn in self._every if not drawn.is_turned]
        if not icons or any(icon.is_at_corner for icon in icons):
            return None
        density = self._reading.density
        fitting = (n for n in SQUARES if all(icon.fits(n, density) for icon in icons))
        return next(fitting, None)

    @cached_property
    def _seats(self) -> dict[str, Box]:
        return seats(self._reading)

    @cached_property
    def _every(self) -> list[_Drawn]:
        return [drawn for layer in self._reading.drawings() if (drawn := self._drawn(layer))]

    def _drawn(self, layer: Layer) -> _Drawn | None:
        """How an icon is drawn; None for all else."""
        reading = self._reading
        own = reading.renderer.coordinates(layer.address)
        rect = reading.renderer.exact_box(layer.address) if own else None
        if own is None or rect is None or not is_small_picture(reading, layer, rect):
            return None
        x, y = (rect.x - own.x) / own.unit, (rect.y - own.y) / own.unit
        drawn = _Drawn(own, Rect(x, y, rect.width / own.unit, rect.height / own.unit))
        return None if drawn.is_far else drawn

    def of(self, layer: Layer) -> Box | None:
        """The square of an icon, in whole mockup pixels; None where the mockup does not tell.

        One in pixels has the box that things made alike tell.

        What is turned has none, and what stands in one column with such icons is as they are.
        """
        if not self._reading.mockup.is_vector:
            return self._seats.get(layer.address)
        drawn, units = self._drawn(layer), self._units
        if drawn is None or units is None or drawn.is_turned:
            return None
        turned = (other for other in self._every if other.is_turned)
        if any(abs(other.middle(units) - drawn.middle(units)) < NEAR for other in turned):
            return None
        side = round(units * drawn.own.unit)
        square = Box(round(drawn.own.x), round(drawn.own.y), side, side)
        return square if self._reading.mockup.box.contains(square) else None
