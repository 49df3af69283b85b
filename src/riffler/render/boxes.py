"""Boxes of layers by what they paint, so that later runs need not decode layers to find them."""

from __future__ import annotations

from dataclasses import dataclass, field
from enum import StrEnum

from riffler.geometry import Box


class Extent(StrEnum):
    """Which box of a layer is meant."""

    OWN = "own"
    """Its shapes and pixels, without shadow and glow."""
    SOLID = "solid"
    """Its solid parts, where a person sees its edges."""
    PAINTED = "painted"
    """All that it paints, shadow and glow included."""


@dataclass
class BoxMemory:
    """Boxes under the digests of what they lie around; `used` were asked for or added."""

    boxes: dict[str, Box | None] = field(default_factory=dict)
    used: set[str] = field(default_factory=set)

    def add(self, other_box_memory: BoxMemory) -> None:
        """Know what another one knows as well."""
        self.boxes.update(other_box_memory.boxes)

    def __contains__(self, digest: str) -> bool:
        return digest in self.boxes

    def __getitem__(self, digest: str) -> Box | None:
        self.used.add(digest)
        return self.boxes[digest]

    def __setitem__(self, digest: str, box: Box | None) -> None:
        self.used.add(digest)
        self.boxes[digest] = box
