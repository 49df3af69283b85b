"""What we made, one file at a time: the kinds of assets that a ledger records.

A new kind of output is a new class here, listed in `KINDS`. Readers that do not know a kind keep it
as it is (`Other`).
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any, Literal

from riffler.geometry import Box, CssSize, Point, Size

#: What declarations of CSS that we write are made of.
_DECLARED = re.compile(r"[\w#%.,() -]*")


@dataclass(frozen=True, kw_only=True)
class Asset:
    """A file below the output folder.

    `url` is how pages name it; `made_by` the command that answers for it, and `slice` the slice
    that it was made of.
    """

    file: str
    url: str
    bytes: int
    sha256: str
    made_by: str
    kind: str
    slice: str | None = None


@dataclass(frozen=True, kw_only=True)
class CutAsset(Asset):
    """A picture that a slice became.

    `size` is as the cutlist writes it, `pixels` the file's own, `css` on the page, `place` the box
    in the mockup in mockup pixels. `focal` is the point that narrow windows keep in sight, in parts
    of width and height, 0..1. `loss` is what can be seen of it; `part` names one of a panel that
    was cut apart, `when` is the media query of a narrow mockup.
    """

    kind: Literal["cut"] = "cut"
    slice: str = field()
    role: str
    format: str
    pixels: Size
    css: CssSize
    mockup: str
    place: Box
    density: float
    state: str | None = None
    part: str | None = None
    when: str | None = None
    size: str | None = None
    focal: Point | None = None
    setting: Mapping[str, int | float | str] = field(default_factory=dict)
    loss: float | None = None


@dataclass(frozen=True, kw_only=True)
class IconAsset(Asset):
    """A file that stands for the whole site, with what the head of a page says of it.

    `rel` and `sizes` (sides in pixels) are those of its `link` element, HTML, 4.6.7.9; no `rel` for
    those that only the manifest names, no sizes for what has none. `found` are figures of the whole
    set, with its first file.
    """

    kind: Literal["icon"] = "icon"
    format: str
    rel: str
    sizes: tuple[int, ...]
    mockup: str | None = None
    place: Box | None = None
    density: float | None = None
    found: Mapping[str, float] | None = None


@dataclass(frozen=True, kw_only=True)
class PageAsset(Asset):
    """A page that a template became; `template` is its path in the project."""

    kind: Literal["page"] = "page"
    template: str


@dataclass(frozen=True, kw_only=True)
class StyleAsset(Asset):
    """A style sheet that was written from the slices, or from the fonts."""

    kind: Literal["style"] = "style"


@dataclass(frozen=True, kw_only=True)
class CopyAsset(Asset):
    """A file that was copied as it is from `source` in the project, and what it is for."""

    kind: Literal["copy"] = "copy"
    use: Literal["style", "script", "font"]
    source: str


@dataclass(frozen=True, kw_only=True)
class OtherAsset(Asset):
    """Of a kind that this version does not know: `facts` are what else the ledger says of it."""

    facts: Mapping[str, Any] = field(default_factory=dict)


@dataclass(frozen=True, kw_only=True)
class FontAsset(Asset):
    """A web font with the characters that pages need, made of `source` in the project.

    `weight` and `style` are as `@font-face` says them.
    """

    kind: Literal["font"] = "font"
    family: str
    weight: str
    style: str
    source: str


@dataclass(frozen=True, kw_only=True)
class SpriteAsset(Asset):
    """Many pictures in one, in one density.

    `pixels` is the file's size, `css` what it covers on a page, `members` where each slice lies
    there.
    """

    kind: Literal["sprite"] = "sprite"
    name: str
    format: str
    pixels: Size
    css: Size
    size: str
    members: Mapping[str, Box]


@dataclass(frozen=True, kw_only=True)
class SymbolsAsset(Asset):
    """Many vector drawings in one file; `members` are their sizes on a page."""

    kind: Literal["symbols"] = "symbols"
    name: str
    members: Mapping[str, CssSize]


@dataclass(frozen=True, kw_only=True)
class LoaderAsset(Asset):
    """The drawing of a loading mark, how many dots run with it, and what is read out."""

    kind: Literal["loader"] = "loader"
    name: str
    dots: int
    text: str


#: Every kind of asset that is made.
KINDS: tuple[type[Asset], ...] = (
    CutAsset,
    IconAsset,
    PageAsset,
    StyleAsset,
    CopyAsset,
    FontAsset,
    SpriteAsset,
    SymbolsAsset,
    LoaderAsset,
)


@dataclass(frozen=True)
class Region:
    """A slice that is no picture: a box for live text, and the colour under it.

    `place` is its box in mockup pixels, `css` its size in CSS pixels. `ground` is None over a
    picture or a texture. `look` are the declarations of CSS that draw a plain box which it fills.
    """

    slice: str
    mockup: str
    place: Box
    css: CssSize
    ground: str | None = None
    when: str | None = None
    look: Mapping[str, str] | None = None

    def __post_init__(self) -> None:
        """Raises ValueError for what would end the declaration in a style sheet."""
        for text in (
            self.slice,
            self.ground or "",
            *(self.look or {}),
            *(self.look or {}).values(),
        ):
            if not _DECLARED.fullmatch(text):
                raise ValueError(f"{text!r} is no part of a declaration")
