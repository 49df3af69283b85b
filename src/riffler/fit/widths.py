"""A page at several widths -> what goes wrong there, each cause once.

What is wrong in any page (words over words, pictures out of shape) is seen at one width. What is
meant can't be seen there: that header and footer line up, that a band goes on to the edge, that
links lie in a row. They are wrong where they are so at a width that was drawn and not at another.
"""

from __future__ import annotations

from collections.abc import Container, Iterator, Mapping, Sequence
from dataclasses import dataclass

from riffler.fit.browser import name_of, opened
from riffler.fit.chromium import Chromium
from riffler.fit.said import EdgesSaid, WidthSaid
from riffler.fit.seen import Node, selector_of

#: CSS pixels by which edges that line up may be off, and off at the least where they don't.
ALIGNED, OFF = 1.0, 2.0

#: The share of its room that a row of links may take for it to be said that there is room.
ROOMY = 0.9

#: What lies on words: they are counted.
COVERS = "covers text"

#: What is no length, of the kinds of trouble.
NO_LENGTH = ("columns did not fall", COVERS)


@dataclass(frozen=True)
class Trouble:
    """What goes wrong on a page: of which kind, where, and by how many CSS pixels at each width.

    `other` is what it goes wrong with, `count` how many elements of that selector do at the most,
    or how many texts are covered.
    """

    page: str
    kind: str
    selector: str
    widths: Mapping[int, float]
    other: str = ""
    count: int = 1

    @property
    def key(self) -> str:
        """What it is accepted by."""
        return f"{self.page}: {self.selector}: {self.kind}"

    @property
    def most(self) -> float | None:
        """By how many pixels at the most; None for what is no length."""
        return None if self.kind in NO_LENGTH else max(self.widths.values())


#: Kind, element, pixels, and the other element, or -1.
_Found = tuple[str, int, float, int]

#: What is one cause: its kind, where, and with what.
_Cause = tuple[str, str, str]


def troubles(
    chromium: Chromium,
    address: str,
    widths: Sequence[int],
    accept: Container[str] = (),
    drawn: Sequence[int] = (),
) -> list[Trouble]:
    """Look at a page at each width; what is accepted, by key, is left out.

    `drawn` are the widths of its mockups, the widest last: what is meant is seen there. Raises
    RifflerError where it does not open.
    """
    seen: dict[int, WidthSaid] = {}
    nodes: dict[int, tuple[Node, ...]] = {}
    for width in dict.fromkeys([*widths, *(drawn if widths else ())]):
        with opened(chromium, address, width, 1.0) as window:
            nodes[width], seen[width] = window.nodes(), window.at_width()
    found: dict[_Cause, dict[int, list[_Found]]] = {}
    for width in widths:
        for one in _at(seen, width, drawn):
            at = found.setdefault(_cause(one, nodes[width]), {})
            at.setdefault(width, []).append(one)
    every = (_trouble(name_of(address), cause, at) for cause, at in found.items())
    return [trouble for trouble in every if trouble.key not in accept]


def _cause(found: _Found, nodes: Sequence[Node]) -> _Cause:
    kind, *elements = found[0], found[1], found[3]
    selector, other = (selector_of(nodes, number) if number >= 0 else "" for number in elements)
    return kind, selector or "body", "" if kind == COVERS else other


def _trouble(page: str, cause: _Cause, at: Mapping[int, Sequence[_Found]]) -> Trouble:
    kind, selector, other = cause
    counted = 3 if kind == COVERS else 1
    widths = {width: max(one[2] for one in here) for width, here in at.items()}
    count = max(len({one[counted] for one in here}) for here in at.values())
    return Trouble(page, kind, selector, widths, other, count)


def _at(seen: Mapping[int, WidthSaid], width: int, drawn: Sequence[int]) -> Iterator[_Found]:
    here = seen[width]
    yield from ((one.kind, one.element, one.by, one.other) for one in here.troubles)
    if not drawn or width in drawn:
        return
    meant = seen[drawn[-1]]
    yield from _apart(here.edges, meant.edges)
    if width > drawn[-1]:
        yield from _stopped(here, meant)
        yield from _short(here, meant)
    else:
        yield from _stacked(here, [seen[one] for one in drawn])


def _apart(here: Sequence[EdgesSaid], meant: Sequence[EdgesSaid]) -> Iterator[_Found]:
    """Header, content and footer that begin at one line where it was drawn, and not here.

    Of three the odd one is told, of two the one that is not the content.
    """
    left = {one.element: one.left for one in here}
    known = [one for one in meant if one.element in left]
    together = [one for one in known if _is_in_line(one, known)]
    if not together:
        return
    places = sorted(left[one.element] for one in together)
    main = next((left[one.element] for one in together if one.part == "main"), places[0])
    usual = places[1] if len(places) > 2 else main
    beside = min(together, key=lambda one: abs(left[one.element] - usual)).element
    for one in together:
        by = abs(left[one.element] - usual)
        if by > OFF:
            yield "does not line up", one.element, by, beside


def _is_in_line(one: EdgesSaid, known: Sequence[EdgesSaid]) -> bool:
    return any(other is not one and abs(other.left - one.left) <= ALIGNED for other in known)


def _stopped(here: WidthSaid, meant: WidthSaid) -> Iterator[_Found]:
    """What was painted from side to side, where other things still are and it is no more."""
    if set(meant.full) & set(here.full):
        rest = [element for element in meant.full if element not in here.full]
        for element in rest[:1]:
            yield "stops short of the window", element, here.width - meant.width, -1


def _short(here: WidthSaid, meant: WidthSaid) -> Iterator[_Found]:
    """A header or footer that keeps its length where its column grows or moves."""
    now = {one.element: one for one in here.edges}
    for was in meant.edges:
        there = now.get(was.element)
        if was.part == "main" or there is None or there.rows != was.rows:
            continue
        margins = [
            (one.left, said.width - one.right) for one, said in ((was, meant), (there, here))
        ]
        is_even = abs(margins[0][0] - margins[0][1]) <= OFF
        by = abs(margins[1][0] - margins[1][1])
        if is_even and by > 2 * OFF:
            yield "free space is a fixed gap", was.element, by, -1


def _stacked(here: WidthSaid, drawn: Sequence[WidthSaid]) -> Iterator[_Found]:
    """Links below one another that lie in a row where it was drawn, and have room for it here."""
    for one in here.stacked:
        as_drawn = [
            said.width for said in drawn if any(one.element == at.element for at in said.stacked)
        ]
        if one.need <= ROOMY * one.room and not any(width >= here.width for width in as_drawn):
            yield "links stacked with room to spare", one.element, one.room - one.need, -1
