"""What a draft is: the tables of a cutlist to write, and what CSS draws instead."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import Any

from pydantic import BaseModel

from riffler.cutlist.editing import Value
from riffler.cutlist.model import Common, GridTable, SliceTable
from riffler.geometry import Box
from riffler.reading.clickable import Found
from riffler.reading.judgement import Judgement
from riffler.reading.reading import Reading
from riffler.typeset.saying import SaidText

#: The keys of a slice in the order in which a person writes them; others come last.
ORDER = (
    "in",
    "like",
    "by",
    "x",
    "y",
    "at",
    "around",
    "only",
    "show",
    "hide",
    "role",
    "repeat",
    "times",
    "links",
    "save",
    "alt",
    "text",
    "texts",
    "link",
)


@dataclass(frozen=True)
class DraftedSlice:
    """A slice to write: its table as the cutlist's model has it, and the reason as a comment.

    `layers` are the drawings that it takes care of; `box` is what it covers, and `boxes` what each
    of a row does whose members are of several sizes.
    """

    name: str
    table: SliceTable
    why: str
    layers: tuple[str, ...]
    box: Box
    boxes: tuple[Box, ...] = ()

    @property
    def keys(self) -> dict[str, Value]:
        """The keys of its table as they are written, those of its states left out."""
        values = written(self.table)
        values.pop("state", None)
        return values

    @property
    def count(self) -> int:
        """How many slices it stands for; equal ones are one."""
        times = self.table.times
        return times.total if times and not times.same else 1

    @property
    def all_boxes(self) -> tuple[Box, ...]:
        """What each of those that it stands for covers."""
        times = self.table.times
        if self.boxes or times is None or times.around or self.count == 1:
            return self.boxes or (self.box,)
        return tuple(self.box.moved(*times.offset(number)) for number in range(self.count))

    def leaning(self, called: Mapping[str, str]) -> DraftedSlice:
        """The same, leaning on another by the name that it has now."""
        like = self.table.like
        if like is None or called.get(like, like) == like:
            return self
        return replace(self, table=self.table.model_copy(update={"like": called[like]}))

    @property
    def states(self) -> dict[str, dict[str, Value]]:
        """The keys of each of its states."""
        return {name: written(state) for name, state in self.table.state.items()}


@dataclass(frozen=True)
class Draft:
    """A first cutlist. `css` are the drawings that a style sheet draws, with the judgement.

    `groups` have the reason beside their table; `elsewhere` are names that another cutlist of the
    project cuts; `says` is what layers of pixels say, by address; `why_density` is there where the
    density is guessed; `is_fine` says that pictures in a drawing hold pixels for finer screens.
    """

    reading: Reading = field(compare=False, repr=False)
    found: Found = field(compare=False, repr=False)
    words: tuple[str, ...]
    guides: Mapping[str, Mapping[str, int]]
    grid: GridTable | None
    groups: Mapping[str, tuple[Common, str]]
    slices: tuple[DraftedSlice, ...]
    css: tuple[tuple[str, Judgement], ...]
    elsewhere: tuple[str, ...] = ()
    says: Mapping[str, SaidText] = field(default_factory=dict)
    why_density: str = ""
    is_fine: bool = False

    @property
    def density(self) -> float:
        """Mockup pixels per CSS pixel."""
        return self.reading.density


def written(table: BaseModel) -> dict[str, Value]:
    """What a table says, under the keys that a cutlist has, in the order of a person."""
    values: dict[str, Any] = table.model_dump(by_alias=True, exclude_unset=True, exclude_none=True)
    order = {key: index for index, key in enumerate(ORDER)}
    return dict(sorted(values.items(), key=lambda item: order.get(item[0], len(ORDER))))
