"""Painted boxes by what is painted, so that later runs need not decode a layer to find its box."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass, field

from riffler.geometry import Box


def word_for(*parts: object) -> str:
    """A short word for some values: equal values give equal words. SHA-256, FIPS 180-4."""
    return hashlib.sha256("\0".join(map(str, parts)).encode()).hexdigest()


@dataclass
class KnownBoxes:
    """Boxes under fingerprints; `used` are those that were asked for or added."""

    boxes: dict[str, Box | None] = field(default_factory=dict)
    used: set[str] = field(default_factory=set)

    def __contains__(self, key: str) -> bool:
        return key in self.boxes

    def __getitem__(self, key: str) -> Box | None:
        self.used.add(key)
        return self.boxes[key]

    def __setitem__(self, key: str, box: Box | None) -> None:
        self.used.add(key)
        self.boxes[key] = box
