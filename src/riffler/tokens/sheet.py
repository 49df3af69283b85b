"""Tokens -> CSS custom properties. CSS Custom Properties for Cascading Variables 1."""

from __future__ import annotations

from collections.abc import Iterator

from riffler.measure.units import Scale
from riffler.project.target import OURS
from riffler.tokens.model import Sort, Tokens
from riffler.tokens.spelling import spelled


def sheet(found: Tokens, scale: Scale) -> str:
    """A style sheet with every token; lengths in the scale's unit."""
    return "\n".join(_lines(found, scale)) + "\n"


def _lines(found: Tokens, scale: Scale) -> Iterator[str]:
    names = ", ".join(found.mockups).replace("*/", "* /")
    yield f"/* {OURS} from {names}: names are kept in riffler.toml, under [tokens]. */"
    yield ":root {"
    for number, sort in enumerate(sort for sort in Sort if found.of(sort)):
        if number:
            yield ""
        for token in found.of(sort):
            yield f"  --{sort}-{token.name}: {spelled(sort, token.value, scale)};"
    yield "}"
