"""Results as Python has them -> what JSON holds, and texts -> what can be shown of them.

One rule for the ledger and every command.
"""

from __future__ import annotations

import re
from collections.abc import Collection, Hashable, Mapping
from dataclasses import fields, is_dataclass
from functools import cache
from pathlib import Path
from typing import TYPE_CHECKING, Any, TypeVar, cast

from riffler.files import as_typed

if TYPE_CHECKING:
    from pydantic import TypeAdapter

Kind = TypeVar("Kind")

#: Signs that steer a terminal or turn the order of what is read: controls (Unicode 15, table 23-1),
#: bidirectional ones (annex 9, section 2), line and paragraph separators, halves of pairs.
UNSHOWN = re.compile(
    "[\x00-\x08\x0a-\x1f\x7f-\x9f\u061c\u200e\u200f\u2028-\u202e\u2066-\u2069\ud800-\udfff]"
)


def clean(text: str) -> str:
    """A line of text from a file, with a mark in the place of signs that are not shown."""
    return UNSHOWN.sub("\N{REPLACEMENT CHARACTER}", text)


def clean_lines(text: str) -> str:
    """Several lines of text from a file, with that mark, and with their line ends."""
    return "\n".join(map(clean, text.split("\n")))


def spelled(text: str, form: str) -> str:
    """The text with signs that are not shown spelled as `form` says, such as `&#x{:x};`."""
    return UNSHOWN.sub(lambda sign: form.format(ord(sign[0])), text)


def to_json(value: Any) -> str:  # noqa: ANN401 - any result at all
    """Readable JSON of plain data; signs that are not shown are escaped."""
    import json

    text = json.dumps(value, indent=2, ensure_ascii=False)
    return "\n".join(spelled(line, "\\u{:04x}") for line in text.split("\n"))


def plain(value: Any, *, sparse: bool = False) -> Any:  # noqa: ANN401 - any result at all
    """Objects for dataclasses and mappings, arrays for all that is listed, paths as typed.

    Whole numbers lose their fraction, so that 480.0 is written 480. With `sparse` what is None is
    left out of objects.
    """
    if is_dataclass(value):
        value = {field.name: getattr(value, field.name) for field in fields(value) if field.repr}
    match value:
        case Mapping():
            kept = {key: inner for key, inner in value.items() if inner is not None or not sparse}
            return {str(key): plain(inner, sparse=sparse) for key, inner in kept.items()}
        case str():
            return str(value)
        case float() if value == int(value):
            return int(value)
        case Path():
            return as_typed(value)
        case set() | frozenset():
            return plain(sorted(value), sparse=sparse)
        case Collection():
            return [plain(inner, sparse=sparse) for inner in value]
    return value


def parse_json(data: bytes) -> Any:  # noqa: ANN401 - whatever it says
    """What a file of ours says. Raises ValueError for anything that is no JSON, or too deep."""
    import json

    try:
        return json.loads(data)
    except RecursionError as error:
        raise ValueError("nested too deeply") from error


def adapter_of(kind: type[Kind]) -> TypeAdapter[Kind]:
    """What checks data against a kind, made once; Pydantic is loaded when it is first needed."""
    adapter: TypeAdapter[Kind] = _adapter(cast("Hashable", kind))
    return adapter


@cache
def _adapter(kind: Hashable) -> TypeAdapter[Any]:
    from pydantic import TypeAdapter

    return TypeAdapter(cast("Any", kind))


def formula_free(text: str) -> str:
    """A text that no spreadsheet takes for a formula: an apostrophe before what begins as one."""
    return f"'{text}" if text[:1] in ("=", "+", "-", "@", "\t", "\r") else text


def slug(name: str, nameless: str = "part") -> str:
    """A name as part of a file's name, a class or an id: lower-case letters, digits, hyphens.

    `nameless` stands for what has none of these.
    """
    return re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-") or nameless
