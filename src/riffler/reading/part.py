"""A part of a page: what it is, where it lies, what it is made of."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from enum import StrEnum

from riffler.geometry import Box
from riffler.mockup import address
from riffler.reading.judgement import Certainty


class PartKind(StrEnum):
    """What a part of a page is."""

    PAGE = "page"
    ROWS = "rows"
    COLUMNS = "columns"
    PILE = "pile"
    """Parts that lie on one another."""
    HEAD = "head"
    CARD = "card"
    ITEM = "item"
    TAB = "tab"
    BUTTON = "button"
    LOGO = "logo"
    WORDS = "words"
    PICTURE = "picture"
    ICON = "icon"
    TILE = "tile"
    BOX = "box"


@dataclass(frozen=True)
class PagePart:
    """One part: its box in mockup pixels, the layers it is made of, why it is what it is.

    `parts` lie beside or under one another, as `kind` says, or on it. Where things repeat, `count`
    of them stand `step` apart, right and down, and take up `whole`; `parts` are those of the first,
    and `others` all but the first.
    """

    kind: PartKind
    box: Box
    whole: Box
    layers: tuple[str, ...] = ()
    why: str = ""
    certainty: Certainty | None = None
    parts: tuple[PagePart, ...] = ()
    count: int = 1
    step: tuple[int, int] = (0, 0)
    others: tuple[PagePart, ...] = ()

    @property
    def called(self) -> str:
        """The last part of its first layer's address; empty where it has no layer of its own."""
        return address.plain(self.layers[0]) if self.layers else ""

    @property
    def reason(self) -> str:
        """Why it is what it is, and how many are made alike."""
        alike = [f"one of {self.count} made alike"] if self.count > 1 else []
        return ", ".join([*([self.why] if self.why else []), *alike])

    @property
    def members(self) -> tuple[PagePart, ...]:
        """The part and all that are made alike with it, each by itself."""
        first = replace(self, whole=self.box, count=1, step=(0, 0), others=())
        return (first, *self.others)

    def walk(self) -> Iterator[PagePart]:
        """The part and all in it, those made alike with it too."""
        yield self
        for inner in (*self.parts, *self.others):
            yield from inner.walk()
