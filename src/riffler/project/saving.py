"""How slices are saved, as riffler.toml and cutlists write it."""

from __future__ import annotations

import re
from typing import Annotated, Literal

from pydantic import AfterValidator, BaseModel, BeforeValidator, ConfigDict, Field

from riffler.errors import nearest
from riffler.formats import AUTO, FORMATS, LEVELS, VECTOR
from riffler.hexcolor import parse_hex

#: One, two, three times the CSS size, or a width in pixels.
SIZE = re.compile(r"[1-9](\.\d+)?x|[1-9]\d{0,4}w")


def _format(value: str) -> str:
    known = (*FORMATS, VECTOR, AUTO)
    if value not in known:
        raise ValueError(f'there is no format "{value}". {nearest(value, known, "Formats are")}')
    return value


def _quality(value: object) -> object:
    if isinstance(value, str) and value in LEVELS:
        return value
    if isinstance(value, bool) or not isinstance(value, int) or not 1 <= value <= 100:
        raise ValueError('this should be "exact", "clear", "fair", or a number from 1 to 100')
    return value


def _budget(value: str) -> str:
    if not BUDGET.fullmatch(value):
        raise ValueError(f'"{value}" should be a size like "30 kB"')
    return value


def bytes_of(budget: str) -> int:
    """A budget as it is written, in bytes; kB are 1000."""
    match = BUDGET.fullmatch(budget)
    assert match is not None
    return round(float(match[1]) * {"B": 1, "kB": 1000, "MB": 1_000_000}[match[3]])


def _color(value: str) -> str:
    if parse_hex(value) is None:
        raise ValueError(f'"{value}" should be a colour like "#f4ead6"')
    return value


def _size(value: str) -> str:
    if not SIZE.fullmatch(value):
        raise ValueError(f'"{value}" should be a density like "2x" or a width like "640w"')
    return value


#: A number of bytes with its unit.
BUDGET = re.compile(r"(\d{1,7}(\.\d+)?) ?(B|kB|MB)")

Save = Annotated[list[Annotated[str, AfterValidator(_format)]], Field(min_length=1)]
Sizes = Annotated[list[Annotated[str, AfterValidator(_size)]], Field(min_length=1)]
Quality = Annotated[int | str, BeforeValidator(_quality)]
Color = Annotated[str, AfterValidator(_color)]
Paint = Literal["drawn", "current", "custom"]


class Settings(BaseModel):
    """How a slice is saved; None where nothing is said."""

    model_config = ConfigDict(extra="forbid", frozen=True, strict=True, defer_build=True)

    save: Save | None = Field(None, description="Formats, the preferred one first.")
    quality: Quality | None = Field(
        None, description='How much may be seen of the loss: "exact", "clear", "fair", or 1 to 100.'
    )
    budget: Annotated[str, AfterValidator(_budget)] | None = Field(
        None, description='The most that each file may weigh, for example "30 kB".'
    )
    ground: Color | None = Field(None, description="What goes under a format without alpha.")
    paint: Paint | None = Field(
        None,
        description='Who colours a vector file: "drawn" as it is, "current" the text colour around '
        'it, "custom" a custom property for each colour.',
    )
    sizes: Sizes | None = Field(None, description='Densities ("2x") and widths ("640w").')
