"""`riffler cut`: slices become image files."""

from __future__ import annotations

import sys
from pathlib import Path
from typing import Annotated

import typer

from riffler.cli import completing
from riffler.cli.command import Command, DryRun, Force
from riffler.errors import RifflerError
from riffler.project.places import CUTS, located
from riffler.report.screen import Screen

_ALONE = "Without a project"

#: What to say where --watch does not go.
_WATCHED = (
    "--watch goes with slices of a project, and not with --json or others.",
    "For example: riffler cut --watch",
)


def cut(
    screen: Screen,
    names: Annotated[
        list[str] | None,
        typer.Argument(
            metavar="SLICE",
            help="Slices by name; or one mockup, together with -o.",
            autocompletion=completing.slices,
        ),
    ] = None,
    watch: Annotated[
        bool, typer.Option("--watch", help="Go on: cut again what changes. Ctrl-C ends it.")
    ] = False,
    is_all: Annotated[
        bool, typer.Option("--all", help="List the files that stay as they are, too.")
    ] = False,
    dry_run: DryRun = False,
    force: Force = False,
    workers: Annotated[
        int | None,
        typer.Option("--workers", min=1, max=64, help="Encode so many at once; one a processor."),
    ] = None,
    only: Annotated[
        list[str] | None,
        typer.Option(
            "--only",
            metavar="LAYER",
            help="Cut this layer of the mockup alone.",
            autocompletion=completing.layers,
            rich_help_panel=_ALONE,
        ),
    ] = None,
    output: Annotated[
        Path | None,
        typer.Option(
            "--output",
            "-o",
            metavar="FILE",
            help="The file to write; - prints a PNG.",
            rich_help_panel=_ALONE,
        ),
    ] = None,
) -> None:
    """Cut slices out of the mockups, all or the named ones.

    Without a project: riffler cut MOCKUP --only LAYER -o FILE
    """
    chosen = names or []
    if output is not None or only:
        _cut_single(screen, chosen, only or [], output, is_watched=watch, force=force)
    elif watch:
        _watch(screen, chosen, force=force, is_dry=dry_run, workers=workers)
    else:
        _cut_project(screen, chosen, is_all=is_all, force=force, dry_run=dry_run, workers=workers)


COMMAND = Command(cut)


def _cut_project(
    screen: Screen,
    names: list[str],
    *,
    is_all: bool,
    force: bool,
    dry_run: bool,
    workers: int | None,
) -> None:
    from riffler.report.cuts import show_cut, show_unchanged

    if not (names or force or dry_run) and show_unchanged(screen, is_all=is_all):
        return
    from riffler.cutting.cut import cut as cut_slices
    from riffler.workspace import Workspace

    workspace = Workspace.here()
    with screen.progress("Cutting") as progress:
        published = cut_slices(
            workspace, names, force=force, dry_run=dry_run, workers=workers, progress=progress
        )
    show_cut(screen, published.as_data(), workspace.project.out, is_dry=dry_run, is_all=is_all)


def _watch(
    screen: Screen, names: list[str], *, force: bool, is_dry: bool, workers: int | None
) -> None:
    """Cut, and again after every change; a mistake is shown and waited out."""
    if screen.is_json or is_dry:
        raise RifflerError(*_WATCHED)
    from riffler.cutting.cut import cut as cut_slices
    from riffler.cutting.watching import saved
    from riffler.project.project import Project
    from riffler.report.assets import show_changed
    from riffler.report.mistakes import show
    from riffler.workspace import Workspace

    root = Project.here().root
    for _ in saved(Project.here()):
        try:
            workspace = Workspace(Project.at(root))
            show_changed(screen, cut_slices(workspace, names, force=force, workers=workers))
        except RifflerError as error:
            show(error)


def _cut_single(
    screen: Screen,
    names: list[str],
    only: list[str],
    out: Path | None,
    *,
    is_watched: bool,
    force: bool,
) -> None:
    from riffler.cutting.single import NOWHERE, cut_one
    from riffler.plain import plain
    from riffler.report.assets import show_single
    from riffler.workspace import Workspace

    if is_watched:
        raise RifflerError(*_WATCHED)
    if out is None or len(names) != 1:
        raise RifflerError(
            "--only and -o cut from one mockup to one file.",
            "For example: riffler cut mockups/home.ora --only tools/smoker -o smoker.png",
        )
    path = located(Path(names[0]))
    single_cut = cut_one(Workspace.around(path), path, only, out, force=force)
    if out == NOWHERE:
        sys.stdout.buffer.write(single_cut.data)
        return
    data = {"written": [plain(single_cut)], "unchanged": [], "removed": [], "words": []}
    if not screen.json(CUTS, data):
        show_single(screen, single_cut, path)
