"""What is different in each thing of a list -> fields of its row of data, and what prints them."""

from __future__ import annotations

import json
import re
from collections.abc import Sequence
from typing import TypeAlias

from riffler.markup.element import BREAK, SWITCHES, Code, Element, printing
from riffler.markup.fields import free, identifier

Row: TypeAlias = dict[str, object]

#: The most words of what only one member has and is written into the template.
LABEL = 4

_LINK = re.compile(r'\{\{ link\((".*")\) \}\}')


class RowFields:
    """The fields that the rows of one list have; `each` is what a template calls a row."""

    def __init__(self, each: str) -> None:
        self._each = each
        self.names: set[str] = set()

    def add(self, name: str, values: Sequence[object], rows: Sequence[Row]) -> str:
        """A new field with these values, called so as far as that is free; what it is called."""
        field = free(identifier(name), self.names, "_")
        self.names.add(field)
        for row, value in zip(rows, values, strict=True):
            row[field] = value
        return field

    def code(self, name: str, values: Sequence[object], rows: Sequence[Row]) -> str:
        """A new field with these values, as a template asks a row for it."""
        return f"{self._each}.{self.add(name, values, rows)}"

    def words(self, element: Element, members: Sequence[Element], rows: Sequence[Row]) -> None:
        """What members say."""
        texts = ["".join(str(one) for one in member.content) for member in members]
        is_long = len(members) == 1 and len(texts[0].split()) > LABEL
        if len(set(texts)) == 1 and not is_long:
            element.content = list(members[0].content)
            return
        element.content = [printing(self._said(element, texts, rows))]
        if any(BREAK in text for text in texts):
            element.css["white-space"] = "pre-line"
            element.narrow["white-space"] = "normal"

    def said(self, element: Element, texts: Sequence[str], rows: Sequence[Row]) -> list[str]:
        """A part of what running texts say: the spaces at its ends stay in the template."""
        if len(set(texts)) == 1:
            return [texts[0]]
        before = " " if all(text[:1] == " " for text in texts) else ""
        after = " " if all(text[-1:] == " " for text in texts) else ""
        texts = [text.removeprefix(before).removesuffix(after) for text in texts]
        parts = (before, printing(self._said(element, texts, rows)), after)
        return [part for part in parts if part]

    def _said(self, element: Element, texts: Sequence[str], rows: Sequence[Row]) -> str:
        name = "label" if element.tag in ("a", "button") else element.name
        return self.code(name, texts, rows)

    def picture(self, element: Element, members: Sequence[Element], rows: Sequence[Row]) -> None:
        """Pictures, with alternative texts where words beside them don't say the same."""
        silent = [element.attributes.get("alt") for element in members]
        if any(silent):
            element.attributes["alt"] = '""'
        pieces = [element.area.piece for element in members if element.area and element.area.piece]
        if len(pieces) < len(members) or len({piece.name for piece in pieces}) == 1:
            return
        names = [piece.name for piece in pieces]
        element.attributes["of"] = self.code("picture", names, rows)
        alts = ["" if no else piece.alt for no, piece in zip(silent, pieces, strict=True)]
        if None in alts:
            element.attributes.pop("alt", None)
            element.attributes["unsaid"] = "true"
        elif set(alts) != {""}:
            element.attributes["alt"] = self.code("alt", alts, rows)

    def attributes(self, element: Element, members: Sequence[Element], rows: Sequence[Row]) -> None:
        """The attributes of members, those that differ as fields."""
        self._pieces(element, members, rows)
        keys = dict.fromkeys(key for element in members for key in element.attributes)
        keys.pop("alt", None)  # as `picture` has it
        for key in keys:
            values = [element.attributes.get(key, "") for element in members]
            if key == "data-unsaid":
                if all(values):
                    element.attributes[key] = values[0] if len(set(values)) == 1 else "link"
                continue
            if len(set(values)) == 1:
                element.attributes[key] = values[0]
                continue
            self._attribute(element, key, values, rows)

    def _pieces(self, element: Element, members: Sequence[Element], rows: Sequence[Row]) -> None:
        """The slices that members show as grounds, where each has its own."""
        names = [
            element.area.piece.name
            for element in members
            if element.tag != "img" and element.area and element.area.piece
        ]
        if len(names) == len(members) and len(set(names)) > 1:
            element.attributes["piece"] = self.code("piece", names, rows)

    def _attribute(
        self, element: Element, key: str, values: Sequence[str], rows: Sequence[Row]
    ) -> None:
        """An attribute that differs becomes a field."""
        name = {"href": "link", "style": "size"}.get(key, key)
        is_switch = key in SWITCHES
        text = self.code(name, [*map(bool if is_switch else _plain, values)], rows)
        if is_switch:
            element.attributes[key] = text
            return
        match key:
            case "href":
                element.attributes[key] = printing(f"link({text})")
                if "#" in values:
                    element.attributes["data-unsaid"] = printing(f"{text} == '#'")
            case "style":
                element.attributes[key] = Code(f"--size: {printing(text)}")
            case _:
                element.attributes[key] = printing(text)


def _plain(value: str) -> object:
    """The value of an attribute as data has it: the page that a link leads to."""
    match = _LINK.fullmatch(value) if isinstance(value, Code) else None
    return json.loads(match[1]) if match else value.removeprefix("--size: ")
