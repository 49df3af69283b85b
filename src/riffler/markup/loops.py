"""Lists of elements made alike -> one element in a loop, and the rows of data that fill it."""

from __future__ import annotations

import re

from riffler.markup.element import Element, Loop
from riffler.markup.fields import free, variable
from riffler.markup.merging import LISTS, Merging, Row


class Loops:
    """Puts the lists of a page into loops. `names` are those of files of data that are taken."""

    def __init__(self, names: set[str]) -> None:
        self._names = names

    def put(self, element: Element) -> None:
        """Every list in an element, the outer ones first."""
        for child in element.inner:
            if child.tag in LISTS and self._loop(child):
                continue
            self.put(child)

    def _loop(self, element: Element) -> bool:
        rows: list[Row] = [{} for _ in element.inner]
        each = variable(element.name)
        merged = Merging(each).all(element.inner, rows)
        if merged is None:
            return False
        name = free(re.sub(r"-list$", "", element.name), self._names)
        self._names.add(name)
        element.content = [merged]
        element.loop = Loop(name, each, tuple(rows))
        return True
