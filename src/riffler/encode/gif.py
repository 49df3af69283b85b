"""A palette picture -> the bytes of a GIF (version 89a), by the codec's own library."""

from __future__ import annotations

import io

import numpy as np
import numpy.typing as npt

#: Colours that a GIF can hold, the clear one among them.
MOST = 256


def encode(colors: npt.NDArray[np.uint8], indexes: npt.NDArray[np.int64]) -> bytes:
    """A GIF. colors: (N, 4) uint8, N at most 256, with alpha 0 or 255; indexes: (H, W)."""
    from PIL import Image

    clear = np.flatnonzero(colors[:, 3] < 128)
    if clear.size > 1:  # one colour alone may be the clear one
        indexes = np.where(np.isin(indexes, clear), clear[0], indexes)
    picture = Image.fromarray(indexes.astype(np.uint8))
    picture.putpalette(colors[:, :3].tobytes())
    shown = {"transparency": int(clear[0])} if clear.size else {}
    out = io.BytesIO()
    picture.save(out, "GIF", optimize=False, **shown)
    return out.getvalue()
