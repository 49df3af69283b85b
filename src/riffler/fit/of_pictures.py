"""A picture of a mockup and what the page has for it -> its place there, and all that differs."""

from __future__ import annotations

import numpy as np

from riffler.analyse.thumbnails import content, unlike
from riffler.color import Bytes
from riffler.fit.expected import Expected, ExpectedThing
from riffler.fit.fault import PLACE, Difference, Fault, Placed, px
from riffler.fit.in_sight import ELSE, SHARP, SOLID, in_sight
from riffler.fit.likeness import crop, differing, fraction, moved, shifted, stepped
from riffler.fit.seen import SeenPage, SeenPicture
from riffler.geometry import Rect

#: How different a picture may look, 0..1: to be the same, and to be the same in other colours.
TONE, OTHER = 0.02, 0.1

#: How much less it counts that looks differ between pixels: twice as much is nothing half way.
BLURRED = 2.0

#: How sure a registration must be to count, 0..1.
SURE = 0.55

#: Pixels by which a picture may be larger for it to be measured by its edges inside.
SIZED = 1.2

#: CSS pixels by which the edges of what it paints are off at the most of a picture that is in its
#: place: what is in it may be the same a little further on.
AT_ONCE = 0.25

#: Pixels by which a picture's place is looked for around the one that its edges say.
ROUND_ABOUT = 3

#: Pixels along each side of what is looked at for the place of a large picture.
PART = 900

#: Empty pixels around a picture by which its own edges tell, too.
RIM = 2

#: The ratio of a picture's sides may be off by this share.
STRETCHED = 0.015

#: CSS pixels by which a ground may be out of step and still be found.
STEP = 24

#: How many times as large an element may be that has a thing as its ground.
LARGER = 4.0

#: The share of pixels that may differ where several elements draw one picture together.
TOGETHER = 0.01

#: The share of its sides that the wholly painted part of a picture must have to tell its size.
FIRM = 0.6

#: Pixels of the page by which a soft edge may end earlier in a file, which loses steps of alpha.
SOFT = 4

#: The share of an edge that is painted wholly where it is cut off.
FILLED = 0.9


def picture(
    number: int, thing: ExpectedThing, found_picture: SeenPicture, wanted: Expected, seen: SeenPage
) -> Placed:
    """A picture that an element shows."""
    assert found_picture.pixels is not None
    mine, by = wanted.pixels(thing), wanted.density
    paint, is_cut = _whole_paint(found_picture, thing.box)
    dx, dy = by_edges = paint.x - thing.box.x, paint.y - thing.box.y
    dw, dh = paint.width - thing.box.width, paint.height - thing.box.height
    look = wanted.looks.get(number)
    differ = 1.0 if look is None or found_picture.look is None else unlike(look, found_picture.look)
    whole = wanted.shown(thing.box)
    if differ > TONE and not is_cut and _is_same(whole, crop(seen, thing.box)):
        return Placed(
            number, thing, thing.box, found_picture.element
        )  # several elements draw it together
    is_there = False
    if _is_as_large(mine, found_picture.pixels, by * max(abs(dw), abs(dh)), is_cut=is_cut):
        dw = dh = 0.0
        is_there = not is_cut and max(abs(dx), abs(dy)) < AT_ONCE
        dx, dy, piece = _by_pixels(thing, found_picture, wanted, mine, by_edges)
        if differ > TONE and piece.shape == mine.shape:  # to the pixel, without its rim
            differ = min(differ, content(mine, piece))
    there = shifted(seen, wanted.on_canvas(thing.box), dx, dy)
    differences = _looks(differ, whole, there, max(fraction(by * value) for value in (dx, dy)))
    if is_there:  # pixels only tell how it lies on the page's own
        dx, dy = by_edges
    if dw or dh:
        differences += _stretched(found_picture)
    else:
        across, down = _slack(found_picture)
        (dx, dw), (dy, dh) = hugged(dx, across), hugged(dy, down)
    return Placed(number, thing, paint, found_picture.element, dx, dy, dw, dh, tuple(differences))


