"""A name and a new one -> the new one, wherever people wrote the old one."""

from __future__ import annotations

import contextlib
import json
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from functools import partial
from pathlib import Path
from typing import Any, Protocol

from riffler.cutlist import sound_names
from riffler.cutlist.file import CutlistFile, WrittenPart
from riffler.cutlist.renaming import Rule, cutlist_rule, settings_rule
from riffler.cutlist.sound_names import NewName
from riffler.cutlist.spelling import respelled
from riffler.errors import RifflerError, WrittenError, nearest
from riffler.files import BOM, as_typed, read_whole, rewrite
from riffler.plain import plain
from riffler.plan.uses import cutlists_of, refuse_loose_ends
from riffler.plan.wish import Change
from riffler.project.lock import locked
from riffler.project.places import MARKER, RENAMED
from riffler.project.project import Project
from riffler.project.sealed import read_note, write_note
from riffler.project.written import Mention, Written
from riffler.workspace import Workspace, lying

#: Endings of the hand-written files that name slices, by the folder they lie in.
TEXTS = {"pages": (".html", ".svg", ".xml", ".txt"), "styles": (".css",)}

#: The kinds of what has a name, in the order in which a name is looked for.
KINDS = ("slice", "grid", "guide", "group")


class Follow(Protocol):
    """Respells the names of slices in a template or a style sheet.

    Gives the new text, and the lines (from 1) that may mean one of them, but need not.
    """

    def __call__(self, text: str, names: NewName) -> tuple[str, Sequence[int]]:
        """See the class."""
        ...


@dataclass(frozen=True)
class Renamed:
    """What was changed, file by file; `left` are lines that may mean it, for a person to see."""

    kind: str
    old: str
    new: str
    changes: tuple[Change, ...]
    left: tuple[Mention, ...] = ()

    def as_data(self) -> dict[str, Any]:
        """The change as commands report it."""
        changes = [change.as_data() for change in self.changes]
        values = {"kind": self.kind, "old": self.old, "new": self.new}
        return {**values, "changes": changes, "left": plain(self.left)}


@dataclass(frozen=True)
class _Plan:
    """How every file is to be changed; the one with the name's own table comes last."""

    edits: Mapping[Path, Callable[[str], str]]
    left: list[Mention] = field(default_factory=list)


def rename(
    workspace: Workspace,
    old: str,
    new: str,
    follow: Follow,
    cutlist: str | None = None,
    *,
    dry_run: bool = False,
) -> Renamed:
    """Call a slice, a grid, a guide or a group otherwise, wherever people wrote its name.

    A slice is followed into all cutlists, `riffler.toml`, templates and style sheets; the others
    into the cutlists that share them. Raises RifflerError, with nothing written, for a name that
    is not there, not sound or taken.
    """
    project = workspace.project
    if dry_run:
        return _renamed(project, old, new, follow, cutlist)[1]
    with locked(project):
        if _is_done(project, old, new):
            lying.follow(project, _names(cutlists_of(project, None), new, old).members)
            return Renamed("slice", old, new, ())
        plan, renamed = _renamed(project, old, new, follow, cutlist)
        write_note(project.work / RENAMED, _noted(old, new), is_lasting=True)
        for file, edit in plan.edits.items():
            rewrite(partial(_change, file, edit), project.root)
        if renamed.kind == "slice":
            lying.follow(project, _names(cutlists_of(project, None), new, old).members)
    return renamed


def _is_done(project: Project, old: str, new: str) -> bool:
    """Whether that was the last name to be given, and all of it was: a killed run may have."""
    with contextlib.suppress(RifflerError, OSError):
        if read_note(project.work / RENAMED) == _noted(old, new):
            parts = [part for file in cutlists_of(project, None) for part in file.parts]
            return _has(parts, "slice", new) and not _has(parts, "slice", old)
    return False


def _noted(old: str, new: str) -> bytes:
    return json.dumps([old, new]).encode()


def _change(file: Path, edit: Callable[[str], str]) -> Change:
    before = _text(file) or ""
    return Change(file, before, edit(before))


def _renamed(
    project: Project, old: str, new: str, follow: Follow, cutlist: str | None
) -> tuple[_Plan, Renamed]:
    all_files = cutlists_of(project, None)
    files = cutlists_of(project, cutlist)
    kind = _kind(files, old)
    if kind == "slice":
        files = all_files
    else:
        home = next(file for file in files if _has(file.parts, kind, old))
        files = _sharing(all_files, home)
    _refuse_new(files, kind, old, new)
    names = _names(files, old, new)
    guides = {table for file in files for part in file.parts for table in _tables(part, "guide")}
    rule = cutlist_rule(kind, names, guides)
    plan = _Plan(dict(_edits(project, files, kind, names, rule, follow)))
    changes = [
        change
        for file, edit in plan.edits.items()
        if (change := _change(file, edit)).after != change.before
    ]
    _refuse_unsound(files, changes)
    left = tuple(_left(project, names, follow)) if kind == "slice" else ()
    kept_plan = _Plan({change.file: plan.edits[change.file] for change in changes})
    return kept_plan, Renamed(kind, old, new, tuple(changes), left)


