"""Columns of a footer, and pages by their numbers -> lists of links."""

from __future__ import annotations

from collections.abc import Sequence

from riffler.markup.area import Area, Shape
from riffler.markup.element import Element
from riffler.markup.extents import has_ground, is_label
from riffler.markup.sections import framed

#: Words of a link at the most; fewer lines than these are no list.
WORDS, FEWEST = 4, 2

#: How far links may begin beside one another, in CSS pixels.
BESIDE = 4


def with_links(parts: Sequence[Area]) -> list[Area]:
    """Parts of a stack, with lists of those lines that are links."""
    result: list[Area] = []
    run: list[Area] = []
    for part in (*parts, None):
        if part is not None and _is_line(part) and (not run or _goes_on(run[-1], part)):
            run.append(part)
            continue
        result.extend([_listed(run)] if len(run) >= FEWEST else run)
        run = []
        if part is not None and _is_line(part):
            run = [part]
        elif part is not None:
            result.append(part)
    return result


def are_links(area: Area) -> bool:
    """Whether a list is of such lines and nothing else."""
    return area.shape is Shape.LIST and all(map(_is_line, area.parts))


def are_pages(area: Area) -> bool:
    """Whether a row is of plates with the numbers of pages, one after the other."""
    labels = [part.parts[0].setting for part in area.parts if has_ground(part) and is_label(part)]
    texts = [label.text for label in labels if label is not None]
    if len(texts) < max(FEWEST, len(area.parts)) or area.columns < FEWEST:
        return False
    return texts == [str(n) for n in range(1, len(texts) + 1)]


def as_navigation(element: Element) -> None:
    """Make a navigation of a text and the links that it heads."""
    inner = element.inner
    if len(inner) == 2 and inner[0].text and inner[0].tag != "a" and inner[1].tag == "ul":
        element.tag, element.name, inner[0].tag = "nav", "links", "p"
        element.attributes["aria-label"] = inner[0].text


def _is_line(area: Area) -> bool:
    setting = area.setting
    if setting is None or len(setting.lines) > 1 or len(setting.text.split()) > WORDS:
        return False
    text = setting.text.rstrip()
    return not text.endswith(".") and not any(sign.isdigit() or sign in "@©" for sign in text)


def _goes_on(before: Area, area: Area) -> bool:
    first, second = before.setting, area.setting
    is_alike = first is not None and second is not None and first.type == second.type
    return is_alike and abs(before.box.x - area.box.x) <= BESIDE


def _listed(run: Sequence[Area]) -> Area:
    return Area(Shape.LIST, framed(run).box, run[0].kind, parts=tuple(run))
