"""What a cut sheet holds; lengths and boxes are mockup pixels unless said otherwise."""

from __future__ import annotations

from dataclasses import dataclass

from riffler.geometry import Box, Rect
from riffler.tokens.token import Tokens

#: What a type is shown with.
SAMPLE = "Honey 24"


@dataclass(frozen=True)
class SheetPicture:
    """A piece of a picture: where it lies, and its bytes in a format that browsers know."""

    box: Box
    format: str
    data: bytes


@dataclass(frozen=True)
class Variant:
    """A layer that is hidden in the file, as the page looks with it on.

    `layer` is its address, `name` what it is a state of or is called.
    """

    layer: str
    name: str
    picture: SheetPicture


@dataclass(frozen=True)
class SheetEntry:
    """One thing to point at: a layer, group or slice.

    `depth` counts the groups around it. `colors` are (name, value), `css` declarations of CSS
    pixels, `note` what is to be known of it.
    """

    sort: str
    name: str
    address: str
    box: Rect
    depth: int = 0
    is_shown: bool = True
    words: tuple[str, ...] = ()
    type: str = ""
    colors: tuple[tuple[str, str], ...] = ()
    css: tuple[tuple[str, str], ...] = ()
    note: str = ""


@dataclass(frozen=True)
class SheetAsset:
    """A file that was cut: what of, how it is named on pages, how large. `thumbnail` is small."""

    slice: str
    state: str
    file: str
    format: str
    bytes: int
    pixels: tuple[int, int]
    css: tuple[float, float]
    thumbnail: SheetPicture | None = None


@dataclass(frozen=True)
class SheetPage:
    """A mockup: its picture in bands from the top, everything in it, its lines.

    `content` is where its content begins and how wide it is, `columns` begin and end of each;
    `guides` are ("x" or "y", name, position).
    """

    name: str
    width: int
    height: int
    density: float
    bands: tuple[SheetPicture, ...]
    entries: tuple[SheetEntry, ...]
    variants: tuple[Variant, ...]
    content: tuple[float, float]
    columns: tuple[tuple[float, float], ...] = ()
    guides: tuple[tuple[str, str, float], ...] = ()


@dataclass(frozen=True)
class SampleFace:
    """A face with the letters of `SAMPLE` alone, as WOFF2, to show what a type looks like."""

    family: str
    weight: str
    style: str
    data: bytes


@dataclass(frozen=True)
class CutSheet:
    """One sheet: pages, the files that were cut, the style guide and the faces to show it in."""

    title: str
    pages: tuple[SheetPage, ...]
    assets: tuple[SheetAsset, ...]
    tokens: Tokens
    base: float = 16.0
    unit: str = "px"
    faces: tuple[SampleFace, ...] = ()
