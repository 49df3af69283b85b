"""A bar that lies on the picture or the ground at the head of a page -> a header of its own.

What else lies there belongs to the main part: HTML, 4.3.8 (header) and 4.4.14 (main). The header
comes first and lies upon what follows, which begins where it does.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from riffler.geometry import Rect
from riffler.markup.area import Area, Shape
from riffler.markup.extents import has_ground
from riffler.markup.sections import framed
from riffler.markup.zones import LOW, is_navigation
from riffler.reading.part import PartKind

#: How many times as high as its bar the head of a page is at least.
HIGHER = 2


def lifted(pages: Sequence[Area], *, is_added: bool = False) -> list[Area]:
    """Pages with the bar at their heads before the heads themselves, where it lies upon these.

    It does so on all of them, or stays where it is: they share it. Of pages that are added each
    does as it was drawn.
    """
    raised = [_lifted(page) for page in pages]
    if is_added or None not in raised:
        return [area or page for area, page in zip(raised, pages, strict=True)]
    return [*pages]


def _lifted(page: Area) -> Area | None:
    if len(page.parts) == 1 and page.parts[0].shape is Shape.STACK:
        inner = _lifted(page.parts[0])
        return inner and page.holding(inner)
    if page.shape is not Shape.STACK or len(page.parts) < 2:
        return None
    head, *others = page.parts
    split = _split(head) if head.shape is Shape.PILE or has_ground(head) else None
    if split is None:
        return None
    bar, rest = split
    if any(map(is_navigation, rest.walk())) and not any(map(is_navigation, bar.walk())):
        return None  # the rest is a bar as well
    height = bar.box.bottom - head.box.y
    if head.box.height < HIGHER * height:
        return None
    box = Rect(head.box.x, head.box.y, head.box.width, height)
    header = replace(framed([bar]), box=box, is_upon=True, tint=_color(head))
    return page.holding(header, rest, *others)


def _color(head: Area) -> str:
    """The colour of a ground, or of the picture that lies there; empty where nobody knows it."""
    grounds = (inner.ground.stops[0].color for inner in head.walk() if inner.ground)
    tints = (inner.tint for inner in head.walk() if inner.tint)
    return head.ground.stops[0].color if head.ground else next(tints, next(grounds, ""))


def _split(area: Area) -> tuple[Area, Area] | None:
    """The bar that is the first thing in an area, or on its picture, and what is left."""
    if area.shape not in (Shape.PILE, Shape.STACK):
        return None
    if area.shape is Shape.STACK and len(area.parts) > 1 and _is_bar(area.parts[0]):
        return area.parts[0], _holding(area, area.parts[1:])
    for place, part in enumerate(area.parts if area.shape is Shape.PILE else area.parts[:1]):
        if split := _split(part):
            bar, rest = split
            return bar, _holding(area, (*area.parts[:place], rest, *area.parts[place + 1 :]))
    return None


def _is_bar(area: Area) -> bool:
    """Whether it is low and has a navigation, or a logo."""
    if area.box.height > LOW or has_ground(area):
        return False
    return any(inner.kind is PartKind.LOGO or is_navigation(inner) for inner in area.walk())


def _holding(area: Area, parts: Sequence[Area]) -> Area:
    """An area with fewer parts: as large as they are where its edges are not seen."""
    box = area.box if has_ground(area) else framed(parts).box
    return replace(area, box=box, parts=tuple(parts))
