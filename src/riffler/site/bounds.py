"""A template from a stranger -> an end, whatever it does: time and memory are bounded.

A sandbox keeps a template from what it should not touch, not from working for ever.
"""

from __future__ import annotations

import contextlib
import signal
import threading
import time
from collections.abc import Iterator
from pathlib import Path
from types import FrameType
from typing import Any

from jinja2.sandbox import SandboxedEnvironment

#: Seconds of processor time for one page; most take a few thousandths.
SECONDS = 4.0

#: Seconds between two looks at how long a thread has worked.
PAUSE = 0.1

#: Bytes that one page may ask for beyond what is in use.
MEMORY = 500_000_000

#: A power with more of an exponent takes time that nothing can interrupt.
LARGEST_POWER = 1_000


class TooMuchError(Exception):
    """The template took too long or asked for too much."""


class TooLongError(TooMuchError):
    """A page took too long; raised in its thread from outside, which gives it no message."""

    def __str__(self) -> str:
        return f"The page was not done after {SECONDS:g} s."


class Environment(SandboxedEnvironment):
    """A sandbox that works out no huge powers."""

    intercepted_binops = frozenset({"**"})

    def call_binop(self, context: Any, operator: str, left: Any, right: Any) -> Any:  # noqa: ANN401 - Jinja's own signature
        """Work out `left ** right`. Raises TooMuchError for a huge one."""
        if abs(right) > LARGEST_POWER or abs(left) > 10**LARGEST_POWER:
            raise TooMuchError("This power is too large.")
        return super().call_binop(context, operator, left, right)


@contextlib.contextmanager
def bounded() -> Iterator[None]:
    """Raises TooMuchError in the work inside when it takes too long or too much.

    Time is bounded where the system counts that of the processor, memory where it tells it.
    """
    with _bounded_memory(), _bounded_time():
        try:
            yield
        except MemoryError as error:
            raise TooMuchError(f"The page needs more than {MEMORY // 10**6} MB.") from error
        except RecursionError as error:
            raise TooMuchError("The template leads back to itself.") from error


@contextlib.contextmanager
def _bounded_time() -> Iterator[None]:
    if threading.current_thread() is not threading.main_thread():
        with _bounded_thread():
            yield
        return
    if not hasattr(signal, "SIGPROF"):
        yield
        return

    def stop(_: int, __: FrameType | None) -> None:
        raise TooLongError

    before = signal.signal(signal.SIGPROF, stop)
    signal.setitimer(signal.ITIMER_PROF, SECONDS, 0.2)
    try:
        yield
    finally:
        signal.setitimer(signal.ITIMER_PROF, 0)
        signal.signal(signal.SIGPROF, before)


@contextlib.contextmanager
def _bounded_thread() -> Iterator[None]:
    """Bounds the processor time of a thread: signals go to the main one alone."""
    if not hasattr(time, "pthread_getcpuclockid"):
        yield
        return
    number, over = threading.get_ident(), threading.Event()
    clock = time.pthread_getcpuclockid(number)
    until = time.clock_gettime(clock) + SECONDS

    def watch() -> None:
        while not over.wait(PAUSE):
            if time.clock_gettime(clock) > until:
                _raise_in(number, TooLongError)

    watcher = threading.Thread(target=watch, daemon=True)
    watcher.start()
    try:
        yield
    finally:
        over.set()
        watcher.join()
        _raise_in(number, None)


def _raise_in(thread: int, error: type[Exception] | None) -> None:
    """Raises an error in another thread, or takes that back. CPython's SetAsyncExc."""
    import ctypes

    pointer = ctypes.py_object(error) if error is not None else None
    ctypes.pythonapi.PyThreadState_SetAsyncExc(ctypes.c_ulong(thread), pointer)


@contextlib.contextmanager
def _bounded_memory() -> Iterator[None]:
    try:
        import resource

        pages = int(Path("/proc/self/statm").read_text("ascii").split()[0])
        soft, hard = resource.getrlimit(resource.RLIMIT_AS)
        wanted = pages * resource.getpagesize() + MEMORY
        if soft != resource.RLIM_INFINITY:
            wanted = min(wanted, soft)
        resource.setrlimit(resource.RLIMIT_AS, (wanted, hard))
    except (ImportError, OSError, ValueError):
        yield
        return
    try:
        yield
    finally:
        resource.setrlimit(resource.RLIMIT_AS, (soft, hard))
