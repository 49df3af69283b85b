"""The formats an asset can have, by the names that people write under `save`."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Format:
    """A file format: its one extension, and what it can hold."""

    name: str
    extension: str
    label: str
    has_alpha: bool
    is_lossy: bool


#: Stands for the best formats, chosen picture by picture.
AUTO = "auto"

#: Levels of visible loss that a quality may name.
LEVELS = ("clear", "fair")

FORMATS: dict[str, Format] = {
    "png": Format("png", "png", "PNG", has_alpha=True, is_lossy=False),
    "jpeg": Format("jpeg", "jpg", "JPEG", has_alpha=False, is_lossy=True),
    "webp": Format("webp", "webp", "WebP", has_alpha=True, is_lossy=True),
    "avif": Format("avif", "avif", "AVIF", has_alpha=True, is_lossy=True),
}
