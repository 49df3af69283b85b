"""Pixels that hold text -> how much each is covered with ink, line by line."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
import numpy.typing as npt

from riffler.analyse.lettering import lettering_of
from riffler.color import LUMA, Pixels, hex_of_pixel, is_opaque
from riffler.geometry import Box

Plane = npt.NDArray[np.float32]

#: Coverage below which nothing is seen.
FAINT = 0.04

#: How much white letters are thickened, as a power of their coverage: what Chromium does.
THICKENED = 0.22

#: Pixels left around the ink of a line.
ROOM = 2


#: Coverage of a column or row that has ink.
INKED = 0.3


@dataclass(frozen=True)
class Ink:
    """How much of each pixel is ink, 0..1, and its colour."""

    cover: Plane
    color: str


@dataclass(frozen=True)
class InkLine:
    """The ink of one line: a piece of the whole, and where its first pixel lies in that.

    `left`, `right`, `top` and `bottom` are the edges of its ink in the whole, with fractions.
    """

    cover: Plane
    x: int
    y: int
    left: float
    top: float
    right: float
    bottom: float

    @property
    def across(self) -> Plane:
        """Ink by columns."""
        return np.asarray(self.cover.sum(axis=0))

    @property
    def spans(self) -> list[tuple[int, int]]:
        """From which column to which there is ink without a gap, from the left."""
        is_inked = (self.cover > INKED).any(axis=0)
        edges = np.flatnonzero(np.diff(np.concatenate(([0], is_inked, [0])).astype(np.int8)))
        return [(int(left), int(right)) for left, right in edges.reshape(-1, 2)]

    @property
    def down(self) -> Plane:
        """Ink by rows."""
        return np.asarray(self.cover.sum(axis=1))


def ink_of(pixels: Pixels) -> Ink | None:
    """The ink of text by itself on nothing, or on a ground of one colour; None when there is none.

    pixels: (H, W, 4) float32, premultiplied, 0..1.
    """
    if is_opaque(pixels):
        return _on_ground(pixels)
    alpha = pixels[..., 3]
    full = float(np.quantile(alpha[alpha > FAINT], 0.98)) if (alpha > FAINT).any() else 0.0
    if full < FAINT:
        return None
    solid = alpha > 0.85 * full
    color = np.median(pixels[solid][:, :3] / pixels[solid][:, 3:], axis=0)
    return Ink(_evened(np.clip(alpha / full, 0, 1), color), _hex(color))


def _on_ground(pixels: Pixels) -> Ink | None:
    """What differs from the colour around, along the way to what differs most."""
    colors = pixels[..., :3]
    rim = np.concatenate((colors[0], colors[-1], colors[:, 0], colors[:, -1]))
    ground = np.median(rim, axis=0)
    off = colors - ground
    far = np.abs(off).max(axis=2)
    if far.max() < FAINT:
        return None
    ink = np.median(off[far >= 0.9 * np.quantile(far, 0.995)], axis=0)
    cover = (off @ ink) / float(ink @ ink)
    return Ink(_evened(np.clip(cover, 0, 1), ground + ink), _hex(ground + ink))


def _evened(cover: Plane, color: npt.NDArray[np.generic]) -> Plane:
    """Coverage as it was before a browser thickened it: light letters look thin otherwise."""
    light = float(np.asarray(color, np.float64) @ LUMA)
    return np.asarray(cover ** (1 + THICKENED * light * light), np.float32)


def _hex(color: npt.NDArray[np.generic]) -> str:
    return hex_of_pixel(np.array([*color, 1], np.float32))


def lines_of(ink: Ink, count: int | None = None) -> list[InkLine]:
    """The lines of ink from the top; as many as `count` where that is said."""
    boxes = _by_letters(ink) if count is None or count > 1 else []
    if count is not None and len(boxes) != count:
        boxes = _by_rows(ink.cover, count)
    return [_line(ink.cover, box) for box in boxes if box]


def _by_letters(ink: Ink) -> list[Box]:
    """As letters stand on them."""
    pixels = np.repeat(ink.cover[..., None], 4, axis=2)
    pixels[..., :3] = 0
    text = lettering_of(pixels)
    if text is None:
        return _by_rows(ink.cover, 1)
    spans = _apart([(box.y, box.bottom) for box in text.lines], len(ink.cover))
    return [_trimmed(ink.cover, top, bottom) for top, bottom in spans]


def _apart(spans: Sequence[tuple[int, int]], height: int) -> list[tuple[int, int]]:
    """Spans grown to the middle of the gaps between them."""
    ends = [(first[1] + second[0]) // 2 for first, second in pairwise(spans)]
    return list(zip([0, *ends], [*ends, height], strict=True))


def _by_rows(cover: Plane, count: int) -> list[Box]:
    """Equal steps from the first ink to the last, each cut moved to where there is least of it."""
    rows = cover.sum(axis=1)
    inked = np.flatnonzero(rows > FAINT)
    if not inked.size:
        return []
    top, bottom = int(inked[0]), int(inked[-1]) + 1
    step = (bottom - top) / max(1.0, count - 0.25)
    cuts = [top]
    for number in range(1, count):
        middle = top + number * step - 0.125 * step
        low, high = int(middle - step / 4), int(middle + step / 4) + 1
        cuts.append(low + int(np.argmin(rows[low:high])))
    spans = zip(cuts, [*cuts[1:], bottom], strict=True)
    return [_trimmed(cover, first, last) for first, last in spans]


def _trimmed(cover: Plane, top: int, bottom: int) -> Box:
    """The box of what is inked in rows."""
    seen = cover[top:bottom] > FAINT
    rows, columns = np.flatnonzero(seen.any(axis=1)), np.flatnonzero(seen.any(axis=0))
    if not rows.size:
        return Box(0, 0, 0, 0)
    return Box.from_edges(
        int(columns[0]), top + int(rows[0]), int(columns[-1]) + 1, top + int(rows[-1]) + 1
    )


def _line(cover: Plane, box: Box) -> InkLine:
    top, left = max(0, box.y - ROOM), max(0, box.x - ROOM)
    piece = np.zeros(
        (min(len(cover), box.bottom + ROOM) - top, min(cover.shape[1], box.right + ROOM) - left),
        np.float32,
    )
    inner = cover[box.y : box.bottom, box.x : box.right]
    y, x = box.y - top, box.x - left
    piece[y : y + inner.shape[0], x : x + inner.shape[1]] = inner
    return InkLine(
        piece,
        left,
        top,
        box.right - _reach(inner.max(axis=0)),
        box.bottom - _reach(inner.max(axis=1)),
        box.x + _reach(inner.max(axis=0)[::-1]),
        box.y + _reach(inner.max(axis=1)[::-1]),
    )


def _reach(most: Plane) -> float:
    """From the end of a row of pixels back to its first ink: the first pixel is partly covered."""
    inked = np.flatnonzero(most > FAINT)
    first = int(inked[0])
    inside = float(most[first : first + 3].max())
    return len(most) - first - 1 + min(1.0, float(most[first]) / max(inside, FAINT))
