"""What a cutlist may say, key by key. Every number is in mockup pixels."""

from __future__ import annotations

import re
from typing import Annotated, Any

from pydantic import AfterValidator, BaseModel, BeforeValidator, ConfigDict, Field, PositiveFloat

from riffler.color import parse_hex
from riffler.errors import nearest
from riffler.formats import FORMATS

#: Lower-case letters, digits and single hyphens.
NAME = re.compile(r"[a-z0-9]+(-[a-z0-9]+)*")

#: Names that some systems keep for devices, with any extension.
RESERVED = {"con", "prn", "aux", "nul", *(f"{d}{n}" for d in ("com", "lpt") for n in range(1, 10))}


def _edge(value: object) -> object:
    if isinstance(value, bool) or not isinstance(value, int | float | str):
        raise ValueError("an edge should be a number, a guide, or a sum of both")
    if isinstance(value, float) and abs(value) > 1e9:
        raise ValueError("an edge should be a number of pixels")
    return value


def _name(value: str) -> str:
    if not NAME.fullmatch(value):
        raise ValueError(f'"{value}" should be lower-case letters, digits and single hyphens')
    if value in RESERVED:
        raise ValueError(f'"{value}" is a reserved file name on some systems')
    return value


def _format(value: str) -> str:
    if value not in FORMATS:
        raise ValueError(f'there is no format "{value}". {nearest(value, FORMATS, "Formats are")}')
    return value


def _color(value: str) -> str:
    if parse_hex(value) is None:
        raise ValueError(f'"{value}" should be a colour like "#f4ead6"')
    return value


Edge = Annotated[int | float | str, BeforeValidator(_edge)]
Name = Annotated[str, AfterValidator(_name)]
Span = Annotated[list[Edge], Field(min_length=2, max_length=2)]
Save = Annotated[list[Annotated[str, AfterValidator(_format)]], Field(min_length=1)]
Color = Annotated[str, AfterValidator(_color)]


class _Table(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True, strict=True)


class Layers(_Table):
    """Which layers show; None where nothing is said."""

    only: list[str] | None = None
    show: list[str] | None = None
    hide: list[str] | None = None


class Settings(_Table):
    """How a slice is saved; None where nothing is said."""

    save: Save | None = None
    quality: Annotated[int, Field(ge=1, le=100)] | None = None
    ground: Color | None = None


class Defaults(Settings):
    """What holds for every slice of the cutlist that does not say otherwise."""

    show: list[str] | None = None
    hide: list[str] | None = None


class StateTable(Layers):
    """A state of a slice: the same box, other layers."""


class SliceTable(Layers, Settings):
    """A slice as it is written."""

    x: Span | None = None
    y: Span | None = None
    at: Annotated[list[Edge], Field(min_length=4, max_length=4)] | None = None
    grow: Annotated[int, Field(ge=0, le=10_000)] | None = None
    alt: str | None = None
    link: str | None = None
    state: dict[Name, StateTable] = Field(default_factory=dict)


class Guides(_Table):
    """Named edges down and across the mockup."""

    x: dict[str, int | float] = Field(default_factory=dict)
    y: dict[str, int | float] = Field(default_factory=dict)


class Cutlist(_Table):
    """A whole cutlist."""

    mockup: str
    canvas: str | None = None
    density: PositiveFloat = 1.0
    words: list[str] = Field(default_factory=list)
    guides: Guides = Guides()
    defaults: Defaults = Defaults()
    slice: dict[Name, SliceTable] = Field(default_factory=dict)

    def setting(self, table: BaseModel, key: str, built_in: Any) -> Any:  # noqa: ANN401
        """What holds for one slice: what it says itself, or the defaults, or what is built in."""
        for source in (table, self.defaults):
            value = getattr(source, key, None)
            if value is not None:
                return value
        return built_in
