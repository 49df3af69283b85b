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
REMEMBERED = 8192

_PART = re.compile(
    r"([MmLlHhVvCcSsQqTtAaZz])|([-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?)|([\s,]+)|(.)", re.DOTALL
)
_FLAG = re.compile(r"[\s,]*([01])")


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
    found: list[Segment] = []
    here = begin = handle = (0.0, 0.0)
    before = ""
    for letter, given in _commands(text):
        command, is_relative = letter.upper(), letter.islower()
        dx, dy = here if is_relative else (0.0, 0.0)
        match command, given:
            case "Z", _:
                here = begin
                found.append(Segment("Z", ()))
            case "H", [x]:
                here = (x + dx, here[1])
                found.append(Segment("L", here))
            case "V", [y]:
                here = (here[0], y + dy)
                found.append(Segment("L", here))
            case "A", [rx, ry, turn, large, sweep, x, y]:
                here = (x + dx, y + dy)
                found.append(Segment("A", (abs(rx), abs(ry), turn, large, sweep, *here)))
            case _:
                points = [value + (dy if i % 2 else dx) for i, value in enumerate(given)]
                if command in "ST":
                    curves = "CS" if command == "S" else "QT"
                    if before not in curves or not before:
                        handle = here
                    mirrored = (2 * here[0] - handle[0], 2 * here[1] - handle[1])
                    points = [*mirrored, *points]
                    command = curves[0]
                here = (points[-2], points[-1])
                found.append(Segment(command, tuple(points)))
                if command == "M":
                    begin = here
                elif command in "CQ":
                    handle = (points[-4], points[-3])
        before = command
    return tuple(found)


def _commands(text: str) -> Iterator[tuple[str, Sequence[float]]]:
    """Letters with the numbers of one command each. Raises DamagedError."""
    letter, numbers, at, is_done = "", list[float](), 0, True
    while at < len(text):
        if letter in ("A", "a") and len(numbers) in (3, 4):
            flag = _FLAG.match(text, at)
            if flag is None:
                raise DamagedError(text[at : at + 20])
            numbers.append(float(flag[1]))
            at = flag.end()
            continue
        part = _PART.match(text, at)
        assert part is not None
        at = part.end()
        if part[1]:
            if numbers or (not letter and part[1] not in "Mm"):
                raise DamagedError(part[1])
            if letter and COUNTS[letter.upper()] and not is_done:
                raise DamagedError(part[1])
            letter, is_done = part[1], False
            if letter in "Zz":
                yield letter, ()
                is_done = True
        elif part[2]:
            if not letter or letter in "Zz":
                raise DamagedError(part[2])
            numbers.append(float(part[2]))
        elif part[4]:
            raise DamagedError(part[4])
        if letter and numbers and len(numbers) == COUNTS[letter.upper()]:
            yield letter, numbers
            numbers, is_done = [], True
            letter = {"M": "L", "m": "l"}.get(letter, letter)
    if numbers or (letter and not is_done):
        raise DamagedError(letter)
