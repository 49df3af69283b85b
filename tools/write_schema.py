"""The asset classes -> `output/ledger.schema.json`, the shape of a ledger. By hand.

    python tools/write_schema.py

Which keys an asset has, of what types and which may be missing, comes from the classes; this file
adds what a type can't say. A test holds the written file to it.
"""

from __future__ import annotations

import json
import types
from collections.abc import Mapping
from dataclasses import fields
from pathlib import Path
from typing import Any, Literal, Union, get_args, get_origin, get_type_hints

import riffler
from riffler.geometry import Box, CssSize, Point, Size
from riffler.output.asset import KINDS, Asset, Region
from riffler.output.ledger import VERSION

FILE = Path(riffler.__file__).parent / "output/ledger.schema.json"

ROLES = ("picture", "tile", "panel", "icon", "hero")
PARTS = ("cap-top", "cap-right", "cap-bottom", "cap-left", "middle")

#: What is said of a key beside its type, for every kind that has it, or for one alone.
SAID: dict[str, dict[str, Any]] = {
    "file": {"minLength": 1, "description": "Path below the output folder."},
    "url": {"description": "How pages name it: with the URL prefix, or from the output folder."},
    "made_by": {"description": "The command that answers for it."},
    "bytes": {"minimum": 0},
    "sha256": {"pattern": "^[0-9a-f]{64}$"},
    "slice": {"minLength": 1, "description": "The slice that it was made of."},
    "role": {"enum": ROLES},
    "format": {"description": "Format as a cutlist writes it."},
    "mockup": {"description": "Path of the mockup from the project's folder."},
    "place": {"description": "Box in the mockup, in mockup pixels."},
    "density": {"exclusiveMinimum": 0, "description": "Mockup pixels per CSS pixel."},
    "pixels": {"description": "Size of the picture in the file, in pixels."},
    "css": {"description": "Size on the page, in CSS pixels."},
    "setting": {"description": "What it was encoded with."},
    "state": {"description": "State of the slice; missing at rest."},
    "part": {"enum": PARTS, "description": "Part of a panel that was cut apart."},
    "when": {"description": "Media query that it is for; missing for all screens."},
    "size": {"description": "Size as a cutlist writes it; missing for the mockup's own pixels."},
    "focal": {
        "description": "Point that narrow windows keep in sight, in parts of width and height."
    },
    "loss": {
        "minimum": 0,
        "description": "Visible loss; 0 when lossless, missing when not scored.",
    },
    "rel": {"description": "What a link to it says it is; empty for what only the manifest names."},
    "sizes": {
        "description": "Sides of the pictures inside, in pixels; none for a drawing and for the "
        "manifest."
    },
    "found": {
        "description": "Of the whole set: parts of the icon that stand out from light and dark "
        "bars, that survive at 16 px, and how far the maskable one reaches from its middle."
    },
    "template": {"description": "Path of the template from the project's folder."},
    "use": {"description": "What it is for."},
    "source": {"description": "Path of the original from the project's folder."},
    "weight": {"description": "As @font-face says it: a number, or the range of a variable face."},
    "font.style": {"enum": ("normal", "italic")},
    "name": {"minLength": 1, "description": "What it is called in the cutlist."},
    "sprite.css": {"description": "What it covers on a page, in CSS pixels."},
    "sprite.size": {"description": "Density that it is for, as a cutlist writes it."},
    "sprite.members": {"description": "Where each slice lies in the file, in its pixels."},
    "symbols.members": {"description": "The size of each drawing on a page, in CSS pixels."},
    "dots": {"minimum": 0, "description": "How many dots run with the drawing."},
    "text": {"description": "What is read out."},
    "region.ground": {
        "pattern": "^#([0-9a-f]{6}|[0-9a-f]{8})$",
        "description": "The colour under the text.",
    },
    "look": {"description": "Declarations of CSS that draw a plain box which it fills."},
}

#: Types that are shapes of their own.
SHAPES: dict[type, str] = {Box: "box", Point: "point", Size: "whole-size", CssSize: "size"}

PLAIN: dict[Any, str] = {str: "string", int: "integer", float: "number", bool: "boolean"}


