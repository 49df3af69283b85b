"""A picture -> the formats that serve it best: one that all programs read, one that is smaller."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from riffler.encode import webp
from riffler.encode.choice import Choice
from riffler.encode.choose import choose
from riffler.encode.original import Original

#: A second file is worth it from this part of the first one's bytes, and from so many saved: fewer
#: are spent on naming it in the page.
WORTH, SAVED = 0.85, 200

#: Bits that a pixel takes without loss from which a picture is a photograph, for flat art takes 2
#: and cloth 3; and the pixels from which that can be said.
PHOTOGRAPH, TELLING = 4.0, 1_000


def best(
    original: Original, flat: Original | None, quality: int | str, budget: int | None = None
) -> Iterator[Choice]:
    """The smaller format first where it is worth a second file, then the one for every program.

    `flat` is the picture without transparency, None where it needs it. A photograph never becomes a
    PNG: what no JPEG can hold is a WebP alone. Each says why it was taken.
    """
    modern = choose(flat or original, "webp", quality, budget)
    assert modern is not None  # it holds every picture as it is
    jpeg = None if flat is None else choose(flat, "jpeg", quality, budget)
    png = None if is_photograph(original) else choose(original, "png", quality, budget)
    compatible = [choice for choice in (png, jpeg) if choice is not None]
    if not compatible:
        yield _because(modern, "a photograph that no JPEG can hold")
        return
    first, *others = sorted(compatible, key=lambda choice: len(choice.data))
    if len(modern.data) <= min(WORTH * len(first.data), len(first.data) - SAVED):
        saved = round(100 * (1 - len(modern.data) / len(first.data)))
        yield _because(modern, f"{saved} % smaller than {first.format}")
    if others:
        why = f"smaller than {others[0].format} ({len(others[0].data)} B)"
    elif png is None:
        why = "a photograph"
    else:
        why = "needs transparency" if flat is None else "no JPEG loses as little"
    yield _because(first, why)


def is_photograph(original: Original) -> bool:
    """Whether a picture has so much in every pixel that only a photograph can have it."""
    small = original.small
    painted = int((small.straight[..., 3] > 0).sum())
    return painted >= TELLING and 8 * len(webp.exactly(small)) / painted > PHOTOGRAPH


def _because(choice: Choice, why: str) -> Choice:
    return replace(choice, setting={**choice.setting, "why": why})
