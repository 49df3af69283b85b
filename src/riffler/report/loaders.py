"""A loading mark -> lines for the terminal."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from riffler.files import as_typed
from riffler.report.screen import Column, Screen
from riffler.report.wording import plural
from riffler.vector.loose_loader import MadeLoader

#: Of what is printed as JSON.
VERSION = 1


def show(screen: Screen, made: MadeLoader, output: Path | None, *, is_dry: bool) -> None:
    """The files, the lines for a page, and what to do next."""
    rows = [(name, f"{len(data):,} B") for name, data in made.files.items()]
    screen.table([Column("file"), Column("bytes", is_right=True)], rows)
    screen.say("")
    if output is None:
        screen.say("Nothing was written: -o says in which folder the files should go.")
        return
    if is_dry:
        screen.say("Nothing was written: this was a dry run.")
        return
    screen.say(f"Wrote {plural(len(rows), 'file')} in {as_typed(output)}.")
    screen.say(f"Open {as_typed(output / list(made.files)[-1])} in a browser to see it move.")
    screen.say("For a page:")
    screen.say(f"  {made.html}")


def as_data(made: MadeLoader, output: Path | None) -> dict[str, Any]:
    """What is printed as JSON."""
    return {
        "folder": None if output is None else as_typed(output),
        "files": [{"file": name, "bytes": len(data)} for name, data in made.files.items()],
        "html": made.html,
    }
