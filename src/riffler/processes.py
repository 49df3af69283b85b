"""What is to run beside us -> a process, started in the one way there is.

A project or a mockup brings no code: Python runs without the current folder, without what the
environment adds to its imports and without a user's own folder of packages (`-I`), and without what
files among the installed packages add (`-S`); where it may import from is said to it. Programs of
the system are found in folders with a whole path, never in the current one.
"""

from __future__ import annotations

import contextlib
import os
import shutil
import signal
import site
import subprocess
import sys
from collections.abc import Iterable, Mapping, Sequence
from importlib.machinery import PathFinder
from pathlib import Path
from typing import TypeAlias

Process: TypeAlias = subprocess.Popen[bytes]
"""A process that runs beside us."""

#: Seconds in which a command shows whether it works.
PATIENCE = 5.0

#: How Python is isolated. Python's "Command line and environment", 1.1.3.
ISOLATED = ("-I", "-S")

#: Lets a process import from folders that are said to it, and from no other.
_FROM = (
    "import sys; said = sys.argv.pop(1).split('\\n'); sys.path += said; "
    "from riffler import processes; processes.SAID += said; "
)

#: The folders that were said to this process, where it is such a one.
SAID: list[str] = []


def start(
    *arguments: str, folder: Path | None = None, stdin: int = subprocess.PIPE, bufsize: int = -1
) -> Process:
    """Starts our Python, isolated, in the current folder or another; its answers come in a pipe.

    It leads a group of its own, which `end` ends whole. Raises OSError where it can't be started.
    """
    return subprocess.Popen(  # noqa: S603 - our own interpreter, nothing typed
        [sys.executable, *ISOLATED, *arguments],
        cwd=folder,
        stdin=stdin,
        stdout=subprocess.PIPE,
        stderr=subprocess.DEVNULL,
        bufsize=bufsize,
        start_new_session=True,
    )


def start_code(
    code: str, *arguments: str, folder: Path | None = None, stdin: int = subprocess.PIPE
) -> Process:
    """Starts a line of our code, which may import this program and what it needs."""
    packages = "\n".join(installed())
    return start("-c", _FROM + code, packages, *arguments, folder=folder, stdin=stdin)


def kill(process: Process) -> None:
    """Ends a process with all that it started, at once."""
    started = family(process.pid)
    with contextlib.suppress(OSError):
        if hasattr(os, "killpg"):
            os.killpg(process.pid, signal.SIGKILL)
        process.kill()
    kill_all(started)


def kill_all(numbers: Iterable[int]) -> None:
    """Ends processes by their numbers, where they still run."""
    for number in numbers:
        with contextlib.suppress(OSError):
            os.kill(number, signal.SIGKILL)


def family(number: int, children: Mapping[int, Sequence[int]] | None = None) -> list[int]:
    """A process and all that it started and that runs; nothing where the system does not tell.

    Who asks more than once in a moment says the `children` there are.
    """
    children = children_of_all() if children is None else children
    result = [number] if children else []
    for value in result:
        result += children.get(value, ())
    return result


def children_of_all() -> dict[int, list[int]]:
    """What each process started, as far as it runs; nothing where the system does not tell.

    Linux, proc(5): the fourth field of `stat` is the parent.
    """
    children: dict[int, list[int]] = {}
    for name in os.listdir("/proc") if Path("/proc/self/stat").exists() else ():  # noqa: PTH208
        if name.isdigit():
            with contextlib.suppress(OSError, ValueError, IndexError):
                children.setdefault(int(_told(name)[1]), []).append(int(name))
    return children


def _told(number: int | str) -> list[bytes]:
    """What `stat` tells of a process from its third field on. Linux, proc(5)."""
    with open(f"/proc/{number}/stat", "rb") as file:  # noqa: PTH123 - a hundred files
        return file.read().rpartition(b")")[2].split()


def spent(number: int) -> int | None:
    """Processor time that a process has used, in ticks of the system; None where it is not told.

    Linux, proc(5): the 14th and 15th field of `stat`.
    """
    try:
        fields = _told(number)
        return int(fields[11]) + int(fields[12])
    except (OSError, ValueError, IndexError):
        return None


def works(command: Sequence[str]) -> bool:
    """Whether a command of the system comes to a good end, at once."""
    try:
        process = subprocess.run(command, capture_output=True, timeout=PATIENCE, check=False)  # noqa: S603
    except (OSError, subprocess.TimeoutExpired):
        return False
    return process.returncode == 0


def end(process: Process, patience: float = 0.0) -> int:
    """Ends a process that nobody listens to any more; returns the code it ended with.

    It has so many seconds to come to its end by itself.
    """
    if patience:
        with contextlib.suppress(subprocess.TimeoutExpired):
            process.wait(patience)
    kill(process)
    for pipe in (process.stdin, process.stdout):
        if pipe is not None:
            with contextlib.suppress(OSError):
                pipe.close()
    return process.wait()


def installed() -> list[str]:
    """The folders in which this program and what it needs are installed.

    None that the current folder or the environment adds.
    """
    if SAID:
        return SAID
    ours = str(Path(__file__).parents[1])
    known = [*site.getsitepackages(), ours]
    own = site.getusersitepackages() if site.ENABLE_USER_SITE else ""
    if own in sys.path and Path(own).is_dir():
        known.append(own)
    return list(dict.fromkeys(known))


def holding(package: str) -> list[str]:
    """The one folder of those in which a package is installed, or none."""
    return [path for path in installed() if PathFinder.find_spec(package, [path])][:1]


def program(names: Sequence[str]) -> str | None:
    """The path of the first program that is installed; None where none is.

    Folders of PATH that are said from the current one do not count: it may be a stranger's.
    """
    folders = [part for part in os.get_exec_path() if Path(part).is_absolute()]
    where = os.pathsep.join(folders)
    return next((path for name in names if (path := shutil.which(name, path=where))), None)
