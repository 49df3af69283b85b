"""What of a cutlist leans on what: names that are taken, guides in use, neighbours of a slice."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from pathlib import Path

from riffler.cutlist.editing import CutlistText, Value
from riffler.cutlist.file import CutlistFile
from riffler.errors import RifflerError, nearest
from riffler.files import as_typed
from riffler.project.project import Project
from riffler.project.written import said_at


def cutlists_of(project: Project, name: str | None) -> list[CutlistFile]:
    """The cutlists that may be meant. Raises RifflerError when there is none."""
    paths = project.cutlists()
    if not paths:
        raise RifflerError(
            "There is no cutlist in this project yet.", "Begin with one: riffler draft MOCKUP"
        )
    if name is not None:
        stems = {path.stem: path for path in paths}
        stem = Path(name).stem
        if stem not in stems:
            advice = nearest(stem, stems, "Cutlists are")
            raise RifflerError(f'There is no cutlist "{name}".', advice)
        paths = [stems[stem]]
    return [CutlistFile.read(path, project.settings.defaults) for path in paths]


def refuse_taken(files: Sequence[CutlistFile], file: CutlistFile, name: str) -> None:
    """Raises RifflerError for a name that a slice of another cutlist has."""
    for other_cutlist in files:
        if other_cutlist.label == file.label and other_cutlist.entry(name) is not None:
            raise RifflerError(
                f'There is a slice "{name}" in {as_typed(other_cutlist.path)} already.',
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
            users += [
                f"the guide {own}"
                for own, edge in sums.items()
                if isinstance(edge, str) and mention.search(edge)
            ]
    if users:
        listed = ", ".join(dict.fromkeys(users))
        raise RifflerError(f'"{name}" is used by {listed}.', "Give these other edges first.")


def neighbour(
    file: CutlistFile, text: CutlistText, keys: Mapping[str, Value]
) -> tuple[str, str] | None:
    """The slice that a new one is to stand behind: the one it is like, or the last of its group."""
    like, group = keys.get("like"), keys.get("in")
    row = file.entry(like) if isinstance(like, str) else None
    entries = (
        [row] if row else [entry for entry in file.entries if group and entry.table.in_ == group]
    )
    written = [entry.keys[1] for entry in entries if text.has(("slice", entry.keys[1]))]
    return ("slice", written[-1]) if written else None


def refuse_loose_ends(file: CutlistFile) -> None:
    """Raises WrittenError for a slice that leans on a guide, cell or slice that is not there."""
    rulers = {"x": file.ruler("x"), "y": file.ruler("y")}
    for entry in file.entries:
        for axis, ruler in rulers.items():
            for edge in getattr(entry.table, axis) or ():
                with said_at(entry.part.written, (*entry.keys, axis)):
                    ruler.position(edge)
        like = entry.table.like
        if like is not None and file.entry(like) is None:
            raise entry.mistake("like", f'{entry.name} is like "{like}", which would be gone.')
