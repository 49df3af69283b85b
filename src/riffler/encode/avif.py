"""Straight RGBA -> AVIF bytes, by the codec's own library."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Literal

from riffler.color import Bytes
from riffler.encode.codec import LossyCodec
from riffler.encode.encoding import saved
from riffler.encode.hidden import filled
from riffler.encode.original import Original

#: The codec's speed, 0 to 10: while a search looks around, and for the file itself. At 5 that takes
#: five times as long for a twentieth of the bytes.
QUICK, BEST = 8, 6

#: What alpha is quantised by where it may be coarser than colours: the codec's level, 0 to 63.
COARSE_ALPHA = "40"


@dataclass(frozen=True)
class Avif:
    """The codec. Hues at full resolution are smaller at equal loss but for soft gradients."""

    hues: Literal["full", "half"] = "full"
    alpha: Literal["even", "coarse"] = "even"

    name = "avif"
    begins = {"clear": 62, "fair": 42}  # noqa: RUF012 - never changed
    eases = 1.2

    @property
    def setting(self) -> Mapping[str, str]:
        """The resolution of hues, and alpha where it is coarser than they are."""
        return {"hues": self.hues} | ({"alpha": "coarse"} if self.alpha == "coarse" else {})

    def variants(self, original: Original) -> list[LossyCodec]:
        """Coarse alpha where there is any; hues at half where they are soft."""
        if not original.is_opaque:
            return [self, replace(self, alpha="coarse")]
        return [self, replace(self, hues="half")] if not original.has_fine_hues else [self]

    def quick(self, straight: Bytes, quality: int) -> bytes:
        """A file of less effort, larger by a sixth."""
        return self._encoded(straight, quality, QUICK)

    def best(self, straight: Bytes, quality: int) -> bytes:
        """As much effort as is worth its time."""
        return self._encoded(straight, quality, BEST)

    def _encoded(self, straight: Bytes, quality: int, speed: int) -> bytes:
        coarse = {"codec": "aom", "advanced": {"alpha:cq-level": COARSE_ALPHA}}
        return saved(
            filled(straight),
            "AVIF",
            quality=quality,
            speed=speed,
            subsampling="4:4:4" if self.hues == "full" else "4:2:0",
            max_threads=1,
            **(coarse if self.alpha == "coarse" else {}),
        )
