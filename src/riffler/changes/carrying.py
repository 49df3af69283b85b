"""What is to follow a new version -> the files of a project, all of them, however often it stops.

A record in the work folder says what every file was and will be; each is written by itself, whole
or not at all. Who is stopped in between goes on from the record. Before the first file the new
version is kept, so that a record without it has not begun.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from riffler.changes.taking import Taken, text_of
from riffler.digests import sha256_of
from riffler.errors import OutputError
from riffler.files import Edit, as_typed, is_inside, remove, rewrite, write_whole
from riffler.markup import remembered
from riffler.plain import adapter_of
from riffler.project.lock import locked
from riffler.project.places import ROUGHED, TAKING
from riffler.project.project import Project
from riffler.project.sealed import obeyed, write_note
from riffler.workspace import kept

#: The number of the shape of the record.
SHAPE: Literal[2] = 2


@dataclass(frozen=True)
class _Change:
    """A file below the project, as it was and will be; `is_new` where it was not there."""

    file: str
    before: str
    after: str
    is_new: bool


@dataclass(frozen=True)
class _Record:
    """What is being taken: hashes of mockups by name, files, and what was roughed out as bytes."""

    shape: Literal[2]
    mockups: Mapping[str, str]
    files: tuple[_Change, ...]
    runs: str | None

    @classmethod
    def read(cls, project: Project) -> _Record | None:
        """The record; None where there is none that may be obeyed, which is put aside."""

        def checked(body: bytes) -> _Record:
            return adapter_of(_Record).validate_json(body, strict=True)._checked(project)

        return obeyed(project.work / TAKING, checked, is_here=True)

    def write(self, project: Project) -> None:
        """Note it, for this place alone. Raises OutputError where that can't be."""
        body = adapter_of(_Record).dump_json(self)
        write_note(project.work / TAKING, body, is_here=True, is_lasting=True)

    def _checked(self, project: Project) -> _Record:
        """This record. Raises ValueError where it names other files than are ever taken over."""
        cuts = project.settings.folders.cuts
        for change in self.files:
            is_cutlist = project.is_source(change.file, cuts, ".toml")
            if not is_cutlist and not remembered.is_roughed(project, change.file):
                raise ValueError("names a file that is never taken over")
        if self.runs is not None:
            remembered.of_bytes(project, self.runs.encode())
        return self


def take(project: Project, taken: Taken) -> None:
    """Write what was planned; who is stopped goes on with `resume`.

    Raises OutputError where a file can't be written, or was changed meanwhile.
    """
    edits = [(edit, False) for edit in taken.edits] + [(edit, True) for edit in taken.new]
    files = (
        _Change(project.relative(edit.file), edit.before, edit.after, new) for edit, new in edits
    )
    record = _Record(
        SHAPE,
        {project.relative(path): sha256_of(path) or "" for path in taken.mockups},
        tuple(files),
        remembered.as_bytes(taken.runs).decode() if taken.runs else None,
    )
    with locked(project):
        record.write(project)
        kept.keep(project, taken.mockups)
        if not _is_kept(project, record):
            raise OutputError(
                f"The new version can't be kept in {as_typed(project.work)}, "
                "so nothing was written.",
                "Free some space or change the rights, then again.",
            )
        _apply(project, record)


def is_stopped(project: Project) -> bool:
    """Whether a run was stopped that has to go on first."""
    return (project.work / TAKING).is_file()


def resume(project: Project) -> bool:
    """Go on where a run was stopped; returns whether there was anything to finish."""
    with locked(project):
        record = _Record.read(project)
        if record is None or not _is_kept(project, record):
            remove(project.work / TAKING, project.work)  # nothing was written yet
            return False
        _apply(project, record)
        return True


def _is_kept(project: Project, record: _Record) -> bool:
    """Whether the version that is taken was kept, which comes before the first file is written."""
    for name, digest in record.mockups.items():
        versions = kept.versions(project, project.root / name)
        if not versions or versions[0].sha256 != digest:
            return False
    return True


def _apply(project: Project, record: _Record) -> None:
    """Write every file that is as it was; one that is as it will be was written before.

    Raises OutputError for one that somebody changed meanwhile, with all others written.
    """
    changed = [change.file for change in record.files if not _written(project, change)]
    if record.runs:
        write_note(project.work / ROUGHED, record.runs.encode(), is_lasting=True)
    remove(project.work / TAKING, project.work)
    if changed:
        names = ", ".join(as_typed(project.root / name) for name in changed)
        raise OutputError(
            f"{names}: changed meanwhile, and left as it is.",
            "riffler changes --earlier says what is new; the rest has been taken.",
        )


def _written(project: Project, change: _Change) -> bool:
    """Write a file, unless it is written; False where it is neither as it was nor as it will be."""
    path = project.root / change.file
    if not is_inside(path, project.root):
        return False
    now = text_of(path) if path.is_file() else None
    if now == change.after:
        return True
    if change.is_new and now is None:
        write_whole(path, change.after.encode(), within=project.root)
        return True
    if now != change.before:
        return False
    edit = Edit(path, change.before, change.after)
    rewrite(lambda: edit, project.root)
    return True
