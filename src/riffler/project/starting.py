"""The files of a new, empty project that already builds."""

from __future__ import annotations

from importlib import resources
from pathlib import Path

from riffler.errors import OutputError
from riffler.files import ASIDE, as_typed, files_below, read_whole, sweep, write_whole

#: The blank project in the package.
PACKAGE, TREE = "riffler.project", "blank"


def start(folder: Path) -> list[Path]:
    """Write a new project into `folder` and return its files.

    One that was stopped on the way is finished. Raises OutputError when the folder holds anything
    else already.
    """
    if folder.exists() and not folder.is_dir():
        raise OutputError(f"{as_typed(folder)} is a file.", "Name a folder that is new or empty.")
    if folder.is_dir() and not _is_begun(folder):
        raise OutputError(
            f"{as_typed(folder)} is not empty, so nothing was written.",
            "Name a folder that is new or empty.",
        )
    written = copy_tree(PACKAGE, TREE, folder)
    sweep(folder, is_deep=True)
    return written


def _is_begun(folder: Path) -> bool:
    """Whether a folder holds nothing but a part of what a start writes."""
    with resources.as_file(resources.files(PACKAGE).joinpath(TREE)) as source:
        missing = {path.relative_to(source): read_whole(path) for path in files_below(source)}
    for path in files_below(folder):  # to the first that is another's: it may be a whole disk
        inner = path.relative_to(folder)
        if inner.name.endswith(ASIDE):
            continue
        if inner not in missing or missing.pop(inner) != read_whole(path):
            return False
    return bool(missing)


def is_as_started(folder: Path, name: str) -> bool:
    """Whether a file of a project is one that a new project begins with, untouched."""
    blank, path = resources.files(PACKAGE).joinpath(TREE).joinpath(name), folder / name
    if path.is_symlink() or not path.is_file() or not blank.is_file():
        return False
    return blank.read_bytes() == read_whole(path)


def at_hand() -> str:
    """The rules that every style sheet begins with beside its own: helpers, and for print."""
    sheet = resources.files(PACKAGE).joinpath(TREE, "styles", "site.css")
    return sheet.read_text(encoding="utf-8").partition("\n\n/* Words")[2].join(("/* Words", ""))


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
