"""What lays out elements: what rows, lists and columns ask of the flow that they are a part of."""

from __future__ import annotations

from typing import Protocol

from riffler.markup.area import Area
from riffler.markup.element import Element
from riffler.markup.extents import PLAIN, Member
from riffler.markup.places import Edges, Places


class Laying(Protocol):
    """A page that is being laid out; `places` writes where boxes begin and how wide they are.

    `width` is the page's.
    """

    places: Places
    width: float

    def say(self, pixels: float) -> str:
        """A length as the style sheet writes it."""
        ...

    def lay(self, element: Element, edges: Edges, top: float, member: Member = PLAIN) -> float:
        """Lay out what is in an element whose box has these edges and begins here; its bottom."""
        ...

    def after(self, child: Element, area: Area, y: float) -> float:
        """Where the next thing begins below a child that ends at `y`."""
        ...
