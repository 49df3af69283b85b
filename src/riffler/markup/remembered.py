"""What was roughed out of a project <-> its work folder, for later versions to be merged with.

May be deleted any time: then nothing is known to have been roughed out, and nothing is merged.

What was roughed out is remembered with what was there then, so that the new version can be roughed
out as of then, in a copy of the project, and merged by three ways. Taking is worked out whole, then
recorded, then written: a record without the new version kept has not begun, one with it is finished
by whoever comes.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import partial
from typing import Literal

from riffler.files import is_inside, remove
from riffler.markup.before import Before
from riffler.markup.roughing import Roughed
from riffler.plain import adapter_of
from riffler.project.places import ROUGHED, ROUGHING
from riffler.project.project import Project
from riffler.project.sealed import obeyed, write_note

#: The number of the shape of what is noted.
SHAPE: Literal[2] = 2


@dataclass(frozen=True)
class Run:
    """One time that pages were roughed out: of which mockups, below the project, in which unit.

    `files` are the texts that were written, by their paths below the project; `is_looked_at` tells
    that a browser was there to mend them by.
    """

    mockups: tuple[str, ...]
    unit: str
    before: Before
    files: Mapping[str, str]
    is_looked_at: bool = False


@dataclass(frozen=True)
class _Note:
    """Every run as it is noted."""

    shape: Literal[2]
    runs: tuple[Run, ...]


def run_of(project: Project, roughed: Roughed, unit: str, *, is_looked_at: bool = False) -> Run:
    """What was roughed out, as it is remembered."""
    wide = (paths[0] for paths in roughed.mockups.values())
    inside = (path for path in wide if is_inside(path, project.root))
    mockups = tuple(project.relative(path) for path in inside)
    return Run(mockups, unit, roughed.before, dict(roughed.files), is_looked_at)


def begin(project: Project, run: Run) -> None:
    """Note what is about to be written, so that a run that is killed is known for one."""
    body = adapter_of(_Note).dump_json(_Note(SHAPE, (run,)), indent=1)
    write_note(project.work / ROUGHING, body, is_here=True, is_lasting=True)


def begun(project: Project) -> Run | None:
    """What a killed run was about to write."""
    path = project.work / ROUGHING
    return next(iter(obeyed(path, partial(of_bytes, project), is_here=True) or ()), None)


def remember(project: Project, run: Run) -> None:
    """Note what was just written; what an earlier run wrote into the same files is forgotten."""
    earlier = [
        replace(one_run, files=left)
        for one_run in runs(project)
        if (left := {name: text for name, text in one_run.files.items() if name not in run.files})
    ]
    write_note(project.work / ROUGHED, as_bytes([*earlier, run]), is_lasting=True)
    remove(project.work / ROUGHING, project.work)


def as_bytes(runs: Sequence[Run]) -> bytes:
    """The runs as they are noted."""
    return adapter_of(_Note).dump_json(_Note(SHAPE, tuple(runs)), indent=1)


def runs(project: Project) -> list[Run]:
    """Every run that is remembered, in order.

    A note that is damaged, not this machine's, or names other files than are ever roughed out, is
    put aside with a word, and nothing is known to have been roughed out.
    """
    return list(obeyed(project.work / ROUGHED, partial(of_bytes, project)) or ())


def of_bytes(project: Project, body: bytes) -> tuple[Run, ...]:
    """The runs that are noted. Raises ValueError for what is no note of what was roughed out."""
    runs = adapter_of(_Note).validate_json(body, strict=True).runs
    for run in runs:
        if not all(is_roughed(project, name) for name in run.files):
            raise ValueError("names a file that is never roughed out")
        if not all(is_inside(project.root / name, project.root) for name in run.mockups):
            raise ValueError("names a mockup outside of the project")
    return runs


def is_roughed(project: Project, name: str) -> bool:
    """Whether a path below the project is that of a page, a style sheet or data."""
    folders = project.settings.folders
    kinds = ((folders.pages, ".html"), (folders.styles, ".css"), (folders.data, ".toml"))
    return any(project.is_source(name, folder, ending) for folder, ending in kinds)
