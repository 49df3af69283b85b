"""Straight RGBA -> AVIF bytes, by the codec's own library."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Literal

from riffler.color import Bytes
from riffler.encode.codec import LossyCodec, Traits
from riffler.encode.encoding import saved
from riffler.encode.original import Original

#: The codec's speed, 0 to 10, by effort. At 5 a file takes five times as long as at 6 for a
#: twentieth of the bytes; at 8 a quarter, for as much more on photographs, a third on flat art.
SPEEDS = {"light": 8, "full": 6}

#: Pixels from which it counts how long a file takes, and how much smaller one has to be then, as a
#: logarithm, for the full effort.
LARGE, WORTH_FULL = 100_000, 0.05

#: What alpha is quantised by where it may be coarser than colours: the codec's level, 0 to 63.
COARSE_ALPHA = "40"


@dataclass(frozen=True)
class Avif:
    """The codec. Hues at full resolution are smaller at equal loss but for soft gradients."""

    hues: Literal["full", "half"] = "full"
    alpha: Literal["even", "coarse"] = "even"
    effort: Literal["light", "full"] = "full"

    name = "avif"

    @property
    def traits(self) -> Traits:
        """With little effort others have more to spare before they are taken."""
        usual = Traits(begins=68, falls=1.9, step=2)
        return replace(usual, lead=WORTH_FULL) if self.effort == "light" else usual

    @property
    def setting(self) -> Mapping[str, str]:
        """The resolution of hues; alpha and effort where they are less than they might be."""
        less = {"alpha": self.alpha, "effort": self.effort}
        return {"hues": self.hues} | {k: v for k, v in less.items() if v not in ("even", "full")}

    def variants(self, original: Original) -> list[LossyCodec]:
        """Less effort for a large picture; coarse alpha where there is any; half hues if soft."""
        height, width = original.straight.shape[:2]
        light = [replace(self, effort="light")] if height * width >= LARGE else []
        if not original.is_opaque:
            return [*light, self, replace(self, alpha="coarse")]
        half = [] if original.small.has_fine_hues else [replace(self, hues="half")]
        return [*light, self, *half]

    def quick(self, straight: Bytes, quality: int) -> bytes:
        """The file itself."""
        return self.best(straight, quality)

    def best(self, straight: Bytes, quality: int) -> bytes:
        """As much effort as is worth its time."""
        coarse = {"codec": "aom", "advanced": {"alpha:cq-level": COARSE_ALPHA}}
        return saved(
            straight,
            "AVIF",
            quality=quality,
            speed=SPEEDS[self.effort],
            subsampling="4:4:4" if self.hues == "full" else "4:2:0",
            max_threads=1,
            **(coarse if self.alpha == "coarse" else {}),
        )
