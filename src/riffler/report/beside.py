"""A page or a picture that is wanted beside an answer -> that file, and what to say of it."""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeAlias

from riffler.project.target import Target

Write: TypeAlias = Callable[[Target], None]


def written(target: Target, page: Write, picture: Write, shows: str) -> str:
    """Write what the name's ending asks for; `shows` says what is to be seen on the picture."""
    if target.path.suffix.lower() == ".html":
        page(target)
        return f"Wrote {target.path}: open it in a browser to see where."
    picture(target)
    return f"Wrote {target.path}: {shows}."
