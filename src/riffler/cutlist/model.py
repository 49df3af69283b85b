"""What a cutlist may say, key by key. Every number is in mockup pixels."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import PurePosixPath
from typing import Annotated, Literal

from pydantic import (
    AfterValidator,
    BaseModel,
    BeforeValidator,
    ConfigDict,
    Field,
    PositiveFloat,
    PositiveInt,
    model_validator,
)

from riffler.cutlist.sound_names import media_query, refuse_unsafe
from riffler.project.saving import Settings

#: No edge lies further out than this, in pixels.
LARGEST = 1_000_000_000

#: A box is repeated so many times at most.
MOST = 1000


def _edge(value: object) -> object:
    if isinstance(value, bool) or not isinstance(value, int | float | str):
        raise ValueError("an edge should be a number, a guide, or a sum of both")
    if not isinstance(value, str) and not abs(value) <= LARGEST:
        raise ValueError("an edge should be a number of pixels")
    return value


def _number(value: object) -> object:
    if isinstance(value, bool) or not isinstance(value, int | float):
        raise ValueError("this should be a number of pixels")
    if not abs(value) <= LARGEST:
        raise ValueError(f"{value} is no number of pixels")
    return value


def _part(value: str) -> str:
    path = PurePosixPath(value)
    if path.is_absolute() or ".." in path.parts or "\\" in value or not path.parts:
        raise ValueError(f'"{value}" should be a file in the cutlist\'s folder')
    return value


def _reason(value: str) -> str:
    if not value.strip():
        raise ValueError("a finding is silenced with a reason")
    return value


Edge = Annotated[int | float | str, BeforeValidator(_edge)]
Name = Annotated[str, AfterValidator(refuse_unsafe)]
Span = Annotated[list[Edge], Field(min_length=2, max_length=2)]
Number = Annotated[int | float, BeforeValidator(_number)]
Step = Annotated[list[Number], Field(min_length=2, max_length=2)]
Distances = Annotated[list[Number], Field(min_length=1, max_length=MOST)]
Accept = dict[str, Annotated[str, AfterValidator(_reason)]]

Role = Literal["picture", "words", "tile", "panel", "icon", "hero"]
Side = Literal["left", "center", "right"]
Balance = Literal["box", "weight"]


class _Table(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True, strict=True, defer_build=True)


class Layers(_Table):
    """Which layers show; None where nothing is said."""

    only: list[str] | None = Field(None, description="Begin with nothing, switch these on.")
    show: list[str] | None = Field(None, description="Switch these on as well.")
    hide: list[str] | None = Field(None, description="Switch these off; this wins.")


class Caps(_Table):
    """The parts of a panel that do not stretch, in pixels from each side."""

    top: Annotated[int, Field(ge=0)] = 0
    right: Annotated[int, Field(ge=0)] = 0
    bottom: Annotated[int, Field(ge=0)] = 0
    left: Annotated[int, Field(ge=0)] = 0


#: A panel without caps, which is none.
NO_CAPS = Caps()


class Common(Settings):
    """What slices can share; None where nothing is said."""

    show: list[str] | None = Field(None, description="Switch these layers on as well.")
    hide: list[str] | None = Field(None, description="Switch these layers off; this wins.")
    role: Role | None = Field(None, description="What becomes of the slice.")
    grow: Annotated[int, Field(ge=0, le=10_000)] | None = Field(
        None, description="So many more pixels on every side."
    )
    trim: bool | None = Field(None, description="Take clear rims off before growing.")
    alt: str | None = Field(None, description='Alternative text; "" for decoration.')
    repeat: Literal["x", "y", "both"] | None = Field(None, description="How a tile repeats.")
    soften: Annotated[int, Field(ge=1, le=10_000)] | None = Field(
        None, description="Fade the repeating edges of a tile into each other over so many pixels."
    )
    caps: Caps | None = Field(None, description="The parts of a panel that keep their size.")
    middle: Literal["stretch", "repeat"] | None = Field(
        None, description="What the middle of a panel does."
    )
    split: bool | None = Field(
        None, description="Cut a panel's caps and middle into files of their own."
    )
    frame: Annotated[list[PositiveInt], Field(min_length=2, max_length=2)] | None = Field(
        None, description="Width and height that an icon stands on, or a hero fills."
    )
    balance: Balance | None = Field(
        None, description="What of an icon stands in the middle of its frame."
    )
    place: Side | None = Field(None, description="Where a hero's artwork stands in its frame.")
    focal: Annotated[list[Edge], Field(min_length=2, max_length=2)] | None = Field(
        None, description="The point (x, y) of the mockup that narrow windows keep in sight."
    )


class StateTable(Layers, Settings):
    """A state of a slice: the same box, other layers."""


class Times(_Table):
    """Boxes alike: how many, how far from each to the next, and how many in a row.

    Without `columns` each box is one step further right and down than the one before. Where they
    are not equally far apart, the lists `right` and `down` say how far from the first each one
    lies, or `around` names a layer for each, whose box it is. The `same` picture everywhere is one
    slice, cut at the first place.
    """

    count: Annotated[int, Field(ge=1, le=MOST)] | None = None
    x: Number = 0
    y: Number = 0
    columns: Annotated[int, Field(ge=1)] | None = None
    right: Distances | None = None
    down: Distances | None = None
    around: Annotated[list[str], Field(min_length=1, max_length=MOST)] | None = None
    same: bool = False

    @model_validator(mode="after")
    def _one_count(self) -> Times:
        """Raises ValueError where the places are not said, or said differently."""
        lists = {key: len(texts) for key, texts in self._lists.items()}
        if not lists and self.count is None:
            raise ValueError("times needs a count, or a list of places")
        if lists and (self.x, self.y, self.count, self.columns) != (0, 0, None, None):
            raise ValueError(f"{' and '.join(lists)} says the places; leave count and steps out")
        if len(set(lists.values())) > 1:
            counts = ", ".join(f"{key} has {count}" for key, count in lists.items())
            raise ValueError(f"each list has one place for each box: {counts}")
        return self

    @property
    def _lists(self) -> dict[str, Sequence[object]]:
        pairs = (("right", self.right), ("down", self.down), ("around", self.around))
        return {key: texts for key, texts in pairs if texts is not None}

    @property
    def total(self) -> int:
        """How many boxes there are."""
        return self.count or len(next(iter(self._lists.values())))

    def offset(self, index: int) -> tuple[int, int]:
        """How far right and down the box with this index lies, counted from 0."""
        down, across = divmod(index, self.columns) if self.columns else (index, index)
        x = self.right[index] if self.right else across * self.x
        return round(x), round(self.down[index] if self.down else down * self.y)


class SliceTable(Common, Layers):
    """A slice as it is written."""

    model_config = ConfigDict(populate_by_name=True)

    in_: Name | None = Field(None, alias="in", description="The group whose settings it shares.")
    x: Span | None = Field(None, description="Left and right edge.")
    y: Span | None = Field(None, description="Top and bottom edge.")
    at: Annotated[list[Edge], Field(min_length=4, max_length=4)] | None = Field(
        None, description="x, y, width, height."
    )
    around: Annotated[list[str], Field(min_length=1)] | None = Field(
        None, description="The box around what these layers paint."
    )
    like: Name | None = Field(None, description="The box of another slice.")
    by: Step | None = Field(None, description='How far from "like", right and down.')
    times: Times | None = Field(None, description="Repeat the box: NAME-1, NAME-2, ...")
    alts: list[str] | None = Field(None, description="Alternative texts, one for each of times.")
    text: str | None = Field(None, description="What the words in it say, line by line.")
    texts: list[str] | None = Field(None, description="Texts, one for each of times.")
    links: list[str] | None = Field(None, description="Link targets, one for each of times.")
    link: str | None = Field(None, description='A page, an address, or "#part".')
    state: dict[Name, StateTable] = Field(default_factory=dict)
    accept: Accept = Field(default_factory=dict, description="Findings silenced, with a reason.")


class Guides(_Table):
    """Named edges down and across the mockup: numbers, or sums with other guides."""

    x: dict[str, Edge] = Field(default_factory=dict)
    y: dict[str, Edge] = Field(default_factory=dict)


class GridTable(_Table):
    """Equal cells along an axis: `col-1` to `col-12` for a grid called `col`."""

    model_config = ConfigDict(populate_by_name=True)

    axis: Literal["x", "y"] = "x"
    count: Annotated[int, Field(ge=1, le=1000)]
    gutter: Annotated[Number, Field(ge=0)] = 0
    from_: Edge = Field(0, alias="from", description="Where the first cell begins.")
    to: Edge = Field(description="Where the last cell ends.")


class CutlistPart(_Table):
    """What a cutlist and a file that cutlists include may both say."""

    words: list[str] = Field(default_factory=list, description="Layers that are text.")
    guides: Guides = Guides()
    grid: dict[Name, GridTable] = Field(default_factory=dict)
    defaults: Common = Common()
    group: dict[Name, Common] = Field(default_factory=dict)
    slice: dict[Name, SliceTable] = Field(default_factory=dict)


class PageTable(_Table):
    """What becomes of the page as a whole."""

    leave: list[str] = Field(default_factory=list, description="Layers that will not be built.")


class Cutlist(CutlistPart):
    """A whole cutlist."""

    mockup: str = Field(description="The mockup's file, from the cutlist's folder.")
    says: dict[str, str] = Field(
        default_factory=dict,
        description="What layers of pixels say, by their addresses: lines, and tabs at wide gaps.",
    )
    page: PageTable = PageTable()
    canvas: str | None = Field(None, description="One of several canvases in the file.")
    density: PositiveFloat = Field(1.0, description="Mockup pixels per CSS pixel.")
    include: list[Annotated[str, AfterValidator(_part)]] = Field(
        default_factory=list, description="Files with shared slices."
    )
    when: Annotated[str, AfterValidator(media_query)] | None = Field(
        None, description="The media query that a narrow mockup is for."
    )
    label: Name = Field("narrow", description="Stands in the file names of a narrow mockup.")
    accept: Accept = Field(default_factory=dict, description="Findings of the whole, silenced.")
