"""What was roughed out, what would be now, what a person made of it -> one text, by three ways.

Line by line as in S. Khanna, K. Kunal, B. C. Pierce, "A Formal Investigation of Diff3", 2007: what
only one side changed is taken from it. Lines are the same however far they are indented: what is
put into another element is what it was, and a person's lines go with it. Where both changed the
same lines they are compared word by word; what is still in dispute stays as the person has it.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from difflib import SequenceMatcher

#: Lines up to which two sides are compared word by word.
FEW = 12

#: A word, a tag's beginning or end, white space, any other sign.
_WORD = re.compile(r"\s+|[\w#.%-]+|.", re.DOTALL)


@dataclass(frozen=True)
class Dispute:
    """Lines that both sides changed: where they stand in the person's text, from 1, and all three.

    `mine` is what stays; `theirs` is what the new version would have there.
    """

    line: int
    base: str
    mine: str
    theirs: str


@dataclass(frozen=True)
class Merged:
    """The text, and what was left out of it."""

    text: str
    disputes: tuple[Dispute, ...]


def merged(base: str, mine: str, theirs: str) -> Merged:
    r"""Bring what changed from `base` to `theirs` into `mine`, which wins wherever both changed.

    >>> merged("a\nb\nc\n", "a\nB\nc\n", "a\nb\nC\n").text
    'a\nB\nC\n'
    """
    ends = "\r\n" if "\r\n" in mine else "\n"
    sides = [text.replace("\r\n", "\n").splitlines(keepends=True) for text in (base, mine, theirs)]
    kept: list[str] = []
    disputes: list[Dispute] = []
    at = 1
    deeper = 0
    for of_base, of_mine, of_theirs in _chunks(*sides):
        if of_base and of_theirs:
            deeper = _indent(of_theirs) - _indent(of_base)
        elif not of_base and not of_theirs:  # put in by the person: it goes with what is above it
            of_mine = _indented(of_mine, deeper)
        text, is_whole = _chosen(of_base, of_mine, of_theirs)
        if not is_whole:
            parts = ("".join(side) for side in (of_base, of_mine, of_theirs))
            disputes.append(Dispute(at, *parts))
        kept.append(text)
        at += len(of_mine)
    whole = "".join(kept)
    return Merged(whole.replace("\n", ends) if ends != "\n" else whole, tuple(disputes))


def _chosen(base: Sequence[str], mine: Sequence[str], theirs: Sequence[str]) -> tuple[str, bool]:
    """What a chunk becomes, and whether nothing of it is in dispute."""
    settled = _settled(base, mine, theirs)
    if settled is not None:
        return "".join(settled), True
    if max(map(len, (base, mine, theirs))) <= FEW and base:
        return _by_words("".join(base), "".join(mine), "".join(theirs))
    return "".join(mine), False


def _settled(
    base: Sequence[str], mine: Sequence[str], theirs: Sequence[str]
) -> Sequence[str] | None:
    """What a chunk of lines or words becomes; None where both sides changed the same of it."""
    if base == theirs:
        return mine
    if base == mine:
        return theirs
    was, own, other = (_unindented(side) for side in (base, mine, theirs))
    if own in (other, was):
        return theirs
    if was == other:
        return _indented(mine, _indent(theirs) - _indent(base))
    for longer, changed, sides in ((mine, theirs, own), (theirs, mine, other)):
        added = len(longer) - len(base)
        if base and sides[added:] == was:  # something put in before it
            return [*longer[:added], *changed]
        if base and sides[: len(base)] == was:  # or behind it
            return [*changed, *longer[len(base) :]]
    return None


def _unindented(lines: Sequence[str]) -> list[str]:
    return [line.lstrip(" \t") or line for line in lines]


def _indent(lines: Sequence[str]) -> int:
    """How far lines are indented: as far as the first that says something."""
    said = next((line for line in lines if line.strip()), "")
    return len(said) - len(said.lstrip(" "))


def _indented(lines: Sequence[str], by: int) -> list[str]:
    """Lines indented so much more, or less as far as they are."""
    if by >= 0:
        return [" " * by + line if line.strip() else line for line in lines]
    return [line[min(-by, _indent([line])) :] for line in lines]


def _by_words(base: str, mine: str, theirs: str) -> tuple[str, bool]:
    """The same word by word; where words are in dispute, the person's lines stay as they are."""
    kept: list[str] = []
    sides = (_WORD.findall(text) for text in (base, mine, theirs))
    for chunk in _chunks(*sides):
        settled = _settled(*chunk)
        if settled is None:
            return mine, False
        kept += settled
    return "".join(kept), True


def _chunks(
    base: Sequence[str], mine: Sequence[str], theirs: Sequence[str]
) -> Iterator[tuple[Sequence[str], Sequence[str], Sequence[str]]]:
    """The three sides in pieces: those that all have in common, and those between."""
    mine_at, theirs_at = (_places(base, side) for side in (mine, theirs))
    at = own = other = 0
    for place in [*sorted(mine_at.keys() & theirs_at.keys()), len(base)]:
        is_end = place == len(base)
        own_end = len(mine) if is_end else mine_at[place]
        other_end = len(theirs) if is_end else theirs_at[place]
        if own_end < own or other_end < other:
            continue
        yield base[at:place], mine[own:own_end], theirs[other:other_end]
        if not is_end:
            yield (
                base[place : place + 1],
                mine[own_end : own_end + 1],
                theirs[other_end : other_end + 1],
            )
        at, own, other = place + 1, own_end + 1, other_end + 1


def _places(base: Sequence[str], side: Sequence[str]) -> dict[int, int]:
    """Where the lines of the base that a side still has stand in it."""
    return dict(in_order(_unindented(base), _unindented(side)))


def in_order(first: Sequence[str], second: Sequence[str]) -> Iterator[tuple[int, int]]:
    """The places of texts that both have in one order."""
    matcher: SequenceMatcher[str] = SequenceMatcher(None, first, second, autojunk=False)
    for block in matcher.get_matching_blocks():
        yield from ((block.a + step, block.b + step) for step in range(block.size))
