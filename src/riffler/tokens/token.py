"""A value that a design uses again and again: what it is, its name, where it is used."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from typing import TypeAlias

from riffler.analyse.style import Shadow


class Sort(StrEnum):
    """What kind of value it is."""

    COLOR = "color"
    TYPE = "type"
    SPACE = "space"
    RADIUS = "radius"
    SHADOW = "shadow"
    WIDTH = "width"


@dataclass(frozen=True)
class Type:
    """How text is set; lengths are CSS pixels, `line_height` is a multiple of the size."""

    families: tuple[str, ...]
    size: float
    weight: int = 400
    style: str = "normal"
    line_height: float | None = None
    letter_spacing: float = 0.0


Value: TypeAlias = str | float | Type | tuple[Shadow, ...]
"""A colour as `#rrggbb` or `#rrggbbaa`, a length in CSS pixels, a type, shadows."""


@dataclass(frozen=True)
class Place:
    """Where a value is used: the mockup's file name, the layer's address, and as what."""

    mockup: str
    layer: str
    role: str


@dataclass(frozen=True)
class Sighting:
    """A value at one place. `is_exact` is false of what was fitted to pixels, to within a step."""

    sort: Sort
    value: Value
    place: Place
    is_exact: bool = True
    weight: float = 1.0


@dataclass(frozen=True)
class Token:
    """A value under its name, with every place, the most usual first.

    `is_pinned` says that `riffler.toml` names it; `pinned` is the value there, where it differs.
    """

    sort: Sort
    name: str
    value: Value
    places: tuple[Place, ...]
    is_pinned: bool = False
    pinned: Value | None = None

    @property
    def roles(self) -> tuple[str, ...]:
        """What it is used as, the most usual first."""
        counts: dict[str, int] = {}
        for place in self.places:
            counts[place.role] = counts.get(place.role, 0) + 1
        return tuple(sorted(counts, key=lambda role: (-counts[role], role)))


@dataclass(frozen=True)
class Near:
    """Two values so alike that one of them is probably a slip; the second is used less."""

    usual: Token
    slip: Token


@dataclass(frozen=True)
class Contrast:
    """The contrast of text on its ground. WCAG 2.2, 1.4.3.

    `ground` is the colour under the letters that is worst for them; `needed` is what level AA asks.
    """

    color: str
    ground: str
    ratio: float
    needed: float
    places: tuple[Place, ...]

    @property
    def is_enough(self) -> bool:
        """Whether level AA is met."""
        return self.ratio >= self.needed


@dataclass(frozen=True)
class Tokens:
    """All that mockups use again and again, by sort in the order of `Sort`.

    `unused` are names in `riffler.toml` that no mockup has a value for.
    """

    mockups: tuple[str, ...]
    tokens: tuple[Token, ...]
    near: tuple[Near, ...]
    contrast: tuple[Contrast, ...]
    unused: tuple[tuple[Sort, str], ...] = ()

    def of(self, sort: Sort) -> tuple[Token, ...]:
        """The tokens of one sort."""
        return tuple(token for token in self.tokens if token.sort is sort)