def _by_pixels(
    thing: ExpectedThing,
    picture: SeenPicture,
    wanted: Expected,
    mine: Bytes,
    by_edges: tuple[float, float],
) -> tuple[float, float, Bytes]:
    """How far a picture of the right size is off, by what is in it, and its pixels there.

    Where they don't tell surely, its edges do.
    """
    assert picture.pixels is not None
    on = wanted.on_canvas(thing.box)
    near = on.x - picture.at[0], on.y - picture.at[1]
    right, down, sure = _registered(mine, picture.pixels, near)
    if sure < SURE:
        return *by_edges, mine[:0]
    x, y = max(0, round(right)), max(0, round(down))
    piece = picture.pixels[y : y + mine.shape[0], x : x + mine.shape[1]]
    by = wanted.density
    return (right - near[0]) / by, (down - near[1]) / by, piece


def _is_as_large(mine: Bytes, pixels: Bytes, larger: float, *, is_cut: bool) -> bool:
    """Whether a picture is the size it should be, or is so where it is painted wholly.

    `larger` are the pixels by which its box is off: where a soft edge ends is a matter of a step of
    alpha, which a file may lose.
    """
    if larger < SIZED or larger > SOFT or is_cut:
        return larger < SIZED
    sizes = [_firm(values) for values in (mine, pixels)]
    is_most = all(a > FIRM * side for a, side in zip(sizes[0], mine.shape[:2], strict=True))
    return is_most and all(abs(a - b) < SIZED for a, b in zip(*sizes, strict=True))


def _firm(pixels: Bytes) -> tuple[int, int]:
    """How many lines and columns it is from the first to the last that is painted wholly."""
    is_firm = pixels[..., 3] > SOLID
    spans = [np.flatnonzero(is_firm.any(axis=axis)) for axis in (1, 0)]
    down, across = (int(span[-1] - span[0]) + 1 if span.size else 0 for span in spans)
    return down, across


def _slack(picture: SeenPicture) -> tuple[float, float]:
    """The room in an element that its picture leaves, across and down, in CSS pixels."""
    (wide, high), box = picture.kept, picture.box
    if not (wide and high):
        return 0.0, 0.0
    scale = min(box.width / wide, box.height / high)
    return box.width - wide * scale, box.height - high * scale


def hugged(by: float, slack: float) -> tuple[float, float]:
    """How far an element is moved and larger whose picture stands in the middle of its room."""
    is_wider = slack > PLACE and abs(by - slack / 2) <= PLACE
    return (by - slack / 2, slack) if is_wider else (by, 0.0)


def _looks(differ: float, whole: Bytes, there: Bytes, between: float) -> list[Difference]:
    """Whether it shows something else, alone and with what lies around it.

    `between` is the part of a pixel by which it is off: lines are drawn otherwise for it.
    """
    differ /= 1 + BLURRED * between
    if differ > TONE and there.shape == whole.shape:
        differ = 0.0 if _is_same(whole, there) else min(differ, content(whole, there))
    if differ > OTHER:
        return [Difference(Fault.ANOTHER)]
    is_same = differ <= TONE or (between > SHARP and _is_spread(whole, there))
    return [] if is_same else [Difference(Fault.COLOR)]


def _is_spread(whole: Bytes, pixels: Bytes) -> bool:
    """Whether the same ink lies otherwise on pixels: as thin lines between two of them do."""
    if whole.shape != pixels.shape:
        return False
    first, second = (piece[..., :3].mean(axis=(0, 1)) for piece in (whole, pixels))
    return bool(np.abs(first - second).max() <= TONE * 255)


def _stretched(picture: SeenPicture) -> list[Difference]:
    (wide, high), box = picture.natural, picture.box
    if not (wide and high and box.height):
        return []
    ratio = (box.width / box.height) / (wide / high)
    shown = f"{px(box.width)} x {px(box.height)}"
    is_stretched = abs(ratio - 1) > STRETCHED
    return [Difference(Fault.STRETCHED, f"{wide} : {high}", shown)] if is_stretched else []


