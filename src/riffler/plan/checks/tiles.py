"""Tiles: a seam that shows, and a chunk too small to hide that it repeats."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np

from riffler.analyse import texture
from riffler.cutlist.resolved import ResolvedSlice
from riffler.geometry import Box, union
from riffler.plan.finding import Finding
from riffler.plan.page import Page

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


def check(pages: Sequence[Page]) -> Iterator[Finding]:
    """Every tile, along the directions in which it repeats."""
    for page in pages:
        for one in page.pictures:
            if one.role == "tile":
                values = texture.grey(page.made(one))
                yield from _seams(page, one, values)
                yield from _small(page, one, values)


def _axes(one: ResolvedSlice) -> tuple[int, ...]:
    return {"x": (1,), "y": (0,), "both": (1, 0)}[one.repeat]


def _seams(page: Page, one: ResolvedSlice, values: np.ndarray) -> Iterator[Finding]:
    for axis in _axes(one):
        if values.shape[axis] < 2:
            continue
        across, inside = texture.seam(values, axis)
        if across > max(LEAST, TIMES * inside):
            sides = "left and right" if axis == 1 else "top and bottom"
            yield page.finding(
                "seam", one,
                f"The seam between {sides} shows: it changes by {across:.1f} of 255, neighbours "
                f"inside by up to {inside:.1f}.",
                _period_advice(page, one),
                place=one.box.edge("right" if axis == 1 else "bottom"),
                pixels=values.shape[1 - axis],
            )  # fmt: skip
            return


def _small(page: Page, one: ResolvedSlice, values: np.ndarray) -> Iterator[Finding]:
    """A chunk with features that an eye finds again, of a texture that does not repeat so."""
    sides = [values.shape[axis] / page.density for axis in _axes(one)]
    if min(sides) >= LARGE or texture.features(values) < FAINT:
        return
    for axis in _axes(one):
        far = one.box.moved(*((one.box.width, 0) if axis == 1 else (0, one.box.height)))
        if not page.canvas.contains(far):
            far = one.box.moved(*((-one.box.width, 0) if axis == 1 else (0, -one.box.height)))
        if not page.canvas.contains(far):
            continue
        there = page.bench.renderer.render(far, 1.0, one.rest.shown)
        if texture.likeness(values, texture.grey(there)) < ALIKE:
            yield page.finding(
                "small-tile", one,
                f"A chunk of {one.box.width} x {one.box.height} px is too small: its features come "
                "again and again, which the mockup's texture does not.",
                _period_advice(page, one), pixels=min(one.box.width, one.box.height),
            )  # fmt: skip
            return


def _period_advice(page: Page, one: ResolvedSlice) -> str:
    """What chunk to take instead: a whole period of the texture around, if it has one."""
    layers = (layer for layer in page.reading.drawings() if page.is_on(layer, one.rest.shown))
    painted = union(box for box in map(page.reading.painted, layers) if box)
    area = Box(one.box.x - 700, one.box.y - 700, 1400, 1400) & painted
    found = texture.period(texture.grey(page.bench.renderer.render(area, 1.0, one.rest.shown)))
    if found is None:
        return "Take a larger chunk whose edges meet."
    return f"The texture repeats every {found[0]} x {found[1]} px: take a chunk of that size."
