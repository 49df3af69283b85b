"""`riffler build`: templates become pages."""

from __future__ import annotations

from riffler.cli.command import Command, DryRun, Force
from riffler.project.places import CUTS
from riffler.report.screen import Screen


def build(screen: Screen, force: Force = False, dry_run: DryRun = False) -> None:
    """Build the pages from their templates.

    Also writes a style sheet for the pieces that were cut, and copies styles and fonts.
    """
    from riffler.project.project import Project
    from riffler.report.assets import show_build
    from riffler.site.build import build as build_site

    project = Project.here()
    done = build_site(project, force=force, dry_run=dry_run)
    if not screen.json(CUTS, done.as_data()):
        show_build(screen, done, project.out, is_dry=dry_run)


COMMAND = Command(build)
