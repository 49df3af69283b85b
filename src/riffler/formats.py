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


FORMATS: dict[str, Format] = {
    "png": Format("png", "png", "PNG", has_alpha=True, is_lossy=False),
    "jpeg": Format("jpeg", "jpg", "JPEG", has_alpha=False, is_lossy=True),
}
