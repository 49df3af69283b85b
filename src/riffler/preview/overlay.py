"""A page of the site -> its mockup as a picture, and what a cutlist has drawn on it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from riffler.cutlist.file import CutlistFile
from riffler.cutlist.resolve import resolve
from riffler.cutting.early import as_png
from riffler.measure.frame import frame_of
from riffler.project.project import Project
from riffler.workspace import Opened, Workspace
from riffler.workspace.pages import page_of


@dataclass(frozen=True)
class Laid:
    """A mockup that is laid over a page: its file, its size in CSS pixels, for which window.

    In CSS pixels: `slices` are boxes with names, `guides` have an axis, a name and a position,
    `columns` begin and end.
    """

    name: str
    width: float
    height: float
    when: str
    slices: tuple[dict[str, Any], ...]
    guides: tuple[tuple[str, str, float], ...] = ()
    columns: tuple[tuple[float, float], ...] = ()


def laid_over(project: Project, page: str) -> list[Laid]:
    """The mockups of a page: the wide one, and those for narrow windows."""
    workspace = Workspace(project)
    all_opened = list(workspace.every())
    return [_laid(opened) for opened in all_opened if page_of(opened, all_opened) == page]


def _laid(opened: Opened) -> Laid:
    by = opened.density or 1.0
    file, size = opened.cutlist, opened.mockup.size
    slices = tuple(resolve(file, opened.renderer)) if file else ()
    boxes = tuple(
        {
            "name": resolved.name,
            "x": resolved.box.x / by,
            "y": resolved.box.y / by,
            "width": resolved.box.width / by,
            "height": resolved.box.height / by,
        }
        for resolved in slices
    )
    when = next((resolved.when for resolved in slices if resolved.when), "")
    guides = tuple((axis, name, at / by) for axis, name, at in file.guides()) if file else ()
    columns = tuple((start / by, end / by) for start, end in frame_of(opened, by).columns)
    name, width, height = opened.mockup.path.name, size.width / by, size.height / by
    return Laid(name, width, height, when, boxes, guides, columns)


def cutlist_of(project: Project, name: str) -> CutlistFile | None:
    """The cutlist for a mockup whose file has a name; None where there is none."""
    files = map(CutlistFile.read, project.cutlists())
    return next((file for file in files if file.mockup_path.name == name), None)


def drawn(project: Project, file: CutlistFile) -> bytes:
    """The mockup of a cutlist as a PNG. Raises RifflerError for one that can't be drawn."""
    opened = Workspace(project).open(file.mockup_path, file.cutlist.canvas, file)
    mockup = opened.mockup
    return as_png(opened.renderer.render(mockup.box, 1.0, mockup.drawn))
