"""Boxes that go beyond the canvas, and boxes too thin to be meant."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from riffler.cutlist.resolved import ResolvedSlice
from riffler.plan.finding import Finding
from riffler.plan.page import Page

#: Pixels from which a box is no sliver.
SLIVER = 3


def check(pages: Sequence[Page]) -> Iterator[Finding]:
    """Every box against the canvas and against the thinnest that is meant."""
    for page in pages:
        for one in page.slices:
            yield from _outside(page, one)
            thin = min(one.box.width, one.box.height)
            if thin < SLIVER and one.role != "tile":
                yield page.finding(
                    "sliver", one,
                    f"It is {one.box.width} x {one.box.height} px: a sliver of {thin} px.",
                    "Widen it, give its pixels to a neighbour, or make it a tile.", pixels=thin,
                )  # fmt: skip


def _outside(page: Page, one: ResolvedSlice) -> Iterator[Finding]:
    canvas, box = page.canvas, one.box
    beyond = {
        "left": canvas.x - box.x,
        "top": canvas.y - box.y,
        "right": box.right - canvas.right,
        "bottom": box.bottom - canvas.bottom,
    }
    said = [f"{by} px {side}" for side, by in beyond.items() if by > 0]
    if said:
        yield page.finding(
            "outside", one, f"The box goes beyond the canvas: {', '.join(said)}.",
            f"The canvas ends at {canvas.right}, {canvas.bottom}.",
            pixels=max(beyond.values()),
        )  # fmt: skip
