"""Boxes that go beyond the canvas, and boxes too thin to be meant."""

from __future__ import annotations

from collections.abc import Iterator

from riffler.cutlist.resolved import ResolvedSlice
from riffler.cutlist.roles import Tile
from riffler.plan.check import Check
from riffler.plan.finding import Finding
from riffler.plan.subject import Subject

#: Pixels from which a box is no sliver.
SLIVER = 3


def _look(subject: Subject) -> Iterator[Finding]:
    """Every box against the canvas and against the thinnest that is meant."""
    for slice_ in subject.slices:
        yield from _outside(subject, slice_)
        thin = min(slice_.box.width, slice_.box.height)
        if thin < SLIVER and not isinstance(slice_.role, Tile):
            yield subject.finding(
                "sliver",
                slice_,
                f"It is {slice_.box.width} x {slice_.box.height} px: a sliver of {thin} px.",
                "Widen it, give its pixels to a neighbour, or make it a tile.",
                pixels=thin,
            )


def _outside(subject: Subject, slice_: ResolvedSlice) -> Iterator[Finding]:
    canvas, box = subject.canvas, slice_.box
    beyond = {
        "left": canvas.x - box.x,
        "top": canvas.y - box.y,
        "right": box.right - canvas.right,
        "bottom": box.bottom - canvas.bottom,
    }
    texts = [f"{by} px {side}" for side, by in beyond.items() if by > 0]
    if texts:
        yield subject.finding(
            "outside",
            slice_,
            f"The box goes beyond the canvas: {', '.join(texts)}.",
            f"The canvas ends at {canvas.right}, {canvas.bottom}.",
            pixels=max(beyond.values()),
        )


CHECK = Check(
    "outside",
    {
        "outside": "a box that goes beyond the canvas",
        "sliver": "a box less than 3 px wide or high",
    },
    each=_look,
)
