"""A column of titles with signs, some with words below -> what is opened and closed."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace

from riffler.geometry import Rect
from riffler.markup.area import Area, Shape
from riffler.markup.element import Element
from riffler.markup.evening import in_the_middle, may_have_canvas
from riffler.reading.part import PartKind

#: How far their edges may be from one another, in CSS pixels.
NEAR = 2

#: The fewest members, and the largest sign that says whether one is open, in CSS pixels.
FEWEST, SIGN = 2, 40


def is_accordion(area: Area) -> bool:
    """Whether all have a title and a sign at its right, and some but not all have more below."""
    members = [_stacked(part) for part in area.parts]
    if area.columns != 1 or len(members) < FEWEST or not all(map(_is_headed, members)):
        return False
    opened = [len(member.parts) > 1 for member in members]
    return any(opened) and not all(opened)


def with_accordions(parts: Sequence[Area]) -> list[Area]:
    """Parts of a stack, with those members that follow one another in one list."""
    runs: list[list[Area]] = []
    for part in parts:
        if runs and _go_together(runs[-1][-1], part):
            runs[-1].append(part)
        else:
            runs.append([part])
    return [area for run in runs for area in _listed(run)]


def _listed(run: list[Area]) -> list[Area]:
    """Such members as one list, if some are open and some are not: else as they are."""
    box = Rect.around(member.box for member in run)
    if len(run) < FEWEST or box is None:
        return run
    area = Area(Shape.LIST, box, PartKind.ITEM, parts=tuple(run))
    return [area] if is_accordion(area) else run


def _go_together(first: Area, second: Area) -> bool:
    """Whether two are members of one list: alike, and as wide as one another."""
    edges = (first.box.x - second.box.x, first.box.right - second.box.right)
    are_members = all(_is_headed(_stacked(area)) for area in (first, second))
    return are_members and max(map(abs, edges)) <= NEAR


def accordion(area: Area, holder: Callable[[Area], Element]) -> Element:
    """The list of such members, each of which `holder` makes an element of."""
    area = replace(area, parts=tuple(_on_canvases([*map(_stacked, area.parts)])))
    members = [_as_details(holder(member)) for member in area.parts]
    items = [Element("li", None, "item", content=[member]) for member in members]
    return Element("ul", area, "questions", content=[*items])


def _on_canvases(members: Sequence[Area]) -> Sequence[Area]:
    """Members whose signs, which may be of several sizes, stand in the middle of one canvas."""
    signs = [member.parts[0].parts[1] for member in members]
    sizes = {(sign.piece.paint.width, sign.piece.paint.height) for sign in signs if sign.piece}
    if len(sizes) < 2 or not all(map(may_have_canvas, signs)):
        return members
    wide, high = max(width for width, _ in sizes), max(height for _, height in sizes)
    result = []
    for member, sign in zip(members, signs, strict=True):
        head, *rest = member.parts
        head = replace(head, parts=(head.parts[0], in_the_middle(sign, wide, high)))
        result.append(replace(member, parts=(head, *rest)))
    return result


def _as_details(element: Element) -> Element:
    """The element of a member as one that is opened by what heads it. HTML, 4.11.1."""
    element.tag, element.name = "details", "question"
    head = element.inner[0]
    head.tag, head.name = "summary", "head"
    for inner in head.inner:
        inner.name = "sign" if inner.tag == "img" else "title"
    if len(element.inner) > 1:
        element.attributes["open"] = "open"
    return element


def _stacked(area: Area) -> Area:
    """A row with edges of its own as a stack of nothing but that row."""
    if area.shape is not Shape.ROW:
        return area
    box = Rect.around(part.box for part in area.parts) or area.box
    row = Area(Shape.ROW, box, PartKind.ROWS, parts=area.parts)
    return replace(area, shape=Shape.STACK, parts=(row,))


def _is_headed(area: Area) -> bool:
    if area.shape is not Shape.STACK or not area.parts or area.parts[0].shape is not Shape.ROW:
        return False
    row = area.parts[0].parts
    if len(row) != 2 or row[0].setting is None or row[1].shape is not Shape.PICTURE:
        return False
    is_sign = max(row[1].box.width, row[1].box.height) <= SIGN
    rest = area.parts[1:]
    return is_sign and row[1].box.x > row[0].box.right and all(part.setting for part in rest)
