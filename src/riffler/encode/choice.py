"""What a search ends with, and how much of a loss may be seen.

Next to nothing is better than little: a loss has to save a kilobyte and 15 % beside a file that has
hardly any; the same rule chooses within a format and among them.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

#: Visible loss up to which nothing is lost; nobody tells two pictures apart side by side; nobody
#: sees it on the page. docs/formats.md has the pictures and the figures that these were set by.
LEVELS = {"exact": 0.0, "clear": 1.0, "fair": 2.9}

#: Up to this loss next to nothing is lost; and what a file that loses more has to save beside such
#: a one, as a part of it and in bytes: for less than a kilobyte no page comes earlier.
CLEAN, REAL_SHARE, REAL_BYTES = 0.3, 0.85, 1_000

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


def is_worth_a_loss(choice: Choice, clean: Choice) -> bool:
    """Whether a file saves real bytes beside one that loses next to nothing."""
    count, other = len(choice.data), len(clean.data)
    return count <= REAL_SHARE * other and count <= other - REAL_BYTES


def enough(count: int) -> int:
    """Up to how many bytes a file that loses next to nothing is taken before one of a number."""
    return int(max(count / REAL_SHARE, count + REAL_BYTES))


def preferred(choices: Sequence[Choice]) -> Choice:
    """The smallest file; but one that loses next to nothing where that saves no real bytes.

    Of some that are as small the one that loses least.
    """
    smallest = min(choices, key=_size)
    clean = min(
        (choice for choice in choices if (choice.loss or 0) <= CLEAN), key=_size, default=smallest
    )
    return smallest if is_worth_a_loss(smallest, clean) else clean


def _size(choice: Choice) -> tuple[int, float]:
    return len(choice.data), choice.loss or 0.0
