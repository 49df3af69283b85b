"""A project -> its files in the output folder: plan the tasks, run them, publish the results."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence, Set
from contextlib import closing, contextmanager
from dataclasses import replace
from pathlib import Path
from typing import Any

from riffler.cutlist.file import CutlistFile
from riffler.cutting import unchanged
from riffler.cutting.kinds import KINDS
from riffler.cutting.pending import described, split
from riffler.errors import RifflerError, SettingError
from riffler.jobs.cache import Cache
from riffler.jobs.runner import run
from riffler.jobs.task import Task
from riffler.output.asset import Asset, Region
from riffler.output.ledger import Ledger
from riffler.output.publish import Made, Published, publish
from riffler.project.lock import locked
from riffler.project.places import CACHE
from riffler.project.project import Project
from riffler.workspace import Workspace, kept, lying
from riffler.workspace.prepare import Wanted, known_names, named, prepare, read_cutlists

#: Told the name of a slice before it is cut, and how many are cut of how many.
Progress = Callable[[str, int, int], None]


def cut(
    workspace: Workspace,
    names: Sequence[str] = (),
    *,
    force: bool = False,
    dry_run: bool = False,
    workers: int | None = None,
    progress: Progress | None = None,
    keeps: bool = True,
    may_leave: bool = False,
    cache: Cache | None = None,
) -> Published:
    """Make all that comes of the named slices, or of all; write what changed and the ledger.

    What an earlier run made from the same is taken from the cache. `workers` run side by side, one
    for each processor unless said; what they make does not depend on how many they are. A dry run
    makes nothing: what no earlier run made is pending. With `keeps`, what was cut is kept for later
    versions to be compared with; with `may_leave` layers may have left their slices since. With a
    `cache` of another project that one serves. Raises RifflerError, with nothing written, for any
    mistake in cutlists and mockups.
    """
    project = workspace.project
    files = read_cutlists(project)
    names = _named(names, files)
    is_whole = not names and not dry_run and cache is None
    cache = cache or Cache(project.work / CACHE, is_only_read=dry_run)
    workspace.memory.add(cache.boxes())
    mockups = [file.mockup_path for file in files] + project.settings.icon_files(project.root)
    read = unchanged.notes(project, mockups) if is_whole else {}
    cutlists = prepare(workspace, files)
    wanted = Wanted(workspace, cutlists, frozenset(names or known_names(files)))
    if not (force or may_leave):
        _refuse_moved(wanted)
    all_tasks = [task for plan in KINDS for task in plan(wanted)]
    tasks, pending = split(all_tasks, cache, workspace) if dry_run else (all_tasks, [])
    made_files, regions = _products(wanted, cache, tasks, workers, progress)
    cache.keep_boxes(workspace.memory)
    with locked(project, dry_run=dry_run):
        ledger = Ledger.read(project.out)
        coming = {task.slice for task in pending}
        answered, words = _answered_for(wanted, ledger, regions, coming, is_whole=not names)
        published = publish(
            project, ledger, made_files, answered, words=words, force=force, dry_run=dry_run
        )
        if not dry_run:
            lying.remember(project, cutlists, wanted.names)
        if is_whole:
            cache.prune()
            _noted(project, mockups, len(files), read, keeps=keeps)
    return replace(published, words=list(regions), pending=described(pending))


def _noted(
    project: Project, files: Sequence[Path], mockups: int, read: unchanged.Notes, *, keeps: bool
) -> None:
    """Note what a whole run has read, and with `keeps` so many mockups, the first of `files`."""
    if keeps:
        kept.keep(project, files[:mockups])
        unchanged.remember(project, files, read)


def _refuse_moved(wanted: Wanted) -> None:
    """Raises WrittenError where a layer left its slice since the last cut: nothing is lost yet."""
    lay = lying.known(wanted.workspace.project)
    result = [
        (cutlist, slice_, moved)
        for cutlist, slice_ in wanted.slices()
        if "moved" not in slice_.entry.table.accept
        and (moved := lying.moved(lay, cutlist, slice_)) is not None
    ]
    if result:
        cutlist, slice_, moved = result[0]
        message, advice = lying.complaint(moved, slice_)
        more = f" So it is with {len(result) - 1} more." if len(result) > 1 else ""
        goes_on = "riffler changes --take lets slices follow, riffler cut --force cuts as they lie."
        raise cutlist.file.mistake(slice_.entry, "", message + more, f"{advice} {goes_on}")


def _answered_for(
    wanted: Wanted,
    ledger: Ledger,
    regions: Sequence[Region],
    coming: Set[str | None],
    *,
    is_whole: bool,
) -> tuple[list[Asset], list[Region]]:
    """The ledger's assets that are stale unless they are made again, and all regions from now on.

    A run of some slices answers for those alone, and none for those whose pictures are still
    `coming`.
    """
    assets = (asset for asset in ledger.assets if asset.made_by == "cut")
    cut = [asset for asset in assets if asset.slice not in coming]
    if is_whole:
        return cut, list(regions)
    kept_regions = (region for region in ledger.words if region.slice not in wanted.names)
    return [asset for asset in cut if asset.slice in wanted.names], [*kept_regions, *regions]


def _named(names: Sequence[str], files: Sequence[CutlistFile]) -> list[str]:
    """The slices that are meant. Raises RifflerError for one that is not there.

    A file's name may be meant for another way.
    """
    for name in names:
        if Path(name).suffix and name not in known_names(files):
            advice = f"To cut from a mockup alone: riffler cut {name} --only LAYER -o FILE"
            raise RifflerError(f'There is no slice "{name}".', advice)
    return named(names, files)


def _products(
    wanted: Wanted,
    cache: Cache,
    tasks: Sequence[Task[Any]],
    workers: int | None,
    progress: Progress | None,
) -> tuple[list[Made], list[Region]]:
    """What all tasks give: files, and boxes for live text."""
    files: list[Made] = []
    regions: list[Region] = []
    with closing(run(wanted.workspace, cache, tasks, workers)) as results:
        for index, task in enumerate(tasks):
            with _at_its_line(wanted, task):
                result = next(results)
            if progress is not None:
                progress(task.slice or "the site", index, len(tasks))
            for product in task.products(result, wanted.workspace):
                if isinstance(product, Made):
                    files.append(product)
                else:
                    regions.append(product)
    return files, regions


@contextmanager
def _at_its_line(wanted: Wanted, task: Task[Any]) -> Iterator[None]:
    """Gives errors in a setting of the task's slice the place where that is written."""
    try:
        yield
    except SettingError as error:
        pairs = (pair for pair in wanted.slices() if pair[1].name == task.slice)
        result = next(pairs, None)
        if result is None:
            raise RifflerError(error.message, error.advice) from error
        cutlist, slice_ = result
        raise cutlist.file.mistake(
            slice_.entry, error.setting, error.message, error.advice
        ) from error
