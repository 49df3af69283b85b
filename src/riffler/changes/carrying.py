"""What is to follow a new version -> the files of a project, all of them, however often it stops.

A record in the work folder says what every file was and will be; each is written by itself, whole
or not at all. Who is stopped in between goes on from the record. Before the first file the new
version is kept, so that a record without it has not begun.
"""

from __future__ import annotations

import json
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from riffler.changes.taking import Edit, Taken, text_of
from riffler.digests import sha256_of
from riffler.errors import OutputError
from riffler.files import as_typed, is_inside, remove, rewrite, write_whole
from riffler.markup import remembered
from riffler.plain import parse_json
from riffler.project.lock import locked
from riffler.project.places import ROUGHED, TAKING
from riffler.project.project import Project
from riffler.workspace import kept

#: The number of the shape of the record.
SHAPE = 1


def take(project: Project, taken: Taken, mockups: Sequence[Path]) -> None:
    """Write what was planned; who is stopped goes on with `resume`.

    Raises OutputError where a file can't be written, or was changed meanwhile.
    """
    with locked(project):
        record = {
            "shape": SHAPE,
            "mockups": {_name(project, path): sha256_of(path) for path in mockups},
            "files": [
                {"file": _name(project, one.file), "before": one.before, "after": one.after,
                 "is_new": one in taken.new}
                for one in (*taken.edits, *taken.new)
            ],
            "runs": remembered.as_bytes(taken.runs).decode() if taken.runs else None,
        }  # fmt: skip
        write_whole(project.work / TAKING, json.dumps(record).encode(), within=project.work)
        kept.keep(project, mockups)
        _apply(project, record)


def is_stopped(project: Project) -> bool:
    """Whether a run was stopped that has to go on first."""
    return (project.work / TAKING).is_file()


def resume(project: Project) -> bool:
    """Go on where a run was stopped; returns whether there was anything to finish."""
    with locked(project):
        try:
            record = parse_json((project.work / TAKING).read_bytes())
            is_ours = record["shape"] == SHAPE
        except (OSError, ValueError, KeyError, TypeError):
            is_ours = False
        if not is_ours or not _is_kept(project, record["mockups"]):
            remove(project.work / TAKING, project.work)  # nothing was written yet
            return False
        _apply(project, record)
        return True


def _is_kept(project: Project, mockups: dict[str, str]) -> bool:
    """Whether the version that is taken was kept, which comes before the first file is written."""
    for name, digest in mockups.items():
        found = kept.versions(project, project.root / name)
        if not found or found[0].sha256 != digest:
            return False
    return True


def _apply(project: Project, record: dict[str, Any]) -> None:
    """Write every file that is as it was; one that is as it will be was written before.

    Raises OutputError for one that somebody changed meanwhile, with all others written.
    """
    if not _is_kept(project, record["mockups"]):
        raise OutputError(
            f"The new version can't be kept in {as_typed(project.work)}, so nothing was written.",
            "Free some space or change the rights, then again.",
        )
    changed = []
    for one in record["files"]:
        path = project.root / one["file"]
        if not is_inside(path, project.root):
            continue
        now = text_of(path) if path.is_file() else None
        if now == one["after"]:
            continue
        if one["is_new"] and now is None:
            write_whole(path, one["after"].encode(), within=project.root)
        elif now == one["before"]:
            edit = Edit(path, one["before"], one["after"])
            rewrite(lambda edit=edit: edit, project.root)  # type: ignore[misc]
        else:
            changed.append(as_typed(path))
    if record["runs"]:
        write_whole(project.work / ROUGHED, record["runs"].encode(), within=project.work)
    remove(project.work / TAKING, project.work)
    if changed:
        raise OutputError(
            f"{', '.join(changed)}: changed meanwhile, and left as it is.",
            "riffler changes --earlier says what is new; the rest has been taken.",
        )


def _name(project: Project, path: Path) -> str:
    return path.resolve().relative_to(project.root.resolve()).as_posix()
