"""What is to follow a new version -> the same project in a copy, cut and built, before it is so.

What goes wrong there would have gone wrong in the project: it is said of the project's own files,
and nothing is written.

A new version is rehearsed: cut and built in a copy that shares the project's cache, so that nothing
is made twice; only then is anything written.
"""

from __future__ import annotations

from riffler.changes.copying import copied
from riffler.changes.refreshing import refresh
from riffler.changes.taking import Taken, copy_sources
from riffler.cutting.cut import Progress
from riffler.files import write_whole
from riffler.jobs.cache import Cache
from riffler.output.ledger import Ledger
from riffler.project.places import CACHE
from riffler.project.project import Project

#: Folders that pages are built from, beside what roughing out reads.
PAGES = ("pages", "styles", "data", "scripts")


def rehearse(
    project: Project, taken: Taken, progress: Progress | None = None, *, dry_run: bool = False
) -> None:
    """Cut and build the project as it will be, in a copy; what is cut there is kept in the cache.

    A dry run keeps nothing.

    Raises RifflerError, with nothing written, for what stands in the way.
    """
    if not taken.mockups:
        return
    with copied(project) as copy:
        copy_sources(project, copy, PAGES)
        for edit in (*taken.edits, *taken.new):
            write_whole(copy / project.relative(edit.file), edit.after.encode(), is_lasting=False)
        cache = Cache(project.work / CACHE, is_only_read=dry_run)
        assets = Ledger.read(project.out).assets
        refresh(Project.at(copy), assets, progress, cache)
