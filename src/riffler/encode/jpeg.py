"""Opaque RGBA -> JPEG bytes (ITU T.81), with tables and subsampling of our own choice."""

from __future__ import annotations

import io
from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np

from riffler.color import Bytes, by_pixels
from riffler.encode.codec import LossyCodec, Traits
from riffler.encode.original import Original

#: Tables for lightness and hues; ITU T.81, annex K.1, row by row.
_ANNEX_K = (
    (16, 11, 10, 16, 24, 40, 51, 61, 12, 12, 14, 19, 26, 58, 60, 55,
     14, 13, 16, 24, 40, 57, 69, 56, 14, 17, 22, 29, 51, 87, 80, 62,
     18, 22, 37, 56, 68, 109, 103, 77, 24, 35, 55, 64, 81, 104, 113, 92,
     49, 64, 78, 87, 103, 121, 120, 101, 72, 92, 95, 98, 112, 100, 103, 99),
    (17, 18, 24, 47, 99, 99, 99, 99, 18, 21, 26, 66, 99, 99, 99, 99,
     24, 26, 56, 99, 99, 99, 99, 99, 47, 66, 99, 99, 99, 99, 99, 99) + (99,) * 32,
)  # fmt: skip

#: How far tables may be drawn towards one value for all frequencies. Annex K was measured on
#: screens seen from afar: half-way to even, most pictures of equal loss take 0.90 to 0.97 of the
#: bytes; photographs do better nearer to the annex where more loss is allowed.
MIXES = {"even": 0.4, "steep": 0.1}
TOWARDS = (16.0, 20.0)

#: What the table for hues is multiplied by where they have full resolution: those of Annex K are
#: for half of it.
FULL_HUES = 0.7

#: From this quality on hues are kept at full resolution when nobody looks: below it the loss does
#: not show.
FULL_HUES_FROM = 90

#: Bytes from which a progressive file is smaller than a plain one.
PROGRESSIVE_FROM = 4_000


def encode(
    straight: Bytes,
    quality: int,
    tables: str = "even",
    hues: str = "half",
    *,
    is_quick: bool = False,
) -> bytes:
    """A JPEG at `quality` (1..100) with one of the mixes of tables; alpha is not looked at.

    Hues are stored at "half" or "full" resolution. A quick one has the same pixels in more bytes.
    """
    from PIL import Image

    height, width = straight.shape[:2]
    samples = by_pixels(straight)
    picture = Image.frombuffer("RGBX", (width, height), samples, "raw", "RGBX", 0, 1)  # no copy
    hues_count = FULL_HUES if hues == "full" else 1.0
    settings = {
        "qtables": [
            _table(kind, quality, MIXES[tables], count)
            for kind, count in ((0, 1.0), (1, hues_count))
        ],
        "subsampling": 0 if hues == "full" else 2,
        "optimize": not is_quick,
    }
    files = []
    for is_progressive in (False,) if is_quick else (True, False):
        out = io.BytesIO()
        picture.save(out, "JPEG", progressive=is_progressive, **settings)
        files.append(out.getvalue())
        if len(files[0]) > PROGRESSIVE_FROM:
            break
    return min(files, key=len)


def _table(kind: int, quality: int, mix: float, count: float) -> list[int]:
    """Annex K drawn towards even, at a quality as the usual encoders scale it, times a factor."""
    flat = np.array(_ANNEX_K[kind]) ** (1 - mix) * TOWARDS[kind] ** mix * count
    scale = 5000 / quality if quality < 50 else 200 - 2 * quality
    return [int(value) for value in np.clip(np.floor((flat * scale + 50) / 100), 1, 255)]


@dataclass(frozen=True)
class Jpeg:
    """The codec; `tables` and `hues` are settled for a picture, or usual ones by the quality."""

    tables: str | None = None
    hues: str | None = None

    name = "jpeg"
    traits = Traits(begins=74, falls=1.1, is_local=True, has_quick=True)

    @property
    def setting(self) -> Mapping[str, str]:
        """Tables and hues, where they are settled."""
        values = {"tables": self.tables, "hues": self.hues}
        return {key: value for key, value in values.items() if value is not None}

    def variants(self, original: Original) -> list[LossyCodec]:
        """Hues at either resolution where they are soft; where they are fine, steeper tables."""
        full = replace(self, tables="even", hues="full")
        if original.has_fine_hues:
            return [full, replace(full, tables="steep")]
        return [full, replace(full, hues="half")]

    def quick(self, straight: Bytes, quality: int) -> bytes:
        """The file with pixels of the best one, encoded faster and larger."""
        return self._encoded(straight, quality, is_quick=True)

    def best(self, straight: Bytes, quality: int) -> bytes:
        """The fewest bytes."""
        return self._encoded(straight, quality, is_quick=False)

    def _encoded(self, straight: Bytes, quality: int, *, is_quick: bool) -> bytes:
        usual = "full" if quality >= FULL_HUES_FROM else "half"
        tables, hues = self.tables or "even", self.hues or usual
        return encode(straight, quality, tables, hues, is_quick=is_quick)
