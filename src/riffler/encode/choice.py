"""What a search ends with, and how much of a loss may be seen."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

#: Visible loss up to which nothing is lost; nobody tells two pictures apart side by side; nobody
#: sees it on the page. docs/formats.md has the pictures and the figures that these were set by.
LEVELS = {"exact": 0.0, "clear": 1.0, "fair": 2.9}

#: A number as quality, for formats without any: nothing is searched for.
LOSSLESS = 100

#: Encodes that a search may take for one format.
ENCODES = 7


@dataclass(frozen=True)
class Choice:
    """A file and how it came about. `loss` is what is seen of it; None where nobody looked."""

    data: bytes
    format: str
    setting: Mapping[str, int | float | str] = field(default_factory=dict)
    loss: float | None = None
    encodes: int = 1
