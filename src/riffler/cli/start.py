"""`riffler start`: a new project that already builds."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from riffler.cli.command import Command
from riffler.report.screen import Screen
from riffler.report.wording import plural


def start(
    screen: Screen,
    folder: Annotated[Path, typer.Argument(metavar="DIR", help="A folder that is new or empty.")],
) -> None:
    """Begin a new project that already builds."""
    from riffler.files import as_typed
    from riffler.project import starting

    files = starting.start(folder)
    screen.say(f"Began a project in {as_typed(folder)} with {plural(len(files), 'file')}.")
    screen.say(f"Next: cd {as_typed(folder)}, and put a mockup into mockups/. Then:")
    screen.say("  riffler draft mockups/FILE    a first plan of the cuts, for you to go on from")
    screen.say("  riffler survey                what is wrong with the plan")
    screen.say("  riffler cut                   the image files")
    screen.say("  riffler build                 the pages")


COMMAND = Command(start, has_json=False)
