"""A header -> its logo, or the name that stands for one, leads to the first page."""

from __future__ import annotations

from collections.abc import Callable
from itertools import takewhile

from riffler.markup.element import Element, as_link
from riffler.reading.part import PartKind

#: The most words of a name that stands for a logo.
NAME = 4


def lead_home(head: Element, anchor: Callable[[Element, str], Element]) -> None:
    """Make a link of the logo of a header; `anchor` says where it leads.

    Where there is none, a name before the navigation stands for it.
    """
    has_nav = any(element.tag == "nav" for element in head.walk())
    for element in takewhile(lambda element: element.tag != "nav", head.walk()):
        area = element.area
        if area is not None and area.kind is PartKind.LOGO and element.inner:
            as_link(element)
        elif not (has_nav and _is_name(element)):
            continue
        element.tag = "a"
        anchor(element, "index")
        return


def _is_name(element: Element) -> bool:
    """Whether it is a text as short as a name."""
    return element.tag in ("p", "h2", "h3") and len(element.text.split()) <= NAME
