"""Ledgers as an earlier version wrote them -> the shape of today, so that nothing is forgotten."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any


def from_third(data: Mapping[str, Any]) -> dict[str, Any]:
    """A ledger of version 3, whose assets were one record with empty text for what is not so."""
    return {
        "assets": [_asset(_without_nothing(asset)) for asset in data["assets"]],
        "words": [_without_nothing(region) for region in data["words"]],
    }


def _without_nothing(record: Mapping[str, Any]) -> dict[str, Any]:
    return {key: value for key, value in record.items() if value not in ("", None)}


def _asset(old: dict[str, Any]) -> dict[str, Any]:
    common = {key: old[key] for key in ("file", "url", "bytes", "sha256", "made_by")}
    match old["role"]:
        case "page":
            return {"kind": "page", "template": old["file"], **common}
        case "style" | "font" as use:
            return {"kind": "copy", "use": use, "source": old["file"], **common}
        case "favicon":
            known = {key: old[key] for key in ("slice", "format", "mockup", "place", "density")}
            return {"kind": "icon", "rel": "icon", "sizes": [16, 32, 48], **known, **common}
    return {"kind": "cut", **old}
