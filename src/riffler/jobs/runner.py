"""Tasks -> their results, side by side and in order; what an earlier run made is not made again."""

from __future__ import annotations

import os
from collections import deque
from collections.abc import Callable, Generator, Iterable, Iterator, Sequence
from concurrent.futures import Future, ThreadPoolExecutor
from functools import partial
from types import TracebackType
from typing import Any, ParamSpec, TypeVar

from riffler.jobs.cache import Cache
from riffler.jobs.helper import Helpers
from riffler.jobs.task import Task, fingerprint
from riffler.workspace import MockupKey, Workspace

Key = TypeVar("Key")
Result = TypeVar("Result")
Given = ParamSpec("Given")

#: Tasks begun for each worker ahead of the one waited for, so that a long one keeps no worker idle;
#: what waits holds no pixels, what is done no more than its files.
AHEAD = 16

#: Long tasks up to which other processes are not worth starting.
FEW = 3

#: Pixels of all layers up to which several processes may hold them.
LIGHT = 60_000_000

#: Tasks from which nearly every layer will be wanted, so that large ones are decoded ahead.
MANY = 20


def run(
    workspace: Workspace, cache: Cache, tasks: Sequence[Task[Any]], workers: int | None = None
) -> Generator[Any, None, None]:
    """The results of tasks, in their order.

    `workers` run side by side, one for each processor unless said; results do not depend on how
    many they are. Raises what an operation raises.
    """
    with Workers(workers) as pool, Helpers(workspace) as helpers:
        digests = [fingerprint(task.operation, workspace) for task in tasks]
        new = [task for task, digest in zip(tasks, digests, strict=True) if not cache.has(digest)]
        helpers.start(min(pool.count, _shareable(workspace, new)) - 1)
        for _, result in pool.in_order(_begun(workspace, cache, tasks, digests, pool, helpers)):
            yield result


def _begun(
    workspace: Workspace,
    cache: Cache,
    tasks: Sequence[Task[Any]],
    digests: Sequence[str],
    pool: Workers,
    helpers: Helpers,
) -> Iterator[tuple[Task[Any], Future[Any]]]:
    """Every task with what it becomes: kept from before, or made now by a worker."""
    warmed: set[MockupKey] = set()
    for task, digest in zip(tasks, digests, strict=True):
        kept = cache.get(digest, task.result)
        if kept is not None:
            yield task, finished(kept)
            continue
        drawing = task.operation.drawing
        mockup = drawing.mockup if drawing is not None else None
        if len(tasks) >= MANY and mockup is not None and mockup not in warmed:
            warmed.add(mockup)
            workspace.renderer(mockup).warm(only_large=True)
        do = helpers.run if task.operation.is_long else helpers.run_here
        yield task, pool.start(_made, cache, digest, partial(do, task.operation))


def _made(cache: Cache, digest: str, make: Callable[[], Result]) -> Result:
    """A result made and kept for the next run."""
    result = make()
    cache.put(digest, result)
    return result


def _shareable(workspace: Workspace, tasks: Sequence[Task[Any]]) -> int:
    """How many tasks are worth another process: none where the mockups are too large for more."""
    long = [task for task in tasks if task.operation.is_long]
    drawings = (task.operation.drawing for task in long)
    mockups = {drawing.mockup for drawing in drawings if drawing is not None}
    layers = (layer for key in mockups for layer in workspace.renderer(key).mockup.walk())
    held = sum(layer.box.area for layer in layers if layer.box and not layer.is_group)
    return len(long) if len(long) > FEW and held <= LIGHT else 0


class Workers:
    """Threads: the encoders and the compressor are native code that lets others run meanwhile."""

    def __init__(self, count: int | None = None) -> None:
        self.count = count or _processors()
        self._pool = ThreadPoolExecutor(self.count, "riffler-worker")

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

    def in_order(
        self, begun: Iterable[tuple[Key, Future[Result]]], ahead: int = AHEAD
    ) -> Iterator[tuple[Key, Result]]:
        """The results as they were begun, `ahead` for each worker before the one waited for."""
        waiting: deque[tuple[Key, Future[Result]]] = deque()
        for pair in begun:
            waiting.append(pair)
            if len(waiting) > ahead * self.count:
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
