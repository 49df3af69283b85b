"""Opaque RGBA -> JPEG bytes (ITU T.81), with tables and subsampling of our own choice."""

from __future__ import annotations

import io
from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np

from riffler.color import Bytes, by_pixels
from riffler.encode.codec import Effort, Settled, Try, tried
from riffler.encode.visible import Reference, oklab

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
#: screens seen from afar: half-way to even, photographs of equal structural similarity take 0.80
#: to 0.88 of the bytes; drawings with hard edges do better with the annex as it is.
MIXES = {"even": 0.4, "steep": 0.0}
TOWARDS = (16.0, 20.0)

#: The strongest half-resolution error of a hue, in Oklab, up to which hues are stored at half.
FINE_HUE = 0.035

#: Pixels from which hues are judged.
SAMPLED = 100_000

#: From this quality on hues are kept at full resolution when nobody looks: below it the loss does
#: not show.
FULL_HUES_FROM = 90

#: How much smaller a file gets when more loss is allowed, both in logarithms.
LOSS_IN_BYTES = 0.75

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
    settings = {
        "qtables": [_table(kind, quality, MIXES[tables]) for kind in (0, 1)],
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


def _table(kind: int, quality: int, mix: float) -> list[int]:
    """Annex K drawn towards even, at a quality as the usual encoders scale it."""
    flat = np.array(_ANNEX_K[kind]) ** (1 - mix) * TOWARDS[kind] ** mix
    scale = 5000 / quality if quality < 50 else 200 - 2 * quality
    return [int(value) for value in np.clip(np.floor((flat * scale + 50) / 100), 1, 255)]


def has_fine_hues(straight: Bytes) -> bool:
    """Whether hues change so sharply that half the resolution would smear them.

    straight: (H, W, 4) uint8, straight RGBA.
    """
    height, width = (side // 2 * 2 for side in straight.shape[:2])
    if min(height, width) < 4:
        return True
    step = 2 * max(1, height * width // SAMPLED)
    upper, lower = (oklab(straight[row:height:step, :width, :3])[..., 1:] for row in (0, 1))
    four = (upper[:, ::2], upper[:, 1::2], lower[:, ::2], lower[:, 1::2])
    mean = (four[0] + four[1] + four[2] + four[3]) / 4
    off = np.max([np.abs(hue - mean).max(axis=2) for hue in four], axis=0)
    return bool(np.quantile(off, 0.995) > FINE_HUE)


@dataclass(frozen=True)
class Jpeg:
    """The codec; `tables` and `hues` are settled for a picture, or usual ones by the quality."""

    tables: str | None = None
    hues: str | None = None

    name = "jpeg"
    begins = {"clear": 82, "fair": 45}  # noqa: RUF012 - never changed
    effort = Effort.BYTES

    @property
    def setting(self) -> Mapping[str, str]:
        """Tables and hues, where they are settled."""
        said = {"tables": self.tables, "hues": self.hues}
        return {key: value for key, value in said.items() if value is not None}

    def settled(self, straight: Bytes, reference: Reference, quality: int) -> Settled:
        """The tables, and where hues are fine the resolution, that serve the picture best."""
        looks: dict[Jpeg, Try] = {}

        def look(tables: str, hues: str) -> None:
            data = encode(straight, quality, tables, hues)
            looks[replace(self, tables=tables, hues=hues)] = tried(reference, data)

        def best() -> Jpeg:
            return min(looks, key=lambda codec: _worth(looks[codec]))

        for tables in MIXES:
            look(tables, "half")
        if has_fine_hues(straight):
            look(best().tables or "", "full")
        return Settled(best(), looks[best()], len(looks))

    def quick(self, straight: Bytes, quality: int) -> bytes:
        """The same pixels in more bytes."""
        return self._encoded(straight, quality, is_quick=True)

    def best(self, straight: Bytes, quality: int) -> bytes:
        """The fewest bytes."""
        return self._encoded(straight, quality, is_quick=False)

    def _encoded(self, straight: Bytes, quality: int, *, is_quick: bool) -> bytes:
        usual = "full" if quality >= FULL_HUES_FROM else "half"
        tables, hues = self.tables or "even", self.hues or usual
        return encode(straight, quality, tables, hues, is_quick=is_quick)


def _worth(look: Try) -> float:
    """The logarithm of how large a file would be at a loss of one."""
    return float(np.log(len(look.data)) + LOSS_IN_BYTES * np.log(max(look.loss, 1e-6)))
