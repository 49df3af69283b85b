"""PNG pictures -> one icon file: a directory of sizes, then the pictures themselves."""

from __future__ import annotations

import struct
from collections.abc import Sequence

from riffler.geometry import Size

#: Reserved, type 1 for icons, number of pictures.
_HEADER = struct.Struct("<HHH")

#: Width, height (0 for 256), palette colours, reserved, planes, bits a pixel, bytes, offset.
_ENTRY = struct.Struct("<BBBBHHII")


def pack(pictures: Sequence[tuple[Size, bytes]]) -> bytes:
    """The icon file. Each picture is its size, at most 256 x 256, and a PNG with alpha."""
    offset = _HEADER.size + _ENTRY.size * len(pictures)
    entries, bodies = [], []
    for size, png in pictures:
        width, height = size.width % 256, size.height % 256
        entries.append(_ENTRY.pack(width, height, 0, 0, 1, 32, len(png), offset))
        bodies.append(png)
        offset += len(png)
    return _HEADER.pack(0, 1, len(pictures)) + b"".join(entries) + b"".join(bodies)
