"""A text that is pixels in the mockup and text on the page -> its place there, by its ink."""

from __future__ import annotations

import numpy as np

from riffler.color import Bytes
from riffler.fit.expected import Expected, ExpectedThing
from riffler.fit.fault import COLOR, MEASURED, Difference, Fault, Placed, px
from riffler.fit.likeness import crop, middle_color, moved, shifted
from riffler.fit.seen import SeenPage, SeenText
from riffler.geometry import Rect
from riffler.tokens.palette import apart, levels

#: How sure a registration must be for its place to count, 0..1.
SURE = 0.72

#: CSS pixels around a text in which its ink is looked for.
AROUND = 12

#: Pixels around ink by which its edges tell, too.
RIM = 2

#: Alpha of 255 from which a pixel is all ink.
SOLID = 220

#: In another font or weight letters are as high, to within this share, and so much wider at most.
LEVEL, OTHER_SET = 0.09, 0.2

#: By how much more or less of their box letters cover then, and alpha from which that counts.
HEAVIER, HALF = 0.1, 80

#: Oklab's distance that strokes may be off which are of the right colour, as styles say it.
MIXED = 0.15

#: The squared distance of a colour from its ground, in levels of 255, from which it is to be seen.
INK = 60


def unread(
    number: int, thing: ExpectedThing, text: SeenText, wanted: Expected, seen: SeenPage
) -> Placed:
    """A text in pixels that nobody read: by the edges of its ink."""
    by, box = wanted.density, thing.box
    differences = []
    mine = wanted.pixels(thing)
    area = Rect(
        text.box.x - AROUND,
        text.box.y - AROUND,
        text.box.width + 2 * AROUND,
        text.box.height + 2 * AROUND,
    )
    on = wanted.on_canvas(area)
    begins = wanted.on_canvas(box)
    rim = min(RIM, begins.x, begins.y)
    template = wanted.shown(
        Rect(
            box.x - rim / by, box.y - rim / by, box.width + 2 * rim / by, box.height + 2 * rim / by
        )
    )
    at = (begins.x - rim - max(0, on.x), begins.y - rim - max(0, on.y))
    dx, dy, sure = moved(template, crop(seen, area), at)
    if sure >= SURE:
        rect = Rect(box.x + dx / by, box.y + dy / by, box.width, box.height)
        shown = shifted(seen, wanted.on_canvas(box), dx / by, dy / by)
        differences += _recoloured(mine, wanted.shown(box), shown, text.color)
        return Placed(
            number, thing, rect, text.element, dx / by, dy / by, differences=tuple(differences)
        )
    color = thing.setting.type.color if thing.setting else text.color
    if apart(color, text.color) > 2 * MEASURED:
        differences.append(Difference(Fault.COLOR, color, text.color))
    ink = _ink(seen, text)
    if ink is None:
        return Placed(number, thing, text.box, text.element, differences=tuple(differences))
    heavier = _covered(seen, text, ink) / max(float((mine[..., 3] > HALF).mean()), 0.01)
    differences.append(_larger(thing, text, ink, heavier))
    return Placed(
        number,
        thing,
        ink,
        text.element,
        ink.x - box.x,
        ink.y - box.y,
        ink.width - box.width,
        ink.height - box.height,
        tuple(differences),
    )


def _recoloured(mine: Bytes, whole: Bytes, pixels: Bytes, color: str) -> list[Difference]:
    """Whether the same ink has another colour, in the midst of its strokes."""
    ink = mine[..., 3] >= SOLID
    if not whole.shape == pixels.shape == mine.shape or not ink.any():
        return []
    wanted, found = middle_color(whole[ink]), middle_color(pixels[ink])
    if apart(wanted, color) <= COLOR:  # thin strokes are mixed in one way here, in another there
        return [Difference(Fault.COLOR, wanted, found)] if apart(wanted, found) > MIXED else []
    return [Difference(Fault.COLOR, wanted, color)] if apart(wanted, found) > COLOR else []


def _covered(seen: SeenPage, text: SeenText, ink: Rect) -> float:
    """The share of the box of a text's ink that is covered."""
    pixels = crop(seen, ink)
    return float(_is_ink(pixels, text.color).mean()) if pixels.size else 0.0


def _larger(thing: ExpectedThing, text: SeenText, ink: Rect, heavier: float) -> Difference:
    """Whether other words stand there, other lines, or the same ones larger, or heavier."""
    setting = thing.setting
    lines = setting.seen_lines or setting.rows if setting else 1
    if lines != len(text.lines):
        return Difference(Fault.BREAKS, str(lines), str(len(text.lines)))
    wide, high = ink.width / thing.box.width, ink.height / thing.box.height
    if abs(high - 1) < LEVEL and abs(wide - 1) < OTHER_SET and abs(heavier - 1) > HEAVIER:
        return Difference(Fault.FAMILY, "", f"{text.family.split(',')[0]} {text.weight}")
    if abs(wide / high - 1) < 0.12:
        return Difference(Fault.TYPE_SIZE, px(text.size / wide), px(text.size))
    return Difference(Fault.WORDS, "", text.text)


def _ink(seen: SeenPage, text: SeenText) -> Rect | None:
    """The box of what a text's own colour paints of its lines."""
    box, by = text.box, seen.density
    pixels = crop(seen, box)
    if not pixels.size:
        return None
    covered = _is_ink(pixels, text.color)
    if not covered.any():
        return None
    rows, columns = np.flatnonzero(covered.any(axis=1)), np.flatnonzero(covered.any(axis=0))
    left, top = int(box.x * by), int(box.y * by)
    return Rect(
        (left + int(columns[0])) / by,
        (top + int(rows[0])) / by,
        (int(columns[-1] - columns[0]) + 1) / by,
        (int(rows[-1] - rows[0]) + 1) / by,
    )


def _is_ink(pixels: Bytes, color: str) -> np.ndarray[tuple[int, ...], np.dtype[np.bool_]]:
    """Pixels nearer to a colour than to the ground, which is what most of the rim has."""
    values = pixels[..., :3].astype(np.float64)
    rim = np.concatenate((values[0], values[-1], values[:, 0], values[:, -1]))
    ground = np.median(rim, axis=0)
    ink = levels(color)[:3].astype(np.float64)
    way = ink - ground
    length = float((way**2).sum())
    if length < INK:
        return np.zeros(values.shape[:2], bool)
    share = ((values - ground) @ way) / length
    return np.asarray(share > 0.3)
