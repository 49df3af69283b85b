"""The model of a cutlist -> its JSON Schema, with which editors complete and check keys."""

from __future__ import annotations

import json
from importlib import resources

from riffler.cutlist.model import Cutlist

#: The file beside this module; `docs/cutlist.md` says how an editor uses it.
FILE = "cutlist.schema.json"


def generated() -> str:
    """The schema as the model gives it. JSON Schema 2020-12."""
    schema = Cutlist.model_json_schema(by_alias=True)
    schema = {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        **schema,
        "title": "Riffler cutlist",
        "description": "What is cut from one mockup. Every number is in mockup pixels.",
    }
    return json.dumps(schema, indent=2, ensure_ascii=False) + "\n"


def shipped() -> str:
    """The schema as it is shipped."""
    return resources.files("riffler.cutlist").joinpath(FILE).read_text(encoding="utf-8")
