"""Names of slices and states: what can be a file at all, and what is sound style.

Names out of style are a mistake for `cut`, and a finding for `survey`: a cutlist is read with any
name that a file could carry, and `refuse_faults` refuses the rest where files are made.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import cached_property

#: Lower-case letters, digits and single hyphens.
SOUND = re.compile(r"[a-z0-9]+(-[a-z0-9]+)*")

#: What can stand in a file name on any system, whatever its style.
SAFE = re.compile(r"[A-Za-z0-9]([A-Za-z0-9 _-]*[A-Za-z0-9_])?")

#: Names that some systems keep for devices, with any extension.
RESERVED = {"con", "prn", "aux", "nul", *(f"{d}{n}" for d in ("com", "lpt") for n in range(1, 10))}


def refuse_unsafe(name: str) -> str:
    """The name itself. Raises ValueError for one that no file could carry."""
    if not SAFE.fullmatch(name):
        raise ValueError(f'"{name}" should be lower-case letters, digits and single hyphens')
    return name


def fault(name: str) -> str | None:
    """What is wrong with a name, as the end of a sentence; None when it is sound."""
    if name.lower() in RESERVED:
        return "is a reserved file name on some systems"
    if not SOUND.fullmatch(name):
        return "should be lower-case letters, digits and single hyphens"
    return None


def sound(name: str) -> str:
    """The nearest sound name: `Card Title 2` becomes `card-title-2`; `layer` when nothing is left.

    Letters with accents lose them; other signs become hyphens.
    """
    import unicodedata

    plain = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode()
    spread = re.sub(r"(?<=[a-z0-9])(?=[A-Z])", "-", plain)
    text = re.sub(r"[^a-z0-9]+", "-", spread.lower()).strip("-") or "layer"
    return f"{text}-one" if text in RESERVED else text


def media_query(text: str) -> str:
    """A media query as it may stand in a style sheet and in markup. Raises ValueError.

    Media Queries 4 says more; this refuses what would end the rule or the attribute around it.
    """
    depth = 0
    for sign in text:
        depth += {"(": 1, ")": -1}.get(sign, 0)
        if depth < 0:
            break
    if depth or not text.strip() or re.search(r"[;{}\"\\]", text):
        raise ValueError(f"{text!r} should be a media query, such as (max-width: 640px)")
    return text


@dataclass(frozen=True)
class NewName:
    """What a thing is called, and is to be; `count` for a row, whose slices have numbers."""

    old: str
    new: str
    count: int | None = None

    @cached_property
    def members(self) -> dict[str, str]:
        """The new name of each slice by its old one."""
        if self.count is None:
            return {self.old: self.new}
        return {f"{self.old}-{n}": f"{self.new}-{n}" for n in range(1, self.count + 1)}
