"""Tasks -> their results, side by side and in order; what an earlier run made is not made again."""

from __future__ import annotations

import os
from collections import deque
from collections.abc import Callable, Generator, Iterable, Iterator, Sequence
from concurrent.futures import Future, ThreadPoolExecutor
from types import TracebackType
from typing import Any, ParamSpec, TypeVar

from riffler.jobs.cache import Cache
from riffler.jobs.task import Operation, Task, fingerprint
from riffler.workspace import MockupKey, Workspace

Key = TypeVar("Key")
Result = TypeVar("Result")
Given = ParamSpec("Given")

#: Pieces of work that wait for each worker: more would only fill memory with pixels.
AHEAD = 2

#: Tasks from which nearly every layer will be wanted, so that large ones are decoded ahead.
MANY = 20


def run(
    workspace: Workspace, cache: Cache, tasks: Sequence[Task[Any]], workers: int | None = None
) -> Generator[Any, None, None]:
    """The results of tasks, in their order.

    `workers` run side by side, one for each processor unless said; results do not depend on how
    many they are. Raises what an operation raises.
    """
    with Workers(workers) as pool:
        for _, result in pool.in_order(_begun(workspace, cache, tasks, pool)):
            yield result


def _begun(
    workspace: Workspace, cache: Cache, tasks: Sequence[Task[Any]], pool: Workers
) -> Iterator[tuple[Task[Any], Future[Any]]]:
    """Every task with what it becomes: kept from before, or made now by a worker."""
    warmed: set[MockupKey] = set()
    for task in tasks:
        digest = fingerprint(task.operation, workspace)
        kept = cache.get(digest, task.result)
        if kept is not None:
            yield task, finished(kept)
            continue
        mockup = task.operation.drawing.mockup
        if len(tasks) >= MANY and mockup not in warmed:
            warmed.add(mockup)
            workspace.renderer(mockup).warm(only_large=True)
        yield task, pool.start(_made, workspace, cache, digest, task.operation)


def _made(workspace: Workspace, cache: Cache, digest: str, operation: Operation[Result]) -> Result:
    """A result made and kept for the next run."""
    result = operation.run(workspace)
    cache.put(digest, result)
    return result


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
        for pair in begun:
            waiting.append(pair)
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
