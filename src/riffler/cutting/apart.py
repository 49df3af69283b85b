"""One kind of what riffler.toml asks for, made and published apart from the rest of a cut.

What is made of several slices, or of none, (icons, sprites, symbols, loaders) is made by a cut of
all slices, and by commands of their own through `cutting/apart.py`. Its assets name no slice.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from typing import Any

from riffler.jobs.cache import Cache
from riffler.jobs.task import Task, fingerprint
from riffler.output.asset import Asset
from riffler.output.ledger import Ledger
from riffler.output.publish import Made, Published, publish
from riffler.project.lock import locked
from riffler.project.places import CACHE
from riffler.workspace import Workspace
from riffler.workspace.prepare import Wanted, known_names, prepare, read_cutlists

Plan = Callable[[Wanted], Iterator[Task[Any]]]


def wanted_of(workspace: Workspace, *, is_sliced: bool = True) -> Wanted:
    """All slices of the project; none are read where nothing is made of them."""
    files = read_cutlists(workspace.project) if is_sliced else []
    return Wanted(workspace, prepare(workspace, files), frozenset(known_names(files)))


def results(workspace: Workspace, tasks: Sequence[Task[Any]]) -> list[Any]:
    """What tasks become, from the cache where that has it."""
    cache = Cache(workspace.project.work / CACHE)
    found_result = []
    for task in tasks:
        digest = fingerprint(task.operation, workspace)
        result = cache.get(digest, task.result)
        if result is None:
            result = task.operation.run(workspace)
            cache.put(digest, result)
        found_result.append(result)
    return found_result


def published(
    workspace: Workspace,
    files: Sequence[Made],
    is_ours: Callable[[Asset], bool],
    *,
    force: bool,
    dry_run: bool,
) -> Published:
    """Write the files; those of the kind that were not made again go."""
    project = workspace.project
    with locked(project, dry_run=dry_run):
        ledger = Ledger.read(project.out)
        old = [asset for asset in ledger.assets if asset.made_by == "cut" and is_ours(asset)]
        return publish(project, ledger, files, old, force=force, dry_run=dry_run)
