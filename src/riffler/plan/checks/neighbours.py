"""Slices side by side: gaps, overlaps, and rows of unequal height."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterator

import numpy as np

from riffler.analyse.texture import grey
from riffler.cutlist.resolved import ResolvedSlice
from riffler.geometry import Box
from riffler.plan.check import Check
from riffler.plan.finding import Finding
from riffler.plan.subject import Subject, within

#: A strip between two slices up to this wide, in CSS pixels, may be a gap.
GAP = 4

#: Two slices stand in one row when so much of both heights is beside the other.
BESIDE = 0.8

#: Heights of one row that differ by up to so many CSS pixels are meant to be equal.
UNEVEN = 8

#: Steps of 8 bits between neighbouring columns from which the mockup has an edge there.
EDGE = 6


def _look(subject: Subject) -> Iterator[Finding]:
    """The pictures cut as seen, each against those that it touches or nearly does."""
    for slice_, other_resolved in _near(subject):
        yield from _overlap(subject, slice_, other_resolved)
        yield from _gap(subject, slice_, other_resolved)
    yield from _uneven(subject)


def _near(subject: Subject) -> Iterator[tuple[ResolvedSlice, ResolvedSlice]]:
    """Every two whose boxes overlap or leave no more than a gap between them, in their order.

    From left to right, each is held only against those that have not ended yet.
    """
    seen, reach = subject.seen, math.ceil(GAP * subject.density)
    result, open_ = list[tuple[int, int]](), list[int]()
    for index in sorted(range(len(seen)), key=lambda index: seen[index].box.x):
        box = seen[index].box.grown(reach)
        open_ = [other for other in open_ if seen[other].box.right > box.x]
        near = (other for other in open_ if box.meets(seen[other].box))
        result.extend((min(index, other), max(index, other)) for other in near)
        open_.append(index)
    return ((seen[a], seen[b]) for a, b in sorted(result))


def _overlap(
    subject: Subject, slice_: ResolvedSlice, other_resolved: ResolvedSlice
) -> Iterator[Finding]:
    shared = slice_.box & other_resolved.box
    if (
        not shared
        or slice_.box.contains(other_resolved.box)
        or other_resolved.box.contains(slice_.box)
    ):
        return
    across, down = shared.width <= shared.height, min(shared.width, shared.height)
    yield subject.finding(
        "overlap",
        other_resolved,
        f'It holds {shared.width} x {shared.height} px that "{slice_.name}" holds as well.',
        f"Move the edge between them by {down} px {'sideways' if across else 'up or down'}.",
        about=(*slice_.entry.keys, within(shared, other_resolved)),
        place=shared,
        pixels=shared.area,
        others=(slice_.name,),
    )


def _gap(
    subject: Subject, slice_: ResolvedSlice, other_resolved: ResolvedSlice
) -> Iterator[Finding]:
    for turned in (False, True):
        strip = _strip(slice_.box, other_resolved.box, turned)
        if strip is None:
            continue
        wide = strip.height if turned else strip.width
        if wide > GAP * subject.density or any(strip.meets(third.box) for third in subject.seen):
            continue
        if not _is_gutter(subject, slice_, strip, turned):
            yield subject.finding(
                "gap",
                other_resolved,
                f'There is a gap of {wide} px to "{slice_.name}", which no slice holds.',
                f"Move the edge of one of them by {wide} px.",
                about=(*slice_.entry.keys, within(strip, other_resolved)),
                place=strip,
                pixels=strip.area,
                others=(slice_.name,),
            )


def _strip(slice_: Box, other_box: Box, turned: bool) -> Box | None:
    """What lies between two boxes side by side (one above the other when turned)."""
    a, b = sorted((slice_, other_box), key=lambda box: box.y if turned else box.x)
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


def _is_gutter(subject: Subject, slice_: ResolvedSlice, strip: Box, turned: bool) -> bool:
    """Whether the mockup itself has a plain strip here, other than what lies on both sides."""
    if turned:
        around = Box(strip.x, strip.y - 1, strip.width, strip.height + 2) & subject.canvas
    else:
        around = Box(strip.x - 1, strip.y, strip.width + 2, strip.height) & subject.canvas
    values = grey(subject.renderer.render(around, 1.0, slice_.rest.shown))
    lines = values if turned else values.T
    change = np.abs(np.diff(lines, axis=0)).mean(axis=1)
    is_plain = float(np.ptp(lines[1:-1])) < EDGE
    return is_plain and bool(change[0] >= EDGE and change[-1] >= EDGE)


def _uneven(subject: Subject) -> Iterator[Finding]:
    for row in _rows(subject):
        tops, bottoms = Counter(b.box.y for b in row), Counter(b.box.bottom for b in row)
        top, bottom = tops.most_common(1)[0][0], bottoms.most_common(1)[0][0]
        for slice_ in row:
            off = max(abs(slice_.box.y - top), abs(slice_.box.bottom - bottom))
            if 0 < off <= UNEVEN * subject.density:
                first = next(
                    other_resolved for other_resolved in row if other_resolved is not slice_
                )
                yield subject.finding(
                    "uneven",
                    slice_,
                    f"It goes from {slice_.box.y} to {slice_.box.bottom}, its row from {top} to "
                    f"{bottom}: {off} px off.",
                    f"Give the row one height: y = [{top}, {bottom}].",
                    pixels=off,
                    others=(first.name,),
                )


def _rows(subject: Subject) -> Iterator[list[ResolvedSlice]]:
    """Chains of slices side by side that touch, or nearly."""
    waiting = sorted(subject.seen, key=lambda slice_: (slice_.box.x, slice_.box.y))
    while waiting:
        row = [waiting.pop(0)]
        for slice_ in list(waiting):
            last = row[-1].box
            beside = min(last.bottom, slice_.box.bottom) - max(last.y, slice_.box.y)
            gap = slice_.box.x - last.right
            is_next = beside >= BESIDE * max(last.height, slice_.box.height)
            if is_next and abs(gap) <= GAP * subject.density:
                row.append(slice_)
                waiting.remove(slice_)
        if len(row) > 1:
            yield row


CHECK = Check(
    "neighbours",
    {
        "gap": "a strip between two slices that neither holds",
        "overlap": "two slices that hold the same pixels in part",
        "uneven": "a row of slices of unequal height",
    },
    each=_look,
)
