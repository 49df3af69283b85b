"""Lists of elements made alike -> one element in a loop, and the rows of data that fill it."""

from __future__ import annotations

import json
from collections.abc import Iterable
from dataclasses import replace

from riffler.cutlist.editing import value_text
from riffler.markup.element import Element, Loop
from riffler.markup.fields import METHODS, free, variable
from riffler.markup.merging import LISTS, Merging
from riffler.markup.row_fields import Row


def put_loops(element: Element) -> None:
    """Put every list in an element into a loop, the outer ones first."""
    for child in element.inner:
        if not (child.tag in LISTS and _loop(child)):
            put_loops(child)


def _loop(element: Element) -> bool:
    rows: list[Row] = [{} for _ in element.inner]
    each = variable(element.name)
    merged = Merging(each, is_menu=element.name == "menu").all(element.inner, rows)
    if merged is None:
        return False
    element.content = [merged]
    element.loop = Loop(element.name, each, tuple(rows))
    return True


def name_data(elements: Iterable[Element], taken: set[str]) -> None:
    """Give each loop that is written a file of data of its own; `taken` are names of others."""
    for element in elements:
        if element.loop is not None and not element.loop.is_inner:
            base = element.loop.data
            name = free(f"{base}-list" if base in METHODS else base, taken)
            taken.add(name)
            element.loop = replace(element.loop, data=name)


def data_text(loop: Loop) -> str:
    """The rows of a loop as TOML."""
    parts = []
    for row in loop.rows:
        plain = {key: value for key, value in row.items() if not isinstance(value, list)}
        lines = ["[[list]]", *(f"{key} = {_value(value)}" for key, value in plain.items())]
        for key, value in row.items():
            if isinstance(value, list):
                for inner in value:
                    lines.append(f"[[list.{key}]]")
                    lines.extend(f"{name} = {_value(one)}" for name, one in inner.items())
        parts.append("\n".join(lines) + "\n")
    return "\n".join(parts)


def _value(value: object) -> str:
    """A value as TOML writes it, on one line."""
    if not isinstance(value, str):
        return json.dumps(value)
    return '"' + "\\n".join(value_text(line)[1:-1] for line in value.split("\n")) + '"'
