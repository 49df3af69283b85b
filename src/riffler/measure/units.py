"""Mockup pixels -> lengths as code has them: px, rem, shares of the window and of the content."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal, TypeAlias, get_args

from riffler.csslength import decimal
from riffler.errors import RifflerError, nearest

Unit: TypeAlias = Literal["px", "rem", "vw", "%"]

UNITS: tuple[Unit, ...] = get_args(Unit)

#: Decimals that a length is rounded to, so that it is off by less than a hundredth of a pixel:
#: browsers lay out in sixty-fourths of one.
DECIMALS: dict[Unit, int] = {"px": 2, "rem": 4, "vw": 3, "%": 3}


@dataclass(frozen=True)
class Scale:
    """How lengths are said. `density` is mockup pixels per CSS pixel.

    `base` is the size of a rem, `window` and `content` are what vw and % are parts of, each in CSS
    pixels.
    """

    unit: Unit = "px"
    density: float = 1.0
    base: float = 16.0
    window: float = 1280.0
    content: float = 1280.0

    @property
    def fine(self) -> Scale:
        """For lengths that are no share of anything: px where sizes are per cent."""
        return replace(self, unit="px") if self.unit == "%" else self

    def of(self, pixels: float) -> float:
        """A length in mockup pixels, in the unit, rounded as its decimals say."""
        return round(pixels / self._size, DECIMALS[self.unit]) + 0.0

    def back(self, value: float) -> float:
        """Mockup pixels again."""
        return value * self._size

    def say(self, pixels: float, *, unit: bool = False) -> str:
        """A length as it is typed: `24`, `1.5rem`, `-0.5`."""
        text = decimal(self.of(pixels), DECIMALS[self.unit])
        return f"{text}{self.unit}" if unit and text != "0" else text

    @property
    def _size(self) -> float:
        """Mockup pixels that one of the unit is."""
        sizes = {"px": 1.0, "rem": self.base, "vw": self.window / 100, "%": self.content / 100}
        return self.density * sizes[self.unit]


def unit_of(text: str) -> Unit:
    """The unit that is called so. Raises RifflerError for any other."""
    for unit in UNITS:
        if text.lower() == unit:
            return unit
    raise RifflerError(f'There is no unit "{text}".', nearest(text, UNITS, "Units are"))
