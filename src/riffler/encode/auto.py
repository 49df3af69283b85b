"""A picture -> the formats that serve it best: one that all programs read, one that is smaller."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from riffler.color import Bytes
from riffler.encode.choice import Choice
from riffler.encode.choose import choose

#: A second file is worth it from this part of the first one's bytes.
WORTH = 0.85


def best(
    straight: Bytes, flat: Bytes | None, quality: int | str, budget: int | None = None
) -> Iterator[Choice]:
    """The smaller format first where it is worth a second file, then the one for every program.

    straight: (H, W, 4) uint8; `flat` is the picture without transparency, None where it needs it.
    Each says why it was taken.
    """
    compatible = [choose(straight, "png", quality, budget)]
    if flat is not None:
        compatible.append(choose(flat, "jpeg", quality, budget))
    first = min(compatible, key=lambda choice: len(choice.data))
    modern = choose(straight if flat is None else flat, "webp", quality, budget)
    if len(modern.data) <= WORTH * len(first.data):
        saved = round(100 * (1 - len(modern.data) / len(first.data)))
        yield _because(modern, f"{saved} % smaller than {first.format}")
    others = [choice for choice in compatible if choice is not first]
    why = "needs transparency" if flat is None else "smaller than " + "".join(
        f"{choice.format} ({len(choice.data)} B)" for choice in others
    )  # fmt: skip
    yield _because(first, why)


def _because(choice: Choice, why: str) -> Choice:
    return replace(choice, setting={**choice.setting, "why": why})
