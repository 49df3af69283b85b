"""A plain box of a mockup and its element on the page -> its place, and all that differs."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from riffler.analyse.style import Style
from riffler.fit.expected import Expected, Thing
from riffler.fit.fault import COLOR, MEASURED, Difference, Fault, Placed, px
from riffler.fit.likeness import content, crop
from riffler.fit.seen import Seen, SeenBox, colors_in, lengths_in
from riffler.geometry import Rect
from riffler.tokens.palette import apart

#: Alpha of 255 up to which a stop of a gradient has no edge to be seen.
CLEAR = 12

#: How different a box may look, 0..1, to be the same; what that settles.
SAME = 0.008
_PAINT = (Fault.COLOR, Fault.GRADIENT)

#: How far corners and borders may be off, in CSS pixels.
CORNER, BORDER = 1.0, 0.6


def box(number: int, thing: Thing, found: SeenBox, wanted: Expected, seen: Seen) -> Placed:
    """A plain box that an element paints."""
    mine, other = thing.box, found.box
    if thing.style and any(_is_clear(stop.color) for stop in thing.style.stops):
        mine = _where_it_shows(mine, other)
    differences = tuple(_of_box(thing.style, found, wanted)) if thing.style else ()
    if any(one.fault in _PAINT for one in differences):
        there = crop(seen, other)
        if content(wanted.shown(thing.box), there) <= SAME:  # said otherwise, and looking the same
            differences = tuple(one for one in differences if one.fault not in _PAINT)
    return Placed(
        number, thing, other, found.element, other.x - mine.x, other.y - mine.y,
        other.width - mine.width, other.height - mine.height, differences,
    )  # fmt: skip


def _is_clear(color: str) -> bool:
    return len(color) == 9 and int(color[7:], 16) < CLEAR


def _where_it_shows(mine: Rect, other: Rect) -> Rect:
    """A box that fades away has no edge there: it may be as large as the element that has it."""
    left, top = (min(one, two) for one, two in ((mine.x, other.x), (mine.y, other.y)))
    right, bottom = max(mine.right, other.right), max(mine.bottom, other.bottom)
    return Rect(left, top, right - left, bottom - top)


def _of_box(style: Style, box: SeenBox, wanted: Expected) -> Iterator[Difference]:
    least = COLOR if wanted.is_vector else MEASURED
    colors = colors_in(box.image)
    stops = [stop.color for stop in style.stops]
    if len(stops) > 1:
        if not colors or apart(stops[0], colors[0]) > least or apart(stops[-1], colors[-1]) > least:
            shown = ", ".join(colors) or box.color
            yield Difference(Fault.GRADIENT, ", ".join(stops), shown)
    elif stops and not colors and style.opacity == 1 and apart(stops[0], box.color) > least:
        yield Difference(Fault.COLOR, stops[0], box.color)
    if style.radii is not None:
        half = min(box.box.width, box.box.height) / 2
        pairs = [(min(one, half), other)
                 for one, other in zip(style.radii.listed, box.radii, strict=True)]  # fmt: skip
        if max(abs(one - other) for one, other in pairs) > CORNER + (not wanted.is_vector):
            said = [" ".join(f"{round(radius[n], 1):g}" for radius in pairs) for n in (0, 1)]
            yield Difference(Fault.RADIUS, f"{said[0]} px", f"{said[1]} px")
    yield from _of_rim(style, box, least)


def _of_rim(style: Style, box: SeenBox, least: float) -> Iterator[Difference]:
    """Border and shadow."""
    width, color = max(box.borders, key=lambda border: border[0])
    border = style.border
    if abs((border.width if border else 0) - width) > BORDER:
        said = f"{px(border.width)} {border.color}" if border else "none"
        yield Difference(Fault.BORDER, said, f"{px(width)} {color}" if width else "none")
    elif border and apart(border.color, color) > 2 * least:
        yield Difference(Fault.BORDER, border.color, color)
    outer = [one for one in style.shadows if not one.is_inner]
    has_shadow = box.shadow != "none"
    if bool(outer) != has_shadow:
        yield Difference(Fault.SHADOW, "a shadow" if outer else "none", box.shadow)
    elif outer and least == COLOR:
        numbers = lengths_in(box.shadow)[:3]
        mine = (outer[0].x, outer[0].y, outer[0].blur)
        if len(numbers) == 3 and any(
            abs(one - other) > CORNER for one, other in zip(mine, numbers, strict=True)
        ):
            yield Difference(Fault.SHADOW, _numbers(mine), _numbers(numbers))


def _numbers(values: Iterable[float]) -> str:
    return " ".join(px(value) for value in values)
