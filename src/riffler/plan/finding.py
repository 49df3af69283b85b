"""What a survey finds: one mistake, what tells it from others, and which of two speaks.

One mistake, one finding: checks know nothing of each other. `PRECEDENCE` in `plan/finding.py` lists
pairs of kinds; the first silences the second where they share a slice and a place. A check says
what a finding is about: that, its kind and the table it is written in are its key, so that a row
tells each of its mistakes once, and two overlaps of one slice are two.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field

from riffler.errors import Place
from riffler.geometry import Box

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

    `slice` is None for what concerns a whole cutlist; `others` are slices it is about as well.
    `key` tells one mistake from another: a slice that is repeated has each of its mistakes once.
    `place` is in mockup pixels of the cutlist's mockup; `pixels` says how many are concerned.
    """

    kind: str
    slice: str | None
    message: str
    advice: str
    said_at: Place
    key: tuple[object, ...] = field(repr=False)
    place: Box | None = None
    pixels: int = 0
    others: tuple[str, ...] = ()

    @property
    def slices(self) -> set[str | None]:
        """Every slice it is about."""
        return {self.slice, *self.others}


def distinct(findings: Iterable[Finding], kinds: Sequence[str]) -> list[Finding]:
    """Every mistake once, and without those that another one speaks for, by place and kind.

    `kinds` are all kinds in the order in which findings of one line are told.
    """
    findings = list(findings)
    by_slice = defaultdict[tuple[str, str | None], list[Finding]](list)
    for finding in findings:
        for name in finding.slices:
            by_slice[finding.kind, name].append(finding)
    speaking = [
        finding
        for finding in findings
        if not any(
            _speaks_for(other_finding, finding)
            for first, second in PRECEDENCE
            if second == finding.kind
            for name in finding.slices
            for other_finding in by_slice[first, name]
        )
    ]
    rank = {kind: index for index, kind in enumerate(kinds)}

    def order(finding: Finding) -> tuple[str, int, int, str]:
        place = finding.place or Box(0, 0, 0, 0)
        said_at = finding.said_at
        return str(said_at.path), said_at.line or 0, rank[finding.kind], str(place)

    first: dict[tuple[object, ...], Finding] = {}
    for finding in speaking:
        first.setdefault(finding.key, finding)
    return sorted(first.values(), key=order)


def _speaks_for(first: Finding, second: Finding) -> bool:
    """Whether a finding that goes before another, on the same slice, is about the same place."""
    if first.said_at.path != second.said_at.path:
        return False
    if first.place is None or second.place is None:
        return True
    return bool(first.place.grown(NEAR) & second.place.grown(NEAR))
