"""A kind of picture with its filtered rows -> the bytes of a PNG (3rd edition)."""

from __future__ import annotations

import struct
import zlib

import deflate
import numpy as np
import numpy.typing as npt

from riffler.color import Bytes
from riffler.encode.png.filters import filtered, plain_streams, searched_streams
from riffler.encode.png.kinds import PALETTE, RGBA, Kind, kinds, palette_kind

SIGNATURE = b"\x89PNG\r\n\x1a\n"

#: Levels of libdeflate: to compare what filters give, and for the file itself.
GLANCE, CLOSE = 6, 12

#: Bytes up to which the comparison may look more closely, and the level for it.
SMALL, SMALL_GLANCE = 200_000, 9

#: How many of the compared streams are compressed closely.
CLOSELY = 2

#: A kind this much larger than the best before it is not searched for better filters.
PROMISING = 1.04

#: Unfiltered rows within this of the best filters mean that the picture is full of repeats.
REPEATS = 1.2

#: A stream this much larger at a glance than the best one is not looked at closely.
HOPELESS = 1.02


def encode(straight: Bytes, *, keep_alpha: bool = False, effort: int = 1) -> bytes:
    """A lossless PNG of straight 8-bit RGBA, (H, W, 4) uint8; without needless chunks.

    The smallest of all colour types that hold it. With `keep_alpha` it is RGBA whatever it holds,
    as icon files want. `effort` 0 leaves out the slower ways to choose filters.
    """
    if keep_alpha:
        rows = np.ascontiguousarray(straight).reshape(straight.shape[0], -1)
        return _smallest([Kind(RGBA, 8, rows, 4)], straight.shape[1], effort)
    return _smallest(list(kinds(straight)), straight.shape[1], effort)


def encode_palette(
    colors: npt.NDArray[np.uint8], indexes: npt.NDArray[np.int64], effort: int = 1
) -> bytes:
    """A palette PNG. colors: (N, 4) uint8, what shows through first; indexes: (H, W)."""
    return _smallest([palette_kind(colors, indexes)], indexes.shape[1], effort)


def _smallest(candidates: list[Kind], width: int, effort: int) -> bytes:
    compared: list[tuple[int, int, bytes]] = []
    for number, kind in enumerate(candidates):
        is_packed = kind.color_type == PALETTE or kind.depth < 8
        every = filtered(kind.rows, kind.step)
        own = [_glance(number, kind, one) for one in plain_streams(every, is_packed=is_packed)]
        least = min(size for size, _, _ in own)
        if effort > 0 and (not compared or least <= min(compared)[0] * PROMISING):
            has_repeats = own[0][0] <= least * REPEATS
            more = searched_streams(every, has_repeats=has_repeats)
            own.extend(_glance(number, kind, one) for one in more)
        compared.extend(own)
    compared.sort(key=lambda one: one[:2])
    files = [
        _file(candidates[number], width, bytes(deflate.zlib_compress(stream, CLOSE)))
        for size, number, stream in compared[:CLOSELY]
        if size <= compared[0][0] * HOPELESS
    ]
    return min(files, key=len)


def _glance(number: int, kind: Kind, stream: bytes) -> tuple[int, int, bytes]:
    """How large a stream would become, whose it is, and the stream."""
    level = GLANCE if len(stream) > SMALL else SMALL_GLANCE
    return len(deflate.zlib_compress(stream, level)) + kind.overhead, number, stream


def _file(kind: Kind, width: int, data: bytes) -> bytes:
    header = struct.pack(">IIBBBBB", width, len(kind.rows), kind.depth, kind.color_type, 0, 0, 0)
    chunks = [(b"IHDR", header), (b"PLTE", kind.palette), (b"tRNS", kind.clear), (b"IDAT", data)]
    parts = [_chunk(name, body) for name, body in chunks if body]
    return SIGNATURE + b"".join(parts) + _chunk(b"IEND", b"")


def _chunk(name: bytes, body: bytes) -> bytes:
    return struct.pack(">I", len(body)) + name + body + struct.pack(">I", zlib.crc32(name + body))
