"""Panels: the cut between cap and middle must lie past the curve, where the edge is straight."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from riffler.analyse.texture import SAME
from riffler.color import Pixels, to_bytes
from riffler.cutlist.resolved import ResolvedSlice
from riffler.cutlist.roles import Panel
from riffler.geometry import Box
from riffler.plan.check import SEAM, Check
from riffler.plan.finding import Finding
from riffler.plan.subject import Subject

#: Steps of 8 bits by which lines of a straight edge may differ.
STRAIGHT = 3


def _look(subject: Subject) -> Iterator[Finding]:
    """Every panel, along each direction in which it has caps."""
    for slice_ in subject.pictures:
        if isinstance(slice_.role, Panel):
            pixels = subject.draw(slice_)
            turned = pixels.transpose(1, 0, 2)
            yield from _check(subject, slice_, slice_.role, pixels, ("top", "bottom"))
            yield from _check(subject, slice_, slice_.role, turned, ("left", "right"))


def _check(
    subject: Subject,
    slice_: ResolvedSlice,
    panel: Panel,
    pixels: Pixels,
    sides: tuple[str, str],
) -> Iterator[Finding]:
    """Lines of the middle are all alike when it stretches, and meet its other end when not."""
    first, last = (int(getattr(panel.caps, side)) for side in sides)
    if first + last == 0:
        return
    lines = to_bytes(pixels).astype(np.int16)
    middle = lines[first : len(lines) - last]
    if panel.middle == "repeat":
        if float(np.abs(middle[0] - middle[-1]).mean()) > 2 * SAME + _usual(middle):
            yield subject.finding(
                "seam",
                slice_,
                f"The middle between {sides[0]} and {sides[1]} does not meet itself.",
                "Move the caps so that the middle is one whole period.",
                about=sides,
                pixels=len(middle),
            )
        return
    level = _without_slope(lines)
    usual = np.median(level[first : len(lines) - last], axis=0)
    straight = np.abs(level - usual).max(axis=(1, 2)) <= STRAIGHT
    run = _longest(straight)
    if run is None:
        yield subject.finding(
            "curve",
            slice_,
            "No two lines of its middle are alike, so it cannot stretch.",
            'Find a straight part for the middle, or say middle = "repeat".',
            about=sides,
        )
        return
    for side, cap, needed in ((sides[0], first, run[0]), (sides[1], last, len(lines) - run[1])):
        if cap < needed:
            yield subject.finding(
                "curve",
                slice_,
                f"The {side} cap of {cap} px ends {needed - cap} px before the edge is straight.",
                f"Set caps.{side} to {needed} or more.",
                about=(side,),
                place=_band(slice_.box, side, cap, needed),
                pixels=needed - cap,
            )


def _without_slope(lines: np.ndarray) -> np.ndarray:
    """The lines without what changes evenly from one to the next in the middle half of them.

    A straight gradient is no curve: it stretches as well as a colour does.
    """
    height = len(lines)
    quarter, middle = height // 4, (height - 1) / 2
    if quarter < 2:
        return lines
    slope = (lines[height - 1 - quarter] - lines[quarter]) / (height - 1 - 2 * quarter)
    steps = np.arange(height, dtype=np.float32) - middle
    return np.asarray(lines - slope[None] * steps[:, None, None])


def _usual(lines: np.ndarray) -> float:
    """How much a line usually differs from the next."""
    return (
        float(np.median(np.abs(np.diff(lines, axis=0)).mean(axis=(1, 2)))) if len(lines) > 1 else 0
    )


def _longest(straight: np.ndarray) -> tuple[int, int] | None:
    """Start and end of the longest run of straight lines; None without two in a row."""
    edges = np.flatnonzero(np.diff(np.concatenate(([0], straight.astype(np.int8), [0]))))
    runs = [(int(a), int(b)) for a, b in zip(edges[::2], edges[1::2], strict=True)]
    longest = max(runs, key=lambda run: run[1] - run[0], default=(0, 0))
    return longest if longest[1] - longest[0] >= 2 else None


def _band(box: Box, side: str, cap: int, needed: int) -> Box:
    match side:
        case "top":
            return Box.from_edges(box.x, box.y + cap, box.right, box.y + needed)
        case "bottom":
            return Box.from_edges(box.x, box.bottom - needed, box.right, box.bottom - cap)
        case "left":
            return Box.from_edges(box.x + cap, box.y, box.x + needed, box.bottom)
        case _:
            return Box.from_edges(box.right - needed, box.y, box.right - cap, box.bottom)


CHECK = Check(
    "panels",
    {
        "curve": "a panel cut where its edge is not straight yet",
        "seam": SEAM,
    },
    each=_look,
)
