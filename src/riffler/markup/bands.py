"""Bands of a page -> which of them one group of the mockup holds, and nothing else does."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from riffler.markup.area import Area
from riffler.mockup import address

#: A header or a footer has so many bands at the most.
MOST = 3


def held_together(bands: Sequence[Area]) -> int:
    """How many bands, from the first on, lie in a group of their own; 1 where only it does."""
    for count in range(min(MOST, len(bands) - 1), 1, -1):
        own_group = _group_around(bands[:count])
        others = (path for band in bands[count:] for path in _paths(band))
        if own_group and not any(path[: len(own_group)] == own_group for path in others):
            return count
    return 1


def _group_around(bands: Sequence[Area]) -> list[str]:
    """The names from the top of the mockup to the deepest group that holds all of some bands."""
    paths = [path for band in bands for path in _paths(band)]
    around: list[str] = []
    for names in zip(*paths, strict=False):
        if len(set(names)) > 1:
            break
        around.append(names[0])
    return around


def _paths(band: Area) -> Iterator[list[str]]:
    """The groups around everything that is drawn in a band."""
    for area in band.walk():
        for layer in area.layers:
            yield address.parts(layer)[:-1]
