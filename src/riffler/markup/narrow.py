"""A page and its narrow mockup -> what a media query says of each element.

The elements of the page are laid out a second time with the boxes of the narrow mockup, where the
same words and slices lie otherwise; what comes out otherwise is said. What the narrow mockup does
not show is left to what holds for every narrow window.

A narrow mockup lays out the same elements again: each has a twin with the box that the same words
and slices have there; what the second layout declares otherwise is its media query.
"""

from __future__ import annotations

import re
from dataclasses import dataclass, replace

from riffler.geometry import Rect
from riffler.markup.absent import Unlike, leave_out
from riffler.markup.area import Area, Shape
from riffler.markup.brevity import by_side
from riffler.markup.element import Element, Lengths
from riffler.markup.flow import Flow
from riffler.markup.looks import Inherited, Looks
from riffler.markup.places import PHONE, SIDE, SPARE
from riffler.markup.twinning import Twins

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
    "justify-content": "normal",
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
    "max-height": "none",
    "object-fit": "fill",
    "object-position": "center",
    "font-style": "normal",
    "letter-spacing": "normal",
    "order": "0",
}

#: What says something of flex boxes and grids, or of what is in them, and of nothing else.
#: CSS Flexbox 1, section 5 to 8; CSS Grid 1, section 7 and 8; CSS Box Alignment 3, section 6 and 8.
_OF_TRACKS = (
    *("flex-direction", "flex-wrap", "grid-template-columns", "grid-template-rows"),
    *("align-items", "justify-content", "gap", "column-gap", "row-gap"),
)
_IN_TRACKS = ("flex", "min-width", "order", "grid-area", "grid-column", "align-self", "place-self")

#: What does no harm where the narrow mockup does without: other windows need it.
_KEPT = {("position", "relative"), ("flex-wrap", "wrap")}

#: The widest window that a media query is for.
_WIDEST = re.compile(r"max-width:\s*(\d+)px")


@dataclass(frozen=True)
class Narrow:
    """What the narrow mockup of a page shows, and the media query that it is for."""

    area: Area
    when: str

    @property
    def widest(self) -> int:
        """The widest window that it is for, in CSS pixels: its own width where nobody said."""
        match = _WIDEST.search(self.when)
        return int(match[1]) if match else round(self.area.box.width)


def lay(body: Element, seen: Narrow, usual: Inherited, lengths: Lengths) -> Unlike:
    """Give the elements of a page twins that lie as its narrow mockup has them."""
    twins = Twins(seen.area, body)
    twin = twins.of(body)
    if twin is None:
        return Unlike()
    box = seen.area.box
    twin.area = replace(twin.space, box=Rect(0, 0, box.width, box.height))
    Flow(box.width, lengths).page(twin)
    Looks(lengths).of_all(twin, usual)
    for element, other_element in twins.pairs:
        element.twin = other_element
        if other_element.area is not None and _is_full(other_element.area, box.width):
            other_element.css.setdefault("flex-wrap", "nowrap")
    return leave_out(body, twins.same.spare, seen.when)


def _is_full(area: Area, width: float) -> bool:
    """Whether a row takes all the room that a page has, so that a hair more would break it."""
    if area.shape not in (Shape.ROW, Shape.LIST) or not area.parts:
        return False
    left = min(part.box.x for part in area.parts)
    right = max(part.box.right for part in area.parts)
    return right > width - min(left, SIDE) - SPARE


def declare(body: Element, seen: Narrow, usual: Inherited, lengths: Lengths) -> None:
    """Say of every element that has a twin what makes it lie as that one does."""
    type_, when = usual.type, seen.when
    unsaid = UNSAID | {
        "font-size": lengths.say(type_.size),
        "line-height": lengths.say(usual.step),
        "font-weight": str(type_.weight),
        "color": type_.color,
    }
    blocks = {id(inner) for element in body.walk() if _is_block(element) for inner in element.inner}
    for element in body.walk():
        if element.twin is None:
            continue
        if element.tag == "img":
            _end(element, element.twin, seen.area.box.width, lengths)
        element.mockups.pop(when, None)
        idle = (*(_OF_TRACKS * _is_block(element)), *(_IN_TRACKS * (id(element) in blocks)))
        values = _otherwise(element, element.twin.css, unsaid)
        if values := {name: value for name, value in values.items() if name not in idle}:
            element.mockups[when] = values


def _is_block(element: Element) -> bool:
    """Whether what is in an element lies in no tracks in windows that the narrow mockup is for."""
    return element.twin is not None and element.twin.css.get("display", "block") == "block"


def _end(element: Element, twin: Element, window: float, lengths: Lengths) -> None:
    """Say where a picture that grows with the window is no longer fine enough for it.

    In a window of that width it is as wide as in the narrow mockup.
    """
    piece, own = twin.space.piece, element.space.piece
    if piece is None or own is None or twin.css.get("width") != "100%":
        return
    widest = round(ENLARGED * piece.paint.width)
    element.attributes["narrow_to"] = str(round(window + widest - piece.paint.width))
    if own.paint.width < PHONE and not own.is_drawn:
        width = max(own.paint.width, float(widest))
        twin.css |= {"max-width": lengths.say(round(width)), "margin-inline": "auto"}


def _otherwise(element: Element, css: dict[str, str], unsaid: dict[str, str]) -> dict[str, str]:
    """What is to be said so that an element is as its twin."""
    wide = by_side(element.css)
    now, wanted = {**wide, **by_side(element.narrow)}, by_side(css)
    result = {}
    for name in (*now, *(item for item in wanted if item not in now)):
        if name.startswith(("margin", "padding")):
            value, default = wanted.get(name, "0"), "0"
        else:
            default = (
                "100%" if (element.tag, name) == ("img", "max-width") else unsaid.get(name, "")
            )
            value = wanted.get(name, default)
        is_kept = (name, now.get(name)) in _KEPT and name not in wanted
        if value and value != now.get(name, default) and not is_kept:
            result[name] = value
    return result
