"""Built pages -> how well they fit their mockups, measured beside all else and told as news.

`riffler fit` runs in a process of its own for each page that somebody looked at, the last one
first: it takes seconds, and what is saved meanwhile ends it. Where there is no browser to measure
with, nothing is told.
"""

from __future__ import annotations

import json
import re
import subprocess
import threading
from pathlib import Path
from typing import Any

from riffler import processes
from riffler.preview.news import News

#: Seconds without a change before anything is measured, and that it may take.
QUIET, PATIENCE = 0.5, 120.0

#: Seconds that are waited for the thread to end.
PAUSE = 0.1

#: Pages that are measured again, of those that were looked at; what their names are made of.
MOST, _NAME = 4, re.compile(r"\w[\w-]*")

#: What measures: the program itself.
_START = "from riffler.__main__ import main; main()"

#: Exit codes of a measurement that came to its end.
MEASURED = (0, 1)


class Fitting:
    """Measures the pages that are looked at whenever it is asked to; only the last time counts."""

    def __init__(self, root: Path, news: News) -> None:
        self._root, self._news = root, news
        self._asked, self._end = threading.Event(), threading.Event()
        self._thread = threading.Thread(target=self._run, daemon=True)
        self._running: processes.Process | None = None
        self._pages: list[str] = []

    def start(self) -> None:
        """Wait to be asked."""
        self._thread.start()

    def look_at(self, page: str) -> None:
        """Somebody looks at a page: it is measured before others, now if it was not yet."""
        is_new = page not in self._pages
        if _NAME.fullmatch(page):
            self._pages = [page, *(one_page for one_page in self._pages if one_page != page)][:MOST]
            if is_new:
                self.ask()

    def ask(self) -> None:
        """Pages were built anew: measure them, and no longer those that were."""
        self._asked.set()
        if (running := self._running) is not None:
            processes.kill(running)

    def end(self) -> None:
        """Measure no more."""
        self._end.set()
        self.ask()
        self._thread.join(PAUSE)

    def _run(self) -> None:
        while self._asked.wait() and not self._end.is_set():
            self._asked.clear()
            if self._asked.wait(QUIET):
                continue
            for page in tuple(self._pages):
                result = self._measured(page)
                if self._asked.is_set():
                    break
                if result is not None:
                    self._news.tell_fits(result)

    def _measured(self, page: str) -> dict[str, Any] | None:
        """What `riffler fit` says of a page; None where it can't, or was ended."""
        self._running = process = processes.start_code(
            _START, "fit", "--json", page, folder=self._root, stdin=subprocess.DEVNULL
        )
        try:
            output, _ = process.communicate(timeout=PATIENCE)
        except subprocess.TimeoutExpired:
            processes.kill(process)
            output, _ = process.communicate()
        code, self._running = process.returncode, None
        if code not in MEASURED:
            return None
        return {Path(page["page"]).stem: _told(page) for page in json.loads(output)["pages"]}


def _told(page: dict[str, Any]) -> dict[str, Any]:
    """A page in a few numbers, and what is wrong with it, the worst first."""
    wrong = [
        {"name": one["thing"].rpartition("/")[2], "says": one["says"]} for one in page["findings"]
    ]
    return {
        "fitting": page["fitting"],
        "things": page["things"],
        "findings": wrong[:8],
        "more": max(0, len(wrong) - 8),
    }
