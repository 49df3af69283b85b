"""`riffler start`: a new project that already builds."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from riffler.cli.options import Quiet, Verbose

NAME = "start"


def start(
    folder: Annotated[Path, typer.Argument(metavar="DIR", help="A folder that is new or empty.")],
    quiet: Quiet = False,
    verbose: Verbose = False,  # noqa: ARG001 - read where errors are shown
) -> None:
    """Begin a new project that already builds."""
    from riffler.files import as_typed
    from riffler.project import starting
    from riffler.report.screen import Screen, plural

    files = starting.start(folder)
    screen = Screen(quiet)
    screen.say(f"Began a project in {as_typed(folder)} with {plural(len(files), 'file')}.")
    screen.say(f"Next: cd {as_typed(folder)}, put a mockup into mockups/, then riffler build")
