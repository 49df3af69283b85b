"""The files of a new, empty project that already builds."""

from __future__ import annotations

from importlib import resources
from pathlib import Path

from riffler.errors import OutputError
from riffler.files import as_typed, write_whole


def start(folder: Path) -> list[Path]:
    """Write a new project into `folder` and return its files.

    Raises OutputError when the folder holds anything already.
    """
    refuse_unless_empty(folder)
    return copy_tree("riffler.project", "blank", folder)


def refuse_unless_empty(folder: Path) -> None:
    """Raises OutputError unless `folder` is missing or empty."""
    if folder.exists() and not folder.is_dir():
        raise OutputError(f"{as_typed(folder)} is a file.", "Name a folder that is new or empty.")
    if folder.is_dir() and any(folder.iterdir()):
        raise OutputError(
            f"{as_typed(folder)} is not empty, so nothing was written.",
            "Name a folder that is new or empty.",
        )


def copy_tree(package: str, tree: str, folder: Path) -> list[Path]:
    """Copy a folder that ships inside `package` to `folder`; returns what was written, in order.

    Files that are there already stay as they are.
    """
    written = []
    with resources.as_file(resources.files(package).joinpath(tree)) as source:
        for path in sorted(source.rglob("*")):
            if path.is_file() and "__pycache__" not in path.parts:
                target = folder / path.relative_to(source)
                if target.exists():
                    continue
                write_whole(target, path.read_bytes())
                written.append(target)
    return written
