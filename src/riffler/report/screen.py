"""The terminal: results on standard output, progress and errors on standard error."""

from __future__ import annotations

import json
import sys
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from rich.console import Console
    from rich.text import Text

#: Space between columns.
GAP = "  "


@dataclass(frozen=True)
class Column:
    """A column of a table: its heading, to which side its cells go, and their style."""

    heading: str
    is_right: bool = False
    style: str = ""


@dataclass(frozen=True)
class Screen:
    """Where a command shows its result; quiet leaves only tables and errors."""

    is_quiet: bool = False

    @cached_property
    def out(self) -> Console:
        """Standard output: never wrapped or cut short, coloured only on a terminal."""
        from rich.console import Console

        return Console(highlight=False, soft_wrap=True, markup=False, emoji=False)

    def say(self, text: str, style: str = "") -> None:
        """A sentence for people; nothing when quiet."""
        if not self.is_quiet:
            self.out.print(text, style=style or None)

    def line(self, text: str | Text) -> None:
        """A line of the result itself."""
        self.out.print(text)

    def table(self, columns: Sequence[Column], rows: Iterable[Sequence[str]]) -> None:
        """Aligned columns, indented by two, with dim headings; empty columns are left out."""
        from rich.text import Text

        cells = [[clean(cell) for cell in row] for row in rows]
        kept = [index for index in range(len(columns)) if any(row[index] for row in cells)]
        widths = {
            index: max(len(columns[index].heading), *(len(row[index]) for row in cells))
            for index in kept
        }
        heading = [column.heading for column in columns]
        for number, row in enumerate([heading, *cells]):
            line = Text(GAP)
            for index in kept:
                column, width = columns[index], widths[index]
                text = row[index].rjust(width) if column.is_right else row[index].ljust(width)
                line.append(text, style="dim" if number == 0 else column.style)
                line.append(GAP)
            line.rstrip()
            self.out.print(line)

    def json(self, data: Mapping[str, Any]) -> None:
        """The result for machines: nothing else may be printed beside it."""
        sys.stdout.write(json.dumps(data, indent=2, ensure_ascii=False) + "\n")


def clean(text: str) -> str:
    """Text from a file without characters that would steer the terminal."""
    return "".join(char if char.isprintable() else "\N{REPLACEMENT CHARACTER}" for char in text)


def kilobytes(count: int) -> str:
    """Bytes as people read them: kB are 1000 bytes."""
    if count < 1000:
        return f"{count} B"
    return f"{count / 1000:,.1f} kB" if count < 10_000_000 else f"{count / 1_000_000:,.1f} MB"


def plural(count: int, noun: str) -> str:
    """`1 file`, `3 files`."""
    if count == 1:
        return f"1 {noun}"
    return f"{count} {noun[:-1]}ies" if noun.endswith("y") else f"{count} {noun}s"


def pixels(width: float, height: float) -> str:
    """`480 x 132`, with fractions only where there are any."""
    return f"{width:g} x {height:g}"
