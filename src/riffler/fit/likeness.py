"""Two pieces of pixels -> whether they show the same, and how far one is moved from the other.

Registration by normalised cross-correlation of edges, to a tenth of a pixel by a parabola through
the best place and its neighbours: J. P. Lewis, "Fast Normalized Cross-Correlation", 1995.
"""

from __future__ import annotations

import math

import numpy as np
import numpy.typing as npt

from riffler.analyse.texture import quick_length
from riffler.color import LUMA, Bytes, hex_of
from riffler.fit.seen import SeenPage
from riffler.geometry import Box, Rect
from riffler.tokens.palette import levels

Grey = npt.NDArray[np.float32]
"""(H, W) float32: luma in steps of 8 bits, 0..255."""

Exact = npt.NDArray[np.float64]
Mask = npt.NDArray[np.bool_]

#: Places at which a ground is compared, and levels of 255 by which it may be off there.
SPREAD, IN_STEP = 1500, 4

#: How well a piece fits, -1..1, that is looked for nowhere else.
SURE = 0.9

#: The share of a pixel that is covered at least for it to count as painted.
COVERED = 0.3


def grey(pixels: Bytes, ground: float = 128.0) -> Grey:
    """Luma on a ground. pixels: (H, W, 4) uint8, straight RGBA."""
    values = pixels.astype(np.float32)
    luma = np.asarray(values @ np.append(LUMA, 0).astype(np.float32))
    if pixels[..., 3].min(initial=255) == 255:
        return luma
    alpha = values[..., 3] / 255
    return np.asarray(luma * alpha + ground * (1 - alpha), np.float32)


def middle_color(pixels: Bytes | npt.NDArray[np.float64]) -> str:
    """The median of each channel as `#rrggbb`. pixels: (N, 3) or (N, 4), 0..255; alpha is left."""
    return hex_of(np.median(pixels, axis=0)[:3].round().astype(np.uint8))


def edges(values: Grey) -> Grey:
    """How steep luma is at every pixel."""
    if min(values.shape) < 2:
        return np.zeros_like(values)
    down, across = np.gradient(values)
    return np.asarray(np.sqrt(down * down + across * across))


def moved(
    template: Bytes, within: Bytes, start: tuple[int, int], near: tuple[int, int] = (0, 0)
) -> tuple[float, float, float]:
    """How far right and down a piece lies from where it should, and how sure that is, -1..1.

    `within` is what is seen round about; `start` is where in it the piece should begin, as x, y,
    and `near` how far from there it most likely does.
    Both (H, W, 4) uint8, straight RGBA; the piece is no larger than what it is looked for in.
    """
    wanted, seen = edges(grey(template)), edges(grey(within))
    ends = [piece[..., 3].min(initial=255) < 255 for piece in (template, within)]
    if all(ends):  # where both end tells, too
        wanted = wanted + edges(template[..., 3].astype(np.float32))
        seen = seen + edges(within[..., 3].astype(np.float32))
    wanted = wanted - wanted.mean()
    power = float(np.vdot(wanted, wanted))
    if power < 1e-6 or any(a < b for a, b in zip(seen.shape, wanted.shape, strict=True)):
        return 0.0, 0.0, 0.0
    still = _still(wanted, seen, (start[0] + near[0], start[1] + near[1]), power)
    if still is not None:
        return still[0] + near[0], still[1] + near[1], still[2]
    whole = seen.astype(np.float64)
    mean = _sums(whole, wanted.shape) / wanted.size
    spread = _sums(whole**2, wanted.shape) - wanted.size * mean**2
    likeness = _products(whole, wanted) / np.sqrt(np.maximum(spread, 1.0) * power)
    down, across = np.unravel_index(int(likeness.argmax()), likeness.shape)
    x = across + _between(likeness[down, :], int(across))
    y = down + _between(likeness[:, across], int(down))
    return float(x) - start[0], float(y) - start[1], float(likeness[down, across])


def _still(
    wanted: Grey, seen: Grey, start: tuple[int, int], power: float
) -> tuple[float, float, float] | None:
    """The offset of a piece that lies at `start` to within a pixel, found there alone."""
    (x, y), (height, width) = start, wanted.shape
    if min(x, y) < 1 or y + height >= len(seen) or x + width >= seen.shape[1]:
        return None
    result = np.empty((3, 3))
    for down in range(3):
        for across in range(3):
            part = seen[
                y + down - 1 : y + down - 1 + height, x + across - 1 : x + across - 1 + width
            ]
            spread = float(np.vdot(part, part)) - float(part.sum()) ** 2 / part.size
            result[down, across] = float(np.vdot(wanted, part)) / math.sqrt(
                max(spread, 1.0) * power
            )
    if result.argmax() != 4 or result[1, 1] < SURE:
        return None
    return _between(result[1], 1), _between(result[:, 1], 1), float(result[1, 1])


def _products(seen: Exact, wanted: Grey) -> Exact:
    """The sums of products of a piece and all pieces of its size, at every place."""
    shape = [quick_length(side) for side in seen.shape]
    turned = np.conj(np.fft.rfft2(wanted.astype(np.float64), shape))
    products = np.fft.irfft2(np.fft.rfft2(seen, shape) * turned, shape)
    down, across = (a - b + 1 for a, b in zip(seen.shape, wanted.shape, strict=True))
    return np.asarray(products[:down, :across])


