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
    if is_dataclass(value) and not isinstance(value, type):
        said = {field.name: getattr(value, field.name) for field in fields(value) if field.repr}
        return plain(said, sparse=sparse)
    if isinstance(value, Mapping):
        return {
            str(key): plain(inner, sparse=sparse)
            for key, inner in value.items()
            if not (sparse and inner is None)
        }
    if isinstance(value, str):
        return str(value)
    if isinstance(value, float):
        return int(value) if value == int(value) else value
    if isinstance(value, Path):
        return as_typed(value)
    if isinstance(value, frozenset | set):
        return [plain(inner, sparse=sparse) for inner in sorted(value)]
    if isinstance(value, Collection):
        return [plain(inner, sparse=sparse) for inner in value]
    return value
