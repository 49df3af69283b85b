"""A whole mockup -> what people forget minutes after reading it: sizes, widths, rows, columns."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import pairwise

from riffler.geometry import Box
from riffler.measure.frame import Frame
from riffler.mockup import address
from riffler.reading.page import Kind, Part, page
from riffler.reading.reading import Reading


@dataclass(frozen=True)
class Row:
    """A row of the page: what it begins with, where it begins, how high it is."""

    name: str
    top: int
    height: int


@dataclass(frozen=True)
class Columns:
    """Columns side by side: what stands in each, their widths and the gaps between them."""

    names: tuple[str, ...]
    widths: tuple[int, ...]
    gaps: tuple[int, ...]


@dataclass(frozen=True)
class Document:
    """The whole in mockup pixels."""

    width: int
    height: int
    frame: Frame
    rows: tuple[Row, ...]
    columns: tuple[Columns, ...]


def document(reading: Reading, frame: Frame) -> Document:
    """The page with its rows from the top, and everywhere that it has columns."""
    whole, size = page(reading), reading.mockup.size
    rows = tuple(Row(_name(part), part.whole.y, part.whole.height) for part in _rows(whole))
    return Document(size.width, size.height, frame, rows, tuple(_columns(whole)))


def _rows(part: Part) -> tuple[Part, ...]:
    """The rows that the page is divided into, or what lies on its only ground."""
    if part.kind is Kind.ROWS or len(part.parts) != 1:
        return part.parts
    return _rows(part.parts[0])


def _columns(part: Part) -> Iterator[Columns]:
    if part.kind is Kind.COLUMNS:
        boxes = [inner.whole for inner in part.parts]
        gaps = tuple(_between(a, b) for a, b in pairwise(boxes))
        names = tuple(map(_name, part.parts))
        yield Columns(names, tuple(box.width for box in boxes), gaps)
    if part.others:
        boxes = sorted(
            (box for box in (part.box, *part.others) if box.y == part.box.y), key=lambda box: box.x
        )
        if len(boxes) > 1:
            gaps = tuple(_between(a, b) for a, b in pairwise(boxes))
            yield Columns((_name(part),), tuple(box.width for box in boxes), gaps)
    for inner in part.parts:
        yield from _columns(inner)


def _between(one: Box, other: Box) -> int:
    return other.x - one.right


def _name(part: Part) -> str:
    """What a part is called: by its layer, or by the first in it."""
    if part.layers:
        return address.last(part.layers[0]).replace("\\/", "/")
    return _name(part.parts[0]) if part.parts else str(part.kind)
