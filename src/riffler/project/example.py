"""The example that ships with Riffler -> a project of its own."""

from __future__ import annotations

from pathlib import Path

from riffler.errors import OutputError
from riffler.files import as_typed
from riffler.project.starting import copy_tree

#: Where the example lies in the package; its riffler.toml tells a copy of it from other projects.
PACKAGE, TREE = "riffler.demo", "fernhollow"

_MARK = "# The example that ships with Riffler"


def lay_out(folder: Path) -> int:
    """Copy the example into `folder`; returns how many files were written.

    In an earlier copy only what is missing is written. Raises OutputError when the folder holds
    anything else.
    """
    marker = folder / "riffler.toml"
    if folder.exists() and not folder.is_dir():
        raise OutputError(f"{as_typed(folder)} is a file.", "Name a folder that is new or empty.")
    is_own = marker.is_file() and marker.read_bytes().startswith(_MARK.encode())
    if folder.is_dir() and any(folder.iterdir()) and not is_own:
        raise OutputError(
            f"{as_typed(folder)} is not empty and no copy of the example, so nothing was written.",
            "Name a folder that is new: riffler demo my-demo",
        )
    return len(copy_tree(PACKAGE, TREE, folder))
