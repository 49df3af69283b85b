"""Path data -> segments in absolute coordinates. SVG 2, section 9.3.

A segment is a letter of the long commands (M, L, C, Q, A, Z) with its numbers; those that leave
something out (H, V, S, T) and relative ones are written out, arcs stay arcs.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from functools import lru_cache
from typing import NamedTuple

#: How many numbers a command takes.
COUNTS = {"M": 2, "L": 2, "H": 1, "V": 1, "C": 6, "S": 4, "Q": 4, "T": 2, "A": 7, "Z": 0}

#: Paths that are not parsed again: passes ask for the same ones over and over.
REMEMBERED = 30_000

_COMMANDS = re.compile(r"([MmLlHhVvCcSsQqTtAaZz])([^MmLlHhVvCcSsQqTtAaZz]*)")

NUMBER = re.compile(r"[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?")

_SPACE = r"[\s,]*"

#: One whole arc: three numbers, two flags, two numbers.
_ARC = re.compile(
    rf"((?:{NUMBER.pattern}{_SPACE}){{2}}{NUMBER.pattern}[\s,]+)"
    rf"([01]){_SPACE}([01]){_SPACE}({NUMBER.pattern}{_SPACE}{NUMBER.pattern}{_SPACE})"
)


class DamagedError(ValueError):
    """Path data with a mistake: what of it is drawn is up to the renderer."""


class Segment(NamedTuple):
    """One command with absolute numbers; the last two are where it ends, but for `Z`."""

    command: str
    numbers: tuple[float, ...]

    @property
    def end(self) -> tuple[float, float]:
        """Where it ends; of `Z` that is where its part began, which it does not know."""
        return self.numbers[-2], self.numbers[-1]


@lru_cache(REMEMBERED)
def parse(text: str) -> tuple[Segment, ...]:
    """The segments of path data. Raises DamagedError for data that is not sound to its end."""
    reader = _Reader()
    for letter, numbers in _commands(text):
        reader.add(letter, numbers)
    return tuple(reader.found)


class _Reader:
    """The pen while path data is read: where it stands, and the handle of the last curve."""

    def __init__(self) -> None:
        self.found: list[Segment] = []
        self._here = self._begin = self._handle = (0.0, 0.0)
        self._before = ""

    def add(self, letter: str, given: Sequence[float]) -> None:
        """Add a command with its numbers, written out and absolute."""
        command = letter.upper()
        x, y = self._here if letter.islower() else (0.0, 0.0)
        match command, given:
            case "Z", _:
                self._draw("Z", (), self._begin)
            case "H", [to]:
                self._draw("L", end := (to + x, self._here[1]), end)
            case "V", [to]:
                self._draw("L", end := (self._here[0], to + y), end)
            case "A", [rx, ry, turn, large, sweep, to_x, to_y]:
                if {large, sweep} - {0, 1}:
                    raise DamagedError(letter)
                end = (to_x + x, to_y + y)
                self._draw("A", (abs(rx), abs(ry), turn, large, sweep, *end), end)
            case _:
                self._draw_points(command, [v + (y if i % 2 else x) for i, v in enumerate(given)])
        self._before = command

    def _draw(self, command: str, numbers: tuple[float, ...], end: tuple[float, float]) -> None:
        self.found.append(Segment(command, numbers))
        self._here = end

    def _draw_points(self, command: str, points: list[float]) -> None:
        if command in "ST":
            kin = "CS" if command == "S" else "QT"
            x, y = self._here
            handle = self._handle if self._before and self._before in kin else (x, y)
            points = [2 * x - handle[0], 2 * y - handle[1], *points]
            command = kin[0]
        end = (points[-2], points[-1])
        self._draw(command, tuple(points), end)
        if command == "M":
            self._begin = end
        elif command in "CQ":
            self._handle = (points[-4], points[-3])


def _commands(text: str) -> Iterator[tuple[str, Sequence[float]]]:
    """Letters with the numbers of one command each. Raises DamagedError."""
    parts = _COMMANDS.findall(text)
    if sum(len(letter) + len(value) for letter, value in parts) != len(text.lstrip()):
        raise DamagedError(text[:20])
    if parts and parts[0][0] not in "Mm":
        raise DamagedError(parts[0][0])
    for letter, part in parts:
        numbers, count = _numbers(part, is_arc=letter in "Aa"), COUNTS[letter.upper()]
        if (len(numbers) % count if count else len(numbers)) or (count and not numbers):
            raise DamagedError(part[:20])
        if not count:
            yield letter, ()
        follows = {"M": "L", "m": "l"}.get(letter, letter)
        for at in range(0, len(numbers), count or 1):
            yield letter if at == 0 else follows, numbers[at : at + count]


def _numbers(text: str, *, is_arc: bool) -> list[float]:
    """The numbers of commands of one letter; flags of arcs need no space around them."""
    if is_arc:
        text = _ARC.sub(r"\1 \2 \3 \4 ", text)
    if not is_numbers(text):
        raise DamagedError(text[:20])
    return [float(number) for number in NUMBER.findall(text)]


def is_numbers(text: str) -> bool:
    """Whether a text is nothing but numbers, and what may stand between them."""
    return not NUMBER.sub("", text).strip(" ,\t\n\r\f")
