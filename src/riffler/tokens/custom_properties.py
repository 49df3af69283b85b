"""Tokens -> CSS custom properties. CSS Custom Properties for Cascading Variables 1."""

from __future__ import annotations

from collections.abc import Iterator

from riffler.measure.units import Scale
from riffler.project.target import OURS
from riffler.tokens.spelling import spelled
from riffler.tokens.token import Sort, Tokens


def sheet(tokens: Tokens, scale: Scale) -> str:
    """A style sheet with every token; lengths in the scale's unit."""
    return "\n".join(_lines(tokens, scale)) + "\n"


def _lines(tokens: Tokens, scale: Scale) -> Iterator[str]:
    names = ", ".join(tokens.mockups).replace("*/", "* /")
    yield f"/* {OURS} from {names}: names are kept in riffler.toml, under [tokens]. */"
    yield ":root {"
    for number, sort in enumerate(sort for sort in Sort if tokens.of(sort)):
        if number:
            yield ""
        for token in tokens.of(sort):
            yield f"  --{sort}-{token.name}: {spelled(sort, token.value, scale)};"
    yield "}"
