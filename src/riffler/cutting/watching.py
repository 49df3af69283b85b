"""A project -> a word each time that something was saved which slices are made of."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from pathlib import Path

from riffler.project.project import Project

#: Milliseconds in which changes that follow each other count as one, and between two looks.
TOGETHER, BETWEEN = 200, 300

#: Folders that slices are not made of.
ELSEWHERE = ("out", "pages", "styles", "data", "scripts")

#: The folder that all is made in.
MADE = ("out",)


def saved(project: Project, elsewhere: Sequence[str] = ELSEWHERE) -> Iterator[None]:
    """One at once, then one for every change in mockups, cutlists, fonts and riffler.toml.

    Of folders that are `elsewhere` no change counts.

    The watch has begun before the first, so that nothing is missed. Ends with KeyboardInterrupt.
    """
    from watchfiles import Change, watch

    apart = [project.folder(name) for name in elsewhere]

    def counts(_: Change, path: str) -> bool:
        changed = Path(path)
        if any(changed.is_relative_to(folder) for folder in apart):
            return False
        parts = changed.relative_to(project.root).parts
        return not any(part.startswith(".") or part.endswith("~") for part in parts)

    is_first = True
    for changes in watch(
        project.root,
        watch_filter=counts,
        debounce=TOGETHER,
        rust_timeout=BETWEEN,
        yield_on_timeout=True,
    ):
        if changes or is_first:
            yield
        is_first = False
