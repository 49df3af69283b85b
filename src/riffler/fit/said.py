"""What a browser says of a page -> the same, checked: lengths that can be, texts, numbers.

A page may have any size, number and name; nothing that it says may be more than we can go on with.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Literal, Self, TypeVar

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from riffler.errors import RifflerError

#: CSS pixels beyond which nothing lies: Chromium's own layout ends at 2^25.
FARTHEST = 33_554_432.0

#: Elements, texts, boxes or pictures beyond which a page is not gone through.
MOST = 100_000

#: What a browser says, as it is meant.
Said = TypeVar("Said")

Length = Annotated[float, Field(ge=-FARTHEST, le=FARTHEST, allow_inf_nan=False)]
Side = Annotated[float, Field(ge=0, le=FARTHEST, allow_inf_nan=False)]
Number = Annotated[int, Field(ge=-1, le=MOST)]
Box = tuple[Length, Length, Side, Side]


class _Said(BaseModel):
    model_config = ConfigDict(frozen=True, extra="ignore")

    @classmethod
    def of(cls, data: object) -> Self:
        """What was said. Raises RifflerError for what no page can be."""
        return checked(cls.model_validate, data)


class ElementSaid(_Said):
    """An element; `parent` is the number of the one around it, or -1."""

    tag: str
    classes: tuple[str, ...]
    id: str
    parent: Number
    rect: Box


class LineSaid(_Said):
    """A line of text."""

    text: str
    x: Length
    right: Length
    top: Length
    height: Side


class TextSaid(_Said):
    """A text of one style."""

    lines: tuple[LineSaid, ...]
    element: Number
    block: Number
    size: Side
    weight: Annotated[int, Field(ge=0, le=1000)]
    family: str
    italic: bool
    color: str
    spacing: Length
    ascent: Length
    transform: str
    covered: bool = False


class BoxSaid(_Said):
    """A box that paints."""

    element: Number
    rect: Box
    color: str
    image: str
    shadow: str
    radii: tuple[Side, Side, Side, Side]
    borders: tuple[tuple[Side, str], ...]
    fills: bool


class PictureSaid(_Said):
    """A picture, the size of its file, and the sides whose ratio it keeps."""

    element: Number
    rect: Box
    natural: tuple[Annotated[int, Field(ge=0)], Annotated[int, Field(ge=0)]]
    kept: tuple[Side, Side]


class HiddenSaid(_Said):
    """An element that is not shown, and what it says."""

    element: Number
    rect: Box
    text: str


class PageSaid(_Said):
    """All that `page.js` says."""

    elements: Annotated[tuple[ElementSaid, ...], Field(max_length=MOST)]
    texts: Annotated[tuple[TextSaid, ...], Field(max_length=MOST)]
    boxes: Annotated[tuple[BoxSaid, ...], Field(max_length=MOST)]
    pictures: Annotated[tuple[PictureSaid, ...], Field(max_length=MOST)]
    hidden: Annotated[tuple[HiddenSaid, ...], Field(max_length=MOST)] = ()
    width: Side
    height: Side


class TroubleSaid(_Said):
    """What is wrong at a width: its kind, an element, by how many pixels, and another element."""

    kind: str
    element: Number
    by: Length
    other: Number = -1


class EdgesSaid(_Said):
    """Where the content of a header, main part or footer begins and ends, and its rows of text."""

    part: Literal["header", "main", "footer"]
    element: Number
    left: Length
    right: Length
    rows: Number


class StackedSaid(_Said):
    """A navigation below one another: the room that it would need in a row, and that there is."""

    element: Number
    need: Side
    room: Length


class WidthSaid(_Said):
    """All that `widths.js` says; `full` are elements painted from side to side."""

    troubles: Annotated[tuple[TroubleSaid, ...], Field(max_length=MOST)]
    edges: Annotated[tuple[EdgesSaid, ...], Field(max_length=3)]
    full: Annotated[tuple[Number, ...], Field(max_length=MOST)]
    stacked: Annotated[tuple[StackedSaid, ...], Field(max_length=MOST)]
    width: Side


def checked(validate: Callable[[object], Said], data: object) -> Said:
    """What was said, as it is meant. Raises RifflerError for what can't be meant."""
    try:
        return validate(data)
    except ValidationError as error:
        raise RifflerError(_explained(error)) from error


def _explained(error: ValidationError) -> str:
    first = error.errors(include_url=False, include_input=False)[0]
    where = ".".join(map(str, first["loc"]))
    return f"The page can't be measured: the browser says of it {where}: {first['msg'].lower()}."
