"""Two pictures -> what an eye sees of their difference: 0 for none, 1 for the first that shows.

Structural similarity at several scales (Wang, Simoncelli and Bovik 2003), with a map for edges that
were not there and one for detail that is gone, pooled by mean and by fourth-power mean, so that a
worst patch counts: the structure that SSIMULACRA2 (Sneyers 2022) has. Colours are those of an
opponent space of cube roots of the cones' responses (ISO/IEC 18181-1, annex L.2.2). Beside it
stands the largest difference of soft colours, after FLIP (Andersson et al. 2020); the worse of
both is the loss.

What is transparent is laid on white and on near black, and the worse of the two counts; only what
is painted counts, so that an icon is judged alike on a small and on a large canvas. Small pictures
are doubled, as dense screens do. Of large ones pieces are judged.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np
import numpy.typing as npt

from riffler.color import Bytes, is_solid, linear_planes
from riffler.encode.maps import BAND, Known, Stack, compared
from riffler.encode.pieces import painted, places, stacked
from riffler.encode.weights import WEIGHTS

#: Scales that are judged; a side halves down to no less than `SMALLEST` pixels.
SCALES, SMALLEST = 5, 8

#: Red, green and blue of the grounds that transparent pictures are laid on.
GROUNDS = (255, 30)

#: Pictures with a side below are doubled, and go on as their edge does up to `LEAST`.
DOUBLED_BELOW, LEAST = 40, 32

#: Around what is painted, and above and below pieces, so that a file's blocks are judged whole and
#: nothing is smeared across the seams, in pixels.
MARGIN = 16

#: The 99th percentile of soft differences, light and both hues added, that counts as a loss of 1:
#: below 0.0296 FLIP's own stays below 0.25 on all of 2648 files.
SHARE, DIFFERENCE = 0.99, 0.029

#: The loss of what can't be compared: opaque where the other is not.
UNLIKE = 200.0

#: Pixels beyond which pieces are judged, their side, and how many there are at the most.
PIECES_FROM, PIECE, PIECES = 250_000, 128, 12

Planes = npt.NDArray[np.float32]
"""(3, pieces, H, W) float32: linear red, green, blue, or red to green, light, blue to light."""

Pooled = npt.NDArray[np.float64]
"""(scales, 3, 6) float64: the mean and the fourth-power mean of each of three maps."""

#: ISO/IEC 18181-1, L.2.2: linear sRGB to cone responses, and what is added before the root.
_TO_CONES = np.array(
    ((0.3, 0.622, 0.078),
     (0.23, 0.692, 0.078),
     (0.24342268924547819, 0.20476744424496821, 0.5518098665095536)), np.float32)  # fmt: skip
_BIAS = np.float32(0.0037930732552754493)

#: Red to green is stretched to about the range of the others.
_STRETCH = np.float32(7)


class Reference:
    """A picture that others are compared with; its side of the work is done once."""

    def __init__(self, straight: Bytes, whole: Reference | None = None) -> None:
        """straight: (H, W, 4) uint8, a picture, or the `pieces` of a `whole` one.

        Of a large one the `places` that are judged are pieces; `scales` has the sixth that large
        ones have besides those that are judged.
        """
        self._straight = straight
        self._is_opaque = is_solid(straight)
        self._grounds = GROUNDS[:1] if self._is_opaque else GROUNDS
        if whole is None:
            box = painted(straight, MARGIN)
            pixels = (box[0].stop - box[0].start) * (box[1].stop - box[1].start)
            is_large = pixels > PIECES_FROM
            self.places = places(straight, box, PIECE, PIECES) if is_large else [box]
            self.scales = _halvings(_shown(straight[box]))
        else:
            tops = range(MARGIN, len(straight), PIECE + 2 * MARGIN)
            self.places = [(slice(top, top + PIECE), slice(0, PIECE)) for top in tops]
            self.scales = whole.scales
        self._weights = WEIGHTS[self.scales]
        self._sides = [_side(self._laid(straight, ground)) for ground in self._grounds]

    def pieces(self) -> Bytes:
        """The places that are judged below one another, each with what lies above and below it."""
        return stacked(self._straight, self.places, MARGIN)

    def loss(self, straight: Bytes) -> float:
        """What is seen of the difference to another picture of the same size, 0 or more."""
        if np.array_equal(straight, self._straight):
            return 0.0
        is_clear = not self._straight[..., 3].any()
        if is_clear or (self._is_opaque and not is_solid(straight)):
            return UNLIKE
        counting = self._weights > 0
        return max(self._felt(*found) for found in self._compared(straight, counting))

    def maps(self, straight: Bytes) -> list[Pooled]:
        """All that is seen of another picture before anything is weighed, on each ground."""
        return [maps for maps, _ in self._compared(straight, np.ones(self._weights.shape, bool))]

    def _felt(self, maps: Pooled, soft: Stack) -> float:
        """The loss on one ground; soft differences are only sorted where they count."""
        seen = float((maps * self._weights[: len(maps)]).sum())
        last = int((soft.size - 1) * SHARE)
        if np.count_nonzero(soft > seen * DIFFERENCE) < soft.size - last:
            return seen
        return max(seen, float(np.partition(soft.ravel(), last)[last]) / DIFFERENCE)

    def _compared(
        self, straight: Bytes, counting: npt.NDArray[np.bool_]
    ) -> Iterator[tuple[Pooled, Stack]]:
        """The pooled maps and the soft differences on each ground, all places together."""
        for side, ground in zip(self._sides, self._grounds, strict=True):
            yield _pooled(side, self._laid(straight, ground), counting)

    def _laid(self, straight: Bytes, ground: int) -> Bytes:
        """The places as they are shown on a ground, (pieces, H, W, 3) uint8."""
        return np.stack([_shown(_on(straight[place], ground)) for place in self.places])


def _pooled(
    side: Sequence[Sequence[Known]], shown: Bytes, counting: npt.NDArray[np.bool_]
) -> tuple[Pooled, Stack]:
    """What a picture loses at its places, of the maps that count; soft differences as they are."""
    sums = np.zeros((len(side), 3, 6))
    soft: Stack | None = None
    for index, (channels, planes) in enumerate(zip(side, _pyramid(shown), strict=True)):
        difference = np.zeros(planes.shape[1:], np.float32)
        for channel, (known, plane) in enumerate(zip(channels, planes, strict=True)):
            sums[index, channel] = compared(known, plane, difference, counting[index, channel])
        sums[index] /= difference.size
        soft = difference if soft is None else soft
    assert soft is not None
    sums[..., 1::2] **= 0.25
    return sums, soft


def loss(reference: Bytes, other: Bytes) -> float:
    """What is seen of the difference between two pictures of one size."""
    return Reference(reference).loss(other)


def _on(straight: Bytes, ground: int) -> Bytes:
    """Straight RGBA over an opaque grey, (H, W, 3) uint8, as a browser lays it down."""
    if is_solid(straight):
        return straight[..., :3]
    alpha = straight[..., 3:].astype(np.float32) / 255
    mixed = straight[..., :3] * alpha + np.float32(ground) * (1 - alpha)
    return (mixed + 0.5).astype(np.uint8)


def _shown(pixels: Bytes) -> Bytes:
    """Doubled where it is small, and gone on as its edge does where it is tiny."""
    if min(pixels.shape[:2]) < DOUBLED_BELOW:
        pixels = pixels.repeat(2, axis=0).repeat(2, axis=1)
    short = [max(0, LEAST - side) for side in pixels.shape[:2]]
    return np.pad(pixels, ((0, short[0]), (0, short[1]), (0, 0)), "edge") if any(short) else pixels


def _halvings(pixels: Bytes) -> int:
    """How many scales a picture has, six at the most."""
    side, count = min(pixels.shape[:2]), 1
    while count <= SCALES and (side := (side + 1) // 2) >= SMALLEST:
        count += 1
    return count


def _pyramid(rgb: Bytes) -> Iterator[Planes]:
    """A picture in the opponent space at every scale, the finest first."""
    linear = linear_planes(rgb)
    for _ in range(SCALES):
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


def _side(shown: Bytes) -> list[tuple[Known, ...]]:
    """A picture at every scale, channel by channel, with what comparing needs."""
    return [tuple(map(Known.of, planes)) for planes in _pyramid(shown)]
