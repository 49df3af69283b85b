"""`riffler weigh`: what a slice weighs in every format, and what is seen of the loss."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from riffler.cli.options import Json, Quiet, Verbose

NAME = "weigh"


def weigh(
    names: Annotated[
        list[str], typer.Argument(metavar="SLICE", help="Slices by name, or picture files.")
    ],
    json: Json = False,
    quiet: Quiet = False,
    verbose: Verbose = False,  # noqa: ARG001 - read where errors are shown
) -> None:
    """Compare formats and settings by bytes, visible loss and load time.

    The smallest file that nobody tells from the mockup is marked. Works for any picture file, too.
    """
    from riffler.jobs.weigh import weigh as weigh_pictures
    from riffler.project.project import Project
    from riffler.report import weighing
    from riffler.report.screen import Screen

    screen = Screen(quiet)
    done = weigh_pictures(Project.around(Path.cwd()), names)
    if json:
        screen.json(weighing.as_json(done))
    else:
        weighing.show(screen, done)
