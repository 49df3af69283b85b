"""Files that a command makes for any folder -> lines for the terminal, and data."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path
from typing import Any

from riffler.files import as_typed
from riffler.report.screen import Column, Screen
from riffler.report.wording import plural


def list_files(screen: Screen, files: Mapping[str, bytes]) -> None:
    """The files with their sizes."""
    rows = [(name, f"{len(data):,} B") for name, data in files.items()]
    screen.table([Column("file"), Column("bytes", is_right=True)], rows)
    screen.say("")


def outcome(files: Mapping[str, bytes], output: Path | None, *, is_dry: bool) -> str:
    """Whether and where they were written."""
    if output is None:
        return "Nothing was written: -o says in which folder the files should go."
    if is_dry:
        return "Nothing was written: this was a dry run."
    return f"Wrote {plural(len(files), 'file')} in {as_typed(output)}."


def as_data(files: Mapping[str, bytes], output: Path | None) -> dict[str, Any]:
    """What is printed as JSON."""
    return {
        "folder": None if output is None else as_typed(output),
        "files": [{"file": name, "bytes": len(data)} for name, data in files.items()],
    }
