"""Things on one another -> one cell of a grid, each at its place in it."""

from __future__ import annotations

import math

from riffler.geometry import Rect
from riffler.markup.area import Area, Shape
from riffler.markup.element import Element, in_windows, meant, snapped
from riffler.markup.extents import (
    PLATE,
    area_of,
    has_ground,
    height_of,
    is_label,
    left_of,
    right_of,
    top_of,
)
from riffler.markup.laying import Laying
from riffler.markup.places import Edges

#: What is no farther from the middle is meant to be there, in CSS pixels.
MIDDLE = 1.5

#: The largest share of a page's width that art on a plate takes which lies on something else.
ART = 0.45

#: What CSS calls the ends of the room that a thing has. CSS Box Alignment 3, 4.1.
_PLACES = {"top": "start", "bottom": "end", "left": "start", "right": "end"}


def lay(flow: Laying, element: Element, edges: Edges, top: float) -> float:
    """Things on one another, in one cell of a grid; what breaks out of it is placed on it."""
    element.css["display"] = "grid"
    element.css["grid-template-columns"] = "minmax(0, 1fr)"
    first, *others = element.inner
    bottom = top
    if area_of(first).shape is Shape.PICTURE and _covers(area_of(first), element.space):
        first.css["grid-area"] = "1 / 1"
        bottom = max(bottom, _under(flow, element, first, area_of(first), edges, top))
    elif area_of(first).shape is Shape.PICTURE:
        _upon(flow, element, first, area_of(first), edges, top)
    else:
        bottom = max(bottom, _in_the_cell(flow, element, first, edges, top))
    for child in others:
        own_area = area_of(child)
        if _has_own_place(own_area, element.space):
            _in_corner(flow, element, child, own_area)
        elif own_area.shape is Shape.PICTURE:
            _upon(flow, element, child, own_area, edges, top)
        else:
            child.css["position"] = "relative"
            bottom = max(bottom, _in_the_cell(flow, element, child, edges, top))
    return bottom


def _has_own_place(area: Area, whole: Area) -> bool:
    """Whether it keeps its size at a corner or an edge of what it lies on."""
    return area.is_pinned or _is_sign(area, whole) or (is_label(area) and has_ground(area))


def _in_the_cell(flow: Laying, element: Element, child: Element, edges: Edges, top: float) -> float:
    """What takes part in how high the cell is; its bottom."""
    area = area_of(child)
    is_art = has_ground(area) and bool(area.parts) and not any(area.words())
    if is_art and flow.places.is_whole(edges) and area.box.width <= ART * edges.width:
        placed = _at_its_side(flow, child, area, edges)
    else:
        placed = flow.places.across(child, area, edges)
    child.css["grid-area"] = "1 / 1"
    if child.css.get("margin-inline") == "auto" and "max-width" in child.css:
        child.css.setdefault("width", "100%")  # else it is as narrow as it may be
    lower = meant(top_of(area) - top)
    if lower:
        child.css["margin-top"] = flow.say(lower)
    has_edges = has_ground(area) or area.shape is Shape.PILE
    if has_edges and area.box.bottom < element.space.box.bottom - MIDDLE:
        child.css["align-self"] = "start"  # else it goes on to the end of the cell
    return flow.lay(child.laid, placed, top + lower)


def _at_its_side(flow: Laying, child: Element, area: Area, edges: Edges) -> Edges:
    """Art on a plate of its own: as large a share of any window, at the side that is nearer."""
    left, right = area.box.x - edges.left, edges.right - area.box.right
    width, (_, side) = snapped(area.box.width), nearest({"left": left, "right": right})
    room = (snapped(left), 0.0) if side == "left" else (0.0, snapped(right))
    child.css |= flow.places.sides("margin", *room, edges)
    child.css |= {"width": f"min({flow.say(width)}, {in_windows(width, edges.width)})"}
    child.css["justify-self"] = _PLACES[side]
    return Edges(area.box.x, area.box.right)


