"""`riffler changes`: what is another in the new version of a mockup, and what that touches."""

from __future__ import annotations

from collections.abc import Sequence
from contextlib import AbstractContextManager
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from riffler.cli.command import Command, Over, Versus
from riffler.errors import RifflerError
from riffler.project.places import located
from riffler.report.screen import Screen

if TYPE_CHECKING:
    from riffler.changes.asked import Asked
    from riffler.project.target import Target
    from riffler.workspace import Workspace


def changes(
    screen: Screen,
    old: Annotated[
        Path | None,
        typer.Argument(metavar="OLD", help="The older version; of a project, what was last cut."),
    ] = None,
    new: Annotated[Path | None, typer.Argument(metavar="NEW", help="The newer version.")] = None,
    show_all: Annotated[
        bool, typer.Option("--all", help="List every change, however many.")
    ] = False,
    earlier: Annotated[
        bool, typer.Option("--earlier", help="Against the version before the one last cut.")
    ] = False,
    report: Versus = None,
    picture: Annotated[
        Path | None,
        typer.Option("--picture", metavar="FILE.png", help="Draw the changes on both versions."),
    ] = None,
    note: Annotated[
        bool, typer.Option("--note", help="Print a summary and questions, to hand back.")
    ] = False,
    take: Annotated[
        bool,
        typer.Option(
            "--take", help="Let cutlists, cuts and what was roughed out follow the new version."
        ),
    ] = False,
    dry_run: Annotated[
        bool, typer.Option("--dry-run", help="With --take: print what it would edit as a patch.")
    ] = False,
    force: Over = False,
) -> int:
    """Compare two versions of a mockup: what moved, grew, reads or looks otherwise.

    In a project the older one is what was last cut, and each change says which slices, guides,
    tokens, lines and pages it touches. Ends with 1 when something changed; with --take when
    something is left to you.
    """
    _refuse_mixed(take=take, looks=bool(note or report or picture), dry=dry_run)
    if take:
        return _take(screen, [path for path in (old, new) if path], earlier=earlier, dry=dry_run)
    from riffler.changes.comparison import VERSION
    from riffler.project.target import targets
    from riffler.report import changes as report_changes
    from riffler.workspace import Workspace

    typed = [located(path) for path in (old, new) if path is not None]
    wanted = targets({".html": report, ".png": picture}, typed, force=force)
    around = partial(Workspace.around, typed[-1]) if typed else Workspace.here
    workspace = around(may_lack=True)
    with screen.progress("Comparing"), _asked(workspace, typed, earlier=earlier) as asked:
        written = [_written(asked, target) for target in wanted]
    if note and not screen.is_json:
        from riffler.report import change_note

        screen.pass_on(change_note.text(asked))
    elif not screen.json(VERSION, report_changes.as_data(asked)):
        report_changes.show(screen, asked, show_all=show_all)
        for line in written:
            screen.say(line)
    return int(any(request.changed.changes for request in asked))


def _asked(
    workspace: Workspace, paths: list[Path], *, earlier: bool
) -> AbstractContextManager[list[Asked]]:
    """Two files compared, or mockups of a project with what was last cut."""
    from riffler.changes.asked import since_cut, two_files

    if len(paths) == 2:
        return two_files(workspace, paths[0], paths[1])
    return since_cut(workspace, paths, earlier=earlier)


def _refuse_mixed(*, take: bool, looks: bool, dry: bool) -> None:
    """Raises RifflerError for options that do not go together."""
    if take and looks:
        raise RifflerError(
            "--take goes without --note, --page and --picture.", "Look first, then take."
        )
    if dry and not take:
        raise RifflerError("--dry-run goes with --take.", "riffler changes --take --dry-run")


def _take(screen: Screen, paths: list[Path], *, earlier: bool, dry: bool) -> int:
    """Carry new versions through a project, or say what that would edit."""
    from riffler.changes.asked import since_cut
    from riffler.changes.carrying import is_stopped, resume, take
    from riffler.changes.comparison import VERSION
    from riffler.changes.refreshing import refresh
    from riffler.changes.rehearsing import rehearse
    from riffler.changes.taking import planned
    from riffler.output.ledger import Ledger
    from riffler.report import taking
    from riffler.workspace import Workspace

    if len(paths) > 1:
        raise RifflerError(
            "--take goes with the mockups of a project, against what was last cut.",
            "Put the new version in the place of the old one, then: riffler changes --take",
        )
    workspace = Workspace.here(may_lack=True)
    project = workspace.project
    if is_stopped(project):
        if dry:
            raise RifflerError(
                "An earlier --take was stopped.", "Finish it first: riffler changes --take"
            )
        if resume(project):
            screen.say("Finished what an earlier run had begun.")
    with (
        screen.progress("Comparing"),
        since_cut(workspace, [located(path) for path in paths], earlier=earlier) as asked,
    ):
        taken = planned(workspace, [request for request in asked if request.changed.changes])
    with screen.progress("Trying") as progress:
        rehearse(project, taken, progress, dry_run=dry)
    if taken.mockups and not dry:
        take(project, taken)
    with screen.progress("Cutting") as progress:
        assets = Ledger.read(project.out).assets
        refreshed = None if dry else refresh(project, assets, progress)
    if not screen.json(VERSION, taking.as_data(taken, refreshed)):
        taking.show(screen, taken, refreshed, is_new=bool(taken.mockups))
    return int(bool(taken.left or taken.disputes))


def _written(asked: Sequence[Asked], target: Target) -> str:
    """Write the page or the picture that is wanted; returns what to say of it."""
    from riffler.report import change_page, change_picture
    from riffler.report.beside import written

    return written(
        target,
        partial(change_page.write, asked),
        partial(change_picture.write, asked),
        "both versions, with the changes on them",
    )


COMMAND = Command(changes)
"""The order of the work."""
