"""What happened in a preview, numbered -> whoever listens, without a thread for each.

The preview tells news, not pages: `preview/refreshing.py` numbers what was made; an open page asks
for what came after the last it knows, over server-sent events, and swaps styles and pictures by
itself. Of all open pages the one that holds a lock has the line and tells the others: browsers keep
six connections to a host. Who listens holds no thread. A changed picture is shown as it is drawn
until the cut, in a thread beside, has found its best encoding.
"""

from __future__ import annotations

import asyncio
import threading
from collections.abc import Callable, Iterable, Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass, field

#: News that is kept for a page that was away for a moment.
KEPT = 64


@dataclass
class News:
    """What happened, numbered from 1: files of the output that changed, or a mistake.

    `early` are pictures to be shown in the place of files that are still being cut; `fits` is how
    well pages fit their mockups, by page, as far as it was measured. Told from any thread.
    """

    items: list[dict[str, object]] = field(default_factory=list)
    count: int = 0
    early: Mapping[str, bytes] = field(default_factory=dict)
    fits: Mapping[str, object] = field(default_factory=dict)
    is_over: bool = False
    _lock: threading.Lock = field(default_factory=threading.Lock)
    _wake: set[Callable[[], object]] = field(default_factory=set)

    def tell(self, files: Iterable[str], mistake: str = "") -> None:
        """Add an item and wake whoever waits."""
        self._add({"files": sorted(files), "mistake": mistake})

    def tell_fits(self, fits: Mapping[str, object]) -> None:
        """Tell how well pages fit."""
        self.fits = {**self.fits, **fits}
        self._add({"files": [], "mistake": "", "fits": fits})

    def _add(self, item: Mapping[str, object]) -> None:
        with self._lock:
            self.count += 1
            self.items.append({"number": self.count, **item})
            del self.items[:-KEPT]
        self._call()

    def end(self) -> None:
        """Let nobody wait any longer."""
        self.is_over = True
        self._call()

    def _call(self) -> None:
        with self._lock:
            for wake in self._wake:
                wake()

    def after(self, number: int) -> list[dict[str, object]]:
        """What came after an item, as far as it is kept."""
        with self._lock:
            return [item for item in self.items if int(str(item["number"])) > number]

    @contextmanager
    def listening(self) -> Iterator[asyncio.Event]:
        """An event of the running loop that is set whenever there is news."""
        loop, event = asyncio.get_running_loop(), asyncio.Event()

        def wake() -> None:
            loop.call_soon_threadsafe(event.set)

        with self._lock:
            self._wake.add(wake)
        try:
            yield event
        finally:
            with self._lock:
                self._wake.discard(wake)