def _kind(files: Sequence[CutlistFile], name: str) -> str:
    """What a name is of. Raises RifflerError when it is of nothing, or of one in a row."""
    parts = [part for file in files for part in file.parts]
    for kind in KINDS:
        if _has(parts, kind, name):
            return kind
    row = next((entry for file in files if (entry := file.entry(name))), None)
    if row is not None:
        raise RifflerError(
            f'"{name}" is one of the row "{row.keys[1]}".', f"Rename {row.keys[1]} instead."
        )
    known = [table for part in parts for kind in KINDS for table in _tables(part, kind)]
    raise RifflerError(f'Nothing is called "{name}".', nearest(name, known, "There are"))


def _tables(part: WrittenPart, kind: str) -> list[str]:
    if kind == "guide":
        return [*part.said.guides.x, *part.said.guides.y]
    return list(getattr(part.said, kind))


def _has(parts: Sequence[WrittenPart], kind: str, name: str) -> bool:
    return any(name in _tables(part, kind) for part in parts)


def _sharing(files: Sequence[CutlistFile], home: CutlistFile) -> list[CutlistFile]:
    """The cutlists that a name of `home` may mean something in: those with a file in common."""
    found_files, paths = [home], {part.written.path for part in home.parts}
    while more := [
        file
        for file in files
        if all(file is not cutlist for cutlist in found_files)
        and file.path != home.path
        and paths & _paths(file)
    ]:
        found_files += more
        paths |= {path for file in more for path in _paths(file)}
    return found_files


def _paths(file: CutlistFile) -> set[Path]:
    return {part.written.path for part in file.parts}


def _names(files: Sequence[CutlistFile], old: str, new: str) -> NewName:
    tables = (
        part.said.slice[old] for file in files for part in file.parts if old in part.said.slice
    )
    times = [table.times for table in tables]
    count = max((time.total for time in times if time and not time.same), default=None)
    return NewName(old, new, count)


def _refuse_new(files: Sequence[CutlistFile], kind: str, old: str, new: str) -> None:
    """Raises RifflerError for a new name that is the old one, not sound, or taken."""
    if new == old:
        raise RifflerError(f'"{old}" is called so already.')
    if kind == "guide" and new.isdigit():
        raise RifflerError(f'"{new}" is a number.', f'For example "{old}-{new}".')
    if wrong := sound_names.fault(new):
        raise RifflerError(f'"{new}" {wrong}.', f'For example "{sound_names.sound(new)}".')
    edges = ("grid", "guide")
    wanted = {new, *(_names(files, old, new).members.values() if kind == "slice" else ())}
    for taken, name, path in _taken(files, edges if kind in edges else (kind,)):
        if name in wanted:
            raise RifflerError(
                f'There is a {taken} "{name}" in {as_typed(path)} already.',
                "Choose another name, or rename that one first.",
            )


def _taken(files: Sequence[CutlistFile], kinds: Sequence[str]) -> Iterator[tuple[str, str, Path]]:
    """Every name of these kinds, with the file that it is written in; of rows the members, too."""
    for file in files:
        for part in file.parts:
            for kind in kinds:
                yield from ((kind, name, part.written.path) for name in _tables(part, kind))
        if "slice" in kinds:
            for entry in file.entries:
                yield "slice", entry.name, entry.part.written.path


def _edits(
    project: Project,
    files: Sequence[CutlistFile],
    kind: str,
    names: NewName,
    rule: Rule,
    follow: Follow,
) -> Iterator[tuple[Path, Callable[[str], str]]]:
    """What becomes of each file. Who is stopped between two of them can begin again."""
    if kind == "slice":
        for path in _texts(project):
            yield path, partial(_followed, follow, names)
        yield project.root / MARKER, partial(respelled, change=partial(settings_rule, names))
    parts = {part.written.path: part for file in files for part in file.parts}
    last = [path for path, part in parts.items() if _has([part], kind, names.old)]
    for path in (*(path for path in parts if path not in last), *reversed(last)):
        yield path, partial(respelled, change=rule)


def _followed(follow: Follow, names: NewName, text: str) -> str:
    return follow(text, names)[0]


def _texts(project: Project) -> Iterator[Path]:
    """The hand-written files that may name slices."""
    for name, endings in TEXTS.items():
        for path in project.sources(name):
            if path.suffix in endings and _text(path) is not None:
                yield path


def _text(path: Path) -> str | None:
    """The text of a file as `rewrite` compares it; None where it is no UTF-8."""
    try:
        return read_whole(path).decode().removeprefix(BOM)
    except UnicodeDecodeError:
        return None


def _left(project: Project, names: NewName, follow: Follow) -> Iterator[Mention]:
    """Lines that may mean the old name, and stay as they are."""
    for path in _texts(project):
        text, numbers = follow(_text(path) or "", names)
        lines = text.split("\n")
        for number in numbers:
            yield Mention(path, number, lines[number - 1].strip())


def _refuse_unsound(files: Sequence[CutlistFile], changes: Sequence[Change]) -> None:
    """Raises RifflerError where a cutlist would not be sound with the new name."""
    edited = {change.file: change.after for change in changes if change.file.suffix == ".toml"}
    try:
        for file in files:
            written = {path: Written.of(path, edited[path]) for path in _paths(file) & set(edited)}
            refuse_loose_ends(CutlistFile.read(file.path, file.base, written))
    except WrittenError as error:
        raise RifflerError(
            f"The cutlists would not be sound, so nothing changes: {error.message}", error.advice
        ) from error
