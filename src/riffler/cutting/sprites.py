"""Sprites and files of symbols, apart from the rest of a cut."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import Any

from riffler.cutting import apart
from riffler.errors import RifflerError
from riffler.jobs.task import Task
from riffler.mockup.svg.document import read_bytes
from riffler.output.asset import Asset, SpriteAsset, StyleAsset, SymbolsAsset
from riffler.output.publish import Made, Published
from riffler.project.options import checked
from riffler.project.sprite_settings import Sprite
from riffler.sprite import loose, sheet
from riffler.vector import symbols
from riffler.vector.for_page import ForPage, checked_paint
from riffler.vector.tidied import make
from riffler.workspace import Workspace


def of_project(workspace: Workspace, *, force: bool = False, dry_run: bool = False) -> Published:
    """Make what `[sprite]` and `[symbols]` say. Raises RifflerError where they say nothing."""
    settings = workspace.project.settings
    if not settings.sprite and not settings.symbols:
        raise RifflerError(
            "riffler.toml has no [sprite.NAME] and no [symbols.NAME].",
            'Write one: [sprite.tools] with slices = ["...", "..."].',
        )
    wanted = apart.wanted_of(workspace)
    tasks: list[Task[Any]] = [*sheet.plan(wanted), *symbols.plan(wanted)]
    files = [
        product
        for task, result in zip(tasks, apart.results(workspace, tasks), strict=True)
        for product in task.products(result, workspace)
        if isinstance(product, Made)
    ]
    return apart.published(workspace, files, _is_ours, force=force, dry_run=dry_run)


def _is_ours(asset: Asset) -> bool:
    if isinstance(asset, StyleAsset):
        return Path(asset.file).name.startswith(sheet.CLASS)
    return isinstance(asset, SpriteAsset | SymbolsAsset)


def of_files(
    workspace: Workspace,
    paths: Sequence[Path],
    name: str,
    values: Mapping[str, Any],
    density: float,
    paint: str | None,
) -> dict[str, bytes]:
    """The files of a sprite, or with a `paint` that of symbols, by their names.

    Raises RifflerError for settings that do not go.
    """
    if paint is None:
        how = checked(Sprite, {"slices": ["-"], **values})
        return loose.sprite(workspace, paths, name, how, density)
    painted, texts = checked_paint(paint), []
    for path, member in zip(paths, loose.names_of(paths), strict=True):
        page = ForPage(member, painted)
        file = make(
            read_bytes(path), path.name, page=page, limits=workspace.limits, fonts=workspace.fonts
        )
        texts.append((member, file.text))
    return {f"{name}.svg": symbols.together(texts).encode()}
