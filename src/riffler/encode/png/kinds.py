"""Straight RGBA -> the colour types and bit depths of PNG that hold it without loss."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from riffler.color import Bytes
from riffler.encode.hidden import smeared

Rows = npt.NDArray[np.uint8]
"""(height, bytes of a row) uint8: packed samples, not filtered."""

#: Colour types; PNG 3rd edition, section 11.2.1.
GREY, RGB, PALETTE, GREY_ALPHA, RGBA = 0, 2, 3, 4, 6


@dataclass(frozen=True)
class PngKind:
    """A picture as PNG stores it before filtering.

    `step` is the bytes from a sample to the one on its left, at least 1 (section 9.2); `palette`
    and `clear` are the contents of PLTE and tRNS.
    """

    color_type: int
    depth: int
    rows: Rows
    step: int
    palette: bytes = b""
    clear: bytes = b""

    @property
    def overhead(self) -> int:
        """Bytes that its own chunks take."""
        return sum(12 + len(part) for part in (self.palette, self.clear) if part)


def kinds(straight: Bytes) -> Iterator[PngKind]:
    """Every colour type worth a try, at its smallest depth; what is invisible counts as equal.

    straight: (H, W, 4) uint8, straight RGBA.
    """
    alpha = straight[..., 3]
    hidden = alpha == 0
    pixels = straight
    if hidden.any():
        straight = np.where(hidden[..., None], np.uint8(0), straight)
    is_opaque = bool(alpha.min(initial=255) == 255)
    is_binary = is_opaque or bool(((alpha == 0) | (alpha == 255)).all())
    red, green, blue = (straight[..., channel] for channel in range(3))
    is_grey = bool(((red == green) & (green == blue)).all())
    colors, indexes = _colors(straight)
    if colors is not None:
        yield _palette(colors, indexes, straight.shape[:2])
    if is_grey:
        yield from _grey(red, alpha, hidden, is_opaque=is_opaque, is_binary=is_binary)
        return
    if is_opaque:
        yield PngKind(RGB, 8, _flat(straight[..., :3]), 3)
        return
    if is_binary and (key := _unused_color(straight, hidden)) is not None:
        rgb = straight[..., :3].copy()
        rgb[hidden] = key
        clear = b"".join(int(value).to_bytes(2, "big") for value in key)
        yield PngKind(RGB, 8, _flat(rgb), 3, clear=clear)
    yield PngKind(RGBA, 8, _flat(straight), 4)
    if hidden.any():
        yield PngKind(RGBA, 8, _flat(smeared(straight, hidden)), 4)
        if (pixels[hidden] != 0).any():
            yield PngKind(RGBA, 8, _flat(pixels), 4)


def _flat(samples: npt.NDArray[np.uint8]) -> Rows:
    return np.ascontiguousarray(samples).reshape(samples.shape[0], -1)


def _colors(straight: Bytes) -> tuple[npt.NDArray[np.uint8] | None, npt.NDArray[np.int64]]:
    """The different colours, at most 256, and which each pixel has; None when there are more."""
    packed = np.ascontiguousarray(straight).view(np.uint32).ravel()
    few = np.unique(packed[:: max(1, packed.size // 4096)])
    if few.size > 256:
        return None, np.empty(0, np.int64)
    result, indexes = np.unique(packed, return_inverse=True)
    if result.size > 256:
        return None, np.empty(0, np.int64)
    return result.view(np.uint8).reshape(-1, 4), indexes.astype(np.int64)


def _palette(
    colors: npt.NDArray[np.uint8], indexes: npt.NDArray[np.int64], shape: tuple[int, int]
) -> PngKind:
    """A palette: what shows through first, since tRNS ends with its last entry, then by luma."""
    luma = colors[:, :3].astype(np.float64) @ (0.2126, 0.7152, 0.0722)
    order = np.lexsort((colors[:, 2], colors[:, 1], luma, colors[:, 3]))
    return palette_kind(colors[order], np.argsort(order)[indexes].reshape(shape))


def palette_kind(colors: npt.NDArray[np.uint8], indexes: npt.NDArray[np.int64]) -> PngKind:
    """A palette picture. colors: (N, 4) uint8, N at most 256; indexes: (H, W)."""
    count = len(colors)
    depth = next(bits for bits in (1, 2, 4, 8) if count <= 1 << bits)
    clear = colors[:, 3].tobytes().rstrip(b"\xff")
    rows = packed(indexes.astype(np.uint8), depth)
    return PngKind(PALETTE, depth, rows, 1, colors[:, :3].tobytes(), clear)


def packed(samples: npt.NDArray[np.uint8], depth: int) -> Rows:
    """Samples of 1, 2, 4 or 8 bits in bytes, the first in the highest bits; section 7.2."""
    if depth == 8:
        return np.ascontiguousarray(samples)
    each = 8 // depth
    height, width = samples.shape
    padded = np.zeros((height, -(-width // each) * each), np.uint8)
    padded[:, :width] = samples
    parts = padded.reshape(height, -1, each)
    rows = np.zeros(parts.shape[:2], np.uint8)
    for place in range(each):
        rows |= parts[..., place] << (8 - depth * (place + 1))
    return rows


def _grey(
    grey: npt.NDArray[np.uint8],
    alpha: npt.NDArray[np.uint8],
    hidden: npt.NDArray[np.bool_],
    *,
    is_opaque: bool,
    is_binary: bool,
) -> Iterator[PngKind]:
    used = np.unique(grey[~hidden]) if hidden.any() else np.unique(grey)
    if is_binary:
        for depth in (1, 2, 4, 8):
            top = (1 << depth) - 1
            unit = 255 // top
            if (used % unit).any():
                continue
            free = next((v for v in range(top + 1) if v * unit not in set(used.tolist())), None)
            if not is_opaque and free is None:
                continue
            samples = grey // unit
            clear = b""
            if not is_opaque:
                assert free is not None
                samples = np.where(hidden, free, samples)
                clear = free.to_bytes(2, "big")
            yield PngKind(GREY, depth, packed(samples.astype(np.uint8), depth), 1, clear=clear)
            return
    both = np.stack((grey, alpha), axis=2)
    yield PngKind(GREY_ALPHA, 8, _flat(both), 2)


def _unused_color(straight: Bytes, hidden: npt.NDArray[np.bool_]) -> tuple[int, int, int] | None:
    """A colour that no visible pixel has, near black: it compresses as black would."""
    shown = straight[~hidden][:, :3].astype(np.uint32)
    used = set(np.unique(shown[:, 0] << 16 | shown[:, 1] << 8 | shown[:, 2]).tolist())
    for value in range(4096):
        color = (value & 15, value >> 4 & 15, value >> 8)
        if (color[0] << 16 | color[1] << 8 | color[2]) not in used:
            return color
    return None
