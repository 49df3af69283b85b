"""What is wrong on a page: its kind, its place, what to say, and the key it is accepted by."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class PageFinding:
    """One mistake, in a file below the folder; `about` tells it from others of its kind."""

    kind: str
    file: str
    line: int | None
    message: str
    about: str = ""

    @property
    def key(self) -> str:
        """What accepts it: its kind, and what it is about."""
        return f"{self.kind} {self.about or self.file}"
