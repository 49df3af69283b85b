"""Changes in a project -> what was made anew because of them, told to whoever listens."""

from __future__ import annotations

import threading
from collections.abc import Iterable
from dataclasses import dataclass, field
from pathlib import Path

from riffler.cutting.cut import cut
from riffler.errors import RifflerError, WrittenError
from riffler.project.project import Project
from riffler.site.build import build
from riffler.workspace import Workspace

#: Milliseconds in which changes count as one, and after which the watch looks whether to end.
TOGETHER, LOOK = 50, 400

#: Folders whose changes need no cut.
PAGES = ("pages", "styles", "data", "scripts")

#: News that is kept for a page that was away for a moment.
KEPT = 64


@dataclass
class News:
    """What happened, numbered from 1: files of the output that changed, or a mistake."""

    items: list[dict[str, object]] = field(default_factory=list)
    count: int = 0
    is_over: bool = False
    _changed: threading.Condition = field(default_factory=threading.Condition)

    def tell(self, files: Iterable[str], mistake: str = "") -> None:
        """Add an item and wake whoever waits."""
        with self._changed:
            self.count += 1
            self.items.append({"number": self.count, "files": sorted(files), "mistake": mistake})
            del self.items[:-KEPT]
            self._changed.notify_all()

    def end(self) -> None:
        """Let nobody wait any longer."""
        with self._changed:
            self.is_over = True
            self._changed.notify_all()

    def after(self, number: int, seconds: float) -> list[dict[str, object]]:
        """What came after an item; waits for it so long at the most."""
        with self._changed:
            if self.count <= number and not self.is_over:
                self._changed.wait(seconds)
            return [item for item in self.items if int(str(item["number"])) > number]


class Making:
    """Cuts and builds what changed, in a thread of its own, until it is ended."""

    def __init__(self, root: Path, news: News) -> None:
        self._root, self._news = root, news
        self._end = threading.Event()
        self._thread = threading.Thread(target=self._watch, daemon=True)

    def start(self) -> None:
        """Make everything once, then watch."""
        self._make(is_cut=True)
        self._thread.start()

    def end(self) -> None:
        """Stop watching."""
        self._end.set()
        self._news.end()
        self._thread.join(2)

    def _watch(self) -> None:
        from watchfiles import watch

        for changes in watch(
            self._root, debounce=TOGETHER, step=20, rust_timeout=LOOK, stop_event=self._end,
            watch_filter=lambda _, path: self._counts(Path(path)), raise_interrupt=False,
        ):  # fmt: skip
            self._make(is_cut=any(self._is_for_slices(Path(path)) for _, path in changes))

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

    def _make(self, *, is_cut: bool) -> None:
        """Make anew; what is wrong is news, too."""
        try:
            files = set[str]()
            if is_cut:
                done = cut(Workspace(Project.at(self._root)))
                files |= {asset.file for asset in done.written}
            built = build(Project.at(self._root))
            self._news.tell(files | {asset.file for asset in built.written})
        except RifflerError as error:
            self._news.tell((), f"{_place(error)}{error.message}\n{error.advice}".strip())


def _place(error: RifflerError) -> str:
    """Where a mistake is, as people write places."""
    place = error.place if isinstance(error, WrittenError) else None
    if place is None:
        return ""
    return f"{place.path.name}, line {place.line}: " if place.line else f"{place.path.name}: "
