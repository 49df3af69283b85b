"""What `[favicon]` in riffler.toml may say: what the icon is of, and how it is made."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import AfterValidator, BaseModel, BeforeValidator, ConfigDict, Field, model_validator

from riffler.hexcolor import parse_hex
from riffler.project.written import kebab

#: Sides of the pictures in favicon.ico, in pixels, when nothing is said.
SIZES = (16, 20, 24, 32, 48)

Shape = Literal["circle", "square", "rounded", "hexagon", "shield", "none"]


def _color(text: str) -> str:
    if parse_hex(text) is None:
        raise ValueError(f'"{text}" should be a colour like "#c8862a"')
    return text.lower()


def _letters(text: str) -> str:
    if not 1 <= len(text.strip()) <= 2:
        raise ValueError(f'"{text}" should be one or two letters')
    return text.strip()


def _side(value: object) -> object:
    if isinstance(value, bool) or not isinstance(value, int) or not 8 <= value <= 256:
        raise ValueError(f"{value} should be the side of a picture, from 8 to 256 pixels")
    return value


def _by_side(said_value: object) -> object:
    if not isinstance(said_value, dict):
        raise ValueError('this should say files by their size, like 16 = "art/mark-16.png"')
    for key in said_value:
        if not str(key).isdigit() or not 8 <= int(key) <= 512:
            raise ValueError(f'"{key}" should be a size in pixels, from 8 to 512')
    return {int(key): value for key, value in said_value.items()}


Color = Annotated[str, AfterValidator(_color)]
Side = Annotated[int, BeforeValidator(_side)]


class Favicon(BaseModel):
    """An icon of a slice, a layer of a mockup, a file, or of letters on a shape."""

    model_config = ConfigDict(extra="forbid", frozen=True, alias_generator=kebab)

    slice: str | None = None
    file: str | None = None
    layer: str | None = None
    letters: Annotated[str, AfterValidator(_letters)] | None = None
    font: str = ""
    weight: Annotated[int, Field(ge=1, le=1000)] = 700
    shape: Shape = "rounded"
    color: Color = "#33231a"
    gradient: Annotated[list[Color], Field(min_length=2, max_length=4)] | None = None
    angle: float = 180.0
    ink: Color = "#ffffff"
    outline: Color | None = None
    shadow: bool = False
    raised: bool = False
    sizes: Annotated[list[Side], Field(min_length=1, max_length=10)] = list(SIZES)
    art: Annotated[dict[int, str], BeforeValidator(_by_side)] = Field(default_factory=dict)
    dark: dict[str, Color] | Literal["auto", "same"] = "auto"
    ground: Color | None = None
    margin: Annotated[float, Field(ge=0, le=0.4)] = 0.1
    theme: Color | None = None
    name: str = ""
    short_name: str = ""

    @model_validator(mode="before")
    @classmethod
    def _one_source(cls, value: Any) -> Any:  # noqa: ANN401 - whatever was written
        if isinstance(value, dict):
            named = [key for key in ("slice", "file", "letters") if value.get(key) is not None]
            if len(named) > 1:
                raise ValueError(f"it is of one thing: {' and '.join(named)} are two")
            if not named:
                raise ValueError("it needs a slice, a file or letters that it is of")
        return value
