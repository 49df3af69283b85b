"""What a survey finds: its kinds, their order, and which of two speaks for one mistake."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from riffler.errors import Place
from riffler.geometry import Box

#: Every kind by its short name, as `accept` writes it, with what it means.
KINDS = {
    "reserved": "a name that some systems keep for devices",
    "clash": "names that are one file where case does not count",
    "name": "a name out of style",
    "outside": "a box that goes beyond the canvas",
    "sliver": "a box less than 3 px wide or high",
    "beside": "an edge one or two pixels beside a layer's edge",
    "gap": "a strip between two slices that neither holds",
    "overlap": "two slices that hold the same pixels in part",
    "uneven": "a row of slices of unequal height",
    "cut-off": "paint or a shadow that ends at the edge of the box",
    "intruder": "a neighbour's paint inside the box",
    "curve": "a panel cut where its edge is not straight yet",
    "seam": "a tile whose seam shows, or a hero whose ground can't go on",
    "small-tile": "a tile too small to hide that it repeats",
    "baked-text": "text inside a picture",
    "unsliced": "something to click without a slice",
    "differs": "a shared slice that is not the same on every page",
    "twin": "two slices, or states, with equal pixels",
    "enlarged": "a size larger than the mockup has pixels for",
    "icon-size": "an icon larger or smaller than the others of its set",
    "icon-centre": "an icon whose weight is off the middle",
    "alt": "no alternative text",
    "link": "no link target",
    "font": "a typeface that is missing",
}

#: Which speaks when two are about the same slice and the same place: the first of each pair.
PRECEDENCE = (
    ("clash", "name"),
    ("reserved", "name"),
    ("outside", "beside"),
    ("outside", "uneven"),
    ("sliver", "beside"),
    ("sliver", "gap"),
    ("sliver", "overlap"),
    ("sliver", "uneven"),
    ("sliver", "intruder"),
    ("cut-off", "beside"),
    ("beside", "gap"),
    ("beside", "overlap"),
    ("beside", "uneven"),
    ("beside", "intruder"),
    ("gap", "uneven"),
    ("overlap", "uneven"),
    ("overlap", "intruder"),
    ("intruder", "baked-text"),
    ("seam", "small-tile"),
    ("icon-size", "icon-centre"),
    ("twin", "alt"),
    ("differs", "twin"),
)

#: How near two places must be, in pixels, to be the same.
NEAR = 4


@dataclass(frozen=True)
class Finding:
    """One mistake: what and where it is, and what to change.

    `slice` is empty for what concerns a whole cutlist; `others` are slices it is about as well.
    `place` is in mockup pixels of the cutlist's mockup; `pixels` says how many are concerned.
    """

    kind: str
    slice: str
    message: str
    advice: str
    said_at: Place
    place: Box | None = None
    pixels: int = 0
    others: tuple[str, ...] = ()

    @property
    def slices(self) -> set[str]:
        """Every slice it is about."""
        return {self.slice, *self.others}


def settled(found: Iterable[Finding]) -> list[Finding]:
    """The findings without those that another one speaks for, by kind and place."""
    found = list(found)
    speaking = [one for one in found if not any(_speaks_for(other, one) for other in found)]
    kinds = list(KINDS)

    def order(one: Finding) -> tuple[str, int, int, str]:
        place = one.place or Box(0, 0, 0, 0)
        return str(one.said_at.path), one.said_at.line or 0, kinds.index(one.kind), str(place)

    return sorted(_once(speaking), key=order)


def _speaks_for(first: Finding, second: Finding) -> bool:
    if (first.kind, second.kind) not in PRECEDENCE or not first.slices & second.slices:
        return False
    if first.said_at.path != second.said_at.path:
        return False
    if first.place is None or second.place is None:
        return True
    return bool(first.place.grown(NEAR) & second.place.grown(NEAR))


def _once(found: Sequence[Finding]) -> list[Finding]:
    """One finding for a mistake in a slice that is repeated: the first box speaks for all."""
    seen: dict[tuple[object, ...], Finding] = {}
    for one in found:
        key = (one.kind, one.said_at.path, one.said_at.line, one.said_at.key, _side(one))
        seen.setdefault(key, one)
    return list(seen.values())


def _side(one: Finding) -> str:
    """What tells two findings of one kind in one slice apart: the sentence without its numbers."""
    return "".join(char for char in one.message if not char.isdigit())
