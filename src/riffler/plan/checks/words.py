"""Words: text baked into a picture, missing alternative texts and links, missing typefaces."""

from __future__ import annotations

from collections.abc import Iterator

from riffler.cutlist.resolved import ResolvedSlice
from riffler.cutlist.targets import is_code, page_of
from riffler.errors import nearest, slip_of
from riffler.mockup.font_book import UNNAMED, uses
from riffler.plan import hiding
from riffler.plan.check import Check
from riffler.plan.finding import Finding
from riffler.plan.subject import Subject
from riffler.reading import layer_names

#: States that only things to click have.
CLICKED = {"hover", "active", "focus", "current"}


def _look(subject: Subject) -> Iterator[Finding]:
    """Every picture, and the typefaces of every mockup."""
    for slice_ in subject.pictures:
        yield from _baked(subject, slice_)
        yield from _alt(subject, slice_)
    for slice_ in subject.slices:
        yield from _link(subject, slice_)
    yield from _fonts(subject)


def _baked(subject: Subject, slice_: ResolvedSlice) -> Iterator[Finding]:
    baked = hiding.baked_in(subject, slice_)
    if baked:
        names = ", ".join(layer.address for layer, _ in baked)
        yield subject.finding(
            "baked-text",
            slice_,
            f"Text is baked into the picture: {names}.",
            f"Leave it to live text: {hiding.line(subject, slice_)}.",
            place=baked[0][1],
            pixels=sum(part.area for _, part in baked),
        )


def _alt(subject: Subject, slice_: ResolvedSlice) -> Iterator[Finding]:
    if slice_.alt is None and slice_.role.needs_alt and slice_.label is None:
        yield subject.finding(
            "alt",
            slice_,
            "It has no alternative text.",
            'Say what it shows: alt = "...", or alt = "" when it is mere decoration.',
        )


def _link(subject: Subject, slice_: ResolvedSlice) -> Iterator[Finding]:
    if slice_.link is not None and is_code(slice_.link):
        yield subject.finding(
            "link",
            slice_,
            f'Its link "{slice_.link}" would run as code in the browser.',
            'Link to a page, an address, or "#part".',
        )
    elif slice_.link is not None:
        yield from _page(subject, slice_, page_of(slice_.link))
    if slice_.link is not None or slice_.label is not None:
        return
    states = {state.name for state in slice_.states if state.name} & CLICKED
    if states or layer_names.leads_somewhere(slice_.entry.keys[1]):
        why = f"it has a {min(states)} state" if states else "so it is called"
        yield subject.finding(
            "link",
            slice_,
            f"It is something to click ({why}), and leads nowhere.",
            'Say where: link = "page", an address, or "#part".',
        )


def _page(subject: Subject, slice_: ResolvedSlice, page: str | None) -> Iterator[Finding]:
    """A link to a page that is not there: a slip, or with several pages one forgotten.

    Of a project with one page the others are yet to come.
    """
    if page is None or page in subject.pages or page in subject.planned:
        return
    if len(subject.pages) > 1 or slip_of(page, subject.pages):
        yield subject.finding(
            "link",
            slice_,
            f'It leads to the page "{page}", which is not there.',
            nearest(page, subject.pages, "Pages are"),
        )


def _fonts(subject: Subject) -> Iterator[Finding]:
    for use in uses(subject.mockup, subject.fonts):
        if not use.found:
            stand_in = (
                f"{use.drawn_with} is drawn instead" if use.drawn_with else "nothing is drawn"
            )
            message = f"The typeface {use.family} is missing: {stand_in}."
            advice = "Put its files into the project's fonts folder."
            if use.family == UNNAMED:
                message = f"Some text names no typeface of its own: {stand_in}."
                advice = "Name one in the mockup, and put its files into the fonts folder."
            yield subject.of_all("font", message, advice, about=use.family)


CHECK = Check(
    "words",
    {
        "baked-text": "text inside a picture",
        "alt": "no alternative text",
        "link": "no link target, or one that is not there or runs as code",
        "font": "a typeface that is missing",
    },
    each=_look,
)
