"""A browser that is asked something -> the same, ended when it takes too long or too much.

A page may keep its browser busy for ever, or fill the memory. Processor time counts, so that a page
gets the same answer on a busy machine; the clock only for who waits and does nothing.
"""

from __future__ import annotations

import contextlib
import os
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from riffler import processes

#: Seconds of processor time that the browser has for one question, and for all about one page.
ONCE, ALTOGETHER = 20.0, 240.0

#: Seconds by the clock after which one question is given up, whatever the browser did.
WAITED = 75.0

#: Bytes of its own that all processes of the browser may take together. A page of the longest that
#: is looked at takes a third of it.
MEMORY = 2_500_000_000

#: Seconds between two looks.
PAUSE = 0.25

#: Tells a browser's first process, which has been told how it is driven, from those it starts.
_FIRST, _OTHERS = b"--remote-debugging-pipe", b"--type="


class Guard:
    """Watches the browser that this process started; `reason` says why it was ended."""

    def __init__(self) -> None:
        self.reason = ""
        self._asked: float | None = None
        self._end = threading.Event()
        self._begun = self._first = 0.0
        self._thread = threading.Thread(target=self._watch, daemon=True)

    def __enter__(self) -> Guard:
        self._thread.start()
        return self

    def __exit__(self, *raised: object) -> None:
        self._end.set()
        self._thread.join()

    @contextmanager
    def page(self) -> Iterator[None]:
        """All that is asked about one page."""
        self._first = -1.0
        yield

    @contextmanager
    def asking(self) -> Iterator[None]:
        """One question. The browser is ended when it has no answer in time."""
        self._begun = -1.0
        self._asked = time.monotonic()
        try:
            yield
        finally:
            self._asked = None

    def _watch(self) -> None:
        while not self._end.wait(PAUSE):
            if self.reason:
                return
            asked = self._asked
            family = _browser()
            if not family:  # not there yet, or not to be read at this moment
                continue
            spent = _processor_time(family)
            if self._first < 0:
                self._first = spent
            begun = self._begun  # the next question may begin meanwhile
            if begun < 0:
                begun = self._begun = spent
            if _own_memory(family) > MEMORY:
                self._stop(family, f"takes more than {MEMORY / 1e9:g} GB of memory")
            elif asked is not None:
                if spent - begun > ONCE:
                    self._stop(family, f"keeps the browser busy for more than {ONCE:g} s")
                elif spent - self._first > ALTOGETHER:
                    self._stop(family, f"takes the browser more than {ALTOGETHER:g} s altogether")
                elif time.monotonic() - asked > WAITED:
                    self._stop(family, f"gives no answer in {WAITED:g} s")

    def crashed(self, _: object = None) -> None:
        """The page's part of the browser is gone, and would never answer."""
        self._stop(_browser(), "makes the browser fail")

    def _stop(self, family: list[int], reason: str) -> None:
        self.reason = reason
        processes.kill_all(family)


def _browser() -> list[int]:
    """The processes of the browser that this one started."""
    children = processes.children_of_all()
    for number in processes.family(os.getpid(), children):
        with contextlib.suppress(OSError):
            command_line = Path(f"/proc/{number}/cmdline").read_bytes()
            if _FIRST in command_line and _OTHERS not in command_line:
                return processes.family(number, children)
    return []


def _processor_time(numbers: list[int]) -> float:
    """Seconds that processes have run, those that they waited for included. proc(5), `stat`."""
    ticks = 0
    for number in numbers:
        with contextlib.suppress(OSError, ValueError, IndexError):
            fields = Path(f"/proc/{number}/stat").read_text(errors="replace").rpartition(")")[2]
            ticks += sum(map(int, fields.split()[11:15]))
    return ticks / os.sysconf("SC_CLK_TCK") if ticks else 0.0


def _own_memory(numbers: list[int]) -> int:
    """Bytes that processes alone have. proc(5), `status`: RssAnon."""
    kilobytes = 0
    for number in numbers:
        with contextlib.suppress(OSError, ValueError, IndexError):
            status = Path(f"/proc/{number}/status").read_text(errors="replace")
            kilobytes += int(status.partition("RssAnon:")[2].split()[0])
    return 1024 * kilobytes
