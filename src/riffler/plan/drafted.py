"""What a draft is: slices to write, guides, and what CSS draws instead."""

from __future__ import annotations

from dataclasses import dataclass, field

from riffler.cutlist.editing import Value
from riffler.geometry import Box
from riffler.plan.clickable import Found
from riffler.plan.reading import Reading

Keys = dict[str, Value]


@dataclass(frozen=True)
class DraftedSlice:
    """A slice to write: its keys, those of its states, the reason as a comment.

    `layers` are the drawings that it takes care of; `box` is what it covers.
    """

    name: str
    keys: Keys
    why: str
    layers: tuple[str, ...]
    box: Box
    states: dict[str, Keys] = field(default_factory=dict)


@dataclass(frozen=True)
class Draft:
    """A first cutlist. `css` are the drawings that a style sheet draws, with the reason.

    `why` are comments for groups; `elsewhere` are names that another cutlist of the project cuts.
    """

    density: float
    words: tuple[str, ...]
    guides: dict[str, dict[str, int]]
    grid: Keys
    groups: dict[str, Keys]
    why: dict[str, str]
    slices: tuple[DraftedSlice, ...]
    css: tuple[tuple[str, str], ...]
    elsewhere: tuple[str, ...] = ()
    reading: Reading | None = field(default=None, compare=False, repr=False)
    found: Found = field(default_factory=Found, compare=False, repr=False)
