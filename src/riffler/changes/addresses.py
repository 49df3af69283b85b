"""The text of a cutlist -> the same with every layer called as the new version calls it."""

from __future__ import annotations

import tomllib
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any

from riffler.changes.comparison import Changed
from riffler.cutlist.editing import CutlistText, Path
from riffler.cutlist.spelling import Spelled, respelled, spelled_in
from riffler.errors import AddressError
from riffler.mockup import address
from riffler.mockup.model import Mockup
from riffler.plain import clean

#: Stands behind the address of what is gone while the rest is followed: another thing may be
#: called so now. No file holds this sign by itself; Unicode 15, section 23.5.
GONE = "\ue0f0"

#: Keys whose texts are addresses.
ADDRESSES = ("only", "show", "hide", "around", "words", "leave")

#: The table whose keys are addresses.
SAYS = "says"

#: What places a row of boxes by layers, and what is said of each of them.
TIMES, EACH = ("times", "around"), ("alts", "texts", "links")

#: Keys that a slice can't do without: it shows or goes round what they name.
NEEDED = ("only", "around")


@dataclass
class Addressed:
    """The text; names that were `let_go` with their layers, tables `put_aside` that lost them all.

    `needed` are names that lead nowhere, where nothing can be put aside. Each name with the key or
    the table that it stands under.
    """

    text: str
    let_go: list[tuple[Path, str]] = field(default_factory=list)
    put_aside: list[tuple[Path, str]] = field(default_factory=list)
    needed: list[tuple[Path, str]] = field(default_factory=list)


def addressed(text: str, changed: Changed) -> Addressed:
    """Follow layers that were renamed or moved into other groups; nothing else changes.

    Names of layers that are gone are taken out. A slice, or a state of one, that has lost all that
    it shows becomes a comment.
    """
    old, new = changed.old.mockup, changed.new.mockup
    result = Addressed(text)

    def follow(word: Spelled) -> str | None:
        if not _is_address(word):
            return None
        return _followed(word.said, old, new, changed.there)

    result.text = respelled(text, follow)
    lost = [
        (word, word.said.removesuffix(GONE))
        for word in spelled_in(result.text)
        if _is_address(word)
        and not word.said.startswith(address.KIND)
        and (word.said.endswith(GONE) or not _found(new, word.said))
    ]
    for word, name in lost:
        _let_go(result, word, name)
    result.text = result.text.replace(GONE, "")
    return result


def _let_go(result: Addressed, word: Spelled, name: str) -> None:
    """Take a name out, or put aside what can't do without it."""
    if any(word.path[: len(table)] == table for table, _ in result.put_aside):
        return
    rest = [] if word.is_key else _others(result.text, word.path, word.said)
    if rest or word.path[-1] not in NEEDED:
        result.text = _rewritten(result.text, word, rest)
        result.let_go.append((tuple(key.removesuffix(GONE) for key in word.path), name))
        return
    table = word.path[: 4 if word.path[2:3] == ("state",) else 2]
    edited = CutlistText(result.text)
    if not edited.is_table(table):
        result.needed.append((word.path, name))
        return
    edited.put_aside(table, f'Not cut: "{clean(name)}" is gone, and nothing else of it shows.')
    result.text = edited.text
    result.put_aside.append((table, name))


def _is_address(word: Spelled) -> bool:
    """Whether a text names layers: in a list of them, or as the key of what a layer says."""
    if word.is_key:
        return len(word.path) == 2 and word.path[0] == SAYS
    return word.path[-1] in ADDRESSES


def _followed(text: str, old: Mockup, new: Mockup, there: dict[str, str]) -> str | None:
    """How an address is written for the new version; None where it stays."""
    if text.startswith(address.KIND):
        return None
    if text in old.by_address:
        return there.get(text, text + GONE)
    meant = _found(old, text)
    wanted = {there[item] for item in meant if item in there}
    if not meant or wanted <= set(_found(new, text)):
        return None
    parts = text.split("/")
    for count in range(len(parts) - 1, 0, -1):
        begin = there.get("/".join(parts[:count]))
        if begin is not None:
            candidate = "/".join([begin, *parts[count:]])
            if wanted <= set(_found(new, candidate)):
                return candidate
    return None


def _found(mockup: Mockup, text: str) -> Sequence[str]:
    try:
        return address.find(mockup, text)
    except AddressError:
        return ()


def _others(text: str, path: Path, said_text: str) -> list[str]:
    """What else is named under a key."""
    value: object = tomllib.loads(text)
    for key in path:
        assert isinstance(value, dict)
        value = value[key]
    return [str(name) for name in value if name != said_text] if isinstance(value, list) else []


def _rewritten(text: str, word: Spelled, names: Sequence[str]) -> str:
    """The text with these names under a key; without any the key goes, too.

    What is said of each of a row is one less with a box of the row.
    """
    edited = CutlistText(text)
    if not names:
        edited.remove(word.path)
        return edited.text
    if word.path[-2:] == TIMES:
        values: Any = tomllib.loads(text)
        for key in word.path[:-2]:
            values = values[key]
        number = values["times"]["around"].index(word.said)
        for key in EACH:
            if len(each := values.get(key, [])) > number:
                edited.write((*word.path[:-2], key), each[:number] + each[number + 1 :])
    edited.write(word.path, list(names))
    return edited.text
