"""What somebody asks to be compared -> versions that are open, compared, with what they touch."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from contextlib import ExitStack, contextmanager
from dataclasses import dataclass
from pathlib import Path

from riffler.changes.comparison import Changed, changed
from riffler.changes.touching import Surroundings, Touched, touched
from riffler.cutlist.file import CutlistFile
from riffler.errors import RifflerError
from riffler.files import as_typed
from riffler.workspace import Opened, Workspace, kept
from riffler.workspace.pages import page_of
from riffler.workspace.workspace import cutlists_for


@dataclass(frozen=True)
class Asked:
    """One comparison. `is_kept` says that the older version is the one that was last cut.

    `narrow` is the mockup of the same page for small windows, as typed.
    """

    changed: Changed
    touched: tuple[Touched, ...]
    files: tuple[Path, Path]
    is_kept: bool
    narrow: str | None = None


@contextmanager
def two_files(workspace: Workspace, old: Path, new: Path) -> Iterator[list[Asked]]:
    """Two files compared. Raises MockupError for one that can't be read."""
    newer = workspace.open(new)
    older = _opened_as(workspace, old, newer.cutlist)
    yield [_asked(workspace, older, newer, new, (old, new), is_kept=False)]


@contextmanager
def since_cut(
    workspace: Workspace, paths: list[Path], *, earlier: bool = False
) -> Iterator[list[Asked]]:
    """Mockups of a project, or all of them, against the versions that were last cut.

    With `earlier` against those before. Raises RifflerError where none is kept.
    """
    project = workspace.project
    with ExitStack() as stack:
        requests = []
        all_opened = workspace.meant(paths)
        for newer in all_opened:
            path = newer.mockup.path
            before = kept.before(project, path, earlier=earlier)
            if before is None:
                if paths or len(all_opened) == 1:
                    raise _nothing_kept(path, earlier=earlier)
                continue
            old = stack.enter_context(kept.restored(project, path, before))
            older = _opened_as(workspace, old, newer.cutlist)
            requests.append(_asked(workspace, older, newer, path, (path, path), is_kept=True))
        if not requests:
            raise _nothing_kept(None, earlier=earlier)
        yield requests


def _nothing_kept(path: Path | None, *, earlier: bool) -> RifflerError:
    name = as_typed(path) if path else "any mockup"
    which = "An older version" if earlier else "A version"
    return RifflerError(
        f"{which} of {name} is not kept yet.",
        "Each riffler cut keeps the one that it cuts. Or say both: riffler changes OLD NEW",
    )


def _opened_as(workspace: Workspace, path: Path, file: CutlistFile | None) -> Opened:
    """An older version as the cutlist of the newer one has it, where that fits."""
    try:
        return workspace.open(path, file.cutlist.canvas if file else None, file)
    except RifflerError:
        if file is None:
            raise
        return workspace.open(path, file.cutlist.canvas)


def _asked(
    workspace: Workspace,
    older: Opened,
    newer: Opened,
    path: Path,
    files: tuple[Path, Path],
    *,
    is_kept: bool,
) -> Asked:
    found_changed = changed(workspace, older, newer)
    project = workspace.project if workspace.has_project else None
    cutlists = tuple(cutlists_for(project, path)) or tuple(cutlists_for(project, files[0]))
    all_opened = list(workspace.every()) if cutlists and project else []
    page = page_of(newer, all_opened) if all_opened else ""
    around = Surroundings(project, cutlists, found_changed.old, page)
    narrow = _narrow(newer, all_opened, page)
    return Asked(found_changed, tuple(touched(found_changed, around)), files, is_kept, narrow)


def _narrow(newer: Opened, all_opened: Sequence[Opened], page: str) -> str | None:
    """The mockup of the same page for small windows, where this is not one itself."""
    if newer.cutlist is None or newer.cutlist.label:
        return None
    other_all_opened = (
        opened
        for opened in all_opened
        if opened.cutlist and opened.cutlist.label and page_of(opened, all_opened) == page
    )
    opened = next(other_all_opened, None)
    return as_typed(opened.mockup.path) if opened else None
