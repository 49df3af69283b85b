"""What `[sprite]`, `[symbols]` and `[loader]` in riffler.toml may say."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, StringConstraints

from riffler.project.saving import Paint
from riffler.project.written import kebab

Name = Annotated[str, StringConstraints(pattern=r"^[a-z0-9]+(-[a-z0-9]+)*$", max_length=60)]
Names = Annotated[list[str], Field(min_length=1)]

#: A time and a timing function as CSS writes them; CSS Easing 1, section 2.
Period = Annotated[str, StringConstraints(pattern=r"^\d{1,3}(\.\d{1,3})?(s|ms)$")]
Easing = Annotated[
    str,
    StringConstraints(
        pattern=r"^(linear|ease|ease-in|ease-out|ease-in-out"
        r"|cubic-bezier\(\s*-?[\d.]+(\s*,\s*-?[\d.]+){3}\s*\)|steps\(\s*\d+(\s*,\s*[a-z-]+)?\s*\))$"
    ),
]

Move = Literal["turn", "pulse", "dots"]


def _once(moves: list[Move]) -> list[Move]:
    return list(dict.fromkeys(moves))


class _Table(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True, alias_generator=kebab)


class Sprite(_Table):
    """Pictures of slices in one file; `gap` is the room between two, in CSS pixels."""

    slices: Names
    sizes: Annotated[list[Literal["1x", "2x", "3x"]], Field(min_length=1)] = ["1x", "2x"]
    save: Literal["png", "webp"] = "webp"
    gap: Annotated[int, Field(ge=0, le=64)] = 2


class Symbols(_Table):
    """Vector slices in one file of symbols."""

    slices: Names
    paint: Paint = "drawn"


class Loader(_Table):
    """A mark that moves while something is loading."""

    slice: str
    move: Annotated[list[Move], Field(min_length=1), AfterValidator(_once)] = ["turn"]
    period: Period = "1.2s"
    easing: Easing = "ease-in-out"
    size: Annotated[int, Field(ge=8, le=1000)] = 48
    text: Annotated[str, StringConstraints(min_length=1, max_length=200)] = "Loading"
