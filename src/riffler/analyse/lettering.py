"""The pixels of a layer -> the lines of words in it: small parts, each of one colour, on lines."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np
import numpy.typing as npt

from riffler.analyse.outline import OutlineShape, outline_of
from riffler.analyse.raster import Mask, depths, parts_of
from riffler.color import Pixels, hex_of_pixel
from riffler.geometry import Box

#: Steps in 0..1 by which ink may vary and still be one colour.
ONE_INK = 0.03

#: Inks that text has at the most, and the share of its pixels that may be none of them.
INKS, BETWEEN = 4, 0.02

#: Letters that text of several inks has at the least, the share of them that are thin, and that
#: stand on common baselines: drawings in some flat colours have few that are both.
LETTERS, THIN, ALIGNED = 6, 0.8, 0.6

#: The thickest stroke that letters have, as a share of their height; heavy faces reach 0.35.
THICKEST = 0.42

#: Share of a line's parts that stand on its baseline: most letters do, g, p, commas do not.
ON_BASELINE = 0.5

#: Letters of which one may be thicker: the plus of a heavy face is where its strokes cross.
FOUR = 4

#: How far from the baseline a part may end, as a share of the line's height.
NEAR = 0.14

#: Part of its box that text covers at the most; heavy capitals reach half.
DENSEST = 0.6

#: Gaps from which words are apart, as cells and the points of a menu are: in heights of letters.
#: No space between words is so wide, be it of justified text.
WIDE = 2.4

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
    from one baseline to the next, None for a single line. `color` is the ink of most of it, and
    `others` are the further ones. `columns` are the parts of it that wide gaps set apart, from the
    left; one where there are none.
    """

    lines: tuple[Box, ...]
    height: float
    line_step: float | None
    color: str
    others: tuple[str, ...] = ()
    columns: tuple[Box, ...] = ()

    def moved(self, x: int, y: int) -> Lettering:
        """The lettering moved by `x` to the right and `y` down."""
        lines, columns = (
            tuple(box.moved(x, y) for box in boxes) for boxes in (self.lines, self.columns)
        )
        return replace(self, lines=lines, columns=columns)


def lettering_of(pixels: Pixels) -> Lettering | None:
    """The text that a layer shows; None when it shows none, or something else as well.

    pixels: (H, W, 4) float32, premultiplied, 0..1. Text is: one ink, or a few of which each part
    has one; sharp edges; at least two parts side by side, thin for their height, most of them on
    common baselines.
    """
    if _is_more(pixels[::GLANCE, ::GLANCE].reshape(-1, 4)):
        return None
    alpha = pixels[..., 3]
    painted, solid = int((alpha > 0.02).sum()), alpha > 0.5
    if painted == 0 or solid.sum() < 0.4 * painted:
        return None
    ink = np.flatnonzero(alpha.ravel() > 0.9)
    inks = _inks(_inked(pixels, ink)) if ink.size >= 12 else []
    if not inks:
        return None
    parts = parts_of(solid)
    if not 2 <= len(parts.sizes) <= MOST:
        return None
    boxes = parts.boxes[parts.sizes >= DUST]
    if len(boxes) < 2 or float(solid.mean()) > DENSEST:
        return None
    if len(inks) > 1 and not (len(boxes) >= LETTERS and _are_plain(pixels, boxes)):
        return None
    if not _on_lines(boxes, solid, ON_BASELINE if len(inks) == 1 else ALIGNED):
        return None
    return _measured(boxes, inks)


def _is_more(few: npt.NDArray[np.float32]) -> bool:
    """Whether some pixels tell that there is more than text: much is covered, or of many inks."""
    if len(few) > 200 and float((few[:, 3] > 0.5).mean()) > DENSEST:
        return True
    few = few[few[:, 3] > 0.9]
    return len(few) > 200 and not _inks(few)


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
    return Lettering((box,), float(box.height), None, color, columns=(box,))


