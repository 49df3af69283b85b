"""Operations in other processes: the interpreter runs one thread at a time, of however many.

Encoders let others run meanwhile; judging what they lose is arithmetic on small arrays, which
hardly does.

Workers are threads, and some have a process: decoders, encoders and the compressor let others run
meanwhile; judging what a file lost is arithmetic on small arrays, which hardly does. From the
fourth slice that is searched for on, each worker but one hands such work to a process of its own,
which opens the mockup anew; not where the layers are so large that several copies would fill the
memory. That process ends when its pipe closes, and what it can't do is done here. Decoded layers
are shared by threads, a layer that two want is decoded once, and two threads decode ahead. An SVG
is drawn by one process, under a lock.
"""

from __future__ import annotations

import contextlib
import pickle
from queue import Empty, SimpleQueue
from typing import Any, TypeVar

from riffler import processes
from riffler.jobs.task import Operation
from riffler.workspace import Workspace

Result = TypeVar("Result")

#: Seconds that a process has to end by itself.
PATIENCE = 0.2

#: What the process runs.
_START = "from riffler.jobs.helping import main; main()"


class Helper:
    """One process, which one thread at a time may ask."""

    def __init__(self, workspace: Workspace) -> None:
        self._workspace = workspace
        self._process: processes.Process | None = None

    def start(self) -> None:
        """Start it. An error of the system is left for the first question."""
        with contextlib.suppress(OSError):
            self._process = processes.start_code(_START)
            assert self._process.stdin is not None
            self._process.stdin.write(pickle.dumps(self._workspace))

    def run(self, operation: Operation[Result]) -> Result:
        """Do an operation there; here, when that process is no more. Raises what it raises."""
        try:
            is_done, answer = self._asked(operation)
        except (OSError, EOFError, pickle.UnpicklingError):
            self.close()
            return operation.run(self._workspace)
        if not is_done:
            raise answer
        result: Result = answer
        return result

    def close(self) -> None:
        """End the process."""
        process, self._process = self._process, None
        if process is None:
            return
        if process.stdin is not None:
            with contextlib.suppress(OSError):
                process.stdin.close()
        processes.end(process, PATIENCE)

    def _asked(self, operation: Operation[Result]) -> tuple[bool, Any]:
        """Whether it was done there, and the result or what was raised. Raises EOFError."""
        if self._process is None or not (self._process.stdin and self._process.stdout):
            raise EOFError
        self._process.stdin.write(pickle.dumps(operation))
        self._process.stdin.flush()
        is_done, answer = pickle.load(self._process.stdout)  # noqa: S301 - from our own process
        return bool(is_done), answer


class Helpers:
    """Some processes that threads share; who finds none free works in this one."""

    def __init__(self, workspace: Workspace) -> None:
        self._workspace = workspace
        self._all: list[Helper] = []
        self._free = SimpleQueue[Helper]()

    def start(self, count: int) -> None:
        """Starts `count` processes in the background."""
        for _ in range(count):
            helper = Helper(self._workspace)
            helper.start()
            self._all.append(helper)
            self._free.put(helper)

    def __enter__(self) -> Helpers:
        return self

    def __exit__(self, *raised: object) -> None:
        for helper in self._all:
            helper.close()

    def run(self, operation: Operation[Result]) -> Result:
        """Do an operation wherever there is somebody free. Raises what it raises."""
        try:
            helper = self._free.get_nowait()
        except Empty:
            return self.run_here(operation)
        try:
            return helper.run(operation)
        finally:
            self._free.put(helper)

    def run_here(self, operation: Operation[Result]) -> Result:
        """Do an operation in this process. Raises what it raises."""
        return operation.run(self._workspace)
