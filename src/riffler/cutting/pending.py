"""What a cut would make anew: pictures that no earlier run made from the same."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from riffler.cutting.kinds import KINDS
from riffler.cutting.regions import RegionTask
from riffler.cutting.slices import SliceTask
from riffler.jobs.cache import Cache
from riffler.jobs.task import Task, fingerprint
from riffler.output.publish import Pending
from riffler.project.places import CACHE
from riffler.workspace import Workspace
from riffler.workspace.prepare import Wanted, known_names, prepare, read_cutlists


def is_pending(task: Task[Any], cache: Cache, workspace: Workspace) -> bool:
    """Whether it makes a file, and its result is not known yet."""
    if isinstance(task, RegionTask):
        return False
    return cache.get(fingerprint(task.operation, workspace), task.result) is None


def split(
    tasks: Sequence[Task[Any]], cache: Cache, workspace: Workspace
) -> tuple[list[Task[Any]], list[Task[Any]]]:
    """Tasks whose results are in the cache, and tasks that are pending."""
    pending = [is_pending(task, cache, workspace) for task in tasks]
    return (
        [task for task, is_new in zip(tasks, pending, strict=True) if not is_new],
        [task for task, is_new in zip(tasks, pending, strict=True) if is_new],
    )


def described(tasks: Sequence[Task[Any]]) -> list[Pending]:
    """Tasks as they are reported, each picture once."""
    pending = (
        Pending(task.slice, task.state, task.size)
        if isinstance(task, SliceTask)
        else Pending(task.slice or "the site's icon")
        for task in tasks
    )
    return list(dict.fromkeys(pending))


def changed(workspace: Workspace) -> list[str]:
    """The slices that changed since they were cut, or never were, in the order of the cutlists.

    Nothing is drawn for it. Raises RifflerError for mistakes in cutlists and mockups.
    """
    files = read_cutlists(workspace.project)
    cache = Cache(workspace.project.work / CACHE)
    workspace.memory.add(cache.boxes())
    wanted = Wanted(workspace, prepare(workspace, files), frozenset(known_names(files)))
    tasks = (task for plan in KINDS for task in plan(wanted))
    names = {task.slice for task in tasks if is_pending(task, cache, workspace)}
    return [name for name in known_names(files) if name in names]
