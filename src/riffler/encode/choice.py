"""What a search ends with, and how much of a loss may be seen."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

#: Visible loss up to which nobody sees a difference, and up to which it shows only side by side.
#: docs/formats.md has the pictures that these were set by.
LEVELS = {"clear": 0.017, "fair": 0.042}

#: A number as quality, for formats without any: nothing is searched for.
LOSSLESS = 100

#: Encodes that a search may take for one format.
ENCODES = 6


#: A palette may lose this part of what codecs may: its bands are long straight edges that an eye
#: follows through the whole picture, and that windows of a few pixels hardly see.
STRICTER = 0.2


@dataclass(frozen=True)
class Choice:
    """A file and how it came about. `loss` is what is seen of it; None where nobody looked."""

    data: bytes
    format: str
    setting: Mapping[str, int | float | str] = field(default_factory=dict)
    loss: float | None = None
    encodes: int = 1

    @property
    def felt(self) -> float:
        """The loss as it counts against a level, where what a palette loses counts for more."""
        return (self.loss or 0.0) / (STRICTER if "colors" in self.setting else 1.0)
