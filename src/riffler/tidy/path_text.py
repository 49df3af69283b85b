"""Segments -> the shortest path data that says them, on a grid.

Every point is rounded by itself, from where the pen stands after rounding, so that relative
commands add no errors up.

Numbers are rounded from where the pen stands, on a grid whose last digit is kept only where it is
needed: relative commands add no errors up, and a number on the grid stays on it.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence

from riffler.tidy.arcs import centered
from riffler.tidy.numbers import Grid, from_grid, joined, short
from riffler.tidy.path_data import Segment

#: More digits than this are given to a radius only for arcs that small changes throw off.
MOST_DIGITS = 6

#: Two arcs between the same ends that go by so much less or more, in radians, are not the same.
UNLIKE = 0.2

Steps = tuple[int, ...]
"""Numbers in steps of the grid."""


def written(segments: Sequence[Segment], grid: Grid) -> str:
    """Path data on a grid, from an absolute beginning."""
    writer = _Writer(grid)
    for segment in segments:
        writer.add(segment)
    return "".join(writer.parts)


class _Writer:
    """The pen while it writes: where it stands on the grid, and what was written last."""

    def __init__(self, grid: Grid) -> None:
        self.parts: list[str] = []
        self._grid, self._digits = grid, grid.digits
        self._here = self._begin = (0, 0)
        self._handle: tuple[str, tuple[int, int]] | None = None  # of a curve, mirrored by S and T
        self._implied = ""  # letters that may be left out
        self._tail = ""  # the last number

    def add(self, segment: Segment) -> None:
        """Write one segment in the shortest of its forms."""
        if segment.command == "Z":
            if self._implied:
                self.parts.append("z")
            self._here, self._handle, self._implied, self._tail = self._begin, None, "", ""
            return
        steps = tuple(map(self._grid.steps, segment.numbers))
        forms = list(self._forms(segment, steps))
        letter, text, tail = min(forms, key=lambda form: (len(form[1]), form[0].isupper()))
        if not self.parts:
            letter, text = "M", f"M{text[1:]}"
        self.parts.append(text)
        self._tail = tail
        self._here = x, y = steps[-2], steps[-1]
        self._handle = None
        if segment.command == "M":
            self._begin = self._here
            self._implied = "Ll" if len(self.parts) == 1 else {"M": "L", "m": "l"}[letter]
            return
        if self._implied == "Ll" and letter == "l":
            self.parts[0] = f"m{self.parts[0][1:]}"  # at the beginning the two mean the same
        self._implied = letter
        if segment.command in "CQ":
            self._handle = (segment.command, (2 * x - steps[-4], 2 * y - steps[-3]))

    def _forms(self, segment: Segment, steps: Steps) -> Iterator[tuple[str, str, str]]:
        """Every way to write a segment: its letter, its text, the last number in it."""
        x, y = self._here
        command = segment.command
        if command == "A":
            yield from self._arcs(segment, steps)
            return
        if command == "L":
            if steps[1] == y:
                yield self._form("H", steps[:1])
                yield self._form("h", (steps[0] - x,))
                return
            if steps[0] == x:
                yield self._form("V", steps[1:])
                yield self._form("v", (steps[1] - y,))
                return
        if command in "CQ":
            # Without a handle from a curve of its kind, the pen itself is what S and T take.
            kind, mirrored = self._handle or ("", self._here)
            if kind not in ("", command):
                mirrored = self._here
            if mirrored == steps[:2]:
                command, steps = {"C": "S", "Q": "T"}[command], steps[2:]
        yield self._form(command, steps)
        relative = tuple(step - (y if index % 2 else x) for index, step in enumerate(steps))
        yield self._form(command.lower(), relative)

    def _form(self, letter: str, steps: Steps) -> tuple[str, str, str]:
        numbers = [from_grid(step, self._digits) for step in steps]
        if letter in self._implied and letter not in "Mm":
            return letter, joined(numbers, self._tail), numbers[-1]
        return letter, letter + joined(numbers), numbers[-1]

    def _arcs(self, segment: Segment, steps: Steps) -> Iterator[tuple[str, str, str]]:
        x, y = self._here
        shape = self._shape(segment, steps)
        for letter, end in (("A", steps[-2:]), ("a", (steps[-2] - x, steps[-1] - y))):
            large, sweep = int(segment.numbers[3]), int(segment.numbers[4])
            ends = [from_grid(step, self._digits) for step in end]
            before = self._tail if letter in self._implied else ""
            radii = joined(shape, before)
            text = f"{radii} {large}{sweep}{joined(ends)}"
            yield letter, text if letter in self._implied else letter + text, ends[-1]

    def _shape(self, segment: Segment, steps: Steps) -> tuple[str, str, str]:
        """The radii and the turn, with as many digits as keep the arc where it is.

        An arc of half a circle leaves its place by far when its radius grows by a little.
        """
        unit = 10.0**-self._digits
        rx, ry, turn, *_ = segment.numbers
        flags = segment.numbers[3:5]
        begin = (self._here[0] * unit, self._here[1] * unit)
        end = (steps[-2] * unit, steps[-1] * unit)
        wanted = centered(begin, (rx, ry, turn, *flags, *end))
        for digits in range(self._digits, MOST_DIGITS):
            turned = short(turn, max(1, digits)) if rx != ry else "0"
            shape = short(rx, digits), short(ry, digits), turned
            if wanted is None:
                return shape
            got = centered(begin, (*map(float, shape), *flags, *end))
            if got is None or abs(got.sweep - wanted.sweep) > UNLIKE:
                continue
            if math.dist(got.at(0.5), wanted.at(0.5)) <= unit / 2:
                return shape
        return short(rx, MOST_DIGITS), short(ry, MOST_DIGITS), short(turn, MOST_DIGITS)
