"""A name and a new one -> what becomes of each key and text of a cutlist, or of riffler.toml."""

from __future__ import annotations

import re
from collections.abc import Callable, Container
from typing import TypeAlias

from riffler.cutlist.edges import CELL, SIGN
from riffler.cutlist.sound_names import NewName
from riffler.cutlist.spelling import Spelled

#: The new spelling of a part of a key, or of a text; None where it stays.
Rule: TypeAlias = Callable[[Spelled], str | None]


def cutlist_rule(kind: str, names: NewName, guides: Container[str]) -> Rule:
    """How a cutlist changes when something of a kind is called otherwise.

    `guides` are all that the cutlist knows: they go before cells of the same name.
    """

    def of_slice(word: Spelled) -> str | None:
        match word.path:
            case ("slice", name) if word.is_key and name == names.old:
                return names.new
            case ("slice", _, "like") if not word.is_key:
                return {names.old: names.new, **names.members}.get(word.said)
        return None

    def of_group(word: Spelled) -> str | None:
        match word.path:
            case ("group", name) if word.is_key and name == names.old:
                return names.new
            case ("slice", _, "in") if word.said == names.old:
                return names.new
        return None

    def of_edges(word: Spelled) -> str | None:
        if word.is_key:
            path = word.path[:1] + word.path[-1:]
            is_own = len(word.path) == (3 if kind == "guide" else 2)
            own = "guides" if kind == "guide" else kind
            return names.new if is_own and path == (own, names.old) else None
        return _edge(word.said, kind, names, guides) if _is_edge(word.path) else None

    return {"slice": of_slice, "group": of_group}.get(kind, of_edges)


def settings_rule(names: NewName, word: Spelled) -> str | None:
    """How riffler.toml changes when a slice is called otherwise."""
    is_favicon = word.path == ("favicon", "slice") and not word.is_key
    return names.members.get(word.said) if is_favicon else None


def _is_edge(path: tuple[str, ...]) -> bool:
    """Whether the texts under a key are edges."""
    match path:
        case (
            ("guides", _, _)
            | ("grid", _, "from" | "to")
            | ("slice", _, "x" | "y" | "at" | "focal")
            | ("group", _, "focal")
            | ("defaults", "focal")
        ):
            return True
    return False


def _edge(edge: str, kind: str, names: NewName, guides: Container[str]) -> str:
    """An edge as it is written, with a guide or a grid called otherwise."""
    texts = []
    for term in re.split(f"({SIGN.pattern})", edge)[:: SIGN.groups + 2]:
        name = term.strip()
        cell = CELL.fullmatch(name)
        if kind == "grid" and cell and cell[1] == names.old and name not in guides:
            term = term.replace(name, f"{names.new}-{cell[2]}")
        elif kind == "guide" and name == names.old:
            term = term.replace(name, names.new)
        texts.append(term)
    signs = [match[0] for match in SIGN.finditer(edge)]
    return "".join(part for pair in zip(texts, [*signs, ""], strict=True) for part in pair)
