"""The terminal: results on standard output, progress and errors on standard error.

No colour, no Rich: where standard output is no terminal, lines are written without loading it.
"""

from __future__ import annotations

import os
import sys
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING, Any

from riffler.plain import clean, clean_lines, to_json
from riffler.report.progress import Progress

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
    def _console(self) -> Console | None:
        """What writes in colours on a terminal: never wrapped or cut short.

        None where no colours are wanted: loading it takes longer than most that is shown.
        """
        if not (sys.stdout.isatty() or "FORCE_COLOR" in os.environ):
            return None
        from rich.console import Console

        return Console(highlight=False, soft_wrap=True, markup=False, emoji=False)

    def say(self, text: str) -> None:
        """A sentence for people; nothing when quiet."""
        if not self.is_quiet:
            self.line(text)

    def line(self, text: str | Text) -> None:
        """A line of the result itself."""
        shown = clean_lines(str(text))
        if self._console is None:
            sys.stdout.write(f"{shown}\n")
        elif isinstance(text, str):
            self._console.print(shown)
        else:
            text.plain = shown
            self._console.print(text)

    def pass_on(self, text: str) -> None:
        """Text for another program, to the byte; where a person looks, as `line`."""
        if sys.stdout.isatty():
            self.line(text.rstrip("\n"))
            return
        sys.stdout.flush()
        data = text.encode(errors="surrogateescape")
        if hasattr(sys.stdout, "buffer"):
            sys.stdout.buffer.write(data)
            sys.stdout.buffer.flush()
        else:
            sys.stdout.write(text)

    def table(self, columns: Sequence[Column], rows: Iterable[Sequence[str]]) -> None:
        """Aligned columns, indented by two, with dim headings; empty columns are left out."""
        cells = [[clean(cell) for cell in row] for row in rows]
        kept = [index for index in range(len(columns)) if any(row[index] for row in cells)]
        widths = {
            index: max(len(columns[index].heading), *(len(row[index]) for row in cells))
            for index in kept
        }
        heading = [column.heading for column in columns]
        for number, row in enumerate([heading, *cells]):
            styles = {index: columns[index].style if number else "dim" for index in kept}
            aligned = {
                index: row[index].rjust(widths[index])
                if columns[index].is_right
                else row[index].ljust(widths[index])
                for index in kept
            }
            self.line(self._row([(aligned[index], styles[index]) for index in kept]))

    def _row(self, cells: Sequence[tuple[str, str]]) -> str | Text:
        """Cells side by side, each with its style where there are colours."""
        if self._console is None:
            return GAP + GAP.join(text for text, _ in cells).rstrip()
        from rich.text import Text

        line = Text(GAP)
        for text, style in cells:
            line.append(text, style=style).append(GAP)
        line.rstrip()
        return line

    def json(self, version: int, data: Mapping[str, Any]) -> bool:
        """The result for programs, where it is wanted; returns whether it was.

        Every command's object begins with its name and the version of the rest.
        """
        if self.is_json:
            whole = {"command": self.command, "version": version, **data}
            sys.stdout.write(to_json(whole) + "\n")
        return self.is_json

    def progress(self, verb: str) -> Progress:
        """A bar for work that takes longer than a moment, where people look."""
        return Progress(verb, is_shown=not (self.is_json or self.is_quiet))
