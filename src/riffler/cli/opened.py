"""A mockup named on the command line -> a renderer, with the fonts of the project around."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from riffler.render.renderer import Renderer


def renderer_of(path: Path) -> Renderer:
    """Open a mockup, within the limits and with the fonts of the project it is used in."""
    from riffler.jobs.cut import fonts_of
    from riffler.mockup.opening import open_mockup
    from riffler.project.limits import DEFAULT_LIMITS
    from riffler.project.project import Project
    from riffler.render.renderer import open_renderer

    project = Project.around(path.parent) or Project.around(Path.cwd())
    limits = project.settings.limits if project else DEFAULT_LIMITS
    return open_renderer(open_mockup(path, limits), fonts_of(project), limits)
