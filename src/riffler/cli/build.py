"""`riffler build`: templates become pages."""

from __future__ import annotations

from typing import Annotated

import typer

from riffler.cli.command import Command, DryRun, Force
from riffler.errors import RifflerError
from riffler.project.places import CUTS
from riffler.report.screen import Screen


def build(
    screen: Screen,
    cut: Annotated[
        bool, typer.Option("--cut", help="Cut what changed in mockups and cutlists first.")
    ] = False,
    watch: Annotated[
        bool, typer.Option("--watch", help="Go on: build again what changes. Ctrl-C ends it.")
    ] = False,
    force: Force = False,
    dry_run: DryRun = False,
) -> None:
    """Build the pages from their templates.

    Also writes a style sheet for the pieces that were cut, and copies styles, scripts and fonts.
    Says which slices changed since they were cut.
    """
    from riffler.cutting.unchanged import unchanged
    from riffler.project.project import Project
    from riffler.report.assets import show_build, show_stale
    from riffler.site.build import build as build_site

    project = Project.here()
    if watch:
        _watch(screen, is_cut=cut, force=force, is_dry=dry_run)
        return
    if cut and not dry_run:
        _cut_first(screen, force=force)
    published = build_site(project, force=force, dry_run=dry_run)
    if screen.json(CUTS, published.as_data()):
        return
    show_build(screen, published, project.out, is_dry=dry_run)
    if not unchanged(project.root):
        show_stale(screen, _stale())


def _watch(screen: Screen, *, is_cut: bool, force: bool, is_dry: bool) -> None:
    """Build, and again after every change; a mistake is shown and waited out."""
    if screen.is_json or is_dry:
        raise RifflerError("--watch goes neither with --json nor with --dry-run.")
    from riffler.cutting.watching import MADE, saved
    from riffler.project.project import Project
    from riffler.report.assets import show_changed
    from riffler.report.mistakes import show
    from riffler.site.build import build as build_site

    root = Project.here().root
    for _ in saved(Project.here(), MADE):
        try:
            if is_cut:
                _cut_first(screen, force=force)
            show_changed(screen, build_site(Project.at(root), force=force))
        except RifflerError as error:
            show(error)


def _cut_first(screen: Screen, *, force: bool) -> None:
    from riffler.cutting.cut import cut as cut_slices
    from riffler.report.assets import show_changed
    from riffler.workspace import Workspace

    with screen.progress("Cutting") as progress:
        published = cut_slices(Workspace.here(), force=force, progress=progress)
    if not screen.is_json and (published.written or published.removed):
        show_changed(screen, published)


def _stale() -> list[str]:
    """The slices that changed since they were cut; none where a cutlist or mockup can't be read.

    Pages are built of what was cut: what is wrong elsewhere is for the next cut to say.
    """
    from riffler.cutting.pending import changed
    from riffler.workspace import Workspace

    try:
        return changed(Workspace.here())
    except RifflerError:
        return []


COMMAND = Command(build)
