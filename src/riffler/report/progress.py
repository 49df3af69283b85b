"""A progress bar on standard error, for what takes longer than a moment."""

from __future__ import annotations

import sys
import time
from types import TracebackType

from riffler.plain import clean

#: Seconds before a bar appears: shorter work needs none.
PATIENCE = 0.5


class Progress:
    """Shows how far a job is, with the name of what is being worked on."""

    def __init__(self, verb: str, *, is_shown: bool = True) -> None:
        self._verb = verb
        self._is_shown = is_shown and sys.stderr.isatty()
        self._began = time.monotonic()
        self._width = 0

    def __enter__(self) -> Progress:
        return self

    def __exit__(
        self,
        kind: type[BaseException] | None,
        error: BaseException | None,
        trace: TracebackType | None,
    ) -> None:
        self._draw("")

    def __call__(self, name: str, done: int, total: int) -> None:
        """Say that `name` comes next, after `done` of `total`."""
        if self._is_shown and time.monotonic() - self._began >= PATIENCE:
            filled = 24 * done // max(1, total)
            bar = "━" * filled + "─" * (24 - filled)
            self._draw(f"  {self._verb} {bar} {done} of {total}  {clean(name)}")

    def _draw(self, text: str) -> None:
        if self._width or text:
            sys.stderr.write("\r" + text.ljust(self._width) + ("" if text else "\r"))
            sys.stderr.flush()
        self._width = len(text)
