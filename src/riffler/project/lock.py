"""One run at a time reads, changes and writes a project's files; the others wait for their turn."""

from __future__ import annotations

import contextlib
import os
import time
from collections.abc import Iterator
from pathlib import Path

from riffler.errors import OutputError
from riffler.files import as_typed
from riffler.project.places import LOCK
from riffler.project.project import Project

#: Seconds to wait for another run, and between two looks.
PATIENCE, PAUSE = 30.0, 0.02


@contextlib.contextmanager
def locked(project: Project | None, *, dry_run: bool = False) -> Iterator[None]:
    """Be the only one who writes in this project; without one, and in a dry run, nobody waits.

    The system holds the lock for as long as the process lives, so a killed run leaves none behind;
    the file says who has it. Not for a thread that has it already. Raises OutputError when another
    run has it for too long, or the work folder can't be written.
    """
    if project is None or dry_run:
        yield
        return
    path = project.work / LOCK
    try:
        project.work.mkdir(exist_ok=True)
        file = os.open(path, os.O_RDWR | os.O_CREAT | getattr(os, "O_NOFOLLOW", 0), 0o666)
    except OSError as error:
        raise OutputError(f"{as_typed(path)} can't be written: {error.strerror}.") from error
    try:
        _wait(file, path)
        with contextlib.suppress(OSError):  # on a full disk nobody is told who has it
            os.ftruncate(file, 0)
            os.pwrite(file, str(os.getpid()).encode(), 0)
        yield
    finally:
        os.close(file)


def _wait(file: int, path: Path) -> None:
    until = time.monotonic() + PATIENCE
    while not _take(file):
        if time.monotonic() > until:
            holder = os.pread(file, 20, 0).decode(errors="replace") or "unknown"
            raise OutputError(
                f"Another riffler (process {holder}) has been writing here for {PATIENCE:.0f} s.",
                f"Wait for it, or end it. It holds {as_typed(path)}.",
            )
        time.sleep(PAUSE)


def _take(file: int) -> bool:
    """Take the lock if it is free; True as well on systems that know none."""
    try:
        import fcntl
    except ImportError:
        return True
    try:
        fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except BlockingIOError:
        return False
    return True
