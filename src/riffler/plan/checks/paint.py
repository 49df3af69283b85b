"""Paint at the edge of a box: a layer's own that is cut off, and a neighbour's that reaches in."""

from __future__ import annotations

from collections.abc import Iterator

from riffler.cutlist.resolved import ResolvedSlice
from riffler.cutlist.roles import Tile
from riffler.geometry import Box, union
from riffler.plan import hiding
from riffler.plan.check import Check
from riffler.plan.finding import Finding
from riffler.plan.subject import Subject

#: A box that holds less than this part of the paint was meant as a piece of it.
MEANT = 0.6


def _look(subject: Subject) -> Iterator[Finding]:
    """Slices of layers by themselves, and slices cut as seen."""
    for slice_ in subject.pictures:
        if slice_.is_alone and not isinstance(slice_.role, Tile):
            yield from _cut_off(subject, slice_)
    for slice_ in subject.seen:
        for intruder in subject.reaching_in(slice_):
            layer = intruder.layer.address
            yield subject.finding(
                "intruder",
                slice_,
                f"{layer} reaches in from outside and changes {intruder.pixels} px.",
                f"Leave it out: {hiding.line(subject, slice_)}.",
                about=(layer,),
                place=intruder.place,
                pixels=intruder.pixels,
            )


def _cut_off(subject: Subject, slice_: ResolvedSlice) -> Iterator[Finding]:
    painted = union(
        box
        for layer, box in subject.reading.near(subject.canvas)
        if subject.is_on(layer, slice_.rest.shown)
    )
    inside = painted & slice_.box
    if not painted or slice_.box.contains(painted) or inside.area < MEANT * painted.area:
        return
    beyond = {
        "left": slice_.box.x - painted.x,
        "top": slice_.box.y - painted.y,
        "right": painted.right - slice_.box.right,
        "bottom": painted.bottom - slice_.box.bottom,
    }
    lost = {side: by for side, by in beyond.items() if by > 0}
    text = ", ".join(f"{by} px {side}" for side, by in lost.items())
    yield subject.finding(
        "cut-off",
        slice_,
        f"Its layers paint beyond the box: {text}.",
        f"Take its box away, so that it is found from the paint, or widen it: "
        f"at = [{painted.x}, {painted.y}, {painted.width}, {painted.height}].",
        place=_lost_place(slice_.box, painted),
        pixels=max(lost.values()),
    )


def _lost_place(box: Box, painted: Box) -> Box:
    """The widest strip of paint that is lost."""
    strips = [
        Box.from_edges(painted.x, painted.y, box.x, painted.bottom),
        Box.from_edges(painted.x, painted.y, painted.right, box.y),
        Box.from_edges(box.right, painted.y, painted.right, painted.bottom),
        Box.from_edges(painted.x, box.bottom, painted.right, painted.bottom),
    ]
    return max(strips, key=lambda strip: strip.area)


CHECK = Check(
    "paint",
    {
        "cut-off": "paint or a shadow that ends at the edge of the box",
        "intruder": "a neighbour's paint inside the box",
    },
    each=_look,
)
