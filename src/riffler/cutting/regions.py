"""Slices of live text -> tasks: the colour that lies under the words of each."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from riffler.cutlist.roles import Words
from riffler.geometry import CssSize
from riffler.jobs.task import Drawing
from riffler.mockup.model import Kind
from riffler.output.asset import Region
from riffler.roles import words
from riffler.workspace import Workspace
from riffler.workspace.prepare import Wanted


@dataclass(frozen=True)
class Ground:
    """The most usual colour in a box, as `#rrggbb`, with two more digits where it shows through.

    None where a picture or a texture lies there.
    """

    color: str | None


@dataclass(frozen=True)
class FindGround:
    """Draw a box without its text and find its usual colour."""

    drawing: Drawing

    def run(self, workspace: Workspace) -> Ground:
        """Find it."""
        return Ground(words.ground(self.drawing.pixels(workspace)))


@dataclass(frozen=True)
class RegionTask:
    """A box for live text."""

    operation: FindGround
    slice: str
    mockup: str
    css: CssSize
    when: str | None

    result = Ground

    def products(self, result: Ground, workspace: Workspace) -> Iterator[Region]:  # noqa: ARG002
        """What the ledger says of the box; no file belongs to it."""
        place = self.operation.drawing.box
        yield Region(self.slice, self.mockup, place, self.css, result.color, self.when)


def plan(wanted: Wanted) -> Iterator[RegionTask]:
    """Every wanted box for live text."""
    for cutlist, slice_ in wanted.slices():
        if not isinstance(slice_.role, Words):
            continue
        mockup, box = cutlist.renderer.mockup, slice_.box
        texts = {layer.address for layer in mockup.walk() if layer.kind is Kind.WORDS}
        drawing = Drawing(cutlist.key, box, 1.0, slice_.rest.shown - texts)
        css = CssSize(box.width / slice_.density, box.height / slice_.density)
        where = wanted.workspace.project.relative(cutlist.key.path)
        yield RegionTask(FindGround(drawing), slice_.name, where, css, slice_.when)
