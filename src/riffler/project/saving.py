"""How slices are saved, as riffler.toml and cutlists write it."""

from __future__ import annotations

import re
from typing import Annotated

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

from riffler.color import parse_hex
from riffler.errors import nearest
from riffler.formats import FORMATS

#: One, two, three times the CSS size, or a width in pixels.
SIZE = re.compile(r"[1-9](\.\d+)?x|[1-9]\d{0,4}w")


def _format(value: str) -> str:
    if value not in FORMATS:
        raise ValueError(f'there is no format "{value}". {nearest(value, FORMATS, "Formats are")}')
    return value


def _color(value: str) -> str:
    if parse_hex(value) is None:
        raise ValueError(f'"{value}" should be a colour like "#f4ead6"')
    return value


def _size(value: str) -> str:
    if not SIZE.fullmatch(value):
        raise ValueError(f'"{value}" should be a density like "2x" or a width like "640w"')
    return value


Save = Annotated[list[Annotated[str, AfterValidator(_format)]], Field(min_length=1)]
Sizes = Annotated[list[Annotated[str, AfterValidator(_size)]], Field(min_length=1)]
Color = Annotated[str, AfterValidator(_color)]


class Settings(BaseModel):
    """How a slice is saved; None where nothing is said."""

    model_config = ConfigDict(extra="forbid", frozen=True, strict=True)

    save: Save | None = Field(None, description="Formats, the preferred one first.")
    quality: Annotated[int, Field(ge=1, le=100)] | None = Field(
        None, description="Of lossy formats, 1 to 100."
    )
    ground: Color | None = Field(None, description="What goes under a format without alpha.")
    sizes: Sizes | None = Field(None, description='Densities ("2x") and widths ("640w").')
