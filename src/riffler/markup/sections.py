"""What is under one another -> sections, each from its heading on."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace

from riffler.geometry import Rect
from riffler.markup.area import Area, Shape
from riffler.markup.class_names import name_of
from riffler.markup.element import Element
from riffler.reading.part import PartKind

#: How near under a picture its caption stands, in CSS pixels, and its size beside the body's.
CAPTION_GAP, CAPTION = 24, 0.95


def with_captions(parts: Sequence[Area], size: float) -> list[Area]:
    """Areas under one another, with pictures and their captions together; `size` is the body's."""
    areas: list[Area] = []
    for part in parts:
        before = areas[-1] if areas else None
        if before is not None and before.shape is Shape.PICTURE and _captions(part, before, size):
            areas[-1] = replace(framed([before, part]), kind=PartKind.PICTURE)
        else:
            areas.append(part)
    return areas


def _captions(part: Area, picture: Area, size: float) -> bool:
    setting = part.setting
    if setting is None or setting.type.size > CAPTION * size:
        return False
    return part.box.y - picture.box.bottom <= CAPTION_GAP and len(setting.lines) <= 2


def in_sections(elements: Sequence[Element]) -> Iterator[Element]:
    """Elements of a main part, from each heading on in a section of its own."""
    heads = [
        n for n, element in enumerate(elements) if element.tag in ("h2", "h3") and element.area
    ]
    if len(heads) < 2 or heads[-1] == len(elements) - 1:
        yield from elements
        return
    yield from elements[: heads[0]]
    for start, end in zip(heads, [*heads[1:], len(elements)], strict=True):
        inner = elements[start:end]
        if len(inner) == 1:
            yield inner[0]
            continue
        area = framed([element.laid.area for element in inner if element.laid.area is not None])
        yield Element("section", area, name_of(area), content=[*inner])


def framed(parts: Sequence[Area]) -> Area:
    """Areas under one another as one."""
    box = Rect.around(part.box for part in parts)
    assert box is not None
    return Area(Shape.STACK, box, PartKind.ROWS, parts=tuple(parts))
