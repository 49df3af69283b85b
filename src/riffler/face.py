"""What the commands do, for programs: paths and plain values in, frozen dataclasses out."""

from __future__ import annotations

import os
from collections.abc import Iterable
from pathlib import Path
from typing import TYPE_CHECKING, TypeAlias

from riffler.errors import RifflerError
from riffler.geometry import Box, Size

if TYPE_CHECKING:  # what draws and checks is loaded by the function that needs it
    from riffler.color import Bytes
    from riffler.measure.distances import Between
    from riffler.measure.one import Measured
    from riffler.output.publish import Published
    from riffler.plan.draft.file import DraftFile
    from riffler.plan.survey import Survey
    from riffler.reading.look import Look
    from riffler.workspace import Opened, Workspace

__all__ = [
    "Box",
    "RifflerError",
    "Size",
    "cut",
    "draft",
    "draw",
    "look",
    "numbers",
    "open",
    "survey",
]

Where: TypeAlias = str | os.PathLike[str]
"""A path, relative to the current folder unless absolute."""


def open(mockup: Where, canvas: str | None = None) -> Opened:  # noqa: A001 - what it does
    """Open a mockup with what the project around it says: fonts, limits, density, words.

    Without a project around the file or the current folder there is none of that. `canvas` is one
    of several in the file. Nothing is ever written to it.
    """
    from riffler.workspace import Workspace

    path = Path(mockup)
    return Workspace.around(path).open(path, canvas)


def look(mockup: Where, canvas: str | None = None) -> Look:
    """What is in a mockup: its size, and the tree of its layers from the top of the stack.

    Boxes are in mockup pixels, without shadow and glow.
    """
    from riffler.reading.look import look as look_at

    return look_at(open(mockup, canvas))


def numbers(mockup: Where, thing: str, other: str | None = None) -> Measured | Between:
    """The numbers of a thing, or of two: sizes, places, distances, in mockup pixels.

    A thing is a layer, slice or guide by name, "x,y", "x,y,width,height", or "canvas".
    """
    from riffler.measure.answer import measuring
    from riffler.workspace import Workspace

    names = [thing] if other is None else [thing, other]
    found_measuring = measuring(Workspace.around(Path(mockup)), names, str(mockup))
    return found_measuring.one(thing) if other is None else found_measuring.two(thing, other)[2]


def draw(
    opened: Opened,
    box: Box | None = None,
    scale: float = 1.0,
    *,
    only: Iterable[str] = (),
    show: Iterable[str] = (),
    hide: Iterable[str] = (),
) -> Bytes:
    """Draw a mockup, or layers of it on transparency: (H, W, 4) uint8, straight RGBA, sRGB.

    `box` is in mockup pixels, and what `only` paints or the whole canvas unless said; `scale` is
    output pixels per mockup pixel. `only`, `show` and `hide` are addresses, as cutlists write them.
    """
    from riffler.color import to_bytes
    from riffler.cutlist.shown import painted_by, switched

    mockup, alone = opened.mockup, list(only)
    shown = switched(mockup, mockup.drawn, alone or None, list(show), list(hide))
    if box is None:
        box = painted_by(opened.renderer, alone) if alone else mockup.box
    return to_bytes(opened.renderer.render(box, scale, shown))


def cut(
    project: Where = ".",
    slices: Iterable[str] = (),
    *,
    force: bool = False,
    dry_run: bool = False,
) -> Published:
    """Cut the slices of a project, all or the named ones, into its output folder.

    >>> done = riffler.cut(dry_run=True)
    >>> len(done.unchanged), len(done.words)
    (39, 15)
    >>> done.unchanged[0].file, done.unchanged[0].pixels
    ('images/comb.jpg', Size(width=960, height=300))
    """
    from riffler.cutting.cut import cut as cut_slices

    return cut_slices(_workspace(project), list(slices), force=force, dry_run=dry_run)


def survey(project: Where = ".", slices: Iterable[str] = ()) -> Survey:
    """Hold the cutlists of a project against the pixels.

    >>> riffler.survey().findings
    []
    """
    from riffler.plan.survey import survey as survey_project

    return survey_project(_workspace(project), list(slices))


def draft(
    mockup: Where,
    output: Where | None = None,
    *,
    add: bool = False,
    canvas: str | None = None,
    density: float | None = None,
    dry_run: bool = False,
) -> DraftFile:
    """Write a first cutlist from a mockup, and say why each slice is there.

    >>> drafted = riffler.draft("mockups/home.ora", dry_run=True).draft
    >>> [new.name for new in drafted.slices][:3]
    ['hero', 'paper', 'claim']
    """
    from riffler.plan.draft.file import draft_mockup
    from riffler.workspace import Workspace

    path = Path(mockup)
    target = Path(output) if output is not None else None
    return draft_mockup(
        Workspace.around(path),
        path,
        output=target,
        add=add,
        canvas=canvas,
        density=density,
        dry_run=dry_run,
    )


def _workspace(project: Where) -> Workspace:
    from riffler.project.project import Project
    from riffler.workspace import Workspace

    return Workspace(Project.around(Path(project)))
