"""Ids -> short ones that no other file has, so that several drawings can stand in one page.

Ids of a tidied file begin with a part that comes from its drawing: several can stand in one page,
and the same drawing gets the same ids.
"""

from __future__ import annotations

import re
from string import ascii_lowercase

from riffler.digests import digest_of
from riffler.tidy.definitions import rename
from riffler.tidy.drawing import Drawing
from riffler.tidy.writing import text_of

#: Characters of the part that tells files apart.
LENGTH = 3


def shorten(drawing: Drawing, *, are_alone: bool) -> None:
    """Name what is referred to a, b, c; `are_alone` leaves out the part that tells files apart.

    That part comes from the drawing itself, so that tidying once more names nothing anew.
    """
    if drawing.has_sheet or drawing.keeps_names:
        return
    kept = drawing.for_pages()
    named = (element.get("id") for element in drawing.elements())
    olds = dict.fromkeys(name for name in named if name is not None and name not in kept)
    if not olds:
        return
    short = {old: _letters(index) for index, old in enumerate(olds)}
    _rename(drawing, {old: f"x-{name}" for old, name in short.items()})
    mark = "" if are_alone else _mark(text_of(drawing))
    _rename(drawing, {f"x-{name}": f"{mark}{name}" for name in short.values()})


def _rename(drawing: Drawing, names: dict[str, str]) -> None:
    rename(drawing.root, names)
    for element in drawing.elements():
        if (value := element.get("id")) in names:
            element.set("id", names[value])


def _mark(text: str) -> str:
    """A letter and what else it takes, from what the drawing says."""
    number = int(digest_of(re.sub(r"\s+", " ", text))[:12], 16)
    letters = []
    for _ in range(LENGTH):
        number, rest = divmod(number, 26)
        letters.append(ascii_lowercase[rest])
    return "".join(letters)


def _letters(index: int) -> str:
    """A to z, then aa, ab."""
    text = ""
    index += 1
    while index:
        index, rest = divmod(index - 1, 26)
        text = ascii_lowercase[rest] + text
    return text
