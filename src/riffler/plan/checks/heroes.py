"""Heroes: artwork whose edge is no plain ground, so that it can't go on unseen to the frame's."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from riffler.analyse import ground
from riffler.plan.finding import Finding
from riffler.plan.page import Page
from riffler.roles.framed import sides_that_go_on


def check(pages: Sequence[Page]) -> Iterator[Finding]:
    """Every hero, on the sides where its frame has room."""
    for page in pages:
        for one in page.pictures:
            if one.role != "hero":
                continue
            pixels = page.draw(one)
            for side in sides_that_go_on(one):
                found = ground.at_edge(ground.turned(pixels, side))
                if not found.is_plain:
                    yield page.finding(
                        "seam", one,
                        f"Its {side} edge is no plain ground to go on: what lies there varies by "
                        f"{255 * found.spread:.0f} of 255.",
                        "End the box where the ground is plain, or end the frame on that side.",
                        place=one.box.edge(side), pixels=found.rest.shape[1],
                    )  # fmt: skip
