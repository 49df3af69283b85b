"""The terminal: results on standard output, progress and errors on standard error."""

from __future__ import annotations

import json
import sys
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING, Any

from riffler.report.progress import Progress
from riffler.report.wording import clean

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
    """Where a command shows its result; quiet leaves only tables and errors.

    As JSON there is one object on standard output, and nothing else.
    """

    command: str = ""
    is_quiet: bool = False
    is_json: bool = False

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

    def json(self, version: int, data: Mapping[str, Any]) -> bool:
        """The result for programs, where it is wanted; returns whether it was.

        Every command's object begins with its name and the version of the rest.
        """
        if self.is_json:
            whole = {"command": self.command, "version": version, **data}
            sys.stdout.write(json.dumps(whole, indent=2, ensure_ascii=False) + "\n")
        return self.is_json

    def progress(self, verb: str) -> Progress:
        """A bar for work that takes longer than a moment, where people look."""
        return Progress(verb, is_shown=not (self.is_json or self.is_quiet))
