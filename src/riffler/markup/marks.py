"""A line at one entry of a menu -> the mark of the page that one is on, drawn by its link."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace

from riffler.geometry import Rect
from riffler.markup.area import Area, Shape
from riffler.markup.extents import has_ground

#: A menu stands no lower on its page, has so many entries at least, on one baseline, in CSS pixels.
HEAD, FEWEST, LEVEL = 200, 3, 1.5

#: A mark is no higher, is no farther from its entry, and has its middle or its left edge no farther
#: from that of the entry, in CSS pixels.
HIGH, REACH, NEAR = 6, 48, 3.0


def marked(area: Area, page: str) -> Area:
    """A page on which one entry of a menu draws the mark that was alone; it leads to the `page`."""
    marks: dict[int, Area] = {}
    for row in area.walk():
        for entries in _menus(row):
            found_marks = [
                (entry, box)
                for box in area.walk()
                if _is_line(box)
                for entry in entries
                if _is_at(box, entry)
            ]
            if len(found_marks) == 1:
                (entry, box), *_ = found_marks
                marks[id(entry)] = box
    return (_with(area, marks, page) or area) if marks else area


def _menus(row: Area) -> Iterator[Sequence[Area]]:
    """The entries of each menu in a row: texts of one size on one baseline."""
    if row.shape not in (Shape.ROW, Shape.LIST) or row.box.y > HEAD:
        return
    by_size: dict[float, list[tuple[Area, float]]] = {}
    for part in row.parts:
        texts = [area for area in part.walk() if area.setting is not None]
        if len(texts) == 1 and (setting := texts[0].setting) and not has_ground(part):
            by_size.setdefault(setting.type.size, []).append((texts[0], setting.baseline))
    for alike in by_size.values():
        _, level = alike[0]
        entries = [area for area, baseline in alike if abs(baseline - level) <= LEVEL]
        if len(entries) >= FEWEST:
            yield entries


def _is_line(area: Area) -> bool:
    return (
        area.shape is Shape.BOX
        and area.ground is not None
        and area.box.height <= HIGH < area.box.width
    )


def _is_at(box: Area, entry: Area) -> bool:
    """Whether a line belongs to an entry, and to no other."""
    line, words = box.box, entry.box
    below, above = line.y - words.bottom, words.y - line.bottom
    off_middle = (line.x + line.right - words.x - words.right) / 2
    is_level = min(abs(off_middle), abs(line.x - words.x)) <= NEAR
    return is_level and line.width <= 2 * words.width + NEAR and -HIGH <= max(below, above) <= REACH


def _with(area: Area, marks: dict[int, Area], page: str) -> Area | None:
    """An area with the marks at their entries; None where nothing else was in it."""
    mark = marks.get(id(area))
    if any(area is box for box in marks.values()):
        return None
    if not area.parts:
        return area if mark is None else replace(area, mark=mark, link=area.link or page)
    parts = [part for one in area.parts if (part := _with(one, marks, page)) is not None]
    if len(parts) == len(area.parts):
        return area.holding(*parts)
    if len(parts) == 1 and not has_ground(area):
        return parts[0]
    box = Rect.around(part.box for part in parts) if area.is_frame else None
    return replace(area, box=box or area.box, parts=tuple(parts)) if parts else None
