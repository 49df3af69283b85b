"""Mockups of a project -> pictures to lay over its pages, drawn once and one at a time.

However many ask at once, one is drawn, and the others get the same bytes.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path

import anyio
import anyio.to_thread

from riffler.preview.overlay import cutlist_of, drawn
from riffler.project.project import Project

#: Pictures that are kept: a page has a wide mockup and a narrow one.
KEPT = 4

#: Bytes that are handed over at a time, so that none wait in memory for who reads slowly.
PIECE = 65_536


@dataclass
class Pictures:
    """Pictures by name, kept for as long as their files stay as they are."""

    root: Path
    _known: dict[str, tuple[object, bytes]] = field(default_factory=dict)
    _one: anyio.Lock = field(default_factory=anyio.Lock)

    async def get(self, name: str) -> bytes | None:
        """A picture; None where there is none of that name. Raises RifflerError for mistakes."""
        async with self._one:
            return await anyio.to_thread.run_sync(self._get, name)

    def _get(self, name: str) -> bytes | None:
        project = Project.at(self.root)
        file = cutlist_of(project, name)
        if file is None or not file.mockup_path.is_file():
            return None
        stat = file.mockup_path.stat()
        now = file.mockup_path, stat.st_size, stat.st_mtime_ns
        if name not in self._known or self._known[name][0] != now:
            kept = [item for item in self._known.items() if item[0] != name][1 - KEPT :]
            self._known = {**dict(kept), name: (now, drawn(project, file))}
        return self._known[name][1]


def pieces(data: bytes) -> Iterator[memoryview]:
    """The bytes in pieces, for a response that is sent bit by bit."""
    whole = memoryview(data)
    for at in range(0, len(whole), PIECE):
        yield whole[at : at + PIECE]
