"""A page and its narrow mockup -> what a media query says of each element.

The elements of the page are laid out a second time with the boxes of the narrow mockup, where the
same words and slices lie otherwise; what comes out otherwise is said. What the narrow mockup does
not show is left to what holds for every narrow window.

A narrow mockup lays out the same elements again: each has a twin with the box that the same words
and slices have there; what the second layout declares otherwise is its media query.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

from riffler.geometry import Rect
from riffler.markup.area import Area, Shape
from riffler.markup.element import Element, Lengths
from riffler.markup.extents import has_ground
from riffler.markup.flow import Flow
from riffler.markup.lines import OVERLAP, are_lines
from riffler.markup.looks import Inherited, Looks
from riffler.markup.setting import letters_of

#: How much larger than it is a picture for phones is shown at the most.
ENLARGED = 1.25

#: What a declaration of the page becomes where the narrow mockup has none.
UNSAID = {
    "display": "block",
    "flex": "initial",
    "flex-wrap": "nowrap",
    "grid-template-columns": "none",
    "grid-template-rows": "none",
    "grid-area": "auto",
    "align-items": "normal",
    "align-content": "normal",
    "grid-column": "auto",
    "justify-self": "auto",
    "gap": "0",
    "column-gap": "0",
    "row-gap": "0",
    "position": "static",
    "width": "auto",
    "max-width": "none",
    "min-width": "auto",
    "height": "auto",
    "min-height": "0",
    "text-align": "start",
    "white-space": "normal",
    "background": "none",
    "border": "0",
    "border-radius": "0",
    "box-shadow": "none",
    "object-fit": "fill",
    "font-style": "normal",
    "letter-spacing": "normal",
    "order": "0",
}

#: What says two sides at once.
BOTH = {
    "margin-inline": ("margin-left", "margin-right"),
    "padding-inline": ("padding-left", "padding-right"),
    "padding-block": ("padding-top", "padding-bottom"),
}


@dataclass(frozen=True)
class Narrow:
    """What the narrow mockup of a page shows, and the media query that it is for."""

    area: Area
    when: str


class _Same:
    """Finds what is shown in the narrow mockup, each thing once."""

    def __init__(self, area: Area) -> None:
        self._every = list(area.walk())
        self._taken: set[int] = set()

    def words(self, text: str) -> Area | None:
        """The text that says the same."""
        letters = letters_of(text)
        return self._first(
            area
            for area in self._every
            if area.setting and letters_of(area.setting.text) == letters
        )

    def picture(self, name: str) -> Area | None:
        """What the slice of this name shows."""
        return self._first(area for area in self._every if area.piece and area.piece.name == name)

    def box(self, area: Area) -> Area | None:
        """The next box of nothing but its ground that is painted alike."""
        return self._first(
            one_area
            for one_area in self._every
            if one_area.shape is Shape.BOX
            and one_area.ground
            and area.ground
            and one_area.ground.stops == area.ground.stops
        )

    def around(self, parts: Sequence[Area]) -> Area | None:
        """The box with edges that holds these and no other words and pictures."""
        leaves = {id(area) for part in parts for area in part.walk() if _is_leaf(area)}
        return self._first(
            area
            for area in self._every
            if has_ground(area)
            and area.parts
            and {id(leaf) for leaf in area.walk() if _is_leaf(leaf)} == leaves
        )

    @property
    def has_other_pictures(self) -> bool:
        """Whether it shows pictures that are none of the page's, as far as anybody knows."""
        return any(
            area.shape is Shape.PICTURE and area.piece and id(area) not in self._taken
            for area in self._every
        )

    def _first(self, areas: Iterator[Area]) -> Area | None:
        area = next((area for area in areas if id(area) not in self._taken), None)
        if area is not None:
            self._taken.add(id(area))
        return area


def lay(body: Element, seen: Narrow, usual: Inherited, lengths: Lengths) -> None:
    """Give the elements of a page twins that lie as its narrow mockup has them."""
    twins = _Twins(seen.area)
    twin = twins.of(body)
    if twin is None:
        return
    box = seen.area.box
    twin.area = replace(twin.space, box=Rect(0, 0, box.width, box.height))
    Flow(box.width, lengths).page(twin)
    Looks(lengths).of_all(twin, usual)
    for element, other_element in twins.pairs:
        element.twin = other_element
    if not twins.same.has_other_pictures:
        for element in body.walk():
            _hide(element, seen.when)


def _hide(element: Element, when: str) -> None:
    """Leave out pictures that the narrow mockup has not, where it shows what is beside them."""
    if not any(inner.twin for inner in element.inner):
        return
    for inner in element.inner:
        if inner.tag == "img" and inner.twin is None and inner.area and inner.area.piece:
            inner.mockups[when] = {"display": "none"}


