"""A picture -> a PNG or GIF of as few colours as nobody misses, or lossless where that is best."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np

from riffler.color import Bytes
from riffler.encode import gif, png
from riffler.encode.choice import LEVELS, LOSSLESS, STRICTER, Choice
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


#: Colours that a ladder of files is made of.
LADDER = (16, 32, 64, 128, 256)


@dataclass(frozen=True)
class Reduced:
    """A palette with what is seen of its loss, 0..1."""

    palette: Palette
    loss: float


class Gif:
    """The GIF codec: all colours where they fit; or as few as nobody misses."""

    name = "gif"

    def encode(self, straight: Bytes, quality: int) -> bytes:  # noqa: ARG002 - it has none
        """As near as 256 colours come."""
        return self.choose(straight, LOSSLESS).data

    def choose(self, straight: Bytes, quality: int | str, budget: int | None = None) -> Choice:
        """As few colours as pass a level, and where none do those that lose least.

        straight: (H, W, 4) uint8, with alpha 0 or 255 alone.
        """
        if budget is not None:
            return _within(straight, self.name, self._file, self.choose(straight, LOSSLESS), budget)
        if _count(straight) <= gif.MOST:
            return Choice(self._file(palette(straight, gif.MOST)), self.name, {}, 0.0)
        found = _fewest(straight, STRICTER * LEVELS[quality]) if isinstance(quality, str) else None
        if found is None:
            reference = Reference(straight)
            looks = [palette(straight, gif.MOST, dither=dither) for dither in (False, True)]
            found = min(
                (Reduced(look, reference.loss(look.straight)) for look in looks),
                key=lambda reduced: reduced.loss,
            )
        setting = {"colors": len(found.palette.colors)}
        return Choice(self._file(found.palette), self.name, setting, found.loss, 3)

    def ladder(self, straight: Bytes) -> Iterator[bytes]:
        """Files of ever more colours."""
        return (self._file(palette(straight, count)) for count in LADDER)

    def _file(self, found: Palette) -> bytes:
        return gif.encode(found.colors, found.indexes)


class Png:
    """The PNG codec: lossless, or a palette where that is half as large and nobody sees it."""

    name = "png"

    def encode(self, straight: Bytes, quality: int) -> bytes:  # noqa: ARG002 - it has none
        """Lossless."""
        return png.encode(straight)

    def choose(self, straight: Bytes, quality: int | str, budget: int | None = None) -> Choice:
        """Lossless for a quality by number; a palette where a level allows one that is worth it."""
        if budget is not None:
            return _within(straight, self.name, self._file, self.choose(straight, LOSSLESS), budget)
        if isinstance(quality, int):
            return Choice(png.encode(straight), self.name, {}, 0.0)
        is_large = straight.shape[0] * straight.shape[1] > LARGEST
        if is_large or _count(straight) <= gif.MOST:
            return Choice(png.encode(straight), self.name, {}, 0.0)
        found = _fewest(straight, STRICTER * LEVELS[quality])
        if found is not None:
            quick = png.encode(straight, effort=0)
            data = self._file(found.palette)
            if len(data) <= WORTH * len(quick):
                setting = {"colors": len(found.palette.colors)}
                return Choice(data, self.name, setting, found.loss, 3)
        return Choice(png.encode(straight), self.name, {}, 0.0, 3)

    def ladder(self, straight: Bytes) -> Iterator[bytes]:
        """Files of ever more colours, a little larger than they might be."""
        return (self._file(palette(straight, count), effort=0) for count in LADDER)

    def _file(self, found: Palette, effort: int = 1) -> bytes:
        return png.encode_palette(found.colors, found.indexes, effort)


def _within(
    straight: Bytes, name: str, file: Callable[[Palette], bytes], lossless: Choice, budget: int
) -> Choice:
    """The most colours whose file is no larger than a number of bytes, or the smallest file."""
    if len(lossless.data) <= budget:
        return lossless
    palettes, files = [], []
    for count in reversed(PALETTES):
        palettes.append(palette(straight, count))
        files.append(file(palettes[-1]))
        if len(files[-1]) <= budget:
            break
    smallest = min(range(len(files)), key=lambda index: len(files[index]))
    if len(lossless.data) <= len(files[smallest]):
        return lossless
    found = palettes[smallest]
    seen = Reference(straight).loss(found.straight)
    return Choice(files[smallest], name, {"colors": len(found.colors)}, seen, 1 + len(files))


def _count(straight: Bytes) -> int:
    return len(np.unique(np.ascontiguousarray(straight).view(np.uint32)))


def _fewest(straight: Bytes, most: float) -> Reduced | None:
    """The smallest palette whose loss stays under `most`.

    Errors are handed on only where they must be, since their pattern takes bytes.
    """
    reference = Reference(straight)

    def passing(count: int) -> Reduced | None:
        for dither in (False, True):
            found = palette(straight, count, dither=dither)
            seen = reference.loss(found.straight)
            if seen <= most:
                return Reduced(found, seen)
            if seen > HELPS * most:
                return None
        return None

    few, middling, *more = PALETTES
    best = passing(middling)
    if best is not None:
        return passing(few) or best
    return next((found for count in more if (found := passing(count)) is not None), None)
