"""A plain box of a mockup and its element on the page -> its place, and all that differs."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator
from dataclasses import replace
from itertools import product

import numpy as np

from riffler.analyse.style import SIDES, Border, Radii, Shadow, Style
from riffler.analyse.thumbnails import content
from riffler.color import Bytes
from riffler.fit.expected import Expected, ExpectedThing
from riffler.fit.fault import COLOR, MEASURED, Difference, Fault, Placed, px
from riffler.fit.in_sight import in_sight
from riffler.fit.likeness import beyond, colored, crop, differing, middle_color, shifted
from riffler.fit.seen import SeenBox, SeenPage, colors_in, lengths_in
from riffler.geometry import Box, Rect
from riffler.tokens.palette import alpha, apart

#: Alpha up to which a stop of a gradient has no edge to be seen.
CLEAR = 12 / 255

#: How different a box may look, 0..1, to be the same; what that settles.
SAME = 0.008
_PAINT = (Fault.COLOR, Fault.GRADIENT)

#: The share of what is in sight that may differ where all is as drawn: rims of what lies on it.
STRAY = 0.002

#: Pixels in sight that are enough to tell a colour, and levels of 255 by which they may be off it.
ENOUGH, NEARLY = 64, 4

#: CSS pixels around a box that tell where it ends.
RIM = 2

#: Levels of 255 by which a pixel is seen to differ, and how many may where all is the same.
SEEN, FEW = 16, 4

#: Oklab's distance from which a shadow has another colour.
TINT = 0.05

#: A box as thin as a border, and how far one may lie elsewhere, in CSS pixels.
THIN, ABOUT = 4.0, 40.0

#: How far what no element is may lie elsewhere, in CSS pixels.
STEPS = (-3.0, -2.0, -1.0, 0.0, 1.0, 2.0, 3.0)

#: What is between the shadows of a computed value: no comma of a colour.
_SHADOWS = re.compile(r",\s*(?![^()]*\))")

#: The share of what lies about its edges that may differ where all of them are there.
EDGE = 0.12

#: How far corners and borders may be off, in CSS pixels.
CORNER, BORDER = 1.0, 0.6


def box(
    number: int, thing: ExpectedThing, found_box: SeenBox, wanted: Expected, seen: SeenPage
) -> Placed:
    """A plain box that an element paints."""
    mine, other_rect = thing.box, thing.box if found_box.fills else found_box.box
    if thing.style and any(alpha(stop.color) < CLEAR for stop in thing.style.stops):
        mine = _where_it_shows(mine, other_rect)
    differences = _differences(thing, found_box, wanted, seen)
    placed = Placed(
        number,
        thing,
        other_rect,
        found_box.element,
        other_rect.x - mine.x,
        other_rect.y - mine.y,
        other_rect.width - mine.width,
        other_rect.height - mine.height,
        differences,
    )
    if (differences or placed.dw or placed.dh) and _looks_so(placed, wanted, seen):
        return replace(placed, dw=0.0, dh=0.0, differences=())
    return placed


def _differences(
    thing: ExpectedThing, found_box: SeenBox, wanted: Expected, seen: SeenPage
) -> tuple[Difference, ...]:
    """How a box is said otherwise, but for what is not seen."""
    differences = list(_of_box(thing.style, found_box, wanted)) if thing.style else []
    is_other = any(difference.fault in _PAINT for difference in differences)
    if is_other and _is_painted_alike(thing, found_box, wanted, seen):
        differences = [found for found in differences if found.fault not in _PAINT]
    if any(map(_is_inside, differences)) and _is_as_drawn(thing, found_box, wanted, seen):
        # a shadow without blur that falls into a box is a border by another word
        differences = [
            found
            for found in differences
            if not _is_inside(found) and found.fault is not Fault.BORDER
        ]
    return tuple(differences)


def _is_painted_alike(
    thing: ExpectedThing, found_box: SeenBox, wanted: Expected, seen: SeenPage
) -> bool:
    """Whether a box looks as it should: also the little of it that nothing lies on."""
    rect = thing.box if found_box.fills else found_box.box
    if content(wanted.shown(thing.box), crop(seen, rect)) > SAME:
        return False
    pair = _in_sight_of_both(thing, found_box, wanted, seen)
    if found_box.image != "none" or pair is None:
        return True
    return int(colored(pair[1], found_box.color, NEARLY).sum()) < ENOUGH


def _is_inside(difference: Difference) -> bool:
    """Whether it is a shadow that falls into a box."""
    return difference.fault is Fault.SHADOW and "inset" in difference.wanted + difference.found


def _is_as_drawn(
    thing: ExpectedThing, found_box: SeenBox, wanted: Expected, seen: SeenPage
) -> bool:
    """Whether what is in sight of a box has the very pixels on the page, but for a stray few."""
    pair = _in_sight_of_both(thing, found_box, wanted, seen)
    if pair is None or len(pair[0]) < ENOUGH:
        return False
    return int(differing(*pair, SEEN).sum()) <= max(FEW, STRAY * len(pair[0]))


def _in_sight_of_both(
    thing: ExpectedThing, found_box: SeenBox, wanted: Expected, seen: SeenPage
) -> tuple[Bytes, Bytes] | None:
    """The pixels of a box that nothing lies on, and those of the page there: (N, 4) uint8 each."""
    rect = thing.box if found_box.fills else found_box.box
    sight, on = in_sight(thing, wanted), wanted.on_canvas(thing.box)
    there = shifted(seen, on, rect.x - thing.box.x, rect.y - thing.box.y)
    if there.shape != sight.pixels.shape:
        return None
    return sight.pixels[sight.mask], there[sight.mask]


def _looks_so(placed: Placed, wanted: Expected, seen: SeenPage) -> bool:
    """Whether the page paints the very pixels there and around, by whatever declarations."""
    rim, box = RIM + max(abs(placed.dw), abs(placed.dh)), placed.thing.box
    box = Rect(box.x - rim, box.y - rim, box.width + 2 * rim, box.height + 2 * rim)
    mine, there = wanted.shown(box), shifted(seen, wanted.on_canvas(box), placed.dx, placed.dy)
    if mine.shape != there.shape or not mine.size:
        return False
    return int(differing(mine, there, SEEN).sum()) <= FEW


def drawn(number: int, thing: ExpectedThing, wanted: Expected, seen: SeenPage) -> Placed | None:
    """A box that no element is, and that the page shows all the same, with its edges.

    A pseudo-element draws it, a gradient, or a shadow. None where the page does not show it.
    """
    on = wanted.on_canvas(thing.box)
    whole, depth = wanted.whole, round(RIM * wanted.density)
    rim = on.grown(depth) & Box(0, 0, whole.shape[1], whole.shape[0])
    strips = list(rim.strips(2 * depth + 1).values())
    mine = [whole[strip.y : strip.bottom, strip.x : strip.right] for strip in strips]
    color = middle_color(wanted.shown(thing.box).reshape(-1, 4))
    for dx, dy in sorted(product(STEPS, STEPS), key=lambda by: (abs(by[0]) + abs(by[1]), by)):
        there = [shifted(seen, strip, dx, dy) for strip in strips]
        if any(one.shape != other.shape for one, other in zip(mine, there, strict=True)):
            continue
        pairs = zip(mine, there, strict=True)
        off = [beyond(a, b, SEEN) | beyond(b, a, SEEN) for a, b in pairs]
        if sum(map(np.sum, off)) > EDGE * sum(part.size for part in off):
            continue
        if apart(color, middle_color(shifted(seen, on, dx, dy).reshape(-1, 4))) <= COLOR:
            return Placed(number, thing, thing.box.moved(dx, dy), dx=dx, dy=dy)
    return None


def line(number: int, thing: ExpectedThing, wanted: Expected, seen: SeenPage) -> Placed | None:
    """A thin box that the page has as the border of an element; None where there is none near."""
    mine = thing.box
    if min(mine.width, mine.height) > THIN:
        return None
    result = min(
        ((_apart(mine, rect), element, rect, color) for element, rect, color in _borders(seen)),
        key=lambda entry: entry[0],
        default=None,
    )
    if result is None or result[0] > ABOUT:
        return None
    _, element, rect, color = result
    least = COLOR if wanted.is_vector else COLOR + MEASURED
    stop = thing.style.stops[0].color if thing.style else color
    other = (Difference(Fault.COLOR, stop, color),) if apart(stop, color) > least else ()
    return Placed(
        number,
        thing,
        rect,
        element,
        rect.x - mine.x,
        rect.y - mine.y,
        rect.width - mine.width,
        rect.height - mine.height,
        other,
    )


def _apart(first: Rect, second: Rect) -> float:
    edges = (
        first.x - second.x,
        first.y - second.y,
        first.right - second.right,
        first.bottom - second.bottom,
    )
    return max(map(abs, edges))


def _borders(seen: SeenPage) -> Iterator[tuple[int, Rect, str]]:
    """Every border of one side of an element, as the strip that it paints."""
    for one_box in seen.boxes:
        box = one_box.box
        (top, over), (right, beside), (bottom, under), (left, before) = one_box.borders
        for width, color, rect in (
            (top, over, Rect(box.x, box.y, box.width, top)),
            (right, beside, Rect(box.right - right, box.y, right, box.height)),
            (bottom, under, Rect(box.x, box.bottom - bottom, box.width, bottom)),
            (left, before, Rect(box.x, box.y, left, box.height)),
        ):
            if width:
                yield one_box.element, rect, color


def _where_it_shows(mine: Rect, other_rect: Rect) -> Rect:
    """A box that fades away has no edge there: it may be as large as the element that has it."""
    left, top = (min(value, two) for value, two in ((mine.x, other_rect.x), (mine.y, other_rect.y)))
    right, bottom = max(mine.right, other_rect.right), max(mine.bottom, other_rect.bottom)
    return Rect(left, top, right - left, bottom - top)


def _of_box(style: Style, box: SeenBox, wanted: Expected) -> Iterator[Difference]:
    least = COLOR if wanted.is_vector else MEASURED
    is_flat = len(style.stops) == 1 and style.stops[0].color[7:] in ("", "ff")
    yield from _of_paint(style, box, COLOR if is_flat else least)
    if style.radii is not None:
        yield from _of_corners(style.radii, box, CORNER + (not wanted.is_vector))
    if not _is_unseen(style, box, least):
        yield from _of_border(style.border, box, least)
    yield from _of_shadow(style, box, is_exact=wanted.is_vector)


def _of_paint(style: Style, box: SeenBox, least: float) -> Iterator[Difference]:
    colors = colors_in(box.image)
    stops = [stop.color for stop in style.stops]
    if len(stops) > 1:
        ends = ((stops[0], colors[0]), (stops[-1], colors[-1])) if colors else ()
        if not ends or any(apart(*pair) > least for pair in ends):
            yield Difference(Fault.GRADIENT, ", ".join(stops), ", ".join(colors) or box.color)
    elif stops and not colors and style.opacity == 1 and apart(stops[0], box.color) > least:
        yield Difference(Fault.COLOR, stops[0], box.color)


def _of_corners(radii: Radii, box: SeenBox, least: float) -> Iterator[Difference]:
    half = min(box.box.width, box.box.height) / 2
    mine = [min(value, half) for value in radii.listed]
    if max(abs(first - second) for first, second in zip(mine, box.radii, strict=True)) > least:
        yield Difference(Fault.RADIUS, _corners(mine), _corners(box.radii))


def _corners(radii: Iterable[float]) -> str:
    return " ".join(f"{round(value, 1):g}" for value in radii) + " px"


def _is_unseen(style: Style, box: SeenBox, least: float) -> bool:
    """Whether neither side has a border in another colour than what it is around."""
    fill = style.stops[0].color if len(style.stops) == 1 else ""
    colors = [style.border.color] if style.border else []
    colors += [color for width, color in box.borders if width]
    if not fill or colors_in(box.image):
        return False
    return all(min(apart(color, fill), apart(color, box.color)) <= least for color in colors)


def _of_border(border: Border | None, box: SeenBox, least: float) -> Iterator[Difference]:
    width, color = max(box.borders, key=lambda pair: pair[0])
    if border and border.side:
        width, color = box.borders[SIDES.index(border.side)]
    width = width if alpha(color) > CLEAR else 0.0
    if abs((border.width if border else 0) - width) > BORDER:
        text = f"{px(border.width)} {border.color}" if border else "none"
        yield Difference(Fault.BORDER, text, f"{px(width)} {color}" if width else "none")
    elif border and apart(border.color, color) > 2 * least:
        yield Difference(Fault.BORDER, border.color, color)


def _of_shadow(style: Style, box: SeenBox, *, is_exact: bool) -> Iterator[Difference]:
    outer = [shadow for shadow in style.shadows if not shadow.is_inner]
    seen = _SHADOWS.split(box.shadow) if box.shadow != "none" else []
    inside = [text for text in seen if "inset" in text]
    around = [text for text in seen if text not in inside]
    if inside and not any(shadow.is_inner for shadow in style.shadows):
        yield Difference(Fault.SHADOW, "none", box.shadow)
    if bool(outer) != bool(around):
        yield Difference(Fault.SHADOW, "a shadow" if outer else "none", box.shadow)
    elif outer and is_exact:
        yield from _of_outer(outer[0], around[0])


def _of_outer(shadow: Shadow, seen: str) -> Iterator[Difference]:
    """How a shadow around a box is said otherwise; `seen` is the first that the page has."""
    numbers = lengths_in(seen)[:3]
    mine = (shadow.x, shadow.y, shadow.blur)
    if any(abs(first - second) > CORNER for first, second in zip(mine, numbers, strict=False)):
        yield Difference(Fault.SHADOW, _numbers(mine), _numbers(numbers))
    elif apart(shadow.color, colors_in(seen)[0]) > TINT:
        yield Difference(Fault.SHADOW, shadow.color, colors_in(seen)[0])


def _numbers(values: Iterable[float]) -> str:
    return " ".join(px(value) for value in values)
