"""Words: text baked into a picture, missing alternative texts and links, missing typefaces."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from riffler.cutlist.resolved import ResolvedSlice
from riffler.mockup.fonts import uses
from riffler.plan import called
from riffler.plan.finding import Finding
from riffler.plan.page import Page

#: Text belongs to a slice that holds so much of it.
INSIDE = 0.5

#: States that only things to click have.
CLICKED = {"hover", "active", "focus", "current"}


def check(pages: Sequence[Page]) -> Iterator[Finding]:
    """Every picture, and the typefaces of every mockup."""
    for page in pages:
        for one in page.pictures:
            yield from _baked(page, one)
            yield from _alt(page, one)
        for one in page.slices:
            yield from _link(page, one)
        yield from _fonts(page)


def _baked(page: Page, one: ResolvedSlice) -> Iterator[Finding]:
    found = []
    for layer, painted in page.reading.near(one.box):
        part = painted & one.box
        if part.area < INSIDE * painted.area or not page.is_on(layer, one.rest.shown):
            continue
        if page.reading.is_words(layer):
            found.append((layer, part))
    if found:
        names = ", ".join(layer.address for layer, _ in found)
        hide = ", ".join(f'"{layer.address}"' for layer, _ in found)
        yield page.finding(
            "baked-text", one, f"Text is baked into the picture: {names}.",
            f"Leave it to live text: hide = [{hide}].",
            place=found[0][1], pixels=sum(part.area for _, part in found),
        )  # fmt: skip


def _alt(page: Page, one: ResolvedSlice) -> Iterator[Finding]:
    if one.alt is None and one.role in ("picture", "icon", "hero") and not one.label:
        yield page.finding(
            "alt", one, "It has no alternative text.",
            'Say what it shows: alt = "...", or alt = "" when it is mere decoration.',
        )  # fmt: skip


def _link(page: Page, one: ResolvedSlice) -> Iterator[Finding]:
    if one.link is not None or one.label:
        return
    states = {state.name for state in one.states} & CLICKED
    named = called.tokens(one.entry.keys[1]) & (called.TAB | called.BUTTON | called.LINK)
    if states or named:
        why = f"it has a {min(states)} state" if states else "so it is called"
        yield page.finding(
            "link", one, f"It is something to click ({why}), and leads nowhere.",
            'Say where: link = "page", an address, or "#part".',
        )  # fmt: skip


def _fonts(page: Page) -> Iterator[Finding]:
    for use in uses(page.bench.renderer.mockup, page.fonts):
        if not use.found:
            stand_in = (
                f"{use.drawn_with} is drawn instead" if use.drawn_with else "nothing is drawn"
            )
            yield page.of_all(
                "font", f"The typeface {use.family} is missing: {stand_in}.",
                "Put its files into the project's fonts folder.",
            )  # fmt: skip
