"""What of a cutlist leans on what: names that are taken, guides in use, neighbours of a slice."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence

from riffler.cutlist.editing import CutlistText, Value
from riffler.cutlist.file import CutlistFile
from riffler.errors import RifflerError
from riffler.files import as_typed


def refuse_taken(files: Sequence[CutlistFile], file: CutlistFile, name: str) -> None:
    """Raises RifflerError for a name that a slice of another cutlist has."""
    for other in files:
        if other.label == file.label and other.entry(name) is not None:
            raise RifflerError(
                f'There is a slice "{name}" in {as_typed(other.path)} already.',
                "Names are unique in a project: give it another.",
            )


def refuse_used(files: Sequence[CutlistFile], name: str) -> None:
    """Raises RifflerError for a guide or grid that something leans on, with who does."""
    mention = re.compile(rf"(?<![\w-]){re.escape(name)}(?:-\d+(?:\.\w+)?)?(?![\w-])")
    users: list[str] = []
    for file in files:
        for entry in file.entries:
            edges = [*(entry.table.x or ()), *(entry.table.y or ())]
            if any(isinstance(edge, str) and mention.search(edge) for edge in edges):
                users.append(entry.name)
        for part in file.parts:
            sums = {**part.said.guides.x, **part.said.guides.y}
            users += [f"the guide {own}" for own, edge in sums.items()
                      if isinstance(edge, str) and mention.search(edge)]  # fmt: skip
    if users:
        listed = ", ".join(dict.fromkeys(users))
        raise RifflerError(f'"{name}" is used by {listed}.', "Give these other edges first.")


def neighbour(
    file: CutlistFile, text: CutlistText, keys: Mapping[str, Value]
) -> tuple[str, str] | None:
    """The slice that a new one is to stand behind: the one it is like, or the last of its group."""
    like, group = keys.get("like"), keys.get("in")
    row = file.entry(like) if isinstance(like, str) else None
    found = (
        [row] if row else [entry for entry in file.entries if group and entry.table.in_ == group]
    )
    written = [entry.keys[1] for entry in found if text.has(("slice", entry.keys[1]))]
    return ("slice", written[-1]) if written else None
