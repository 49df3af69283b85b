"""A picture -> a PNG or GIF of as few colours as nobody misses, or lossless where that is best."""

from __future__ import annotations

import numpy as np

from riffler.color import Bytes
from riffler.encode import gif, png
from riffler.encode.choice import LEVELS, STRICTER, Choice
from riffler.encode.palette import Palette, palette
from riffler.encode.visible import Reference

#: Pixels beyond which palettes of PNGs are not tried: that large, a picture is hardly worth one.
LARGEST = 400_000

#: A palette is taken for a PNG when it is at most this part of the lossless file.
WORTH = 0.5

#: Colours that palettes are tried with.
PALETTES = (32, 64, 128, 256)

#: Handing errors on may help where the loss is up to so many times too large.
HELPS = 2.0


def choose(straight: Bytes, format_name: str, level: str | None) -> Choice:
    """The smallest file whose loss stays under a level; without one as near as the format can.

    straight: (H, W, 4) uint8, with alpha 0 or 255 alone for a GIF.
    """
    if format_name == "gif":
        return _gif(straight, level)
    return Choice(png.encode(straight), "png", {}, 0.0) if level is None else _png(straight, level)


def within(straight: Bytes, format_name: str, budget: int) -> Choice:
    """The most colours whose file is no larger than a number of bytes, or the smallest file."""
    lossless = choose(straight, format_name, None)
    if len(lossless.data) <= budget:
        return lossless
    tried: list[tuple[Palette, bytes]] = []
    for count in reversed(PALETTES):
        one = palette(straight, count)
        tried.append((one, _file(format_name, one)))
        if len(tried[-1][1]) <= budget:
            break
    one, data = tried[-1]
    seen = Reference(straight).loss(one.straight)
    return Choice(data, format_name, {"colors": len(one.colors)}, seen, 1 + len(tried))


def reduced(straight: Bytes, format_name: str, count: int) -> bytes:
    """A file of at most `count` colours, quickly: a little larger than it might be."""
    return _file(format_name, palette(straight, count), effort=0)


def _png(straight: Bytes, level: str) -> Choice:
    """Lossless, or a palette where that is half as large and the loss is not seen."""
    large = straight.shape[0] * straight.shape[1] > LARGEST
    if large or _count(straight) <= gif.MOST:
        return Choice(png.encode(straight), "png", {}, 0.0)
    found = _fewest(straight, STRICTER * LEVELS[level])
    if found is not None:
        (one, seen), quick = found, png.encode(straight, effort=0)
        data = _file("png", one)
        if len(data) <= WORTH * len(quick):
            return Choice(data, "png", {"colors": len(one.colors)}, seen, 3)
    return Choice(png.encode(straight), "png", {}, 0.0, 3)


def _gif(straight: Bytes, level: str | None) -> Choice:
    """All colours where they fit; or as few as pass, and where none do those that lose least."""
    if _count(straight) <= gif.MOST:
        return Choice(_file("gif", palette(straight, gif.MOST)), "gif", {}, 0.0)
    found = _fewest(straight, STRICTER * LEVELS[level]) if level else None
    if found is None:
        reference = Reference(straight)
        tried = [palette(straight, gif.MOST, dither=dither) for dither in (False, True)]
        found = min(((one, reference.loss(one.straight)) for one in tried), key=lambda one: one[1])
    one, seen = found
    return Choice(_file("gif", one), "gif", {"colors": len(one.colors)}, seen, 3)


def _file(format_name: str, one: Palette, effort: int = 1) -> bytes:
    if format_name == "gif":
        return gif.encode(one.colors, one.indexes)
    return png.encode_palette(one.colors, one.indexes, effort)


def _count(straight: Bytes) -> int:
    return len(np.unique(np.ascontiguousarray(straight).view(np.uint32)))


def _fewest(straight: Bytes, most: float) -> tuple[Palette, float] | None:
    """The smallest palette whose loss stays under `most`.

    Errors are handed on only where they must be, since their pattern takes bytes.
    """
    reference = Reference(straight)

    def passing(count: int) -> tuple[Palette, float] | None:
        for dither in (False, True):
            one = palette(straight, count, dither=dither)
            seen = reference.loss(one.straight)
            if seen <= most:
                return one, seen
            if seen > HELPS * most:
                return None
        return None

    few, middling, *more = PALETTES
    best = passing(middling)
    if best is not None:
        return passing(few) or best
    return next((found for count in more if (found := passing(count)) is not None), None)
