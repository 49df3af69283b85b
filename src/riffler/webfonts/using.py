"""Mockups and fonts -> what the text uses, what is there, what stands in, how far that is off."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from riffler.errors import RifflerError
from riffler.mockup.font_book import Face, FontBook
from riffler.mockup.model import LayerText, Mockup
from riffler.webfonts.facts import Facts, facts_of
from riffler.webfonts.widths import width_in


@dataclass(frozen=True)
class FaceUse:
    """A face that text asks for: its words, where it was found, what is drawn.

    `face` is what is drawn; `off` how much wider that is than the one asked for, as a share, None
    where that is not known. `missing` are letters that the face has not. `facts` are those of the
    project's own face.
    """

    family: str
    weight: int
    style: str
    words: int
    layers: tuple[str, ...]
    found: Literal["project", "system"] | None
    face: Face | None
    off: float | None
    missing: str
    facts: Facts | None
    text: str


def faces_used(mockups: Sequence[Mockup], book: FontBook) -> list[FaceUse]:
    """Every face that the mockups' text asks for first, the most used first."""
    texts: dict[tuple[str, int, str], list[tuple[str, LayerText]]] = {}
    for mockup in mockups:
        for layer in mockup.walk():
            if (words := layer.words) is not None and words.families:
                key = words.families[0], words.weight, words.style
                texts.setdefault(key, []).append((layer.address, words))
    face_uses = [_use(*key, used, book) for key, used in texts.items()]
    return sorted(face_uses, key=lambda use: (-use.words, use.family, use.weight, use.style))


def _use(
    family: str, weight: int, style: str, used: Sequence[tuple[str, LayerText]], book: FontBook
) -> FaceUse:
    is_italic = style != "normal"
    own_face = FontBook(book.files).nearest(family, weight, is_italic=is_italic)
    everywhere = FontBook(book.files, use_system=True)
    asked = own_face or everywhere.nearest(family, weight, is_italic=is_italic)
    drawn = book.nearest(book.choose(used[0][1].families)[0], weight, is_italic=is_italic)
    lines = [line for _, words in used for line in words.lines]
    facts = _facts(own_face)
    return FaceUse(
        family,
        weight,
        style,
        sum(len(words.text.split()) for _, words in used),
        tuple(address for address, _ in used),
        None if asked is None else "system" if asked.is_system else "project",
        drawn,
        _off(asked, drawn, lines),
        _missing(lines, facts),
        facts,
        " ".join(lines),
    )


def _facts(own_face: Face | None) -> Facts | None:
    """What the file says, unless it is damaged, which who makes web fonts of it is told."""
    try:
        return facts_of(own_face) if own_face else None
    except RifflerError:
        return None


def _missing(lines: Sequence[str], facts: Facts | None) -> str:
    """The letters of lines that a face has not."""
    letters = sorted({letter for line in lines for letter in line if letter.strip()})
    return "".join(letter for letter in letters if facts and ord(letter) not in facts.characters)


def _off(asked: Face | None, drawn: Face | None, lines: Sequence[str]) -> float | None:
    """How much wider text is drawn than in the face that is asked for."""
    if asked is None or drawn is None:
        return None
    try:
        theirs = sum(width_in(asked.path, line) for line in lines)
        ours = sum(width_in(drawn.path, line) for line in lines)
    except RifflerError:
        return None
    return ours / theirs - 1 if theirs else None
