"""What a browser says of a numbered page -> where its elements and lines of words stand."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from importlib import resources
from typing import TYPE_CHECKING, Annotated

from pydantic import BaseModel, ConfigDict, Field, TypeAdapter

from riffler.fit.said import Box, Length, Side, checked
from riffler.geometry import Rect

if TYPE_CHECKING:
    from riffler.fit.browser import Window


@dataclass(frozen=True)
class Stand:
    """Where an element stands on the page and where its lines of words do, in CSS pixels."""

    box: Rect
    lines: tuple[Rect, ...] = ()


class _StandSaid(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid")

    number: Annotated[int, Field(ge=0)]
    box: Box
    lines: tuple[tuple[Length, Length, Side, Side], ...]


@cache
def _adapter() -> TypeAdapter[tuple[_StandSaid, ...]]:
    return TypeAdapter(tuple[_StandSaid, ...])


def stands(window: Window) -> Mapping[int, Stand]:
    """Where every numbered element of an open page stands, by its number."""
    return {
        said.number: Stand(Rect(*said.box), tuple(Rect(*line) for line in said.lines))
        for said in checked(_adapter().validate_python, window.tab.ask(_script()))
    }


@cache
def _script() -> str:
    return resources.files("riffler.mirror").joinpath("standing.js").read_text("utf-8")
