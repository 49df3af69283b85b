"""A drawing -> the flat colours that a person sees in it, without those of its smoothed edges."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

import numpy as np
import numpy.typing as npt

from riffler.color import Bytes, Pixels, hex_of, to_bytes
from riffler.geometry import Box
from riffler.mockup.model import Layer
from riffler.reading.reading import Reading
from riffler.tokens.palette import ALIKE, apart

#: Pixels along the longer side that a small vector drawing is drawn with, so that its lines have
#: an inside; and pixels of a large one that are looked at.
SHARP, SIDE = 256, 1024

#: Share of the flat parts of a drawing that a colour has, to be one of its colours.
LEAST = 0.02

#: Share of the solid pixels that lies in flat parts, from which those are what is drawn with.
FLAT = 0.15

#: Steps of 8 bits between neighbours in a gradient; smoothed edges have more.
STEP = 3

#: As many colours are told of one drawing, after a look at so many.
MOST, KINDS = 8, 256

#: Share of all within Oklab's `ALIKE` that one colour has, to be flat and no step of a gradient.
SPIKE = 0.5

#: What is one part of a gradient, in Oklab, and the share of a drawing from which it is told.
BROAD, SHADE = 0.1, 0.15


def inks_of(reading: Reading, layer: Layer) -> list[str]:
    """The flat colours of a drawing, the most used first; none of a photograph or a soft glow."""
    box = reading.painted(layer)
    if box is None:
        return []
    piece = Box(box.x, box.y, min(box.width, SIDE), min(box.height, SIDE))
    scale = 1.0
    if reading.mockup.is_vector:
        piece, longer = box, max(box.width, box.height)
        scale = min(8.0, SHARP / longer) if longer < SHARP else min(1.0, SIDE / longer)
    shown = reading.mockup.alone(layer.address)
    return inks(reading.renderer.render(piece, scale, shown))


def inks(pixels: Pixels) -> list[str]:
    """Colours that fill squares of two by two: a smoothed edge is one pixel wide.

    pixels: (H, W, 4) float32, premultiplied, 0..1. Of lines without an inside it is the usual
    colour of what covers most.
    """
    straight = to_bytes(pixels)
    most = int(straight[..., 3].max(initial=0))
    if most < 16:
        return []
    solid = straight[..., 3] >= most - 4
    flat = _in_squares(straight) & solid
    if flat.sum() < FLAT * solid.sum():
        few = straight[solid][:, :3]
        usual = np.median(few, axis=0)
        is_one = (np.abs(few - usual).max(axis=1) <= 8).mean() > 0.9
        return [_hex(usual)] if is_one else []
    keys = straight[flat][:, :3].astype(np.uint32) @ np.array((1 << 16, 1 << 8, 1), np.uint32)
    kinds, counts = np.unique(keys, return_counts=True)
    order = np.argsort(-counts, kind="stable")[:KINDS]
    colors = [f"#{kinds[index]:06x}" for index in order]
    flats, spread = _flats(colors, counts[order].tolist(), LEAST * int(counts.sum()))
    return [*flats, *_shades(spread, flats, SHADE * int(counts.sum()))][:MOST]


def _flats(
    colors: Sequence[str], counts: Sequence[int], least: float
) -> tuple[list[str], dict[str, int]]:
    """Colours that stand out from their neighbours, and what is spread as gradients are."""
    homes: dict[str, list[int]] = {}
    for color, count in zip(colors, counts, strict=True):
        home = next((home for home in homes if apart(home, color) < ALIKE), color)
        homes.setdefault(home, []).append(count)
    sums = {color: sum(result) for color, result in homes.items()}
    flats = [
        color
        for color, result in homes.items()
        if sums[color] >= least and result[0] >= SPIKE * sums[color]
    ]
    flats.sort(key=lambda color: -sums[color])
    return flats, {color: count for color, count in sums.items() if color not in flats}


def _shades(spread: Mapping[str, int], flats: Sequence[str], least: float) -> Iterator[str]:
    """One colour for each broad part of what is spread, unless a flat one is near it."""
    homes: dict[str, int] = {}
    for color, count in sorted(spread.items(), key=lambda item: -item[1]):
        home = next((item for item in (*flats, *homes) if apart(item, color) < BROAD), color)
        if home not in flats:
            homes[home] = homes.get(home, 0) + count
    return (color for color, count in homes.items() if count >= least)


def _in_squares(straight: Bytes) -> npt.NDArray[np.bool_]:
    """Pixels of squares of two by two that are of one colour, or steps of a gradient."""
    values = straight[..., :3].astype(np.int16)
    across = np.abs(np.diff(values, axis=1)).max(axis=2) <= STEP
    down = np.abs(np.diff(values, axis=0)).max(axis=2) <= STEP
    calm = across[:-1] & across[1:] & down[:, :-1] & down[:, 1:]
    result = np.zeros(values.shape[:2], bool)
    for y in (0, 1):
        for x in (0, 1):
            result[y : y + calm.shape[0], x : x + calm.shape[1]] |= calm
    return result


def _hex(color: npt.NDArray[np.generic]) -> str:
    return hex_of(np.round(color.astype(np.float64)).astype(np.uint8))
