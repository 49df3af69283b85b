"""Names of classes -> names in templates and data: of fields, and of what loops go through."""

from __future__ import annotations

import re

from riffler.reading import layer_names

#: Names that templates know for something else, and words of Python that Jinja takes for its own.
TAKEN = {
    "data",
    "page",
    "site",
    "link",
    "inlay",
    "head",
    "sprite",
    "symbol",
    "loader",
    "loop",
    "if",
    "for",
    "in",
    "is",
    "not",
    "and",
    "or",
    "set",
    "block",
    "else",
    "self",
    "namespace",
    "range",
    "dict",
    "lipsum",
    "cycler",
    "joiner",
}

#: Names that every row has a meaning for already.
METHODS = {"items", "keys", "values", "get", "pop", "copy", "update", "clear", "setdefault"}


def singular(name: str) -> str:
    """What one of a list is called."""
    return {"menu": "entry", "links": "entry"}.get(name) or layer_names.singular(name)


def identifier(name: str) -> str:
    """A name as templates write it."""
    plain = re.sub(r"\W+", "_", name).strip("_") or "one"
    return f"{plain}_one" if plain in METHODS else plain


def variable(name: str) -> str:
    """The name of what a loop goes through."""
    plain = identifier(singular(name))
    return f"{plain}_one" if plain in TAKEN else plain


def free(name: str, taken: set[str], sign: str = "-") -> str:
    """A name that is not taken: itself, or with a number behind it."""
    if name not in taken:
        return name
    number = next(n for n in range(2, len(taken) + 3) if f"{name}{sign}{n}" not in taken)
    return f"{name}{sign}{number}"
