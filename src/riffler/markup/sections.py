"""What is under one another -> sections, each from its heading on."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace

from riffler.geometry import Rect
from riffler.markup.area import Area, Shape
from riffler.markup.element import Element
from riffler.markup.extents import has_ground
from riffler.reading.part import PartKind

#: How near under a picture its caption stands, in CSS pixels, and its size beside the body's.
CAPTION_GAP, CAPTION = 24, 0.95

#: Headings of a page that begin sections, what share of the size of one another is as large, and
#: the least width of a band, in CSS pixels.
HEADINGS, ALIKE, BAND = ("h1", "h2", "h3"), 0.95, 900


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
    """Elements of a main part, each heading in a section with what it heads.

    That ends where the next one as large begins, or a band with a ground of its own.
    """
    groups: list[list[Element]] = []
    for element in elements:
        if groups and _belongs(groups[-1], element):
            groups[-1].append(element)
        else:
            groups.append([element])
    if len(groups) == 1:
        yield from elements
        return
    for group in groups:
        area = framed([element.laid.space for element in group])
        yield group[0] if len(group) == 1 else Element("section", area, "section", content=[*group])


def _belongs(group: Sequence[Element], element: Element) -> bool:
    """Whether an element goes on with a section, or its heading with the line above it."""
    head = next((one for one in group if one.tag in HEADINGS), None)
    if head is None:
        return element.tag in HEADINGS and [one.name for one in group] == ["kicker"]
    return _is_under(head, element)


def _is_under(head: Element, element: Element) -> bool:
    """Whether an element is of the section that a heading begins."""
    area = element.laid.area
    if area is None or element.tag in HEADINGS or element.name == "kicker":
        return False
    if element.tag in ("aside", "footer", "header"):
        return False
    if has_ground(area) and area.box.width >= BAND and element.tag not in ("a", "button", "form"):
        return False
    size = head.words.type.size if head.words else 0.0
    sizes = [
        inner.words.type.size for inner in element.walk() if inner.tag in HEADINGS and inner.words
    ]
    return all(other < ALIKE * size for other in sizes)


def as_one(body: Element, tag: str, bands: Sequence[Area]) -> None:
    """One landmark of all its bands."""
    if len(bands) < 2:
        return
    for band in [element for element in body.walk() if element.tag == tag]:
        band.tag, band.name = "div", band.name if band.name != f"site-{tag}" else "band"
    put_into(body, tag, bands)


def put_into(body: Element, tag: str, bands: Sequence[Area]) -> None:
    """Put bands that belong together into one element."""
    wanted = {id(band) for band in bands}
    for holder in body.walk():
        own_elements = [
            element
            for element in holder.inner
            if element.area is not None and id(element.area) in wanted
        ]
        if not own_elements:
            continue
        start = holder.content.index(own_elements[0])
        end = holder.content.index(own_elements[-1])
        inner = holder.content[start : end + 1]
        areas = tuple(element.area for element in own_elements if element.area)
        name = tag if tag == "main" else f"site-{tag}"
        element = Element(tag, framed(areas), name, content=inner)
        holder.content[start : end + 1] = [element]
        if tag == "main":
            element.content = [*in_sections(element.inner)]
        return


def framed(parts: Sequence[Area]) -> Area:
    """Areas under one another as one."""
    box = Rect.around(part.box for part in parts)
    assert box is not None
    return Area(Shape.STACK, box, PartKind.ROWS, parts=tuple(parts))
