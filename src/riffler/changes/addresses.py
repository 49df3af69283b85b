"""The text of a cutlist -> the same with every layer called as the new version calls it."""

from __future__ import annotations

import tomllib
from collections.abc import Sequence
from dataclasses import dataclass, field

from riffler.changes.answer import Changed
from riffler.cutlist.editing import CutlistText, Path
from riffler.cutlist.spelling import Spelled, respelled, spelled_in
from riffler.errors import AddressError
from riffler.mockup import address
from riffler.mockup.model import Mockup

#: Stands behind the address of what is gone while the rest is followed: another thing may be
#: called so now. No file holds this sign by itself; Unicode 15, section 23.5.
GONE = "\ue0f0"

#: Keys whose texts are addresses.
ADDRESSES = ("only", "show", "hide", "around", "words")


@dataclass
class Addressed:
    """The text, and what could not be decided: the key and why."""

    text: str
    left: list[tuple[Path, str]] = field(default_factory=list)


def addressed(text: str, changed: Changed) -> Addressed:
    """Follow layers that were renamed or moved into other groups; nothing else changes.

    What is gone is taken out of lists of what is hidden. Where it is shown, nothing is decided.
    """
    old, new = changed.old.mockup, changed.new.mockup
    done = Addressed(text)

    def follow(word: Spelled) -> str | None:
        if word.is_key or word.path[-1] not in ADDRESSES:
            return None
        return _followed(word.said, old, new, changed.there)

    done.text = respelled(text, follow)
    for word in list(spelled_in(done.text)):
        if word.is_key or word.path[-1] not in ADDRESSES or word.said.startswith(address.KIND):
            continue
        is_gone = word.said.endswith(GONE) or not _found(new, word.said)
        if is_gone and word.path[-1] in ("hide", "words"):
            done.text = _without(done.text, word.path, word.said)
        elif is_gone:
            done.left.append((word.path, f'"{word.said.removesuffix(GONE)}" is there no more'))
    done.text = done.text.replace(GONE, "")
    return done


def _followed(said: str, old: Mockup, new: Mockup, there: dict[str, str]) -> str | None:
    """How an address is written for the new version; None where it stays."""
    if said.startswith(address.KIND):
        return None
    if said in old.by_address:
        return there.get(said, said + GONE)
    meant = _found(old, said)
    wanted = {there[one] for one in meant if one in there}
    if not meant or wanted <= set(_found(new, said)):
        return None
    parts = said.split("/")
    for count in range(len(parts) - 1, 0, -1):
        begin = there.get("/".join(parts[:count]))
        if begin is not None:
            candidate = "/".join([begin, *parts[count:]])
            if wanted <= set(_found(new, candidate)):
                return candidate
    return None


def _found(mockup: Mockup, said: str) -> Sequence[str]:
    try:
        return address.find(mockup, said)
    except AddressError:
        return ()


def _without(text: str, path: Path, said: str) -> str:
    """The text with one entry less in a list of addresses; the key goes with its last."""
    value: object = tomllib.loads(text)
    for key in path:
        assert isinstance(value, dict)
        value = value[key]
    assert isinstance(value, list)
    edited = CutlistText(text)
    rest = [one for one in value if one != said]
    if rest:
        edited.write(path, rest)
    else:
        edited.remove(path)
    return edited.text
