"""The pixels of a layer -> the lines of words in it: small parts of one colour, set on lines."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np
import numpy.typing as npt

from riffler.analyse.outline import OutlineShape, outline_of
from riffler.analyse.raster import Mask, depths, parts_of
from riffler.color import Pixels, hex_of, to_bytes
from riffler.geometry import Box

#: Steps in 0..1 by which ink may vary and still be one colour.
ONE_INK = 0.03

#: The thickest stroke that letters have, as a share of their height; heavy faces reach 0.35.
THICKEST = 0.42

#: Share of a line's parts that stand on its baseline: most letters do, g, p, commas do not.
ON_BASELINE = 0.5

#: How far from the baseline a part may end, as a share of the line's height.
NEAR = 0.14

#: Part of its box that text covers at the most; heavy capitals reach half.
DENSEST = 0.6

#: Parts smaller than this many pixels are dust.
DUST = 6

#: Parts of a line lower than this share of its highest are dots, commas and accents.
SMALLEST = 0.35

#: Pixels of ink that are looked at.
ENOUGH = 4000

#: Every so many pixels each way are enough to see that there is more than one ink.
GLANCE = 4

#: Letters are counted up to here; more is certainly text or certainly not.
MOST = 4000


@dataclass(frozen=True)
class Lettering:
    """Text that is seen, in pixels of the picture: the box of each line, and its colour.

    `height` is that of the letters without stems and tails, the middle one of all; `line_step` is
    from one baseline to the next, None for a single line.
    """

    lines: tuple[Box, ...]
    height: float
    line_step: float | None
    color: str

    def moved(self, x: int, y: int) -> Lettering:
        """The lettering moved by `x` to the right and `y` down."""
        return replace(self, lines=tuple(line.moved(x, y) for line in self.lines))


def lettering_of(pixels: Pixels) -> Lettering | None:
    """The text that a layer shows; None when it shows none, or something else as well.

    pixels: (H, W, 4) float32, premultiplied, 0..1. Text is: one ink; sharp edges; at least two
    parts side by side, thin for their height, most of them on common baselines.
    """
    few = pixels[::GLANCE, ::GLANCE].reshape(-1, 4)
    if len(few) > 200 and float((few[:, 3] > 0.5).mean()) > DENSEST:
        return None
    few = few[few[:, 3] > 0.9]
    if len(few) > 200 and not _is_one_ink(few):
        return None
    alpha = pixels[..., 3]
    painted, solid = int((alpha > 0.02).sum()), alpha > 0.5
    if painted == 0 or solid.sum() < 0.4 * painted:
        return None
    ink = np.flatnonzero(alpha.ravel() > 0.9)
    if ink.size < 12 or not _is_one_ink(_inked(pixels, ink)):
        return None
    parts = parts_of(solid)
    if not 2 <= len(parts.sizes) <= MOST:
        return None
    boxes = parts.boxes[parts.sizes >= DUST]
    if len(boxes) < 2 or float(solid.mean()) > DENSEST:
        return None
    if not _on_lines(boxes, solid):
        return None
    color = _color(_inked(pixels, ink))
    return _measured(boxes, color)


def sign_of(pixels: Pixels) -> Lettering | None:
    """A shape that may be a single letter, figure or sign, as text; None for one that can't.

    pixels: (H, W, 4) float32, premultiplied, 0..1. One ink, with sharp edges. A small icon may be
    so, too: only what stands around tells them apart.
    """
    alpha = pixels[..., 3]
    painted, solid = int((alpha > 0.02).sum()), alpha > 0.5
    ink = np.flatnonzero(alpha.ravel() > 0.6)  # thin strokes of small letters are nowhere full
    if ink.size < DUST or solid.sum() < 0.3 * painted or not _is_one_ink(_inked(pixels, ink)):
        return None
    outline = outline_of(pixels)
    if outline is None or outline.shape is not OutlineShape.ODD:
        return None  # a plain box or disc
    rows, columns = (np.flatnonzero(solid.any(axis=axis)) for axis in (1, 0))
    box = Box.from_edges(columns[0], rows[0], columns[-1] + 1, rows[-1] + 1)
    color = _color(_inked(pixels, ink))
    return Lettering((box,), float(box.height), None, color)


def _inked(pixels: Pixels, ink: npt.NDArray[np.int_]) -> npt.NDArray[np.float32]:
    """Some of the pixels that are ink all through."""
    return np.asarray(pixels.reshape(-1, 4)[ink[:: ink.size // ENOUGH + 1]])


def _color(inked: npt.NDArray[np.float32]) -> str:
    """The usual colour of ink, which covers although thin strokes hardly do."""
    usual = np.median(inked[:, :3] / inked[:, 3:], axis=0)
    return hex_of(to_bytes(np.array([*usual, 1], np.float32)[None, None])[0, 0])


def _measured(boxes: npt.NDArray[np.int_], color: str) -> Lettering:
    """Lines, steps and heights. `boxes`: top, bottom, left, right of each part."""
    lines, baselines, heights = [], [], []
    for line in _lines(boxes):
        top, bottom, left, right = boxes[line].T
        letters = bottom - top >= SMALLEST * (bottom - top).max()
        lines.append(Box.from_edges(left.min(), top.min(), right.max(), bottom.max()))
        baselines.append(float(np.median(bottom[letters])))
        heights.extend((bottom - top)[letters].tolist())
    steps = np.diff(baselines)
    step = float(np.median(steps)) if steps.size else None
    return Lettering(tuple(lines), float(np.median(heights)), step, color)


def _is_one_ink(pixels: npt.NDArray[np.float32]) -> bool:
    colors = pixels[:, :3] / pixels[:, 3:]
    off = np.abs(colors - np.median(colors, axis=0)).max(axis=1)
    return bool(np.quantile(off, 0.98) <= ONE_INK)


def _on_lines(boxes: npt.NDArray[np.int_], solid: Mask) -> bool:
    """Whether the parts stand on lines as letters do. `boxes`: top, bottom, left, right of each."""
    lines = _lines(boxes)
    highest = int((boxes[:, 1] - boxes[:, 0]).max())
    depth = depths(solid, math.ceil(THICKEST * highest / 2) + 1)
    aligned = thin = counted = 0
    for line in lines:
        top, bottom = boxes[line, 0].min(), boxes[line, 1].max()
        heights = boxes[line, 1] - boxes[line, 0]
        letters = line[heights >= SMALLEST * heights.max()]
        if len(letters) < 2:
            continue
        ends = boxes[letters, 1]
        near = np.abs(ends[:, None] - ends[None, :]) <= max(1.0, NEAR * (bottom - top))
        aligned += int(near.sum(axis=1).max())
        for part in letters:
            y, y_end, x, x_end = boxes[part]
            thickest = 2 * float(depth[y:y_end, x:x_end].max()) - 1
            thin += thickest <= THICKEST * max(y_end - y, heights.max() * 0.6)
        counted += len(letters)
    if counted < 2 or counted < 0.4 * len(boxes):
        return False
    return bool(aligned >= ON_BASELINE * counted and thin >= 0.8 * counted)


def _lines(boxes: npt.NDArray[np.int_]) -> list[npt.NDArray[np.int_]]:
    """Parts that lie side by side, as indexes into `boxes`: they overlap from top to bottom."""
    order = np.argsort(boxes[:, 0], kind="stable")
    lines: list[list[int]] = []
    bottom = -1
    for index in order:
        if boxes[index, 0] < bottom:
            lines[-1].append(int(index))
        else:
            lines.append([int(index)])
        bottom = max(bottom, int(boxes[index, 1]))
    return [np.array(line) for line in lines]
