"""A kind of picture with its filtered rows -> the bytes of a PNG (3rd edition)."""

from __future__ import annotations

import struct
import zlib

import deflate
import numpy as np
import numpy.typing as npt

from riffler.color import Bytes
from riffler.encode.png.filters import filtered, plain_streams, searched_streams
from riffler.encode.png.kinds import RGBA, Kind, kinds, palette_kind

SIGNATURE = b"\x89PNG\r\n\x1a\n"

#: Levels of libdeflate: to compare what filters give, and for the file itself.
GLANCE, CLOSE = 4, 12

#: How many of the compared streams are compressed closely, and how much larger than the best one
#: they may be at a glance. Up to some bytes a glance can be trusted, and close compression of many
#: repeats takes long.
CLOSELY, HOPELESS, TRUSTED = 2, 1.05, 100_000

#: A kind this much larger than the best is not searched for better filters.
PROMISING = 1.04


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
    """The smallest file: all kinds at a glance, the promising ones with searched filters."""
    every = [filtered(kind.rows, kind.step) for kind in candidates]
    seen = [
        _glance(number, candidates[number], stream)
        for number, rows in enumerate(every)
        for stream in plain_streams(rows)
    ]
    if effort > 0:
        best = min(size for size, _, _ in seen)
        promising = sorted({number for size, number, _ in seen if size <= best * PROMISING})
        for number in promising:
            more = searched_streams(every[number])
            seen.extend(_glance(number, candidates[number], stream) for stream in more)
    seen.sort(key=lambda one: one[:2])
    files = [
        _file(candidates[number], width, bytes(deflate.zlib_compress(stream, CLOSE)))
        for size, number, stream in seen[: 1 if len(seen[0][2]) <= TRUSTED else CLOSELY]
        if size <= seen[0][0] * HOPELESS
    ]
    return min(files, key=len)


def _glance(number: int, kind: Kind, stream: bytes) -> tuple[int, int, bytes]:
    """How large a stream would become, whose it is, and the stream."""
    return len(deflate.zlib_compress(stream, GLANCE)) + kind.overhead, number, stream


def _file(kind: Kind, width: int, data: bytes) -> bytes:
    header = struct.pack(">IIBBBBB", width, len(kind.rows), kind.depth, kind.color_type, 0, 0, 0)
    chunks = [(b"IHDR", header), (b"PLTE", kind.palette), (b"tRNS", kind.clear), (b"IDAT", data)]
    parts = [_chunk(name, body) for name, body in chunks if body]
    return SIGNATURE + b"".join(parts) + _chunk(b"IEND", b"")


def _chunk(name: bytes, body: bytes) -> bytes:
    return struct.pack(">I", len(body)) + name + body + struct.pack(">I", zlib.crc32(name + body))
