"""What was roughed out -> files of a project, and never over anything that a person wrote."""

from __future__ import annotations

from riffler.errors import OutputError
from riffler.files import as_typed, is_inside, write_whole
from riffler.markup.remembered import remember
from riffler.markup.roughing import Roughed
from riffler.project.lock import locked
from riffler.project.project import Project
from riffler.project.starting import is_as_started


def write(project: Project, roughed: Roughed, unit: str, *, dry_run: bool = False) -> None:
    """Write every file, and note it. What `riffler start` put there, untouched, makes room.

    Raises OutputError, with nothing written, where another file is in the way.
    """
    with locked(project, dry_run=dry_run):
        in_the_way = [
            name for name, _ in roughed.files
            if _is_there(project, name) and not is_as_started(project.root, name)
        ]  # fmt: skip
        if in_the_way:
            named = ", ".join(in_the_way[:4]) + (" and others" if len(in_the_way) > 4 else "")
            raise OutputError(
                f"{named}: there already, and nothing is roughed out over what is there.",
                "Nothing was written. --print shows it instead; or move your file away.",
            )
        for name, text in roughed.files if not dry_run else ():
            path = project.root / name
            if not is_inside(path, project.root):
                raise OutputError(f"{as_typed(path)} leads out of the project through a link.")
            write_whole(path, text.encode(), within=project.root)
        if not dry_run:
            remember(project, roughed, unit)


def _is_there(project: Project, name: str) -> bool:
    path = project.root / name
    return path.exists() or path.is_symlink()
