"""`[favicon]` -> the task that makes a site's icon, and what the ledger says of its files."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from riffler.cutlist.shown import painted_by, switched
from riffler.errors import RifflerError, nearest
from riffler.files import is_inside
from riffler.icon.icon_files import Icons, MakeIcons
from riffler.jobs.task import Drawing
from riffler.output.asset import IconAsset
from riffler.output.publish import Made, described
from riffler.project.icon_settings import Favicon
from riffler.workspace import Workspace
from riffler.workspace.prepare import Wanted, known_names


@dataclass(frozen=True)
class FaviconTask:
    """The project's icon. `slice` is None where it is of a file or of letters."""

    operation: MakeIcons
    slice: str | None
    mockup: str | None
    density: float | None

    result = Icons

    def products(self, result: Icons, workspace: Workspace) -> Iterator[Made]:
        """Every file of the set."""
        drawing = self.operation.drawing
        judged = result.judged
        for file in result.files:
            is_first = file is result.files[0]
            yield described(
                IconAsset,
                workspace.project,
                file.name,
                file.data,
                made_by="cut",
                slice=self.slice,
                format=file.format,
                rel=file.rel,
                sizes=file.sides,
                mockup=self.mockup,
                place=drawing.box if drawing and self.slice else None,
                density=self.density,
                found={
                    "stands_out_light": judged.stands_out_light,
                    "stands_out_dark": judged.stands_out_dark,
                    "survives": judged.survives,
                    "reach": judged.reach,
                }
                if is_first
                else None,
            )


def plan(wanted: Wanted) -> Iterator[FaviconTask]:
    """The icon that riffler.toml asks for: one of a slice with the slice, any other with all.

    Raises WrittenError for a slice, a file, a layer that is not there.
    """
    workspace = wanted.workspace
    project, how = workspace.project, workspace.project.settings.favicon
    if how is None:
        return
    known = known_names([cutlist.file for cutlist in wanted.cutlists])
    if how.slice is None:
        if wanted.names >= frozenset(known):
            yield made_of(workspace, how)
        return
    if how.slice not in known:
        raise project.written.mistake(
            ("favicon", "slice"),
            f'There is no slice "{how.slice}" in any cutlist.',
            nearest(how.slice, known, "Slices are"),
        )
    for cutlist, mark in wanted.slices():
        if mark.name == how.slice and mark.label is None:
            drawing = Drawing(cutlist.key, mark.box, 1.0, mark.rest.shown)
            where = project.relative(cutlist.key.path)
            yield _task(workspace, how, drawing, mark.name, where, mark.density)


def made_of(workspace: Workspace, how: Favicon) -> FaviconTask:
    """The task for letters, or for a file: the whole of it or a layer.

    Raises WrittenError where the project says what is not there, RifflerError without a project.
    """
    if how.letters is not None:
        return _task(workspace, how, None, None, None, None)
    if how.file is None:
        raise _mistake(workspace, (), "This says no slice, no file and no letters to make it of.")
    root = workspace.project.root if workspace.has_project else Path()
    path = root / how.file
    if not path.is_file():
        raise _mistake(workspace, ("file",), f'There is no file "{how.file}".')
    if workspace.has_project and not is_inside(path, root):
        raise _mistake(workspace, ("file",), f'"{how.file}" leads out of the project.')
    opened = workspace.open(path)
    mockup = opened.mockup
    layers = [how.layer] if how.layer else []
    shown = switched(mockup, mockup.drawn, only=layers or None)
    box = painted_by(opened.renderer, layers) if layers else mockup.box
    where = workspace.project.relative(path) if workspace.has_project else how.file
    return _task(workspace, how, Drawing(opened.key, box, 1.0, shown), None, where, None)


def _mistake(workspace: Workspace, keys: tuple[str, ...], message: str) -> RifflerError:
    if not workspace.has_project:
        return RifflerError(message)
    return workspace.project.written.mistake(("favicon", *keys), message)


def _task(
    workspace: Workspace,
    how: Favicon,
    drawing: Drawing | None,
    name: str | None,
    mockup: str | None,
    density: float | None,
) -> FaviconTask:
    fonts = sorted(str(face.path) for face in workspace.fonts.faces()) if how.letters else []
    operation = MakeIcons(
        drawing, how, tuple(_by_hand(workspace, how)), tuple(fonts), _site_name(workspace, how)
    )
    return FaviconTask(operation, name, mockup, density)


def _by_hand(workspace: Workspace, how: Favicon) -> Iterator[tuple[int, bytes]]:
    """The art that a person drew for sizes."""
    root = workspace.project.root if workspace.has_project else Path()
    for side, file in sorted(how.art.items()):
        path = root / file
        if not path.is_file() or (workspace.has_project and not is_inside(path, root)):
            raise _mistake(workspace, ("art",), f'There is no file "{file}" for {side} px.')
        yield side, path.read_bytes()


def _site_name(workspace: Workspace, how: Favicon) -> str:
    """What the site is called: as it is said, as the pages call it, as its folder is called."""
    if how.name:
        return how.name
    if not workspace.has_project:
        return Path.cwd().name
    site = workspace.project.settings.site
    return str(site.get("title") or workspace.project.root.name)
