"""Slices that are sound as they are -> what would make them lighter: advice, not findings."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

from riffler.analyse.declared import declarations
from riffler.analyse.fill import colors_in
from riffler.analyse.outline import only_corners
from riffler.analyse.style import Style
from riffler.cutlist.roles import Picture
from riffler.plan.subject import Subject
from riffler.reading.reading import PHOTO

#: Formats that keep alpha and every pixel of a photograph.
HEAVY = frozenset(("png", "gif"))


@dataclass(frozen=True)
class Advice:
    """What could be better about a slice. `css` is a declaration that would do it."""

    slice: str
    kind: Literal["corners"]
    css: str


def advice(subjects: Sequence[Subject]) -> Iterator[Advice]:
    """Photographs that only their rounded corners keep from being a JPEG, which CSS could round."""
    for subject in subjects:
        for slice_ in subject.pictures:
            if not (slice_.is_alone and isinstance(slice_.role, Picture)):
                continue
            if not HEAVY.issuperset(slice_.rest.saving.save):
                continue  # a lossy format with alpha is asked for
            pixels = subject.draw(slice_)
            radii = only_corners(pixels)
            if radii is not None and colors_in(pixels) >= PHOTO:
                css = declarations(Style((), radii=radii.scaled(1 / slice_.density)))
                yield Advice(slice_.name, "corners", f"border-radius: {css['border-radius']}")
