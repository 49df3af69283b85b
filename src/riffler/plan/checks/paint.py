"""Paint at the edge of a box: a layer's own that is cut off, and a neighbour's that reaches in."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from riffler.cutlist.resolved import ResolvedSlice
from riffler.geometry import Box, union
from riffler.plan.finding import Finding
from riffler.plan.intruders import intruders
from riffler.plan.page import Page

#: A box that holds less than this part of the paint was meant as a piece of it.
MEANT = 0.6


def check(pages: Sequence[Page]) -> Iterator[Finding]:
    """Slices of layers by themselves, and slices cut as seen."""
    for page in pages:
        for one in page.pictures:
            if one.is_alone and one.role != "tile":
                yield from _cut_off(page, one)
        for one in page.seen:
            for found in intruders(page.reading, one.box & page.canvas, one.rest.shown):
                yield page.finding(
                    "intruder", one,
                    f"{found.layer.address} reaches in from outside and changes {found.pixels} px.",
                    f'Leave it out: hide = ["{found.layer.address}"].',
                    place=found.place, pixels=found.pixels,
                )  # fmt: skip


def _cut_off(page: Page, one: ResolvedSlice) -> Iterator[Finding]:
    painted = union(
        box for layer, box in page.reading.near(page.canvas) if page.is_on(layer, one.rest.shown)
    )
    inside = painted & one.box
    if not painted or one.box.contains(painted) or inside.area < MEANT * painted.area:
        return
    beyond = {
        "left": one.box.x - painted.x,
        "top": one.box.y - painted.y,
        "right": painted.right - one.box.right,
        "bottom": painted.bottom - one.box.bottom,
    }
    lost = {side: by for side, by in beyond.items() if by > 0}
    said = ", ".join(f"{by} px {side}" for side, by in lost.items())
    yield page.finding(
        "cut-off", one, f"Its layers paint beyond the box: {said}.",
        f"Take its box away, so that it is found from the paint, or widen it: "
        f"at = [{painted.x}, {painted.y}, {painted.width}, {painted.height}].",
        place=_lost_place(one.box, painted), pixels=max(lost.values()),
    )  # fmt: skip


def _lost_place(box: Box, painted: Box) -> Box:
    """The widest strip of paint that is lost."""
    strips = [
        Box.from_edges(painted.x, painted.y, box.x, painted.bottom),
        Box.from_edges(painted.x, painted.y, painted.right, box.y),
        Box.from_edges(box.right, painted.y, painted.right, painted.bottom),
        Box.from_edges(painted.x, box.bottom, painted.right, painted.bottom),
    ]
    return max(strips, key=lambda strip: strip.area)