def declare(body: Element, when: str, usual: Inherited, lengths: Lengths) -> None:
    """Say of every element that has a twin what makes it lie as that one does."""
    type_ = usual.type
    unsaid = UNSAID | {
        "font-size": lengths.say(type_.size),
        "line-height": lengths.say(usual.step),
        "font-weight": str(type_.weight),
        "color": type_.color,
    }
    for element in body.walk():
        if element.tag == "img" and element.twin is not None:
            _end(element, element.twin)
        if element.twin is not None and (values := _otherwise(element, element.twin.css, unsaid)):
            element.mockups[when] = values


def _end(element: Element, twin: Element) -> None:
    """Say where a picture that grows with the window is no longer fine enough for it."""
    piece = twin.space.piece
    if piece is not None and twin.css.get("width") == "100%":
        element.attributes["narrow_to"] = str(round(ENLARGED * piece.paint.width))


class _Twins:
    """Elements as those of a page, with the boxes of its narrow mockup."""

    def __init__(self, area: Area) -> None:
        self.same = _Same(area)
        self.pairs: list[tuple[Element, Element]] = []

    def of(self, element: Element) -> Element | None:
        """The twin of an element; None where nothing of it is in the narrow mockup."""
        area = element.area
        if area is None:
            return self._around(
                element, None, [self.of(one_element) for one_element in element.inner]
            )
        if area.setting is not None:
            return self._leaf(element, self.same.words(area.setting.text))
        if area.shape is Shape.PICTURE:
            return self._leaf(element, self.same.picture(area.piece.name) if area.piece else None)
        if element.label is not None:
            words = self.same.words(element.label.text)
            frame = self.same.around([words]) if words else None
            found_element = self._leaf(element, frame)
            if found_element is not None and words is not None:
                found_element.label = words.setting
            return found_element
        if area.shape is Shape.BOX:
            return self._leaf(element, self.same.box(area))
        if not element.inner:
            return None
        return self._around(element, area, [self.of(one_element) for one_element in element.inner])

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
        if area is None:
            return self._paired(element, made_element)
        frame = (
            self.same.around([element.laid.space for element in inner])
            if has_ground(area)
            else None
        )
        order = _in_order(inner)
        made_element.content = list(order)
        made_element.area = _arranged(area, [element.laid.space for element in order], frame)
        if order != inner:
            made_element.css |= {"display": "flex", "flex-direction": "column"}
            for number, one_element in enumerate(order):
                one_element.css["order"] = str(number)
        return self._paired(element, made_element)


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


def _shape(areas: Sequence[Area], usual: Shape) -> Shape:
    """How things stand: under or beside one another, else on one another."""
    boxes = [area.box for area in areas]
    if len(boxes) == 1:
        return usual
    if all(after.y >= rect.bottom - OVERLAP for rect, after in pairwise(boxes)):
        return Shape.STACK
    if all(after.x >= rect.right - OVERLAP for rect, after in pairwise(boxes)):
        return Shape.ROW
    return Shape.LINES if are_lines(areas) else Shape.PILE


def _arranged(area: Area, parts: Sequence[Area], frame: Area | None) -> Area:
    """An area of the page with what is in it where it lies in the narrow mockup."""
    box = frame.box if frame else _union([area.box for area in parts])
    ground = frame.ground if frame else None
    made_area = replace(
        area, box=box, parts=tuple(parts), ground=ground, piece=frame.piece if frame else None
    )
    if area.shape is not Shape.LIST or len(parts) < 2:
        return replace(made_area, shape=_shape(parts, Shape.STACK))
    row = [area for area in parts if area.box.y < parts[0].box.bottom - OVERLAP]
    pitch = row[1].box.x - row[0].box.x if len(row) > 1 else 0.0
    return replace(made_area, columns=len(row), pitch=pitch if area.pitch else 0.0)


def _union(boxes: Sequence[Rect]) -> Rect:
    left, top = min(rect.x for rect in boxes), min(rect.y for rect in boxes)
    right, bottom = max(rect.right for rect in boxes), max(rect.bottom for rect in boxes)
    return Rect(left, top, right - left, bottom - top)


def _otherwise(element: Element, css: dict[str, str], unsaid: dict[str, str]) -> dict[str, str]:
    """What is to be said so that an element is as its twin."""
    wide = _by_side(element.css)
    now, wanted = {**wide, **_by_side(element.narrow)}, _by_side(css)
    result = {}
    for name in (*now, *(item for item in wanted if item not in now)):
        if name.startswith(("margin", "padding")):
            value, default = wanted.get(name, "0"), "0"
        else:
            default = (
                "100%" if (element.tag, name) == ("img", "max-width") else unsaid.get(name, "")
            )
            value = wanted.get(name, default)
        if value and value != now.get(name, default):
            result[name] = value
    return result


def _by_side(css: dict[str, str]) -> dict[str, str]:
    """Declarations with each side by itself."""
    result: dict[str, str] = {}
    for name, value in css.items():
        result |= dict.fromkeys(BOTH.get(name, (name,)), value)
    return result


def _is_leaf(area: Area) -> bool:
    return area.setting is not None or area.shape is Shape.PICTURE
