"""Changes in a project -> what was made anew because of them, told to whoever listens."""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager
from pathlib import Path

from riffler.cutting.cut import cut
from riffler.cutting.early import early
from riffler.errors import RifflerError, WrittenError
from riffler.preview.news import News
from riffler.project.project import Project
from riffler.site.build import build
from riffler.workspace import Workspace

#: Milliseconds in which changes count as one, and after which the watch looks whether to end.
TOGETHER, LOOK = 50, 400

#: Seconds that are waited for a thread to end: it may be encoding, and leaves no file in half.
PAUSE = 0.1

#: Folders whose changes need no cut.
PAGES = ("pages", "styles", "data", "scripts")


class Making:
    """Builds what changed at once, and cuts it as soon as it can, until it is ended.

    Two threads: one watches, shows changed pictures before they are encoded, and builds pages; the
    other cuts, which takes longer, so that no change waits for an earlier one's best encoding.
    """

    def __init__(self, root: Path, news: News, built: Callable[[], None] = lambda: None) -> None:
        """`built` is called when pages were built anew."""
        self._root, self._news, self._built = root, news, built
        self._end, self._to_cut = threading.Event(), threading.Event()
        self._wrong: dict[str, str] = {}
        self._threads = [
            threading.Thread(target=work, daemon=True) for work in (self._watch, self._cut_all)
        ]

    def start(self) -> None:
        """Make everything once, then watch."""
        self._cut()
        self._build()
        for thread in self._threads:
            thread.start()

    def end(self) -> None:
        """Stop watching."""
        self._end.set()
        self._to_cut.set()
        self._news.end()
        for thread in self._threads:
            thread.join(PAUSE)

    def _watch(self) -> None:
        from watchfiles import watch

        for changes in watch(
            self._root,
            debounce=TOGETHER,
            step=20,
            rust_timeout=LOOK,
            stop_event=self._end,
            watch_filter=lambda _, path: self._counts(Path(path)),
            raise_interrupt=False,
        ):
            if any(self._is_for_slices(Path(path)) for _, path in changes):
                self._show_early()
                self._to_cut.set()
            else:
                self._build()

    def _cut_all(self) -> None:
        """Cut and build whenever it is asked for; once for all that came meanwhile."""
        while self._to_cut.wait() and not self._end.is_set():
            self._to_cut.clear()
            self._cut()
            if not self._to_cut.is_set():
                self._build()

    def _counts(self, path: Path) -> bool:
        parts = path.relative_to(self._root).parts if path.is_relative_to(self._root) else ()
        out = Project.at(self._root).out if self._has_settings() else self._root / "out"
        hidden = any(part.startswith(".") or part.endswith("~") for part in parts)
        return bool(parts) and not hidden and not path.is_relative_to(out)

    def _has_settings(self) -> bool:
        try:
            Project.at(self._root)
        except RifflerError:
            return False
        return True

    def _is_for_slices(self, path: Path) -> bool:
        return path.relative_to(self._root).parts[0] not in PAGES

    def _show_early(self) -> None:
        """Changed pictures as they are drawn, in the place of those that are to be cut."""
        with self._told_as("cut"):
            if pictures := early(Workspace(Project.at(self._root))):
                self._news.early = pictures
                self._tell(pictures)

    def _cut(self) -> None:
        with self._told_as("cut"):
            published = cut(Workspace(Project.at(self._root)), keeps=False)
            if not self._to_cut.is_set():
                self._news.early = {}
            self._tell(asset.file for asset in published.written)

    def _build(self) -> None:
        with self._told_as("build"):
            published = build(Project.at(self._root))
            self._tell(asset.file for asset in published.written)
            if published.written:
                self._built()

    def _tell(self, files: Iterable[str]) -> None:
        self._news.tell(files, next(iter(self._wrong.values()), ""))

    @contextmanager
    def _told_as(self, work: str) -> Iterator[None]:
        """What is wrong is news until the same work goes well."""
        before = self._wrong.pop(work, "")
        try:
            yield
        except RifflerError as error:
            self._news.early = {}
            self._wrong[work] = f"{_place(error)}{error.message}\n{error.advice}".strip()
            self._tell(())
        else:
            if before:
                self._tell(())


def _place(error: RifflerError) -> str:
    """Where a mistake is, as people write places."""
    place = error.place if isinstance(error, WrittenError) else None
    if place is None:
        return ""
    return f"{place.path.name}, line {place.line}: " if place.line else f"{place.path.name}: "
