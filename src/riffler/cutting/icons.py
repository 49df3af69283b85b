"""`[favicon]` -> the site's icon alone, made and published as a cut makes it."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

from riffler.cutting import apart
from riffler.digests import sha256
from riffler.errors import RifflerError
from riffler.icon import icon_task
from riffler.icon.icon_files import Icons
from riffler.output.asset import IconAsset
from riffler.output.publish import Published
from riffler.project.icon_settings import Favicon
from riffler.workspace import Workspace


@dataclass(frozen=True)
class MadeIcons:
    """The set, what the site is called, the colour around it; in a project what became of it."""

    icons: Icons
    name: str
    theme: str | None
    folder: Path | None = None
    published: Published | None = None

    @property
    def files(self) -> dict[str, bytes]:
        """The files by their names."""
        return {file.name: file.data for file in self.icons.files}

    @property
    def written(self) -> list[Path]:
        """What was written into the project's output folder."""
        if self.published is None or self.folder is None:
            return []
        return [self.folder / asset.file for asset in self.published.written]

    @property
    def assets(self) -> list[IconAsset]:
        """The set as a ledger has it."""
        return [
            IconAsset(
                file=file.name,
                url=file.name,
                bytes=len(file.data),
                sha256=sha256(file.data),
                made_by="favicon",
                format=file.format,
                rel=file.rel,
                sizes=file.sides,
            )
            for file in self.icons.files
        ]


def of_project(workspace: Workspace, *, force: bool = False, dry_run: bool = False) -> MadeIcons:
    """Make the project's icon. Raises RifflerError where riffler.toml asks for none."""
    how = workspace.project.settings.favicon
    if how is None:
        raise RifflerError(
            "riffler.toml has no [favicon].",
            'Write one: [favicon] with slice = "...", file = "..." or letters = "...".',
        )
    task = next(icon_task.plan(apart.wanted_of(workspace, is_sliced=how.slice is not None)))
    (icons,) = apart.results(workspace, [task])
    files = list(task.products(icons, workspace))
    published = apart.published(
        workspace, files, lambda asset: isinstance(asset, IconAsset), force=force, dry_run=dry_run
    )
    return MadeIcons(icons, task.operation.name, how.theme, workspace.project.out, published)


def alone(workspace: Workspace, how: Favicon) -> MadeIcons:
    """Make an icon of letters or of a file, for who has no project."""
    operation = icon_task.made_of(workspace, how).operation
    return MadeIcons(operation.run(workspace), operation.name, how.theme)
