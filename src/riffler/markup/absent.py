"""What a page shows and its narrow mockup does not -> left out in windows that this one is for.

It is left out where that mockup shows what stands before and after it, and nothing between them
that could be the same in other words.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from riffler.markup.area import Area, Shape
from riffler.markup.element import Element, is_running
from riffler.markup.merging import LISTS
from riffler.mockup.address import plain

#: How far things may overlap that follow one another, and how far the middle of one is from the
#: place between two others that it could stand in, in CSS pixels.
SLACK, BESIDE = 2, 12


@dataclass(frozen=True)
class Unlike:
    """Texts that a narrow mockup has not, which are hidden there, and what only it has."""

    hidden: tuple[str, ...] = ()
    only: tuple[str, ...] = ()


def leave_out(body: Element, spare: Sequence[Area], when: str) -> Unlike:
    """Hide what is not in the narrow mockup.

    `spare` is what that mockup shows and the page does not.
    """
    order = list(body.walk())
    hidden: list[str] = []
    for element in _absent(body):
        start = next(number for number, one in enumerate(order) if one is element)
        end = start + sum(1 for _ in element.walk())
        top = _edge(reversed(order[:start]), is_upper=True)
        bottom = _edge(iter(order[end:]), is_upper=False)
        texts = [inner.words.text for inner in element.walk() if inner.words]
        others = [area for area in spare if not texts or area.shape is not Shape.BOX]
        if top <= bottom + SLACK and not any(_lies_between(area, top, bottom) for area in others):
            element.mockups[when] = {"display": "none"}
            hidden.extend(texts)
    names = [_name(area) for area in spare]
    return Unlike(tuple(hidden), tuple(filter(None, names)))


def _name(area: Area) -> str:
    """What tells a person which thing of a mockup is meant; empty for a plain box."""
    if area.setting is not None:
        return area.setting.text
    if area.shape is not Shape.PICTURE:
        return ""
    return area.piece.name if area.piece else plain(area.layers[0])


def _edge(elements: Iterator[Element], *, is_upper: bool) -> float:
    """Where the first thing that the narrow mockup shows ends, or begins if it is not the upper."""
    twin = next((element.twin for element in elements if _is_seen(element)), None)
    if twin is None:
        return 0.0 if is_upper else math.inf
    box = twin.laid.space.box
    return box.bottom if is_upper else box.y


def _absent(element: Element) -> Iterator[Element]:
    """The outermost elements of which nothing has a twin, in others that have one."""
    if element.twin is None or is_running(element):
        return
    for inner in element.inner:
        if element.tag not in LISTS and not any(one.twin for one in inner.walk()):
            yield inner
        else:
            yield from _absent(inner)


def _is_seen(element: Element) -> bool:
    """Whether it is a text, a picture or a box that the narrow mockup shows too."""
    is_thing = element.words is not None or (element.area is not None and is_leaf(element.area))
    return element.twin is not None and is_thing


def is_leaf(area: Area) -> bool:
    """Whether an area is a text, a picture or a box of nothing but its ground."""
    return area.setting is not None or area.shape in (Shape.PICTURE, Shape.BOX)


def _lies_between(area: Area, top: float, bottom: float) -> bool:
    middle = area.box.y + area.box.height / 2
    return top - BESIDE <= middle <= bottom + BESIDE