def _inked(pixels: Pixels, ink: npt.NDArray[np.int_]) -> npt.NDArray[np.float32]:
    """Some of the pixels that are ink all through."""
    return np.asarray(pixels.reshape(-1, 4)[ink[:: ink.size // ENOUGH + 1]])


def _inks(pixels: npt.NDArray[np.float32]) -> list[str]:
    """The inks of covered pixels, the most used first; none where they are more than a few.

    Each is the usual colour of what is near it: thin strokes of letters hardly cover.
    """
    colors = pixels[:, :3] / pixels[:, 3:]
    left, inks = colors, list[str]()
    while len(left) > BETWEEN * len(colors):
        if len(inks) == INKS:
            return []
        usual = _usual(left)
        is_near = np.abs(left - usual).max(axis=1) <= ONE_INK
        if is_near.mean() < 1 / (2 * INKS):
            return []
        inks.append(_hex(np.median(left[is_near], axis=0)))
        left = left[~is_near]
    return inks


def _usual(colors: npt.NDArray[np.float32]) -> npt.NDArray[np.float32]:
    """The colour that most others are like: the middle of the fullest cell of a coarse grid."""
    middle = np.median(colors, axis=0)
    if float((np.abs(colors - middle).max(axis=1) <= ONE_INK).mean()) >= 1 - BETWEEN:
        return np.asarray(middle)
    cells = (colors / ONE_INK).round().astype(np.int64) @ [1, 1 << 10, 1 << 20]
    kinds, counts = np.unique(cells, return_counts=True)
    return np.asarray(np.median(colors[cells == kinds[counts.argmax()]], axis=0))


def _are_plain(pixels: Pixels, boxes: npt.NDArray[np.int_]) -> bool:
    """Whether each part has one ink all through. `boxes`: top, bottom, left, right of each."""
    for top, bottom, left, right in boxes:
        part = pixels[top:bottom, left:right].reshape(-1, 4)
        part = part[part[:, 3] > 0.9]
        if len(part) and not _is_one_ink(part):
            return False
    return True


def _color(inked: npt.NDArray[np.float32]) -> str:
    """The usual colour of ink, which covers although thin strokes hardly do."""
    return _hex(np.median(inked[:, :3] / inked[:, 3:], axis=0))


def _hex(usual: npt.NDArray[np.floating]) -> str:
    return hex_of_pixel(np.array([*usual, 1], np.float32))


def _measured(boxes: npt.NDArray[np.int_], inks: list[str]) -> Lettering:
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
    height = float(np.median(heights))
    columns = _columns(boxes, WIDE * height)
    return Lettering(tuple(lines), height, step, inks[0], tuple(inks[1:]), columns)


def _columns(boxes: npt.NDArray[np.int_], gap: float) -> tuple[Box, ...]:
    """The boxes around parts with a gap between them from top to bottom, from the left."""
    ordered = boxes[np.argsort(boxes[:, 2], kind="stable")]
    reach = np.maximum.accumulate(ordered[:, 3])
    breaks = np.flatnonzero(ordered[1:, 2] - reach[:-1] > gap) + 1
    return tuple(
        Box.from_edges(part[:, 2].min(), part[:, 0].min(), part[:, 3].max(), part[:, 1].max())
        for part in np.split(ordered, breaks)
    )


def _is_one_ink(pixels: npt.NDArray[np.float32]) -> bool:
    colors = pixels[:, :3] / pixels[:, 3:]
    off = np.abs(colors - np.median(colors, axis=0)).max(axis=1)
    return bool(np.quantile(off, 0.98) <= ONE_INK)


def _on_lines(boxes: npt.NDArray[np.int_], solid: Mask, least: float) -> bool:
    """Whether the parts stand on lines as letters do. `boxes`: top, bottom, left, right of each.

    `least` is the share of them that ends on common baselines.
    """
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
    is_thin = thin >= THIN * counted or (counted >= FOUR and counted - thin == 1)
    return bool(aligned >= least * counted and is_thin)


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
