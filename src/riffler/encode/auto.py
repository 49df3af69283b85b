"""A picture -> the files that serve it best: the smallest, and one beside it that more can read."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace

from riffler.encode import webp
from riffler.encode.avif import Avif
from riffler.encode.choice import LEVELS, Choice, enough, is_worth_a_loss, preferred
from riffler.encode.choose import choose
from riffler.encode.original import Original
from riffler.encode.search import Searched, likely
from riffler.formats import FORMATS, MODERN

#: A second file is worth it from this part of the other one's bytes, and from so many saved: fewer
#: are spent on naming it in the page.
WORTH, SAVED = 0.85, 200

#: No PNG is made where the picture without loss is so many times larger than another file: few
#: colours save three quarters, and the pieces that stand for a large one are its busiest.
HOPELESS = 4.0


def best(
    original: Original, flat: Original | None, quality: int | str, budget: int | None = None
) -> Iterator[Choice]:
    """The smallest file of a level, and the one beside it for programs that can't read that.

    `flat` is the picture without transparency, None where it needs it. The second one comes only
    where the first saves enough to be worth naming it. Each says why it was taken.
    """
    if budget is None and isinstance(quality, str):
        choices = list(_of_level(original, flat, quality))
    else:
        opaque = flat or original
        tries = [("webp", opaque)] if flat is None else [("jpeg", opaque), ("webp", opaque)]
        if not webp.is_photograph(original):  # whose few colours might fit, and look it
            tries.append(("png", original))
        found = (choose(original, name, quality, budget) for name, original in tries)
        choices = [choice for choice in found if choice is not None]
    yield from taken(choices)


def taken(choices: Sequence[Choice]) -> Iterator[Choice]:
    """Of some files the best; and what more programs read, where it saves enough beside that."""
    first = preferred(choices)
    wider = [choice for choice in choices if _reach(choice) > _reach(first)]
    if not wider:
        yield _because(first, _why(first, choices))
        return
    other_choices = list(taken(wider))
    second, count = other_choices[0], len(first.data)
    if count > WORTH * len(second.data) or count > len(second.data) - SAVED:
        yield from other_choices
        return
    saved = round(100 * (1 - count / len(second.data)))
    yield _because(first, f"{saved} % smaller than {second.format}")
    if len(other_choices) == 1:
        second = _because(second, f"for programs that read no {FORMATS[first.format].label}")
    yield from (second, *other_choices[1:])


def _why(choice: Choice, choices: Sequence[Choice]) -> str:
    """Why a file was taken that stands alone."""
    other_choices = sorted(
        (one_choice for one_choice in choices if one_choice is not choice),
        key=lambda choice: len(choice.data),
    )
    if not other_choices:
        return "no other format holds it as well"
    next_ = other_choices[0]
    if len(next_.data) >= len(choice.data):
        return f"smaller than {next_.format} ({len(next_.data)} B)"
    if is_worth_a_loss(next_, choice):
        return f"read by more programs than {next_.format} ({len(next_.data)} B)"
    return (
        f"next to nothing is lost; {next_.format} would save {len(choice.data) - len(next_.data)} B"
    )


def _reach(choice: Choice) -> int:
    """How many programs read a format, as an order."""
    return MODERN.index(choice.format) if choice.format in MODERN else len(MODERN)


def _of_level(original: Original, flat: Original | None, level: str) -> Iterator[Choice]:
    """The files of a level that may be the best one; what has no chance is not made."""
    sizes: list[int] = []

    def kept(choice: Choice | None) -> Iterator[Choice]:
        if choice is not None:
            sizes.append(len(choice.data))
            yield choice

    opaque = flat or original
    if flat is not None:
        yield from kept(choose(flat, "jpeg", level))
    most = enough(min(sizes)) if sizes else None
    yield from kept(
        webp.WebP().smaller(opaque, level, most) if most else choose(opaque, "webp", level)
    )
    if _may_win(opaque, level, min(sizes)):
        yield from kept(choose(opaque, "avif", level))
    if not _is_hopeless(original, min(sizes)):
        yield from kept(choose(original, "png", level))


def _is_hopeless(original: Original, least: int) -> bool:
    """Whether no PNG can be as small."""
    exact = len(webp.exactly(original.small)) * original.reference.larger
    return exact > HOPELESS * least


def _may_win(original: Original, level: str, least: int) -> bool:
    """Whether a first look at an AVIF says that it could save enough."""
    most = LEVELS[level]
    if most == 0 or least < 2 * SAVED:
        return False
    codec = Searched(Avif())
    return likely(codec.glance(original), most) < WORTH * least


def _because(choice: Choice, why: str) -> Choice:
    return replace(choice, setting={**choice.setting, "why": why})
