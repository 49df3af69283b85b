"""Elements of a page -> their twins: the same with the boxes that they have in a narrow mockup.

Which these are `same` knows.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import replace
from itertools import pairwise

from riffler.geometry import Rect
from riffler.markup.area import Area, Shape
from riffler.markup.controls import bare, is_controlled
from riffler.markup.element import Element
from riffler.markup.evening import on_track
from riffler.markup.extents import has_ground, height_of, is_text_and_end, top_of
from riffler.markup.lines import OVERLAP, are_lines
from riffler.markup.same import Same, placeholder_of
from riffler.markup.sections import framed
from riffler.markup.setting import Align, Setting
from riffler.markup.wrap import on_canvas, wrap_of

#: What is nearer to the middle than this stands in it, in CSS pixels.
NEAR = 1.5

#: Lines no more different than this in length have no edge of their own, in CSS pixels.
EVEN = 16

#: How much of a thing may lie in the one above it: in general, and where it is below on the page.
REACH, FAR = 0.25, 0.6


class Twins:
    """Elements as those of a page, with the boxes of its narrow mockup."""

    def __init__(self, area: Area, body: Element) -> None:
        self.same = Same(area, body)
        self._wrap = wrap_of(area)
        self.pairs: list[tuple[Element, Element]] = []

    def of(self, element: Element) -> Element | None:
        """The twin of an element; None where nothing of it is in the narrow mockup."""
        area = element.area
        if area is not None and area.setting is not None:
            words = self.same.words(area.setting.text)
            return self._leaf(element, words and _aligned(words, area.setting.align))
        if area is not None and area.shape is Shape.PICTURE:
            return self._leaf(element, self._picture(area))
        if element.label is not None:
            return self._label(element, element.label)
        if is_controlled(element):
            return self._controlled(element)
        if area is not None and (placeholder := placeholder_of(element)):
            words = self.same.words(placeholder.text)
            return self._leaf(element, self.same.around([words]) if words else None)
        if area is not None and area.shape is Shape.BOX:
            return self._leaf(element, self.same.box(area))
        return self._around(element, area, [self.of(one_element) for one_element in element.inner])

    def _picture(self, area: Area) -> Area | None:
        """What the same slice shows, in a track or on a canvas if that of the page is."""
        picture = self.same.picture(area.piece.name) if area.piece else None
        if picture is not None and area.track:
            picture = replace(picture, track=height_of(picture))
        if picture is not None and self._wrap is not None and area.piece and any(area.piece.room):
            picture = on_canvas(picture, self._wrap.left, picture.box.height)
        return picture

    def _label(self, element: Element, label: Setting) -> Element | None:
        """The box around the same words."""
        words = self.same.words(label.text)
        frame = self.same.around([words]) if words else None
        if frame is not None and element.area is not None:
            frame = replace(frame, is_pinned=element.area.is_pinned)
        found_element = self._leaf(element, frame)
        if found_element is not None and words is not None:
            found_element.label = words.setting
        return found_element

    def _controlled(self, element: Element) -> Element | None:
        """A box that is ticked, or a choice, with the sign that lies on it."""
        control, sign = element.inner
        shown = placeholder_of(control)
        words = self.same.words(shown.text) if shown else None
        sign_twin = self.of(sign)
        if sign_twin is None:
            return None
        frame = self.same.around([*filter(None, [words]), sign_twin.space])
        if frame is None:
            return None
        box = replace(frame, shape=Shape.BOX, parts=(words,) if words else ())
        twin = Element(element.tag, bare(frame), element.name)
        twin.content = [self._paired(control, Element(control.tag, box, control.name)), sign_twin]
        return self._paired(element, twin)

    def _leaf(self, element: Element, area: Area | None) -> Element | None:
        if area is None:
            return None
        return self._paired(element, Element(element.tag, area, element.name))

    def _paired(self, element: Element, twin: Element) -> Element:
        self.pairs.append((element, twin))
        return twin

    def _around(
        self, element: Element, area: Area | None, elements: Sequence[Element | None]
    ) -> Element | None:
        inner = [element for element in elements if element is not None]
        if not inner:
            return None
        made_element = Element(element.tag, None, element.name, content=list(inner))
        if area is not None:
            made_element.area = self._in_place(area, made_element)
            if len(inner) < len(elements) or self._is_centred(made_element.space):
                made_element.area = self._with_room(made_element.space)
            if area.is_upon:
                self.same.lies_upon(made_element.space)
            if element.tag == "tr":
                made_element.area = self._with_rule(area, made_element.area)
        return self._paired(element, made_element)

    def _in_place(self, area: Area, twin: Element) -> Area:
        """The area of a twin, with what is in it put in order."""
        inner = twin.inner
        frame = self.same.around(_spaces(inner), area.ground) if has_ground(area) else None
        pinned = [element for element in inner if element.laid.space.is_pinned]
        upon = [element for element in inner if element.laid.space.is_upon]
        flowing = [element for element in inner if element not in (*pinned, *upon)]
        order = _in_order(flowing)
        if area.is_centred:
            self._widen(order)
        _level(order)
        if area.shape is Shape.LIST:
            _stretch(order)
            _keep_apart(order)
        if order != flowing:
            _reorder(twin, order)
        for element in upon:
            _put_upon(element, order)
        twin.content = [*pinned, *upon, *order]
        return _arranged(area, _spaces([*upon, *order] or inner), frame)

    def _is_centred(self, area: Area) -> bool:
        """Whether things under one another are in the middle of what its page has room for."""
        if self._wrap is None or area.shape is not Shape.STACK:
            return False
        box, wrap = area.box, self._wrap
        return abs(box.x + box.right - wrap.left - wrap.right) <= 2 * NEAR

    def _with_room(self, area: Area) -> Area:
        """What holds more than the narrow mockup shows is as wide as its page has room."""
        if self._wrap is None or area.ground is not None:
            return area
        box, wrap = area.box, self._wrap
        room = Rect(wrap.left, box.y, wrap.width, box.height)
        return replace(area, box=Rect.around([box, room]) or box)

    def _with_rule(self, area: Area, cells: Area) -> Area:
        """The cells of a table's row with the rule below them, where the page has one there.

        The row is as wide as its rule.
        """
        rule = self.same.box(area.parts[-1])
        if area.shape is not Shape.STACK or rule is None:
            return cells
        high = framed([cells, rule]).box
        box = Rect(rule.box.x, high.y, rule.box.width, high.height)
        return replace(cells, shape=Shape.STACK, box=box, parts=(replace(cells, ground=None), rule))

    def _widen(self, members: Sequence[Element]) -> None:
        """Centred columns, some of which have fallen, share the room of each of their rows."""
        areas = [element.laid.space for element in members]
        if self._wrap is None or _shape(areas, Shape.ROW) is Shape.ROW:
            return
        rows: list[list[Element]] = []
        for element, area in zip(members, areas, strict=True):
            if rows and area.box.y < rows[-1][0].laid.space.box.bottom - OVERLAP:
                rows[-1].append(element)
            else:
                rows.append([element])
        for row in rows:
            width = self._wrap.width / len(row)
            for number, element in enumerate(row):
                box = element.laid.space.box
                box = Rect(self._wrap.left + number * width, box.y, width, box.height)
                element.laid.area = replace(element.laid.space, box=box)


def _spaces(elements: Sequence[Element]) -> list[Area]:
    """The areas of elements; of one that only holds others together those of all of them."""
    return [
        area
        for element in elements
        for area in ([element.area] if element.area is not None else _spaces(element.inner))
    ]


def _reorder(around: Element, order: Sequence[Element]) -> None:
    """Have things stand in another order than in the markup."""
    around.css |= {"display": "flex", "flex-direction": "column"}
    for number, element in enumerate(order):
        element.css["order"] = str(number)


def _put_upon(element: Element, others: Sequence[Element]) -> None:
    """Have a thing begin where what it lies on does."""
    box = element.space.box
    top = min([box.y, *(other.laid.space.box.y for other in others[:1])])
    box = replace(box, y=top, height=box.bottom - top)
    element.area = replace(element.space, box=box)


def _level(members: Sequence[Element]) -> None:
    """Put the icons that head things alike in tracks of one height again."""
    icons = [element.laid.inner[0] for element in members if element.laid.inner]
    tracks = [icon.area.track for icon in icons if icon.area is not None]
    if len(tracks) < len(members) or not all(tracks):
        return
    high = max(tracks)
    for icon, element in zip(icons, members, strict=True):
        top = float(round(top_of(icon.space) + (height_of(icon.space) - high) / 2))
        icon.area = on_track(icon.space, top, high)
        area = element.laid.space
        box = replace(area.box, y=top, height=area.box.bottom - top)
        parts = (icon.area, *area.parts[1:])
        element.laid.area = replace(area, parts=parts, box=area.box if area.ground else box)


def _stretch(members: Sequence[Element]) -> None:
    """Labels of more lines stretch those beside them, which have no more room of their own."""
    every = [element.laid for element in members]
    labels = [(laid, label) for laid in every if (label := laid.label) is not None]
    if len(labels) < len(members) or not labels:
        return
    below = [laid.space.box.bottom - label.box.bottom for laid, label in labels]
    for laid, room in zip(every, below, strict=True):
        box = laid.space.box
        laid.area = replace(laid.space, box=replace(box, height=box.height - room + min(below)))


def _keep_apart(members: Sequence[Element]) -> None:
    """Texts beside short ones at the right of their rows go on until there is one gap between.

    Which gap, the lines tell: all of them fit, and no word more.
    """
    pairs = list(_texts_and_ends(members))
    if len(pairs) < len(members) or not all(is_text_and_end(t.space, end) for t, end in pairs):
        return
    rooms = [(end.box.x - text.space.box.x, text.space) for text, end in pairs]
    most = min(room - area.box.width for room, area in rooms)
    least = max(room - setting.next_words for room, area in rooms for setting in area.words())
    if least >= most or most <= 0:
        return
    for (text, _), (room, area) in zip(pairs, rooms, strict=True):
        text.area = replace(area, box=replace(area.box, width=room - float(math.floor(most))))


def _texts_and_ends(members: Sequence[Element]) -> Iterator[tuple[Element, Area]]:
    """The two things of each row of two."""
    for member in members:
        for row in member.walk():
            if row.area and row.area.shape is Shape.ROW and len(row.inner) == 2:
                text, end = row.inner
                yield text.laid, end.laid.space


def _aligned(area: Area, align: Align) -> Area:
    """A text whose lines are as long as one another, and so stand in the middle as the page's."""
    setting = area.setting
    assert setting is not None
    widths = [line.width for line in setting.lines]
    if len(widths) < 2 or align != "center" or max(widths) - min(widths) > EVEN:
        return area
    return replace(area, setting=replace(setting, align=align))


