"""A text in pixels that nobody read, and the words of the page -> how it was set, if it is they."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

from riffler.color import from_bytes
from riffler.fit.causes import Root
from riffler.fit.expected import Expected
from riffler.fit.fault import Fault, Placed
from riffler.fit.of_words import of_type
from riffler.fit.seen import SeenText
from riffler.markup.setting import Type
from riffler.typeset.layers import as_words, seen_in

#: What is said of pixels by their size alone; texts whose type is looked for, which takes a while.
GUESSED, MOST = frozenset({Fault.TYPE_SIZE, Fault.FAMILY, Fault.WORDS}), 12

#: CSS pixels by which letters are set apart otherwise, as pixels tell.
SPACED = 0.2


def typed(roots: Sequence[Root], texts: Mapping[int, SeenText], wanted: Expected) -> list[Root]:
    """The roots, with the type of unread texts found by setting the page's words in faces."""
    left, found_roots = MOST, []
    for root in roots:
        text = texts.get(root.placed.number)
        if left and text is not None and _is_guessed(root.placed):
            left -= 1
            found_roots.append(replace(root, placed=_typed(root.placed, text, wanted)))
        else:
            found_roots.append(root)
    return found_roots


def _is_guessed(placed: Placed) -> bool:
    is_unread = not placed.thing.is_read
    return is_unread and any(difference.fault in GUESSED for difference in placed.differences)


def _typed(placed: Placed, text: SeenText, wanted: Expected) -> Placed:
    """One of them; as it was where no face lies on its pixels: other words stand there."""
    pixels, by = from_bytes(wanted.pixels(placed.thing)), wanted.density
    words = as_words(seen_in(pixels, [line.text for line in text.lines], wanted.fonts), by)
    if words is None:
        return placed
    spacing = round(words.letter_spacing / by, 2)
    mine = Type(
        words.families[0],
        "",
        round(words.size / by, 2),
        words.weight,
        words.style != "normal",
        spacing if abs(spacing - text.spacing) >= SPACED else text.spacing,
        words.color,
    )
    other_differences = [
        difference for difference in placed.differences if difference.fault not in GUESSED
    ]
    return replace(placed, differences=(*of_type(mine, text), *other_differences))
