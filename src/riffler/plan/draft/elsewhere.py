"""A project's other cutlists -> what their slices are called, and which a thing looks like."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cached_property
from pathlib import Path

import numpy as np

from riffler.color import Pixels
from riffler.cutlist.file import CutlistFile
from riffler.cutlist.resolve import resolve_one
from riffler.errors import RifflerError
from riffler.workspace import Workspace
from riffler.workspace.pages import planned
from riffler.workspace.prepare import known_names

#: How far pixels may differ in the mean, in 0..1: vectors and pixels have other edges.
ALIKE = 0.02


class Elsewhere:
    """The slices that the project has beside those of the mockup that is drafted."""

    def __init__(self, workspace: Workspace, files: Sequence[CutlistFile] = ()) -> None:
        self._workspace, self._files = workspace, files

    @cached_property
    def names(self) -> frozenset[str]:
        """What they are called."""
        return frozenset(known_names(self._files))

    def pages(self, mockup: Path) -> frozenset[str]:
        """The pages of the project, with those that a mockup and its neighbours are of."""
        workspace = self._workspace
        return planned(workspace.project, [mockup]) if workspace.has_project else frozenset()

    def shows(self, name: str, pixels: Pixels) -> bool:
        """Whether the slice of that name looks so, at rest or in a state of its own.

        pixels: (H, W, 4) float32, premultiplied, 0..1, one for each CSS pixel. A slice that cannot
        be drawn is another.
        """
        for file in self._files:
            entry = next((entry for entry in file.entries if entry.name == name), None)
            if entry is None:
                continue
            try:
                opened = self._workspace.open(file.mockup_path, file.cutlist.canvas, file)
                slice_ = resolve_one(file, opened.renderer, entry)
                drawn = (
                    opened.renderer.render(slice_.box, 1 / slice_.density, state.shown)
                    for state in slice_.states
                )
                return any(_look_alike(values, pixels) for values in drawn)
            except RifflerError:
                return False
        return False


def _look_alike(first: Pixels, second: Pixels) -> bool:
    """Whether two pictures are of one thing, which may have been drawn at two densities."""
    if first.shape != second.shape:
        return False
    painted = np.maximum(first[..., 3], second[..., 3]) > 0
    off = np.abs(first - second).max(axis=2)[painted]
    return not off.size or float(off.mean()) <= ALIKE
