"""A project that follows a new version -> all that is generated of it, made again."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from riffler.cutting.cut import Progress, cut
from riffler.jobs.cache import Cache
from riffler.output.asset import Asset, PageAsset, StyleAsset
from riffler.project.project import Project
from riffler.site.build import build
from riffler.webfonts import publishing
from riffler.workspace import Workspace


@dataclass(frozen=True)
class Refreshed:
    """What was written and removed: by cutting, as web fonts, by building pages."""

    written: tuple[Asset, ...]
    removed: tuple[Asset, ...]


def refresh(
    project: Project,
    before: Sequence[Asset],
    progress: Progress | None = None,
    cache: Cache | None = None,
) -> Refreshed:
    """Cut what changed; make web fonts and pages again where they were made `before`.

    What was made from the same is taken from the project's cache, or from another. Raises
    RifflerError as these do.
    """
    has_fonts = any(isinstance(asset, StyleAsset) and asset.made_by == "fonts" for asset in before)
    has_pages = any(isinstance(asset, PageAsset) for asset in before)
    workspace = Workspace(project)
    published = cut(workspace, may_leave=True, progress=progress, cache=cache)
    written, removed = list(published.written), list(published.removed)
    if has_fonts:
        opened = publishing.mockups_of(workspace, [])
        publishing.web(workspace, publishing.fonts(workspace, opened), opened)
    if has_pages:
        built = build(project)
        written += built.written
        removed += built.removed
    return Refreshed(tuple(written), tuple(removed))
