"""A page and its narrow mockup -> what a media query says of each element.

The elements of the page are laid out a second time with the boxes of the narrow mockup, where the
same words and slices lie otherwise; what comes out otherwise is said. What the narrow mockup does
not show is left to what holds for every narrow window.
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
from riffler.markup.looks import Inherited, Looks
from riffler.markup.setting import letters_of

#: How far things in a row or a stack may overlap, in CSS pixels.
OVERLAP = 4.0

#: What a declaration of the page becomes where the narrow mockup has none.
UNSAID = {
    "display": "block",
    "flex": "initial",
    "flex-wrap": "nowrap",
    "grid-template-columns": "none",
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
        said = letters_of(text)
        return self._first(
            one for one in self._every if one.setting and letters_of(one.setting.text) == said
        )

    def picture(self, name: str) -> Area | None:
        """What the slice of this name shows."""
        return self._first(one for one in self._every if one.piece and one.piece.name == name)

    def box(self, area: Area) -> Area | None:
        """The next box of nothing but its ground that is painted alike."""
        return self._first(
            one
            for one in self._every
            if one.shape is Shape.BOX
            and one.ground
            and area.ground
            and one.ground.stops == area.ground.stops
        )

    def around(self, parts: Sequence[Area]) -> Area | None:
        """The box with edges that holds these and no other words and pictures."""
        leaves = {id(one) for part in parts for one in part.walk() if _is_leaf(one)}
        return self._first(
            one
            for one in self._every
            if has_ground(one)
            and one.parts
            and {id(leaf) for leaf in one.walk() if _is_leaf(leaf)} == leaves
        )

    def _first(self, found: Iterator[Area]) -> Area | None:
        area = next((one for one in found if id(one) not in self._taken), None)
        if area is not None:
            self._taken.add(id(area))
        return area


def lay(body: Element, seen: Narrow, usual: Inherited, lengths: Lengths) -> None:
    """Give the elements of a page twins that lie as its narrow mockup has them."""
    twins = _Twins(seen.area)
    twin = twins.of(body)
    if twin is None:
        return
    assert twin.area is not None
    box = seen.area.box
    twin.area = replace(twin.area, box=Rect(0, 0, box.width, box.height))
    Flow(box.width, lengths).page(twin)
    Looks(lengths).of_all(twin, usual)
    for element, other in twins.pairs:
        element.twin = other


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
        if element.twin is not None and (said := _otherwise(element, element.twin.css, unsaid)):
            element.mockups[when] = said


class _Twins:
    """Elements as those of a page, with the boxes of its narrow mockup."""

    def __init__(self, area: Area) -> None:
        self._same = _Same(area)
        self.pairs: list[tuple[Element, Element]] = []

    def of(self, element: Element) -> Element | None:
        """The twin of an element; None where nothing of it is in the narrow mockup."""
        area = element.area
        if area is None:
            return self._around(element, None, [self.of(one) for one in element.inner])
        if area.setting is not None:
            return self._leaf(element, self._same.words(area.setting.text))
        if area.shape is Shape.PICTURE:
            return self._leaf(element, self._same.picture(area.piece.name) if area.piece else None)
        if element.label is not None:
            words = self._same.words(element.label.text)
            frame = self._same.around([words]) if words else None
            found = self._leaf(element, frame)
            if found is not None and words is not None:
                found.label = words.setting
            return found
        if area.shape is Shape.BOX:
            return self._leaf(element, self._same.box(area))
        if not element.inner:
            return None
        return self._around(element, area, [self.of(one) for one in element.inner])

    def _leaf(self, element: Element, area: Area | None) -> Element | None:
        if area is None:
            return None
        return self._paired(element, Element(element.tag, area, element.name))

    def _paired(self, element: Element, twin: Element) -> Element:
        self.pairs.append((element, twin))
        return twin

    def _around(
        self, element: Element, area: Area | None, found: Sequence[Element | None]
    ) -> Element | None:
        inner = [one for one in found if one is not None]
        if not inner:
            return None
        made = Element(element.tag, None, element.name, content=list(inner))
        if area is None:
            return self._paired(element, made)
        frame = self._same.around([_area(one) for one in inner]) if has_ground(area) else None
        order = _in_order(inner)
        made.content = list(order)
        made.area = _arranged(area, [_area(one) for one in order], frame)
        if order != inner:
            made.css |= {"display": "flex", "flex-direction": "column"}
            for number, one in enumerate(order):
                one.css["order"] = str(number)
        return self._paired(element, made)


def _area(element: Element) -> Area:
    area = element.laid.area
    assert area is not None
    return area


def _in_order(inner: list[Element]) -> list[Element]:
    """As they are read in the narrow mockup, where they stand under one another there."""
    areas = [_area(one) for one in inner]
    lower = [after.box.y >= one.box.bottom - OVERLAP for one, after in pairwise(areas)]
    if all(lower) or _shape(areas, Shape.STACK) is not Shape.PILE:
        return inner
    order = sorted(inner, key=lambda one: _area(one).box.y)
    return order if _shape([_area(one) for one in order], Shape.PILE) is Shape.STACK else inner


def _shape(areas: Sequence[Area], usual: Shape) -> Shape:
    """How things stand: under or beside one another, else on one another."""
    boxes = [one.box for one in areas]
    if len(boxes) == 1:
        return usual
    if all(after.y >= one.bottom - OVERLAP for one, after in pairwise(boxes)):
        return Shape.STACK
    if all(after.x >= one.right - OVERLAP for one, after in pairwise(boxes)):
        return Shape.ROW
    return Shape.PILE


def _arranged(area: Area, parts: Sequence[Area], frame: Area | None) -> Area:
    """An area of the page with what is in it where it lies in the narrow mockup."""
    box = frame.box if frame else _union([one.box for one in parts])
    ground = frame.ground if frame else None
    made = replace(
        area, box=box, parts=tuple(parts), ground=ground, piece=frame.piece if frame else None
    )
    if area.shape is not Shape.LIST or len(parts) < 2:
        return replace(made, shape=_shape(parts, Shape.STACK))
    row = [one for one in parts if one.box.y < parts[0].box.bottom - OVERLAP]
    pitch = row[1].box.x - row[0].box.x if len(row) > 1 else 0.0
    return replace(made, columns=len(row), pitch=pitch if area.pitch else 0.0)


def _union(boxes: Sequence[Rect]) -> Rect:
    left, top = min(one.x for one in boxes), min(one.y for one in boxes)
    right, bottom = max(one.right for one in boxes), max(one.bottom for one in boxes)
    return Rect(left, top, right - left, bottom - top)


def _otherwise(element: Element, css: dict[str, str], unsaid: dict[str, str]) -> dict[str, str]:
    """What is to be said so that an element is as its twin."""
    wide = _by_side(element.css)
    now, wanted = {**wide, **_by_side(element.narrow)}, _by_side(css)
    found = {}
    for name in (*now, *(one for one in wanted if one not in now)):
        if name.startswith(("margin", "padding")):
            value, default = wanted.get(name, "0"), "0"
        else:
            default = (
                "100%" if (element.tag, name) == ("img", "max-width") else unsaid.get(name, "")
            )
            value = wanted.get(name, default)
        if value and value != now.get(name, default):
            found[name] = value
    return found


def _by_side(css: dict[str, str]) -> dict[str, str]:
    """Declarations with each side by itself."""
    found: dict[str, str] = {}
    for name, value in css.items():
        found |= dict.fromkeys(BOTH.get(name, (name,)), value)
    return found


def _is_leaf(area: Area) -> bool:
    return area.setting is not None or area.shape is Shape.PICTURE
