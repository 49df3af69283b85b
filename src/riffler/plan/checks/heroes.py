"""Heroes: artwork whose edge is no plain ground, so that it can't go on unseen to the frame's."""

from __future__ import annotations

from collections.abc import Iterator

from riffler.analyse import ground
from riffler.cutlist.roles import Hero
from riffler.plan.check import SEAM, Check
from riffler.plan.finding import Finding
from riffler.plan.subject import Subject
from riffler.roles.framed import sides_that_go_on


def _look(subject: Subject) -> Iterator[Finding]:
    """Every hero, on the sides where its frame has room."""
    for slice_ in subject.pictures:
        if not isinstance(slice_.role, Hero):
            continue
        pixels = subject.draw(slice_)
        for side in sides_that_go_on(slice_.role, slice_.box):
            found_ground = ground.at_edge(ground.turned(pixels, side))
            if not found_ground.is_plain:
                yield subject.finding(
                    "seam",
                    slice_,
                    f"Its {side} edge is no plain ground to go on: what lies there varies by "
                    f"{255 * found_ground.spread:.0f} of 255.",
                    "End the box where the ground is plain, or end the frame on that side.",
                    about=(side,),
                    place=slice_.box.edge(side),
                    pixels=found_ground.rest.shape[1],
                )


CHECK = Check(
    "heroes",
    {
        "seam": SEAM,
    },
    each=_look,
)