def _under(
    flow: Laying, element: Element, child: Element, area: Area, edges: Edges, top: float
) -> float:
    """The picture that all else lies on: no larger than its file, and its colour below it."""
    others = [area_of(one_element) for one_element in element.inner[1:]]
    height = flow.say(snapped(height_of(area)))
    if all(is_label(other_area) for other_area in others):
        element.css["max-width"] = flow.say(snapped(right_of(area) - left_of(area)))
        child.css["width"] = "100%"
        return flow.lay(child.laid, edges, top)
    is_whole = flow.places.is_whole(edges) and not flow.places.is_for_phones
    fit = "none" if is_whole and area.tint else "cover"
    if fit == "none" and area.piece is not None and area.piece.is_fine:
        # its own size is that of its pixels: no wider than in the mockup, and in the middle
        fit, width = "cover", flow.say(snapped(area.piece.paint.width))
        child.css |= {"max-width": width, "margin-inline": "auto"}
    child.css |= {"width": "100%", "height": "100%", "object-fit": fit}
    if area.tint:
        child.css["max-height"] = height
        element.css["background"] = area.tint
    return flow.lay(child.laid, edges, top)


def _in_corner(flow: Laying, element: Element, child: Element, area: Area) -> None:
    """What keeps its own size on a picture: at the corner or edge that it is nearest to."""
    whole, box = element.space.box, _paint(area)
    beside, across = nearest({"left": box.x - whole.x, "right": whole.right - box.right})
    above, down = nearest({"top": box.y - whole.y, "bottom": whole.bottom - box.bottom})
    child.css["grid-area"] = "1 / 1"
    if area.piece is None:
        child.laid.css["width"] = "fit-content"
    flow.lay(child.laid, Edges(box.x, box.right), box.y)
    places = []
    for side, length, room in (
        (down, above, whole.height - box.height),
        (across, beside, whole.width - box.width),
    ):
        is_middle = abs(room - 2 * length) <= 2 * MIDDLE
        places.append("center" if is_middle else _PLACES[side])
        if not is_middle:
            child.css[f"margin-{side}"] = flow.say(snapped(length))
    child.css |= {"position": "relative", "place-self": " ".join(dict.fromkeys(places))}


def _upon(
    flow: Laying, element: Element, child: Element, area: Area, edges: Edges, top: float
) -> None:
    """Art that breaks out of its row."""
    paint = area.piece.paint if area.piece else area.box
    element.css["position"] = "relative"
    share = 100 / edges.width
    child.css |= {
        "position": "absolute",
        "top": flow.say(snapped(paint.y - top)),
        "left": f"{round(share * (paint.x - edges.left), 2):g}%",
        "width": f"{round(share * paint.width, 2):g}%",
        "max-width": flow.say(math.ceil(paint.width)),
    }
    child.narrow |= {"position": "static", "width": "auto", "margin-inline": "auto"}


def _is_sign(area: Area, whole: Area) -> bool:
    """Whether a picture is a sign on a small plate, and within it."""
    if area.shape is not Shape.PICTURE or _covers(area, whole):
        return False
    plate = _paint(whole)
    return max(plate.width, plate.height) <= PLATE and plate.contains(_paint(area))


def _paint(area: Area) -> Rect:
    """Where the file of a picture lies, or of the one that all else in a pile lies on."""
    if area.shape is Shape.PILE:
        return _paint(area.parts[0])
    return area.piece.paint if area.piece else area.box


def nearest(lengths: dict[str, float]) -> tuple[float, str]:
    """The side that is nearest, and how far it is."""
    side = min(lengths, key=lambda side: lengths[side])
    return lengths[side], side


def _covers(area: Area, whole: Area) -> bool:
    """Whether a picture is the ground of all that lies with it."""
    box = area.box & whole.box
    if box is None:
        return False
    return box.width >= whole.box.width / 2 and box.height >= whole.box.height / 2
