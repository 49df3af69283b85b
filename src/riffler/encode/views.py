"""Places of a picture, twice -> what is seen of the difference between both.

Structural similarity at several scales (Wang, Simoncelli and Bovik 2003), with a map for edges that
were not there and one for detail that is gone, pooled by mean and by fourth-power mean, so that a
worst patch counts: the structure that SSIMULACRA2 (Sneyers 2022) has. Colours are those of an
opponent space of cube roots of the cones' responses (ISO/IEC 18181-1, annex L.2.2). Beside it
stands the largest difference of soft colours, after FLIP (Andersson et al. 2020); the worse of
both is the loss.

Maps are summed up by cells, and divided by the area of those in which anything is drawn: flat
ground makes no loss smaller. All cells together count, and each window of them by itself.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import TypeVar

import numpy as np
import numpy.typing as npt

from riffler.color import Bytes, linear_planes
from riffler.encode.blocks import over_windows
from riffler.encode.maps import BAND, CELL, Cells, Known, Stack, compared

#: Scales that are judged; a side halves down to no less than `SMALLEST` pixels.
SCALES, SMALLEST = 5, 8

#: Places with a side below are doubled, as dense screens do, and go on as their edge does up to
#: `LEAST`.
DOUBLED_BELOW, LEAST = 40, 32

#: So many pixels more and a thing would have another scale: soft edges make it larger than it
#: seems.
NEARLY = 6

#: The 99th percentile of soft differences, light and both hues added, that counts as a loss of 1:
#: below 0.0296 FLIP's own stays below 0.25 on all of 2648 files.
SHARE, DIFFERENCE = 0.99, 0.029

#: Cells along a window, how much more one may lose than all together, and the least part of it that
#: counts as drawn.
WINDOW, ALONE, DRAWN = 4, 1.5, 0.25

Planes = npt.NDArray[np.float32]
"""(3, pieces, H, W) float32: linear red, green, blue, or red to green, light, blue to light."""

Pooled = npt.NDArray[np.float64]
"""(scales, 3, 6) float64: the mean and the fourth-power mean of each of three maps."""

Weights = npt.NDArray[np.float64]
"""(scales, 3, 6) float64: how much each of the pooled maps counts."""

_Pixels = TypeVar("_Pixels", bound=np.generic)

#: ISO/IEC 18181-1, L.2.2: linear sRGB to cone responses, and what is added before the root.
_TO_CONES = np.array(
    (
        (0.3, 0.622, 0.078),
        (0.23, 0.692, 0.078),
        (0.24342268924547819, 0.20476744424496821, 0.5518098665095536),
    ),
    np.float32,
)
_BIAS = np.float32(0.0037930732552754493)

#: Red to green is stretched to about the range of the others.
_STRETCH = np.float32(7)


@dataclass(frozen=True)
class View:
    """Places of one size as they are shown on a ground, with what comparing needs.

    `side` has every scale, channel by channel; `is_drawn` tells in which cells anything is drawn,
    (pieces, rows, columns), and `areas` how many pixels each cell has, a scale at a time. Small
    things are shown `times` their size, as `rgb` has them.
    """

    rgb: Bytes
    side: list[tuple[Known, ...]]
    is_drawn: npt.NDArray[np.bool_]
    areas: list[npt.NDArray[np.float64]]
    times: int = 1

    @classmethod
    def of(
        cls, rgb: Bytes, drawn: npt.NDArray[np.bool_], scales: int = SCALES, times: int = 1
    ) -> View:
        """rgb: (pieces, H, W, 3) uint8; drawn: (pieces, H, W)."""
        large = _enlarged(rgb, times)
        least = max(LEAST, ((SMALLEST - 1) << (scales - 1)) + 1)
        short = [max(0, least - side) for side in large.shape[1:3]]
        if any(short):
            large = np.pad(large, ((0, 0), (0, short[0]), (0, short[1]), (0, 0)), "edge")
        side = [tuple(map(Known.of, planes)) for planes in _pyramid(large, scales)]
        areas = [
            _areas(known_channels[0].plane.shape[1:], scale)
            for scale, known_channels in enumerate(side)
        ]
        height, width = (CELL * count for count in areas[0].shape)
        marked = _enlarged(drawn, times)
        room = ((0, 0), (0, height - marked.shape[1]), (0, width - marked.shape[2]))
        cells = np.pad(marked, room).reshape(len(marked), height // CELL, CELL, -1, CELL)
        is_drawn = np.asarray(cells.any(axis=(2, 4)))
        if not is_drawn.any():
            is_drawn = np.ones_like(is_drawn)
        return cls(large, side, is_drawn, areas, times)

    def felt(self, rgb: Bytes, *every: Weights) -> float:
        """The loss of the same places of another picture, 0 or more: by the strictest weights."""
        whole = np.zeros((len(every), len(self.side), 3, 6))
        for number, weights in enumerate(every):
            whole[number, : len(weights)] = weights
        sums, soft = self._compared(rgb, np.asarray((whole > 0).any(axis=0)))
        seen = max(
            max(self._lost(sums, weights), self._worst(sums, weights) / ALONE) for weights in whole
        )
        drawn = float((self.is_drawn * self.areas[0]).sum())
        last = soft.size - 1 - int(drawn * (1 - SHARE))
        if np.count_nonzero(soft > seen * DIFFERENCE) < soft.size - last:
            return seen  # only sorted where it counts
        return max(seen, float(np.partition(soft.ravel(), last)[last]) / DIFFERENCE)

    def maps(self, rgb: Bytes) -> Pooled:
        """All that is seen of another picture before anything is weighed."""
        sums, _ = self._compared(rgb, np.ones((len(self.side), 3, 6), bool))
        result = np.array(
            [
                cells.sum(axis=(2, 3, 4)) / area
                for cells, area in zip(sums, self._drawn(), strict=True)
            ]
        )
        result[..., 1::2] **= 0.25
        return result

    def _beside(self, rgb: Bytes) -> Bytes:
        """Another picture as this one is: beyond its edges both are the same."""
        large = _enlarged(rgb, self.times)
        if large.shape == self.rgb.shape:
            return large
        whole = self.rgb.copy()
        whole[:, : large.shape[1], : large.shape[2]] = large
        return whole

    def _drawn(self) -> list[float]:
        """How many pixels of each scale anything is drawn in."""
        return [float((self.is_drawn * area).sum()) for area in self.areas]

    def _compared(self, rgb: Bytes, counting: npt.NDArray[np.bool_]) -> tuple[list[Cells], Stack]:
        """The maps that count by cells, (3, 6, pieces, rows, columns) a scale; soft differences."""
        sums, soft = [], None
        planes_of = _pyramid(self._beside(rgb), len(self.side))
        for scale, (channels, planes) in enumerate(zip(self.side, planes_of, strict=True)):
            difference = np.zeros(planes.shape[1:], np.float32)
            sums.append(
                np.array(
                    [
                        compared(known, plane, difference, counts, max(1, CELL >> scale))
                        for known, plane, counts in zip(
                            channels, planes, counting[scale], strict=True
                        )
                    ]
                )
            )
            soft = difference if soft is None else soft
        assert soft is not None
        return sums, soft

    def _lost(self, sums: Sequence[Cells], weights: Weights) -> float:
        """The loss of all places together."""
        lost = 0.0
        for cells, area, counts in zip(sums, self._drawn(), weights, strict=True):
            pooled = cells.sum(axis=(2, 3, 4)) / area
            pooled[..., 1::2] **= 0.25
            lost += float((pooled * counts).sum())
        return lost

    def _worst(self, sums: Sequence[Cells], weights: Weights) -> float:
        """The loss of the worst window in which anything is drawn."""
        is_drawn = _windows(self.is_drawn.astype(float)) > 0
        lost = np.zeros(is_drawn.shape)
        for cells, area, counts in zip(sums, self.areas, weights, strict=True):
            drawn = np.maximum(_windows(self.is_drawn * area), DRAWN * _windows(area[None]))
            for channel, number in np.argwhere(counts > 0):
                pooled = _windows(cells[channel, number]) / drawn
                lost += counts[channel, number] * (pooled**0.25 if number % 2 else pooled)
        return float(lost[is_drawn].max(initial=0.0))


def _enlarged(pixels: npt.NDArray[_Pixels], times: int) -> npt.NDArray[_Pixels]:
    """(pieces, H, W, ...), so many times their size."""
    return pixels.repeat(times, axis=1).repeat(times, axis=2) if times > 1 else pixels


def times(height: int, width: int) -> int:
    """How many times its size a thing is shown."""
    return 2 if min(height, width) < DOUBLED_BELOW else 1


def scales_of(height: int, width: int) -> tuple[int, ...]:
    """How many scales a thing has, six at the most; and one more where it nearly has it."""
    side, enlarged = min(height, width), times(height, width)
    return tuple(sorted({_halvings(side * enlarged), _halvings((side + NEARLY) * enlarged)}))


def _halvings(side: int) -> int:
    side, count = max(LEAST, side), 1
    while count <= SCALES and (side := (side + 1) // 2) >= SMALLEST:
        count += 1
    return count


def _areas(shape: Sequence[int], scale: int) -> npt.NDArray[np.float64]:
    """How many pixels each cell of a scale has, (rows, columns)."""
    cell = max(1, CELL >> scale)
    down, across = (
        np.minimum(cell, side - np.arange(0, side, cell)).astype(float) for side in shape
    )
    return np.outer(down, across)


def _windows(cells: npt.NDArray[np.float64]) -> npt.NDArray[np.float64]:
    """Sums over windows of cells, (pieces, rows, columns)."""
    return over_windows(cells, WINDOW, np.add, axis=1)


def _pyramid(rgb: Bytes, scales: int) -> Iterator[Planes]:
    """Places in the opponent space at every scale, the finest first."""
    linear = linear_planes(rgb)
    for _ in range(min(scales, SCALES)):
        yield _opponent(linear)
        linear = _halved(linear)
        if min(linear.shape[2:]) < SMALLEST:
            return


def _opponent(linear: Planes) -> Planes:
    every = linear.reshape(3, -1)
    planes = np.empty_like(every)
    for first in range(0, every.shape[1], BAND):
        part = slice(first, first + BAND)
        roots = _TO_CONES @ every[:, part]
        roots += _BIAS
        np.cbrt(roots, out=roots)
        red, light, blue = planes[:, part]
        np.subtract(roots[0], roots[1], out=red)
        red *= _STRETCH
        np.add(roots[0], roots[1], out=light)
        light *= np.float32(0.5)
        np.subtract(roots[2], light, out=blue)
    return np.asarray(planes.reshape(linear.shape))


def _halved(planes: Planes) -> Planes:
    """Half the resolution, four pixels averaged; an odd last line counts twice."""
    down, across = (side % 2 for side in planes.shape[2:])
    if down or across:
        planes = np.pad(planes, ((0, 0), (0, 0), (0, down), (0, across)), "edge")
    two = planes[:, :, ::2] + planes[:, :, 1::2]
    return np.asarray((two[..., ::2] + two[..., 1::2]) * np.float32(0.25))
