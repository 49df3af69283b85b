"""What is to be written into a cutlist under a name, and what an edit of it changed."""

from __future__ import annotations

import difflib
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any, Literal

from riffler.cutlist.editing import Value
from riffler.files import Edit
from riffler.geometry import Box
from riffler.plain import plain
from riffler.project.written import lines_of

#: The version of what `as_data` gives.
VERSION = 2


@dataclass(frozen=True)
class Wish:
    """What is to be written under a name. `kind` is the table it belongs to.

    `state` puts the keys into a state of the slice; `accept` are findings to silence.
    """

    name: str
    kind: str = "slice"
    keys: Mapping[str, Value] = field(default_factory=dict)
    axis: str = ""
    state: str = ""
    accept: Mapping[str, str] = field(default_factory=dict)
    nth: int | None = None
    remove: bool = False


@dataclass(frozen=True)
class ChangedLine:
    """A changed line of a file: "-" for one that went, "+" for one that came, and its number."""

    sign: Literal["-", "+"]
    number: int
    text: str


@dataclass(frozen=True)
class Change(Edit):
    """A hand-written file, its text as it was and as it is now."""

    @property
    def lines(self) -> list[ChangedLine]:
        """The changed lines, in order."""
        found_lines: list[ChangedLine] = []
        old, new = (
            [line.rstrip() for line in lines_of(text)] for text in (self.before, self.after)
        )
        matcher = difflib.SequenceMatcher(a=old, b=new, autojunk=False)
        for tag, a, a_end, b, b_end in matcher.get_opcodes():
            if tag != "equal":
                found_lines.extend(ChangedLine("-", at + 1, old[at]) for at in range(a, a_end))
                found_lines.extend(ChangedLine("+", at + 1, new[at]) for at in range(b, b_end))
        return found_lines

    def as_data(self) -> dict[str, Any]:
        """The change as commands report it."""
        return {"file": plain(self.file), "lines": plain(self.lines)}


@dataclass(frozen=True)
class Marked(Change):
    """What was changed in a cutlist, and the box that the name gives now."""

    box: Box | None

    def as_data(self) -> dict[str, Any]:
        """The change as commands report it."""
        return {**super().as_data(), "box": plain(self.box)}
