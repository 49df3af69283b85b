"""What was roughed out of a project <-> its work folder, for later versions to be merged with.

May be deleted any time: then nothing is known to have been roughed out, and nothing is merged.
"""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any

from riffler.files import is_inside, write_whole
from riffler.markup.roughing import Before, Roughed
from riffler.plain import parse_json, plain
from riffler.project.places import ROUGHED
from riffler.project.project import Project

#: The number of the shape of what is noted.
SHAPE = 1


@dataclass(frozen=True)
class Run:
    """One time that pages were roughed out: of which mockups, below the project, in which unit.

    `files` are the texts that were written, by their paths below the project.
    """

    mockups: tuple[str, ...]
    unit: str
    before: Before
    files: Mapping[str, str]


def remember(project: Project, roughed: Roughed, unit: str) -> None:
    """Note what was just written; what an earlier run wrote into the same files is forgotten."""
    files = dict(roughed.files)
    earlier = [
        replace(run, files=left)
        for run in runs(project)
        if (left := {name: text for name, text in run.files.items() if name not in files})
    ]
    mockups = tuple(
        project.relative(path) for path in roughed.mockups if is_inside(path, project.root)
    )
    run = Run(mockups, unit, roughed.before, files)
    write_whole(project.work / ROUGHED, as_bytes([*earlier, run]), within=project.work)


def as_bytes(every: Sequence[Run]) -> bytes:
    """The runs as they are noted."""
    return json.dumps({"shape": SHAPE, "runs": plain(every)}, indent=1).encode()


def runs(project: Project) -> list[Run]:
    """Every run that is remembered, in order; nothing where the notes are damaged."""
    try:
        said = parse_json((project.work / ROUGHED).read_bytes())
        if said["shape"] != SHAPE:
            return []
        return [_run(one) for one in said["runs"]]
    except (OSError, ValueError, TypeError, KeyError, AttributeError):
        return []


def _run(said: Mapping[str, Any]) -> Run:
    before = said["before"]
    shell = before["shell"]
    files = {str(name): str(text) for name, text in said["files"].items()}
    if any(Path(name).is_absolute() or ".." in Path(name).parts for name in files):
        raise ValueError
    return Run(
        tuple(map(str, said["mockups"])),
        str(said["unit"]),
        Before(
            None if shell is None else str(shell),
            frozenset(map(str, before["pages"])),
            frozenset(map(str, before["data"])),
            bool(before["has_index"]),
            bool(before["has_web_fonts"]),
        ),
        files,
    )
