"""Work done side by side, its results in the order in which it was given."""

from __future__ import annotations

import os
from collections import deque
from collections.abc import Callable, Iterable, Iterator
from concurrent.futures import Future, ThreadPoolExecutor
from types import TracebackType
from typing import ParamSpec, TypeVar

Key = TypeVar("Key")
Result = TypeVar("Result")
Given = ParamSpec("Given")

#: Pieces of work that wait for each worker: more would only fill memory with pixels.
AHEAD = 2


class Workers:
    """Threads: the encoders and the compressor are native code that lets others run meanwhile."""

    def __init__(self, count: int | None = None) -> None:
        self._count = count or _processors()
        self._pool = ThreadPoolExecutor(self._count, "riffler-worker")

    def __enter__(self) -> Workers:
        return self

    def __exit__(
        self,
        kind: type[BaseException] | None,
        error: BaseException | None,
        trace: TracebackType | None,
    ) -> None:
        self._pool.shutdown(wait=True, cancel_futures=True)

    def start(
        self, work: Callable[Given, Result], *args: Given.args, **kwargs: Given.kwargs
    ) -> Future[Result]:
        """Begin a piece of work."""
        return self._pool.submit(work, *args, **kwargs)

    def in_order(self, begun: Iterable[tuple[Key, Future[Result]]]) -> Iterator[tuple[Key, Result]]:
        """The results as they were begun; only a few are begun ahead of the one waited for."""
        waiting: deque[tuple[Key, Future[Result]]] = deque()
        for one in begun:
            waiting.append(one)
            if len(waiting) > AHEAD * self._count:
                key, future = waiting.popleft()
                yield key, future.result()
        for key, future in waiting:
            yield key, future.result()


def _processors() -> int:
    if hasattr(os, "sched_getaffinity"):
        return len(os.sched_getaffinity(0))
    return os.cpu_count() or 1


def finished(result: Result) -> Future[Result]:
    """Something that needed no work."""
    future: Future[Result] = Future()
    future.set_result(result)
    return future
