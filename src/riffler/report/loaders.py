"""A loading mark -> lines for the terminal."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from riffler.files import as_typed
from riffler.report import folders
from riffler.report.folders import list_files, outcome
from riffler.report.screen import Screen
from riffler.vector.loose_loader import MadeLoader

#: Of what is printed as JSON.
VERSION = 1


def show(screen: Screen, loader: MadeLoader, output: Path | None, *, is_dry: bool) -> None:
    """The files, the lines for a page, and what to do next."""
    list_files(screen, loader.files)
    screen.say(outcome(loader.files, output, is_dry=is_dry))
    if output is not None and not is_dry:
        screen.say(f"Open {as_typed(output / list(loader.files)[-1])} in a browser to see it move.")
        screen.say("For a page:")
        screen.say(f"  {loader.html}")


def as_data(loader: MadeLoader, output: Path | None) -> dict[str, Any]:
    """What is printed as JSON."""
    return {**folders.as_data(loader.files, output), "html": loader.html}
