"""A whole mockup -> what people forget minutes after reading it: sizes, widths, rows, columns."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise

from riffler.geometry import Box
from riffler.measure.frame import Frame
from riffler.reading.page_tree import page
from riffler.reading.part import PagePart, PartKind
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


def _rows(part: PagePart) -> tuple[PagePart, ...]:
    """The rows that the page is divided into, or what lies on its only ground."""
    if part.kind is PartKind.ROWS or len(part.parts) != 1:
        return part.parts
    return _rows(part.parts[0])


def _columns(part: PagePart) -> Iterator[Columns]:
    if part.kind is PartKind.COLUMNS:
        yield _beside(map(_name, part.parts), [inner.whole for inner in part.parts])
    if part.others:
        boxes = sorted(
            (member.box for member in part.members if member.box.y == part.box.y),
            key=lambda box: box.x,
        )
        if len(boxes) > 1:
            yield _beside([_name(part)], boxes)
    for inner in part.parts:
        yield from _columns(inner)


def _beside(names: Iterable[str], boxes: Sequence[Box]) -> Columns:
    gaps = tuple(second.x - first.right for first, second in pairwise(boxes))
    return Columns(tuple(names), tuple(box.width for box in boxes), gaps)


def _name(part: PagePart) -> str:
    """What a part is called: by its layer, or by the first in it."""
    if part.called:
        return part.called
    return _name(part.parts[0]) if part.parts else str(part.kind)
