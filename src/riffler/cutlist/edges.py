"""An edge as it is written, a number, a guide or a sum, -> mockup pixels."""

from __future__ import annotations

import re
from collections.abc import Mapping

from riffler.errors import WrittenError, nearest

#: A sign counts only with spaces round it, since guides have hyphens in their names.
_SIGN = re.compile(r"\s+([+-])\s+")

_NUMBER = re.compile(r"-?\d+(\.\d+)?")


def position(edge: float | str, guides: Mapping[str, float], axis: str) -> float:
    """Where an edge lies. `axis` is "x" or "y", for the error.

    Raises WrittenError for a guide that isn't there.
    """
    if not isinstance(edge, str):
        return edge
    first, *rest = _SIGN.split(edge.strip())
    total = _term(first, guides, axis)
    for sign, term in zip(rest[::2], rest[1::2], strict=True):
        value = _term(term, guides, axis)
        total += value if sign == "+" else -value
    return total


def _term(term: str, guides: Mapping[str, float], axis: str) -> float:
    if term in guides:
        return guides[term]
    if _NUMBER.fullmatch(term):
        return float(term)
    if re.search(r"\w[+-]\d|[+-]\d+$", term) and nearest(re.split(r"[+-]", term)[0], guides):
        raise WrittenError(
            f'There is no guide "{term}" in {axis}.', "In a sum the sign needs spaces round it."
        )
    raise WrittenError(
        f'There is no guide "{term}" in {axis}.',
        nearest(term, guides, "Guides are") or f"Guides stand under [guides.{axis}].",
    )
