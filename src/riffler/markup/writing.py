"""What was roughed out -> files of a project, and never over anything that a person wrote.

What is roughed out is never touched again, and says what nobody said with `data-unsaid`: a mark
that is plain HTML, that a person deletes with the words, and that `proof/` finds.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path

from riffler.digests import sha256, sha256_of
from riffler.errors import OutputError
from riffler.files import as_typed, is_inside, remove, write_whole
from riffler.markup import remembered
from riffler.markup.element import Lengths
from riffler.markup.page_plan import Laid
from riffler.markup.roughing import Roughed, rough
from riffler.project.lock import locked
from riffler.project.places import ROUGHING
from riffler.project.project import Project
from riffler.project.starting import is_as_started
from riffler.workspace import Workspace


def take_up(project: Project) -> None:
    """Begin anew where an earlier run was killed: what it left goes, unless somebody edited it.

    Then all of it is the person's, and remembered as what was roughed out.
    """
    with locked(project):
        run = remembered.begun(project)
        if run is None:
            return
        there = [name for name in run.files if _is_there(project, name)]
        if all(_says(project, name, run.files[name]) for name in there):
            for name in there:
                remove(project.root / name, project.root)
            remove(project.work / ROUGHING, project.work)
        else:
            remembered.remember(project, run)


def is_there(
    workspace: Workspace,
    paths: Sequence[Path],
    lengths: Lengths,
    roughed: Roughed,
    look: Callable[[Laid], None] | None = None,
) -> bool:
    """Whether all of it is there as it was roughed out, and would be so again."""
    project = workspace.project
    meant = remembered.run_of(project, roughed, lengths.unit)
    for run in remembered.runs(project):
        if (run.mockups, run.unit) == (meant.mockups, meant.unit) and all(
            _says(project, name, text) for name, text in run.files.items()
        ):
            again = rough(workspace, paths, lengths, before=run.before, look=look)
            return dict(again.files) == dict(run.files)
    return False


def write(
    project: Project,
    roughed: Roughed,
    unit: str,
    *,
    is_looked_at: bool = False,
    dry_run: bool = False,
) -> None:
    """Write every file, and note it. What `riffler start` put there, untouched, makes room.

    It is noted, too, whether it was looked at in a browser.

    Raises OutputError, with nothing written, where another file is in the way.
    """
    with locked(project, dry_run=dry_run):
        in_the_way = [
            name
            for name, text in roughed.files
            if _is_there(project, name)
            and not is_as_started(project.root, name)
            and not _says(project, name, text)
        ]
        if in_the_way:
            named = ", ".join(in_the_way[:4]) + (" and others" if len(in_the_way) > 4 else "")
            raise OutputError(
                f"{named}: there already, and nothing is roughed out over what is there.",
                "Nothing was written. --print shows it instead; or move your file away.",
            )
        if dry_run:
            return
        for path in (project.root / name for name, _ in roughed.files):
            if not is_inside(path, project.root):
                raise OutputError(f"{as_typed(path)} leads out of the project through a link.")
        run = remembered.run_of(project, roughed, unit, is_looked_at=is_looked_at)
        remembered.begin(project, run)
        for name, text in roughed.files:
            write_whole(project.root / name, text.encode(), within=project.root)
        remembered.remember(project, run)


def _is_there(project: Project, name: str) -> bool:
    path = project.root / name
    return path.exists() or path.is_symlink()


def _says(project: Project, name: str, text: str) -> bool:
    """Whether a file is there and has this text."""
    return sha256_of(project.root / name) == sha256(text.encode())
