"""The formats an asset can have, by the names that people write under `save`."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal


@dataclass(frozen=True)
class Format:
    """A file format: its one extension, and what it can hold.

    `alpha` says which transparency; `has_quality` that its codec takes one.
    """

    name: str
    extension: str
    label: str
    alpha: Literal["none", "on or off", "full"]
    has_quality: bool

    @property
    def trouble(self) -> str:
        """What to say of a picture whose transparency it can't hold."""
        kind = "" if self.alpha == "none" else "half "
        return (
            f"{self.label} has no {kind}transparency, and parts of the picture are "
            f"{kind}transparent."
        )


#: Stands for the best formats, chosen picture by picture.
AUTO = "auto"

#: A slice saved as it is drawn, from vector layers.
VECTOR = "svg"

#: Levels of visible loss that a quality may name, the strictest first.
LEVELS = ("exact", "clear", "fair")

FORMATS: dict[str, Format] = {
    "png": Format("png", "png", "PNG", alpha="full", has_quality=False),
    "jpeg": Format("jpeg", "jpg", "JPEG", alpha="none", has_quality=True),
    "webp": Format("webp", "webp", "WebP", alpha="full", has_quality=True),
    "avif": Format("avif", "avif", "AVIF", alpha="full", has_quality=True),
    "gif": Format("gif", "gif", "GIF", alpha="on or off", has_quality=False),
}

#: Formats that browsers of some years ago do not read, the one that fewest read first.
MODERN = ("avif", "webp")


def superseded(sizes: Mapping[str, int]) -> dict[str, str]:
    """The formats of a picture that are no smaller than one that more browsers read, with that one.

    `sizes` are the bytes of each format, in all sizes of the picture together.
    """
    result = {}
    for number, name in enumerate(MODERN):
        wider = [other_size for other_size in sizes if other_size not in MODERN[: number + 1]]
        smallest = min(wider, key=lambda other: sizes[other], default=None)
        if name in sizes and smallest is not None and sizes[smallest] <= sizes[name]:
            result[name] = smallest
    return result