def _shape(sides: Mapping[str, Mapping[str, Any]]) -> dict[str, Any]:
    return {
        "type": "object",
        "required": list(sides),
        "additionalProperties": False,
        "properties": {side: dict(facts) for side, facts in sides.items()},
    }


_WHOLE, _LENGTH = {"type": "integer", "minimum": 1}, {"type": "number", "exclusiveMinimum": 0}
_PART = {"type": "number", "minimum": 0, "maximum": 1}
DEFINED = {
    "point": _shape({"x": _PART, "y": _PART}),
    "whole-size": _shape({"width": _WHOLE, "height": _WHOLE}),
    "size": _shape({"width": _LENGTH, "height": _LENGTH}),
    "box": _shape(
        {"x": {"type": "integer"}, "y": {"type": "integer"}, "width": _WHOLE, "height": _WHOLE}
    ),
}


def schema() -> dict[str, Any]:
    """The JSON Schema (2020-12) of a ledger."""
    names = {kind: get_args(get_type_hints(kind)["kind"])[0] for kind in KINDS}
    assets = {name: _object(kind, name) for kind, name in names.items()}
    other = _object(Asset, "other")
    other["description"] = "An asset of a kind that this version does not make."
    other["properties"]["kind"] = {"not": {"enum": sorted(names.values())}}
    del other["additionalProperties"]
    assets["other"] = other
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Riffler ledger",
        "description": "The record of every file that Riffler made, in out/ledger.json.",
        "type": "object",
        "required": ["ledger", "assets", "words"],
        "additionalProperties": False,
        "properties": {
            "ledger": {"const": VERSION, "description": "Version of this shape."},
            "assets": {
                "type": "array",
                "description": "One entry a file, sorted by file.",
                "items": {"$ref": "#/$defs/asset"},
            },
            "words": {
                "type": "array",
                "description": "Boxes for live text, sorted by slice; no file belongs to them.",
                "items": {"$ref": "#/$defs/region"},
            },
        },
        "$defs": {
            "asset": {"oneOf": [{"$ref": f"#/$defs/{name}"} for name in assets]},
            **assets,
            "region": _object(Region, "region"),
            **DEFINED,
        },
    }


def _object(kind: type, name: str) -> dict[str, Any]:
    """A class as an object of JSON; what may be None may be missing."""
    hints = get_type_hints(kind)
    every = sorted(fields(kind), key=lambda field: field.name != "kind")
    required = [field.name for field in every if type(None) not in get_args(hints[field.name])]
    return {
        "type": "object",
        "description": (kind.__doc__ or "").partition("\n")[0].partition(";")[0].rstrip(".") + ".",
        "required": required,
        "additionalProperties": False,
        "properties": {
            field.name: {**_typed(hints[field.name]), **_said(name, field.name)} for field in every
        },
    }


def _said(kind: str, key: str) -> dict[str, Any]:
    facts = dict(SAID.get(f"{kind}.{key}", SAID.get(key, {})))
    if "enum" in facts:
        facts["enum"] = list(facts["enum"])
    return facts


def _typed(hint: Any) -> dict[str, Any]:  # noqa: ANN401 - any annotation
    """A type as JSON Schema; `None` beside another type means that the key may be missing."""
    origin, inner = get_origin(hint), get_args(hint)
    if hint in PLAIN:
        return {"type": PLAIN[hint]}
    if hint in SHAPES:
        return {"$ref": f"#/$defs/{SHAPES[hint]}"}
    if origin is Literal:
        return {"const": inner[0]} if len(inner) == 1 else {"enum": list(inner)}
    if origin in (Union, types.UnionType):
        kinds = [one for one in inner if one is not type(None)]
        if len(kinds) == 1:
            return _typed(kinds[0])
        return {
            "type": sorted(
                {PLAIN[kind] for kind in kinds} - ({"integer"} if float in kinds else set())
            )
        }
    if origin is tuple:
        return {"type": "array", "items": {**_typed(inner[0]), "minimum": 1}}
    return {"type": "object", "additionalProperties": _typed(inner[1])}


def text() -> str:
    """The file as it is written."""
    return json.dumps(schema(), indent=2) + "\n"


if __name__ == "__main__":
    FILE.write_text(text(), encoding="utf-8")