def _whole_paint(picture: SeenPicture, wanted: Rect) -> tuple[Rect, bool]:
    """What a picture paints, what cuts it off left out, and whether something does.

    One that ends in a straight edge before its element does is cut off where it should be larger,
    and has room beside it where it is as large as `wanted`.
    """
    paint, inked, box = picture.paint, picture.inked, picture.box
    assert paint is not None
    assert inked is not None
    right, bottom = paint.right, paint.bottom
    is_narrow, is_low = paint.width < wanted.width - 1, paint.height < wanted.height - 1
    if is_narrow and box.right > right + 1 and (inked[:, -1, 3] > SOLID).mean() > FILLED:
        right = box.right
    if is_low and box.bottom > bottom + 1 and (inked[-1, :, 3] > SOLID).mean() > FILLED:
        bottom = box.bottom
    is_cut = (right, bottom) != (paint.right, paint.bottom)
    return Rect(paint.x, paint.y, right - paint.x, bottom - paint.y), is_cut


def _registered(mine: Bytes, pixels: Bytes, near: tuple[int, int]) -> tuple[float, float, float]:
    """How far pixels lie from where the edges of what they paint say; most likely `near`."""
    mine = np.pad(mine, ((RIM, RIM), (RIM, RIM), (0, 0)))
    height, width = mine.shape[:2]
    rim = RIM + ROUND_ABOUT
    shape = (max(height, pixels.shape[0]) + 2 * rim, max(width, pixels.shape[1]) + 2 * rim, 4)
    around = np.zeros(shape, np.uint8)
    around[rim : rim + pixels.shape[0], rim : rim + pixels.shape[1]] = pixels
    top, left = (max(0, (side - PART) // 2) for side in (height, width))
    part = mine[top : top + PART, left : left + PART]  # the middle of a large one tells enough
    more = PART + 2 * (rim - RIM)
    return moved(part, around[top : top + more, left : left + more], (rim - RIM, rim - RIM), near)


def ground(number: int, thing: ExpectedThing, wanted: Expected, seen: SeenPage) -> Placed | None:
    """A picture that no element shows: one behind the others, or none at all.

    None where the mockup itself has too little of it in sight.
    """
    sight = in_sight(thing, wanted)
    if not sight.is_enough:
        return None
    right, down, off = stepped(sight.pixels, sight.mask, seen, thing.box, STEP)
    if off > ELSE / 4:
        missing = Difference(Fault.MISSING)
        return Placed(number, thing, thing.box, differences=(missing,))
    element = _painter(thing, seen)
    if element < 0:  # it is near, and nothing tells how it got there
        return Placed(number, thing, thing.box)
    dx, dy = right / wanted.density, down / wanted.density
    box = Rect(thing.box.x + dx, thing.box.y + dy, thing.box.width, thing.box.height)
    return Placed(number, thing, box, element, dx, dy)


def _painter(thing: ExpectedThing, seen: SeenPage) -> int:
    """The smallest element with a picture as its ground around the middle of a thing; -1 for none.

    One that is many times as large has it for something else.
    """
    x, y = thing.box.x + thing.box.width / 2, thing.box.y + thing.box.height / 2
    around = [
        box
        for box in seen.boxes
        if "url(" in box.image
        and box.box.x <= x <= box.box.right
        and box.box.y <= y <= box.box.bottom
        and box.box.width * box.box.height <= LARGER * thing.box.width * thing.box.height
    ]
    smallest = min(around, key=lambda box: box.box.width * box.box.height, default=None)
    return smallest.element if smallest else -1


def _is_same(whole: Bytes, pixels: Bytes) -> bool:
    """Whether hardly anything differs in two pieces."""
    return whole.shape == pixels.shape and bool(differing(whole, pixels, ELSE).mean() <= TOGETHER)
