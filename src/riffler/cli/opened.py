"""A mockup named on the command line -> all that commands need to look at it."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from riffler.mockup.fonts import FontBook
    from riffler.render.renderer import Renderer


@dataclass(frozen=True)
class Opened:
    """A mockup with what the project around it knows of it: fonts, density, words."""

    renderer: Renderer
    fonts: FontBook
    density: float | None


def open_for_looking(path: Path, canvas: str | None = None) -> Opened:
    """Open a mockup, within the limits and with the fonts of the project it is used in.

    When a cutlist of that project is for this mockup, its density and words hold.
    """
    from riffler.jobs.bench import cutlist_for, fonts_of
    from riffler.mockup.opening import open_mockup
    from riffler.project.limits import DEFAULT_LIMITS
    from riffler.project.project import Project
    from riffler.render.renderer import open_renderer

    project = Project.around(path.parent) or Project.around(Path.cwd())
    limits = project.settings.limits if project else DEFAULT_LIMITS
    mockup, density = open_mockup(path, limits, canvas), None
    if cutlist := cutlist_for(project, path):
        mockup, density = cutlist.marked(mockup), cutlist.cutlist.density
    fonts = fonts_of(project)
    return Opened(open_renderer(mockup, fonts, limits), fonts, density)