def _sums(values: Exact, shape: tuple[int, ...]) -> Exact:
    """The sums of all pieces of a size, at every place: F. C. Crow, "Summed-area tables", 1984."""
    height, width = shape
    table = np.pad(values.cumsum(axis=0).cumsum(axis=1), ((1, 0), (1, 0)))
    sums: Exact = (
        table[height:, width:]
        - table[:-height, width:]
        - table[height:, :-width]
        + table[:-height, :-width]
    )
    return sums


def _between(values: Exact, at: int) -> float:
    """Where between its neighbours a peak is, by the parabola through them: -0.5..0.5."""
    if not 0 < at < len(values) - 1:
        return 0.0
    before, here, after = (float(values[n]) for n in (at - 1, at, at + 1))
    bend = before - 2 * here + after
    return 0.5 * (before - after) / bend if bend < 0 else 0.0


def inked(alpha: npt.NDArray[np.uint8]) -> tuple[float, float, float, float] | None:
    """Left, top, right and bottom of what is painted, in pixels; None where nothing is.

    alpha: (H, W) uint8. Of pixels that are covered in part an edge takes that part.
    """
    sides = []
    for axis in (0, 1):
        most = alpha.max(axis=axis, initial=0) / 255
        painted = np.flatnonzero(most > COVERED)
        if not painted.size:
            return None
        first, last = int(painted[0]), int(painted[-1])
        before = float(most[first - 1]) if first else 0.0
        after = float(most[last + 1]) if last + 1 < len(most) else 0.0
        sides.append((first + 1 - float(most[first]) - before, last + float(most[last]) + after))
    (left, right), (top, bottom) = sides
    return left, top, right, bottom


def differing(first: Bytes, second: Bytes, by: int) -> Mask:
    """Where two pieces differ by more than so many levels of 255; (..., 4) uint8 of one shape."""
    off = np.maximum(first, second) - np.minimum(first, second) > by
    return np.asarray(off[..., 0] | off[..., 1] | off[..., 2])


def beyond(first: Bytes, second: Bytes, by: int) -> Mask:
    """Where the second has a colour that is nowhere in the first within a pixel of there.

    Levels of 255 by which it may be off; (H, W, 4) uint8 of one shape.
    """
    from scipy import ndimage

    least, most = (
        find(first[..., :3], (3, 3, 1)).astype(np.int16)
        for find in (ndimage.minimum_filter, ndimage.maximum_filter)
    )
    there = second[..., :3].astype(np.int16)
    return np.asarray(((there < least - by) | (there > most + by)).any(axis=-1))


def colored(pixels: Bytes, color: str, by: int) -> Mask:
    """Which pixels have a colour, but for so many levels of 255; (..., 4) uint8."""
    wanted = levels(color)[:3].astype(np.int16)
    return np.asarray(np.abs(pixels[..., :3] - wanted).max(axis=-1) <= by)


def crop(seen: SeenPage, box: Rect) -> Bytes:
    """What a page shows in a box, as large as pixels that it touches; (H, W, 4) uint8."""
    by = seen.density
    on = box.scaled(by).outward()
    return seen.shot[max(0, on.y) : max(0, on.bottom), max(0, on.x) : max(0, on.right)]


def shifted(seen: SeenPage, on: Box, dx: float, dy: float) -> Bytes:
    """What a page shows in a box of its pixels, moved by CSS pixels, to whole pixels."""
    by, shot = seen.density, seen.shot
    x, y = on.x + round(dx * by), on.y + round(dy * by)
    return shot[max(0, y) : max(0, y + on.height), max(0, x) : max(0, x + on.width)]


def stepped(
    pixels: Bytes, mask: npt.NDArray[np.bool_], seen: SeenPage, box: Rect, most: float
) -> tuple[int, int, float]:
    """How many pixels a ground is out of step, right and down, and how far off its colours are.

    `pixels` are (H, W, 4) uint8 of `box`, compared where `mask` says so, at places spread evenly;
    steps of up to `most` CSS pixels either way are tried where it is not in step as it lies.
    """
    by, shot = seen.density, seen.shot
    rows, columns = np.nonzero(mask)
    some = np.linspace(0, len(rows) - 1, min(len(rows), SPREAD)).astype(int)
    rows, columns = rows[some], columns[some]
    left, top = max(0, int(box.x * by)), max(0, int(box.y * by))
    wanted = pixels[rows, columns, :3].astype(np.int16)

    def off(right: int, down: int) -> float:
        y = np.clip(rows + top + down, 0, shot.shape[0] - 1)
        x = np.clip(columns + left + right, 0, shot.shape[1] - 1)
        return float(np.median(np.abs(shot[y, x, :3] - wanted).max(axis=1)))

    best = (0, 0, off(0, 0))
    if best[2] <= IN_STEP:
        return best
    reach = round(most * by)
    for down in range(-reach, reach + 1):
        for right in range(-reach, reach + 1):
            found = off(right, down)
            if found < best[2]:
                best = (right, down, found)
    return best


def fraction(pixels: float) -> float:
    """How far a number of pixels is from a whole one."""
    return abs(pixels - round(pixels))
