"""Tiles: a seam that shows, and a chunk too small to hide that it repeats."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from riffler.analyse import texture
from riffler.cutlist.resolved import ResolvedSlice
from riffler.cutlist.roles import Tile
from riffler.geometry import Box, union
from riffler.plan.check import SEAM, Check
from riffler.plan.finding import Finding
from riffler.plan.subject import Subject

#: A seam shows when it changes so many times as much as neighbours inside do.
TIMES = 1.6

#: And by at least so many steps of 8 bits: a straight edge shows from about 1 % of luminance.
LEAST = 1.0

#: A chunk this large, in CSS pixels, hides that it repeats, whatever is on it.
LARGE = 480

#: Features weaker than this, in steps of 8 bits, are not found again by an eye.
FAINT = 0.9

#: A texture that is like itself one chunk further on repeats by itself.
ALIKE = 0.8


def _look(subject: Subject) -> Iterator[Finding]:
    """Every tile, along the directions in which it repeats."""
    for slice_ in subject.pictures:
        if isinstance(slice_.role, Tile):
            values = texture.grey(subject.made(slice_))
            yield from _seams(subject, slice_, slice_.role, values)
            yield from _small(subject, slice_, slice_.role, values)


def _axes(tile: Tile) -> tuple[int, ...]:
    return {"x": (1,), "y": (0,), "both": (1, 0)}[tile.repeat]


def _seams(
    subject: Subject, slice_: ResolvedSlice, tile: Tile, values: np.ndarray
) -> Iterator[Finding]:
    for axis in _axes(tile):
        if values.shape[axis] < 2:
            continue
        across, inside = texture.seam(values, axis)
        if across > max(LEAST, TIMES * inside):
            sides = "left and right" if axis == 1 else "top and bottom"
            yield subject.finding(
                "seam",
                slice_,
                f"The seam between {sides} shows: it changes by {across:.1f} of 255, neighbours "
                f"inside by up to {inside:.1f}.",
                _period_advice(subject, slice_),
                about=(axis,),
                place=slice_.box.edge("right" if axis == 1 else "bottom"),
                pixels=values.shape[1 - axis],
            )
            return


def _small(
    subject: Subject, slice_: ResolvedSlice, tile: Tile, values: np.ndarray
) -> Iterator[Finding]:
    """A chunk with features that an eye finds again, of a texture that does not repeat so."""
    sides = [values.shape[axis] / subject.density for axis in _axes(tile)]
    if min(sides) >= LARGE or texture.features(values) < FAINT:
        return
    for axis in _axes(tile):
        far = slice_.box.moved(*((slice_.box.width, 0) if axis == 1 else (0, slice_.box.height)))
        if not subject.canvas.contains(far):
            far = slice_.box.moved(
                *((-slice_.box.width, 0) if axis == 1 else (0, -slice_.box.height))
            )
        if not subject.canvas.contains(far):
            continue
        there = subject.renderer.render(far, 1.0, slice_.rest.shown)
        if texture.likeness(values, texture.grey(there)) < ALIKE:
            yield subject.finding(
                "small-tile",
                slice_,
                f"A chunk of {slice_.box.width} x {slice_.box.height} px is too small: "
                "its features come "
                "again and again, which the mockup's texture does not.",
                _period_advice(subject, slice_),
                pixels=min(slice_.box.width, slice_.box.height),
            )
            return


def _period_advice(subject: Subject, slice_: ResolvedSlice) -> str:
    """What chunk to take instead: a whole period of the texture around, if it has one."""
    layers = (
        layer for layer in subject.reading.drawings() if subject.is_on(layer, slice_.rest.shown)
    )
    painted = union(box for box in map(subject.reading.painted, layers) if box)
    area = Box(slice_.box.x - 700, slice_.box.y - 700, 1400, 1400) & painted
    result = texture.period(texture.grey(subject.renderer.render(area, 1.0, slice_.rest.shown)))
    if result is None:
        return "Take a larger chunk whose edges meet."
    return f"The texture repeats every {result[0]} x {result[1]} px: take a chunk of that size."


CHECK = Check(
    "tiles",
    {
        "seam": SEAM,
        "small-tile": "a tile too small to hide that it repeats",
    },
    each=_look,
)
