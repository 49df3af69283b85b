"""A kind of picture with its filtered rows -> the bytes of a PNG (3rd edition)."""

from __future__ import annotations

import struct
import zlib
from typing import TypeAlias

import deflate
import numpy as np
import numpy.typing as npt

from riffler.color import Bytes
from riffler.encode.png.filters import (
    PLAIN,
    Filtered,
    Way,
    chosen,
    filtered,
    plain_streams,
    searched,
    searched_streams,
)
from riffler.encode.png.kinds import RGBA, PngKind, kinds, palette_kind

Seen: TypeAlias = tuple[int, int, bytes]
"""How large a stream becomes at a level, the number of its kind, and the stream."""

SIGNATURE = b"\x89PNG\r\n\x1a\n"

#: Levels of libdeflate: to compare what all filters give, to look at the best of them again, and
#: for the file itself.
GLANCE, LOOK, CLOSE = 4, 10, 12

#: Bytes of a stream beyond which a quarter of the rows say how to choose filters, in bands of so
#: many, and the file is made as at a look: eight times as fast for 3 %.
LARGE, BAND, APART = 1_000_000, 64, 4

#: How many streams are looked at again, and how much larger than the best they may be at a glance.
AGAIN, HOPELESS = 3, 1.02

#: A kind this much larger than the best is not searched for better filters.
PROMISING = 1.06


def encode(straight: Bytes, *, keep_alpha: bool = False, effort: int = 1) -> bytes:
    """A lossless PNG of straight 8-bit RGBA, (H, W, 4) uint8; without needless chunks.

    The smallest of all colour types that hold it. With `keep_alpha` it is RGBA whatever it holds,
    as icon files want. `effort` 0 leaves out the slower ways to choose filters.
    """
    if keep_alpha:
        rows = np.ascontiguousarray(straight).reshape(straight.shape[0], -1)
        return _smallest([PngKind(RGBA, 8, rows, 4)], straight.shape[1], effort)
    return _smallest(list(kinds(straight)), straight.shape[1], effort)


def encode_palette(
    colors: npt.NDArray[np.uint8], indexes: npt.NDArray[np.int64], effort: int = 1
) -> bytes:
    """A palette PNG. colors: (N, 4) uint8, what shows through first; indexes: (H, W)."""
    return _smallest([palette_kind(colors, indexes)], indexes.shape[1], effort)


def _smallest(candidates: list[PngKind], width: int, effort: int) -> bytes:
    """The smallest file: all kinds at a glance, the promising ones with searched filters."""
    every = [filtered(kind.rows, kind.step) for kind in candidates]
    if effort and every[0][0].size > LARGE:
        return _of_large(every, candidates, width)
    plain = [
        [_seen(GLANCE, number, candidates[number], stream) for stream in plain_streams(rows)]
        for number, rows in enumerate(every)
    ]
    seen = [look for both in plain for look in both]
    if effort == 0:
        return _best(seen, candidates, width, LOOK)
    seen += _searched(every, plain, candidates)
    seen.sort(key=lambda look: look[:2])
    again = [look for look in seen[:AGAIN] if look[0] <= seen[0][0] * HOPELESS]
    if len(again) > 1:
        again = [_seen(LOOK, number, candidates[number], stream) for _, number, stream in again]
    return _best(again, candidates, width, CLOSE)


def _of_large(every: list[Filtered], candidates: list[PngKind], width: int) -> bytes:
    """The file with the kind and the way to choose filters that serve some of its rows best."""
    rows = np.arange(every[0].shape[1])
    some = rows[rows // BAND % APART == 0]
    looks: list[tuple[int, int, Way]] = []
    for number, part in enumerate(all_rows[:, some] for all_rows in every):

        def size(way: Way, part: Filtered = part) -> int:
            return len(deflate.zlib_compress(chosen(part, way(part)), GLANCE))

        plain = [(size(way), number, way) for way in PLAIN]
        more = searched(is_smooth=plain[1][0] < plain[0][0])
        looks += plain + [(size(way), number, way) for way in more]
    _, number, way = min(looks, key=lambda look: look[:2])
    stream = chosen(every[number], way(every[number]))
    return _file(candidates[number], width, bytes(deflate.zlib_compress(stream, LOOK)))


def _searched(
    every: list[Filtered], plain: list[list[Seen]], candidates: list[PngKind]
) -> list[Seen]:
    """What searched filters give for the kinds that are promising without."""
    best = min(size for both in plain for size, _, _ in both)
    result = []
    for number, ((unfiltered, *_), (summed, *_)) in enumerate(plain):
        if min(unfiltered, summed) <= best * PROMISING:
            more = searched_streams(every[number], is_smooth=summed < unfiltered)
            result += [_seen(GLANCE, number, candidates[number], stream) for stream in more]
    return result


def _best(seen: list[Seen], candidates: list[PngKind], width: int, level: int) -> bytes:
    """The file of the smallest stream that was seen."""
    _, number, stream = min(seen, key=lambda look: look[:2])
    return _file(candidates[number], width, bytes(deflate.zlib_compress(stream, level)))


def _seen(level: int, number: int, kind: PngKind, stream: bytes) -> Seen:
    """How large a stream would become at a level, whose it is, and the stream."""
    return len(deflate.zlib_compress(stream, level)) + kind.overhead, number, stream


def _file(kind: PngKind, width: int, data: bytes) -> bytes:
    header = struct.pack(">IIBBBBB", width, len(kind.rows), kind.depth, kind.color_type, 0, 0, 0)
    chunks = [(b"IHDR", header), (b"PLTE", kind.palette), (b"tRNS", kind.clear), (b"IDAT", data)]
    parts = [_chunk(name, body) for name, body in chunks if body]
    return SIGNATURE + b"".join(parts) + _chunk(b"IEND", b"")


def _chunk(name: bytes, body: bytes) -> bytes:
    return struct.pack(">I", len(body)) + name + body + struct.pack(">I", zlib.crc32(name + body))
