"""Results as Python has them -> what JSON holds: one rule for the ledger and every command."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import fields, is_dataclass
from pathlib import Path
from typing import Any

from riffler.files import as_typed


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
