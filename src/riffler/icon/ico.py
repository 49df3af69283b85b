"""Pictures -> one icon file: a directory of sizes, then each as BMP or PNG, whichever is smaller.

The form of a BMP entry is a BITMAPINFOHEADER, rows from the bottom as BGRA, and a mask of one bit a
pixel that says where nothing is painted, for who does not read alpha.
"""

from __future__ import annotations

import struct
from collections.abc import Sequence

import numpy as np

from riffler.color import Bytes
from riffler.encode import png

#: Reserved, type 1 for icons, number of pictures.
_HEADER = struct.Struct("<HHH")

#: Width, height (0 for 256), palette colours, reserved, planes, bits a pixel, bytes, offset.
_ENTRY = struct.Struct("<BBBBHHII")

#: Size of the header, width, twice the height, planes, bits, compression, bytes, pixels a metre
#: both ways, colours, important ones.
_BITMAP = struct.Struct("<IiiHHIIiiII")


def pack(pictures: Sequence[Bytes]) -> bytes:
    """The icon file of straight RGBA pictures, at most 256 x 256 each."""
    offset = _HEADER.size + _ENTRY.size * len(pictures)
    entries, bodies = [], []
    for picture in pictures:
        height, width = picture.shape[:2]
        body = smaller(picture)
        entries.append(_ENTRY.pack(width % 256, height % 256, 0, 0, 1, 32, len(body), offset))
        bodies.append(body)
        offset += len(body)
    return _HEADER.pack(0, 1, len(pictures)) + b"".join(entries) + b"".join(bodies)


def smaller(picture: Bytes) -> bytes:
    """The picture as a PNG, or as a BMP where that takes no more bytes."""
    as_png, as_bmp = png.encode(picture, keep_alpha=True), bitmap(picture)
    return as_png if len(as_png) < len(as_bmp) else as_bmp


def bitmap(picture: Bytes) -> bytes:
    """The picture as a BMP entry: colours, then the mask, both from the bottom row up."""
    height, width = picture.shape[:2]
    rows = picture[::-1]
    pixels = np.ascontiguousarray(rows[..., [2, 1, 0, 3]]).tobytes()
    clear = np.packbits(rows[..., 3] == 0, axis=1)
    mask = np.zeros((height, (width + 31) // 32 * 4), np.uint8)  # rows end on 32 bits
    mask[:, : clear.shape[1]] = clear
    head = _BITMAP.pack(40, width, 2 * height, 1, 32, 0, len(pixels) + mask.size, 0, 0, 0, 0)
    return head + pixels + mask.tobytes()
