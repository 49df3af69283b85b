"""A project -> a folder for a copy of it, in which what goes wrong is said of the project."""

from __future__ import annotations

import re
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import replace
from pathlib import Path

from riffler.errors import RifflerError
from riffler.files import as_typed, real
from riffler.project.project import Project


@contextmanager
def copied(project: Project) -> Iterator[Path]:
    """A folder for a copy, called as the project is; mistakes in it are said of the project."""
    with tempfile.TemporaryDirectory(prefix="riffler-", ignore_cleanup_errors=True) as name:
        copy = real(Path(name)) / project.root.name
        try:
            yield copy
        except RifflerError as error:
            raise _of_project(error, copy, project.root) from error


def _of_project(error: RifflerError, copy: Path, root: Path) -> RifflerError:
    """An error with the project's own paths in it."""
    page = as_typed(root)
    begin = "" if page == "." else f"{page}/"

    def said(text: str) -> str:
        return re.sub(re.escape(str(copy)) + "/?", lambda _: begin, text)

    place = error.place
    if place is not None and place.path.is_relative_to(copy):
        place = replace(place, path=root / place.path.relative_to(copy))
    error.message, error.advice, error.place = said(error.message), said(error.advice), place
    error.args = (error.message,)
    return error
