"""A slice -> favicon.ico, drawn at each size rather than shrunk from one where vectors allow it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from riffler.color import Pixels, to_bytes
from riffler.encode import png
from riffler.errors import nearest
from riffler.geometry import Box, Size
from riffler.icon import ico
from riffler.jobs.task import Drawing
from riffler.output.asset import IconAsset
from riffler.output.publish import Made, described
from riffler.workspace import Workspace
from riffler.workspace.prepare import Wanted, known_names

#: The file that browsers ask for by themselves.
FILE = "favicon.ico"

#: Pixels along each side, for tabs at one and two times and for shortcuts.
SIDES = (16, 32, 48)


@dataclass(frozen=True)
class IconFile:
    """The bytes of an icon file."""

    data: bytes


@dataclass(frozen=True)
class DrawFavicon:
    """Draw a mark at every size, and pack the pictures into one file."""

    drawing: Drawing
    sides: tuple[int, ...] = SIDES

    @property
    def is_long(self) -> bool:
        """It is not."""
        return False

    def run(self, workspace: Workspace) -> IconFile:
        """Make the file; a mark that is not square stands centred."""
        mark, renderer = self.drawing, workspace.renderer(self.drawing.mockup)
        pictures = []
        for side in self.sides:
            scale = side / max(mark.box.width, mark.box.height)
            square = to_bytes(_centred(renderer.render(mark.box, scale, mark.shown), side))
            pictures.append((Size(side, side), png.encode(square, keep_alpha=True)))
        return IconFile(ico.pack(pictures))


@dataclass(frozen=True)
class FaviconTask:
    """The project's favicon."""

    operation: DrawFavicon
    slice: str
    place: Box
    density: float
    mockup: str

    result = IconFile

    def products(self, result: IconFile, workspace: Workspace) -> Iterator[Made]:
        """The one file."""
        yield described(
            IconAsset, workspace.project, FILE, result.data, made_by="cut", slice=self.slice,
            format="ico", rel="icon", sizes=self.operation.sides, mockup=self.mockup,
            place=self.place, density=self.density,
        )  # fmt: skip


def plan(wanted: Wanted) -> Iterator[FaviconTask]:
    """The favicon, when riffler.toml names a slice for it that is wanted.

    Raises WrittenError when there is no such slice.
    """
    project = wanted.workspace.project
    named = project.settings.favicon
    if named is None:
        return
    known = known_names([cutlist.file for cutlist in wanted.cutlists])
    if named.slice not in known:
        raise project.written.mistake(
            ("favicon", "slice"),
            f'There is no slice "{named.slice}" in any cutlist.',
            nearest(named.slice, known, "Slices are"),
        )
    for cutlist, mark in wanted.slices():
        if mark.name == named.slice and mark.label is None:
            drawing = Drawing(cutlist.key, mark.box, 1.0, mark.rest.shown)
            where = project.relative(cutlist.key.path)
            yield FaviconTask(DrawFavicon(drawing), mark.name, mark.box, mark.density, where)


def _centred(pixels: Pixels, side: int) -> Pixels:
    """The pixels in the middle of an empty square; whole pixels, so that edges stay sharp."""
    height, width = pixels.shape[:2]
    square = np.zeros((side, side, 4), np.float32)
    top, left = (side - height) // 2, (side - width) // 2
    square[top : top + height, left : left + width] = pixels
    return square
