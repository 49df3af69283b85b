"""Numbers -> the fewest characters. SVG 2, section 9.3.9; CSS Syntax 3, section 4.3.12."""

from __future__ import annotations

from collections.abc import Iterable
from functools import lru_cache
from typing import NamedTuple


class Grid(NamedTuple):
    """Where numbers may lie: so many digits after the point, the last one only where it is needed.

    A last digit of at most `slack`, or of at least 10 - `slack`, is rounded away.
    """

    digits: int
    slack: int = 0

    def steps(self, value: float) -> int:
        """A number in steps of its last digit.

        >>> Grid(3, slack=3).steps(1.2334), Grid(3, slack=3).steps(1.2336)
        (1230, 1234)
        """
        steps = to_grid(value, self.digits)
        last = steps % 10
        if last <= self.slack:
            return steps - last
        return steps + 10 - last if last >= 10 - self.slack else steps

    def text(self, value: float) -> str:
        """A number on the grid as text."""
        return from_grid(self.steps(value), self.digits)

    def units(self, steps: int) -> float:
        """What a number of steps is."""
        return float(steps / 10**self.digits)


def to_grid(value: float, digits: int) -> int:
    """A number in whole steps of its last digit: 1.25 at two digits is 125.

    Raises OverflowError for what is too large to be a number, or is none.
    """
    try:
        steps: int = round(value * 10**digits)
    except ValueError as error:
        raise OverflowError from error
    return steps


@lru_cache(16_384)
def from_grid(steps: int, digits: int) -> str:
    """The text of a number in steps: -50 at two digits is `-.5`."""
    sign, steps = ("-", -steps) if steps < 0 else ("", steps)
    whole, part = divmod(steps, 10**digits)
    if not part:
        return f"{sign}{whole}"
    return f"{sign}{whole or ''}.{part:0{digits}d}".rstrip("0")


def short(value: float, digits: int) -> str:
    """A number with at most so many digits after the point.

    >>> short(-0.500, 3), short(12.0, 2), short(0.004, 2)
    ('-.5', '12', '0')
    """
    return from_grid(to_grid(value, digits), digits)


def joined(numbers: Iterable[str], before: str = "") -> str:
    """Numbers in a row, with a space only where two would run together after `before`.

    >>> joined([".5", "-3", ".25", ".5", "7"])
    '.5-3 .25.5 7'
    """
    parts = []
    for number in numbers:
        if before and number[0] != "-" and not (number[0] == "." and "." in before):
            parts.append(" ")
        parts.append(number)
        before = number
    return "".join(parts)
