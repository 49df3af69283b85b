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

#: No PNG is made where the picture without loss is so many times larger than the JPEG: few colours
#: save four fifths at the most, and the pieces that stand for a large one are its busiest.
HOPELESS = 5.0


def best(
    original: Original, flat: Original | None, quality: int | str, budget: int | None = None
) -> Iterator[Choice]:
    """The smaller format first where it is worth a second file, then the one for every program.

    `flat` is the picture without transparency, None where it needs it. A photograph never becomes a
    PNG: what no JPEG can hold is a WebP alone. Each says why it was taken.
    """
    jpeg = None if flat is None else choose(flat, "jpeg", quality, budget)
    no_png = _no_png(original, jpeg)
    png = None if no_png else choose(original, "png", quality, budget)
    compatible = [choice for choice in (png, jpeg) if choice is not None]
    if not compatible:
        modern = choose(original, "webp", quality, budget)
        assert modern is not None  # it holds every picture as it is
        yield _because(modern, "a photograph that no JPEG can hold")
        return
    first, *others = sorted(compatible, key=lambda choice: len(choice.data))
    most = int(min(WORTH * len(first.data), len(first.data) - SAVED))
    if (modern := _modern(flat or original, quality, budget, most)) is not None:
        saved = round(100 * (1 - len(modern.data) / len(first.data)))
        yield _because(modern, f"{saved} % smaller than {first.format}")
    if others:
        why = f"smaller than {others[0].format} ({len(others[0].data)} B)"
    else:
        why = no_png or ("needs transparency" if flat is None else "no JPEG loses as little")
    yield _because(first, why)


def _no_png(original: Original, jpeg: Choice | None) -> str | None:
    """Why no PNG is made; None where one may serve."""
    if webp.is_photograph(original):
        return "a photograph"
    small = original.small
    exact = len(webp.exactly(small)) * original.straight.size / small.straight.size
    is_hopeless = jpeg is not None and exact > HOPELESS * len(jpeg.data)
    return "far smaller than a PNG" if is_hopeless else None


def _modern(original: Original, quality: int | str, budget: int | None, most: int) -> Choice | None:
    """A WebP of no more than so many bytes."""
    if budget is None and isinstance(quality, str):
        return webp.WebP().smaller(original, quality, most)
    found = choose(original, "webp", quality, budget)
    return found if found is not None and len(found.data) <= most else None


def _because(choice: Choice, why: str) -> Choice:
    return replace(choice, setting={**choice.setting, "why": why})
