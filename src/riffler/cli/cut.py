"""`riffler cut`: slices become image files."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from riffler.cli.options import DryRun, Force, Json, Quiet, Verbose
from riffler.errors import RifflerError

if TYPE_CHECKING:
    from riffler.report.screen import Screen

NAME = "cut"


def cut(
    names: Annotated[
        list[str] | None,
        typer.Argument(metavar="SLICE", help="Slices by name; or one mockup, together with -o."),
    ] = None,
    only: Annotated[
        list[str] | None,
        typer.Option("--only", metavar="LAYER", help="With a mockup: cut this layer alone."),
    ] = None,
    output: Annotated[
        Path | None,
        typer.Option("--output", "-o", metavar="FILE", help="With a mockup: the file to write."),
    ] = None,
    workers: Annotated[
        int | None,
        typer.Option("--workers", min=1, max=64, help="Encode so many at once; one a processor."),
    ] = None,
    watch: Annotated[
        bool, typer.Option("--watch", help="Go on: cut again what changes. Ctrl-C ends it.")
    ] = False,
    force: Force = False,
    dry_run: DryRun = False,
    json: Json = False,
    quiet: Quiet = False,
    verbose: Verbose = False,  # noqa: ARG001 - read where errors are shown
) -> None:
    """Cut slices out of the mockups, all or the named ones.

    Without a project: riffler cut MOCKUP --only LAYER -o FILE
    """
    from riffler.report.screen import Screen

    screen = Screen(quiet)
    if watch and (json or dry_run or output is not None or only):
        raise RifflerError("--watch goes with slices of a project, and not with --json or others.",
                           "For example: riffler cut --watch")  # fmt: skip
    if output is None and not only:
        options = {"force": force, "dry_run": dry_run}
        if watch:
            _watch(screen, names or [], force=force, workers=workers)
            return
        _cut_project(screen, names or [], json=json, workers=workers, **options)
        return
    if output is None or len(names or []) != 1:
        raise RifflerError(
            "--only and -o cut from one mockup to one file.",
            "For example: riffler cut mockups/home.ora --only tools/smoker -o smoker.png",
        )
    _cut_single(screen, Path((names or [""])[0]), only or [], output, json=json)


def _cut_project(
    screen: Screen, names: list[str], *, force: bool, dry_run: bool, json: bool, workers: int | None
) -> None:
    from riffler.files import as_typed
    from riffler.jobs.settled import unchanged
    from riffler.project.project import Project
    from riffler.report.assets import show_cut
    from riffler.report.progress import Progress

    project = Project.here()
    done = None if names or force else unchanged(project)
    if done is None:
        from riffler.jobs.cut import cut as cut_slices

        with Progress("Cutting", is_shown=not json and not screen.is_quiet) as progress:
            done = cut_slices(
                project, names, force=force, dry_run=dry_run, workers=workers, progress=progress
            )
    if json:
        screen.json({"cut": 1, **done.as_json()})
        return
    if not (done.written or done.unchanged or done.removed):
        screen.say("There is nothing to cut: no slices in any cutlist.")
        return
    show_cut(screen, done, as_typed(project.out), is_dry=dry_run)
    if not dry_run:
        screen.say("Next: riffler build")


def _watch(screen: Screen, names: list[str], *, force: bool, workers: int | None) -> None:
    """Cut, and again after every change; a mistake is shown and waited out."""
    from riffler.jobs.cut import cut as cut_slices
    from riffler.jobs.watching import saved
    from riffler.project.project import Project
    from riffler.report.assets import show_changed
    from riffler.report.mistakes import show

    root = Project.here().root
    for _ in saved(Project.here()):
        try:
            show_changed(screen, cut_slices(Project.at(root), names, force=force, workers=workers))
        except RifflerError as error:
            show(error)


def _cut_single(screen: Screen, path: Path, only: list[str], out: Path, *, json: bool) -> None:
    from riffler.jobs.publish import Published
    from riffler.jobs.single import cut_one
    from riffler.project.project import Project
    from riffler.report.screen import kilobytes, pixels

    asset = cut_one(path, only, out, project=Project.around(path.parent))
    if json:
        screen.json({"cut": 1, **Published(written=[asset]).as_json()})
        return
    assert asset.pixels is not None
    assert asset.place is not None
    size = pixels(asset.pixels.width, asset.pixels.height)
    screen.say(
        f"Wrote {asset.file}: {size} px, {kilobytes(asset.bytes)}, "
        f"from {asset.place.x}, {asset.place.y} of {path}."
    )
