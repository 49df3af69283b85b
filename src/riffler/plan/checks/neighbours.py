"""Slices side by side: gaps, overlaps, and rows of unequal height."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Sequence
from itertools import combinations

import numpy as np

from riffler.analyse.texture import grey
from riffler.cutlist.resolved import ResolvedSlice
from riffler.geometry import Box
from riffler.plan.finding import Finding
from riffler.plan.page import Page

#: A strip between two slices up to this wide, in CSS pixels, may be a gap.
GAP = 4

#: Two slices stand in one row when so much of both heights is beside the other.
BESIDE = 0.8

#: Heights of one row that differ by up to so many CSS pixels are meant to be equal.
UNEVEN = 8

#: Steps of 8 bits between neighbouring columns from which the mockup has an edge there.
EDGE = 6


def check(pages: Sequence[Page]) -> Iterator[Finding]:
    """The pictures cut as seen, each against each."""
    for page in pages:
        for one, other in combinations(page.seen, 2):
            yield from _overlap(page, one, other)
            yield from _gap(page, one, other)
        yield from _uneven(page)


def _overlap(page: Page, one: ResolvedSlice, other: ResolvedSlice) -> Iterator[Finding]:
    shared = one.box & other.box
    if not shared or one.box.contains(other.box) or other.box.contains(one.box):
        return
    across, down = shared.width <= shared.height, min(shared.width, shared.height)
    yield page.finding(
        "overlap", other,
        f"It holds {shared.width} x {shared.height} px that \"{one.name}\" holds as well.",
        f"Move the edge between them by {down} px {'sideways' if across else 'up or down'}.",
        place=shared, pixels=shared.area, others=(one.name,),
    )  # fmt: skip


def _gap(page: Page, one: ResolvedSlice, other: ResolvedSlice) -> Iterator[Finding]:
    for turned in (False, True):
        strip = _strip(one.box, other.box, turned)
        if strip is None:
            continue
        wide = strip.height if turned else strip.width
        if wide > GAP * page.density or any(strip & third.box for third in page.seen):
            continue
        if not _is_gutter(page, one, strip, turned):
            yield page.finding(
                "gap", other,
                f'There is a gap of {wide} px to "{one.name}", which no slice holds.',
                f"Move the edge of one of them by {wide} px.",
                place=strip, pixels=strip.area, others=(one.name,),
            )  # fmt: skip


def _strip(one: Box, other: Box, turned: bool) -> Box | None:
    """What lies between two boxes side by side (one above the other when turned)."""
    a, b = sorted((one, other), key=lambda box: box.y if turned else box.x)
    if turned:
        start, end, left, right = a.bottom, b.y, max(a.x, b.x), min(a.right, b.right)
        least = min(a.width, b.width)
        strip = Box.from_edges(left, start, right, end)
    else:
        start, end, top, bottom = a.right, b.x, max(a.y, b.y), min(a.bottom, b.bottom)
        least = min(a.height, b.height)
        strip = Box.from_edges(start, top, end, bottom)
    beside = strip.width if turned else strip.height
    return strip if strip and beside >= least / 2 else None


def _is_gutter(page: Page, one: ResolvedSlice, strip: Box, turned: bool) -> bool:
    """Whether the mockup itself has a plain strip here, other than what lies on both sides."""
    if turned:
        around = Box(strip.x, strip.y - 1, strip.width, strip.height + 2) & page.canvas
    else:
        around = Box(strip.x - 1, strip.y, strip.width + 2, strip.height) & page.canvas
    values = grey(page.bench.renderer.render(around, 1.0, one.rest.shown))
    lines = values if turned else values.T
    change = np.abs(np.diff(lines, axis=0)).mean(axis=1)
    is_plain = float(np.ptp(lines[1:-1])) < EDGE
    return is_plain and bool(change[0] >= EDGE and change[-1] >= EDGE)


def _uneven(page: Page) -> Iterator[Finding]:
    for row in _rows(page):
        tops, bottoms = Counter(b.box.y for b in row), Counter(b.box.bottom for b in row)
        top, bottom = tops.most_common(1)[0][0], bottoms.most_common(1)[0][0]
        for one in row:
            off = max(abs(one.box.y - top), abs(one.box.bottom - bottom))
            if 0 < off <= UNEVEN * page.density:
                first = next(other for other in row if other is not one)
                yield page.finding(
                    "uneven", one,
                    f"It goes from {one.box.y} to {one.box.bottom}, its row from {top} to "
                    f"{bottom}: {off} px off.",
                    f"Give the row one height: y = [{top}, {bottom}].",
                    pixels=off, others=(first.name,),
                )  # fmt: skip


def _rows(page: Page) -> Iterator[list[ResolvedSlice]]:
    """Chains of slices side by side that touch, or nearly."""
    waiting = sorted(page.seen, key=lambda one: (one.box.x, one.box.y))
    while waiting:
        row = [waiting.pop(0)]
        for one in list(waiting):
            last = row[-1].box
            beside = min(last.bottom, one.box.bottom) - max(last.y, one.box.y)
            gap = one.box.x - last.right
            is_next = beside >= BESIDE * max(last.height, one.box.height)
            if is_next and abs(gap) <= GAP * page.density:
                row.append(one)
                waiting.remove(one)
        if len(row) > 1:
            yield row
