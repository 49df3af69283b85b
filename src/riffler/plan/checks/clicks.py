"""Things to click that have no slice."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from riffler.geometry import Box
from riffler.mockup.model import Layer, drawings
from riffler.plan import clickable
from riffler.plan.clickable import Clickable
from riffler.plan.finding import Finding
from riffler.plan.naming import Names
from riffler.plan.page import Page
from riffler.plan.reading import Becomes

#: A slice is one of a thing's own when it is at most so many times its size.
OWN = 6

#: It must hold so much of what is drawn.
HELD = 0.6


def check(pages: Sequence[Page]) -> Iterator[Finding]:
    """What reads as clickable and needs a picture, against the slices of every page."""
    everywhere = {one.name for page in pages for one in (*page.slices, *page.bench.borrowed)}
    for page in pages:
        names = Names(page.bench.renderer.mockup)
        for one in clickable.find(page.reading).clickables:
            if names.of(one.layer, one.kind if one.kind in ("tab", "button") else "") in everywhere:
                continue
            lacking = [layer for layer in _drawn(page, one) if not _is_held(page, one, layer)]
            if lacking:
                listed = ", ".join(layer.address for layer in lacking)
                yield page.of_all(
                    "unsliced", f"{one.layer.address} reads as a {one.kind} and has no slice.",
                    f"CSS does not draw {listed}: riffler draft --add writes a slice, or "
                    f"riffler mark NAME --around {one.layer.address}.",
                    place=one.box,
                )  # fmt: skip


def _drawn(page: Page, one: Clickable) -> list[Layer]:
    """The drawings of the thing that must be pictures, those of its states among them."""
    reading = page.reading
    return [
        layer for layer in drawings([one.layer])
        if not reading.is_words(layer) and reading.verdict(layer).becomes is Becomes.PICTURE
    ]  # fmt: skip


def _is_held(page: Page, one: Clickable, layer: Layer) -> bool:
    box = page.reading.painted(layer) or Box(0, 0, 0, 0)
    for held in (*page.slices, *page.bench.borrowed):
        on_somewhere = any(page.is_on(layer, state.shown) for state in held.states)
        own = held.box.area <= OWN * max(one.box.area, box.area)
        if on_somewhere and own and (held.box & box).area >= HELD * box.area:
            return True
    return False