def _in_order(inner: list[Element]) -> list[Element]:
    """As they are read in the narrow mockup, where they stand under one another there."""
    areas = [element.laid.space for element in inner]
    lower = [after.box.y >= area.box.bottom - OVERLAP for area, after in pairwise(areas)]
    if all(lower) or _shape(areas, Shape.STACK) is not Shape.PILE:
        return inner
    order = sorted(inner, key=lambda element: element.laid.space.box.y)
    return (
        order
        if _shape([element.laid.space for element in order], Shape.PILE) is Shape.STACK
        else inner
    )


def _shape(areas: Sequence[Area], usual: Shape, reach: float = REACH) -> Shape:
    """How things stand: under or beside one another, else on one another."""
    boxes = [area.box for area in areas]
    if len(boxes) == 1:
        return usual
    if all(after.y >= rect.bottom - _slack(rect, after, reach) for rect, after in pairwise(boxes)):
        return Shape.STACK
    if all(after.x >= rect.right - OVERLAP for rect, after in pairwise(boxes)):
        return Shape.ROW
    return Shape.LINES if are_lines(areas) else Shape.PILE


def _slack(rect: Rect, after: Rect, reach: float) -> float:
    """How far a thing may reach into the one above it and still stand under it."""
    return max(OVERLAP, reach * min(rect.height, after.height))


def _arranged(area: Area, parts: Sequence[Area], frame: Area | None) -> Area:
    """An area of the page with what is in it where it lies in the narrow mockup."""
    box = frame.box if frame else framed(parts).box
    ground = frame.ground if frame else None
    made_area = replace(
        area, box=box, parts=tuple(parts), ground=ground, piece=frame.piece if frame else None
    )
    if area.shape is not Shape.LIST or len(parts) < 2:
        reach = FAR if area.shape is Shape.STACK else REACH
        flowing = [part for part in parts if not part.is_upon]
        return replace(made_area, shape=_shape(flowing, Shape.STACK, reach))
    row = [area for area in parts if area.box.y < parts[0].box.bottom - OVERLAP]
    pitch = row[1].box.x - row[0].box.x if len(row) > 1 else 0.0
    return replace(made_area, columns=len(row), pitch=pitch if area.pitch else 0.0)
