"""What an icon is of -> a square picture of any side: vectors are drawn at it, pixels reduced."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from lxml import etree

from riffler.color import Pixels, empty, from_bytes
from riffler.geometry import Box, Size
from riffler.icon import letters, reduced
from riffler.jobs.task import Drawing
from riffler.mockup.svg import lengths
from riffler.project.icon_settings import Favicon
from riffler.render.pruning import name_fonts
from riffler.render.svg_drawing import draw
from riffler.vector.outlines import outlined
from riffler.vector.taken import taken
from riffler.workspace import Workspace

#: Sides up to which a drawing is moved by parts of a pixel to where its edges are sharpest.
FITTED = 32

#: By how many pixels it is moved, in both directions.
STEPS = (0.0, -0.25, 0.25, -0.5, 0.5)

#: The share of its paint that a drawing may lose at the edge by that.
LOST = 0.004

#: By how much sharper it must be to be moved.
SHARPER = 1.02


@dataclass(frozen=True)
class Art:
    """Layers of a mockup, or letters as `[favicon]` says them."""

    drawing: Drawing | None
    how: Favicon

    def svg(self, workspace: Workspace, side: int) -> bytes | None:
        """The drawing for pictures of a side; None when it is made of pixels."""
        if self.drawing is None:
            return letters.drawing(self.how, workspace.fonts, side)
        renderer, box = workspace.renderer(self.drawing.mockup), self.drawing.box
        if not renderer.mockup.is_vector:
            return None
        data = taken(renderer, self.drawing.shown, box, 1.0)
        return outlined(data, "the icon", workspace)  # nobody brings fonts to a tab

    def at(self, workspace: Workspace, side: int) -> Pixels:
        """The picture, (side, side, 4) float32, premultiplied; what is not square is centred."""
        svg = self.svg(workspace, side)
        if svg is not None:
            return fitted(svg, side, workspace)
        assert self.drawing is not None
        pixels = self.drawing.pixels(workspace)
        return centered(reduced.to_side(pixels, side), side)


def fitted(svg: bytes, side: int, workspace: Workspace) -> Pixels:
    """A drawing at a side, moved by less than a pixel to where its edges are sharpest."""
    root = etree.fromstring(svg)
    name_fonts(root, workspace.fonts)
    best = drawn(root, side, workspace)
    if side > FITTED:
        return best
    paint, sharpest = float(best[..., 3].sum()), SHARPER * _sharpness(best)
    for dx in STEPS:
        for dy in STEPS:
            if not dx and not dy:
                continue
            moved = drawn(root, side, workspace, dx, dy)
            is_whole = float(moved[..., 3].sum()) >= (1 - LOST) * paint
            if is_whole and (sharpness := _sharpness(moved)) > sharpest:
                best, sharpest = moved, sharpness
    return best


def drawn(
    root: etree._Element, side: int, workspace: Workspace, dx: float = 0.0, dy: float = 0.0
) -> Pixels:
    """A drawing in the middle of a square, moved by so many pixels."""
    x, y, width, height = lengths.view_box(root.get("viewBox")) or (0.0, 0.0, 1.0, 1.0)
    whole = max(width, height)
    unit = whole / side
    left, top = x - (whole - width) / 2 - dx * unit, y - (whole - height) / 2 - dy * unit
    root.set("width", str(side))
    root.set("height", str(side))
    before = root.get("viewBox")
    root.set("viewBox", f"{left!r} {top!r} {whole!r} {whole!r}")
    try:
        return from_bytes(draw(root, workspace.fonts, "the icon", workspace.limits))
    finally:
        if before is not None:
            root.set("viewBox", before)


def squared(svg: bytes) -> bytes:
    """The drawing on a square, in the middle of it."""
    root = etree.fromstring(svg)
    x, y, width, height = lengths.view_box(root.get("viewBox")) or (0.0, 0.0, 1.0, 1.0)
    whole = max(width, height)
    root.set(
        "viewBox", f"{x - (whole - width) / 2!r} {y - (whole - height) / 2!r} {whole!r} {whole!r}"
    )
    for key in ("width", "height"):
        root.attrib.pop(key, None)
    return etree.tostring(root)


def _sharpness(pixels: Pixels) -> float:
    """How steep its edges are: of two edges of one height the one in fewer pixels counts more."""
    across, down = np.diff(pixels, axis=1), np.diff(pixels, axis=0)
    return float(np.square(across).sum() + np.square(down).sum())


def centered(pixels: Pixels, side: int) -> Pixels:
    """The pixels in the middle of an empty square; whole pixels, so that edges stay sharp."""
    height, width = pixels.shape[:2]
    square = empty(side, side)
    place = Box((side - width) // 2, (side - height) // 2, width, height)
    rows, columns = place.within(Box.of_size(Size(side, side)))
    square[rows, columns] = pixels
    return square
