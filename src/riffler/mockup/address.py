r"""Addresses: how people name layers. `tools/smoker`, `nav/*`, `**/shadow`, `kind:words`.

Names are separated by slashes. The second of a name in its group is `card#2`, counted as the
layers are listed; an unnamed layer is its kind and number (`vector#3`). In a pattern `*` stands
for any part of a name, `?` for one character, `**` for any number of names; a name in a pattern
stands for all layers so called, while an address without wildcards is exactly one layer. A
backslash makes the next character literal: `a\/b`.
"""

from __future__ import annotations

import operator
import re
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from typing import Any, TypeAlias

from riffler.errors import AddressError, nearest
from riffler.mockup.model import LayerKind, Mockup

#: Begins an address that means every layer of one kind.
KIND = "kind:"

_NUMBERED = re.compile(r"(?<!\\)#\d+$")
_ANY_DEPTH = "**"


def segments(layers: Iterable[tuple[str, LayerKind]]) -> list[str]:
    """The last part of each address in one group, from names and kinds as they are listed."""
    seen: dict[str, int] = {}
    result = []
    for raw, kind in layers:
        name = clean(raw)
        plain = _escaped(name) if name else str(kind)
        key = plain if name else f"{plain}#"
        seen[key] = seen.get(key, 0) + 1
        numbered = not name or seen[key] > 1
        result.append(f"{plain}#{seen[key]}" if numbered else plain)
    return result


def clean(name: str) -> str:
    """A layer's name on one line: control characters and runs of white space become one space."""
    printable = "".join(char if char.isprintable() else " " for char in name)
    return " ".join(printable.split())


def _escaped(name: str) -> str:
    text = re.sub(r"[\\/*?]", r"\\\g<0>", name)
    if _NUMBERED.search(text):
        head, _, number = text.rpartition("#")
        text = f"{head}\\#{number}"
    return f"kind\\:{text.removeprefix(KIND)}" if text.startswith(KIND) else text


def join(parent: str, segment: str) -> str:
    """The address of a layer in a group; `parent` is empty at the top."""
    return f"{parent}/{segment}" if parent else segment


def last(address: str) -> str:
    """A layer's own part of its address, escapes kept."""
    return _split(address)[-1]


def plain(address: str) -> str:
    """A layer's own part of its address, as people read it."""
    return last(address).replace("\\/", "/")


def parts(address: str) -> list[str]:
    """The names of the groups around a layer and its own, as people read them."""
    return [part.replace("\\/", "/") for part in _split(address)]


def find(mockup: Mockup, address: str) -> list[str]:
    """The layers that an address means, as they are listed.

    Raises AddressError with the nearest addresses when it means none.
    """
    if address in mockup.by_address:
        return [address]
    if address.startswith(KIND):
        return _of_kind(mockup, address.removeprefix(KIND))
    result = []
    if any(_is_wild(part) for part in _split(address)):
        signs = _pattern(address)
        result = [known for known in mockup.by_address if _fits(signs, _split(known), _same)]
    if not result:
        raise AddressError(f'There is no layer "{address}".', _advice(mockup, address))
    return result


def find_all(mockup: Mockup, addresses: Sequence[str]) -> frozenset[str]:
    """Every layer that any of the addresses means. Raises AddressError as `find` does."""
    return frozenset[str]().union(*(find(mockup, address) for address in dict.fromkeys(addresses)))


def _of_kind(mockup: Mockup, kind: str) -> list[str]:
    if kind not in list(LayerKind):
        raise AddressError(
            f'There is no kind "{kind}".', nearest(kind, list(LayerKind), "Kinds are")
        )
    return mockup.of_kind.get(kind, [])


def _advice(mockup: Mockup, address: str) -> str:
    known = list(mockup.by_address)
    same_name = [other for other in known if last(other) == last(address)]
    if same_name:
        return nearest(address, same_name) or nearest(same_name[0], same_name[:1])
    return nearest(address, known, "Layers are") or "riffler look lists the layers."


def _split(address: str) -> list[str]:
    """The parts of an address, escapes kept."""
    return re.findall(r"(?:\\.|[^/\\]|\\$)+", address) or [""]


def _is_wild(part: str) -> bool:
    return bool(re.search(r"[*?]", re.sub(r"\\.", "", part)))


@dataclass(frozen=True)
class _Sign:
    """A sign of a pattern that stands for one of anything, or for any number of them."""

    is_many: bool


_MANY, _ONE = _Sign(is_many=True), _Sign(is_many=False)
_Part: TypeAlias = "Sequence[str | _Sign]"


def _pattern(address: str) -> list[_Part | _Sign]:
    """An address as a pattern of parts, each a pattern of characters; `**` is many parts."""
    parts: list[_Part | _Sign] = [
        _MANY if part == _ANY_DEPTH else _characters(part) for part in _split(address)
    ]
    if parts[-1] is _MANY:
        parts.insert(-1, _ONE)  # a group is not inside itself
    return parts


def _characters(part: str) -> _Part:
    signs = {"*": _MANY, "?": _ONE}
    return [signs.get(piece, piece[-1]) for piece in re.findall(r"\\.|.", part, re.DOTALL)]


def _fits(pattern: Sequence[Any], items: Sequence[Any], same: Callable[[Any, Any], bool]) -> bool:
    """Whether items fit a pattern. The last `many` takes more where the rest does not fit.

    No earlier one has to: time grows with the product of both lengths at most.
    """
    at = item = resume = 0
    last = -1
    while item < len(items):
        here = pattern[at] if at < len(pattern) else None
        if here is _MANY:
            last, resume, at = at, item, at + 1
        elif here is not None and (here is _ONE or same(here, items[item])):
            at, item = at + 1, item + 1
        elif last >= 0:
            resume, at = resume + 1, last + 1
            item = resume
        else:
            return False
    return all(sign is _MANY for sign in pattern[at:])


def _same(part: _Part, of_layer: str) -> bool:
    """Whether a part of a layer's address fits, with or without its number."""
    return any(
        _fits(part, re.sub(r"\\(.)", r"\1", candidate), operator.eq)
        for candidate in {of_layer, _NUMBERED.sub("", of_layer)}
    )
