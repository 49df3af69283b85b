"""Two versions of a mockup -> one page that shows what changed, numbered, with all in it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Any

import numpy as np
from PIL import Image

from riffler.changes.asked import Asked
from riffler.changes.change import Change, ChangeKind
from riffler.changes.version import Version
from riffler.color import Bytes
from riffler.fit.expected import drawn
from riffler.project.target import Target
from riffler.report import versus
from riffler.report.changes import entries, heading, verdict

#: Boxes that are drawn of one change up to so many.
MOST = 200


def write(asked: Sequence[Asked], target: Target) -> None:
    """Write the page; it needs no network and no other file."""
    values = {"title": "Changes", "item": "change", "nothing": "Nothing changed."}
    versus.write([_page(request) for request in asked], ("Before", "After"), values, target)


def both(asked: Asked) -> tuple[Bytes, Bytes, float]:
    """Both versions as they are drawn, straight 8-bit RGBA, at the density of the newer one."""
    old, new = asked.changed.old, asked.changed.new
    before, after = _whole(old), _whole(new)
    if old.density != new.density:
        by = new.density / old.density
        size = round(before.shape[1] * by), round(before.shape[0] * by)
        image = Image.fromarray(before).resize(size, Image.Resampling.BILINEAR)
        before = np.asarray(image)
    return before, after, new.density


def _whole(version: Version) -> Bytes:
    return drawn(version.renderer, version.mockup.box, version.mockup.drawn)


def _page(asked: Asked) -> dict[str, Any]:
    findings = []
    for number, entry in enumerate(entries(asked.changed, asked.touched), 1):
        marks = [mark for change in entry.changes for mark in _marks(change)]
        if not marks:  # what has no place is told of the whole
            marks = [{"kind": "root", "wanted": asked.changed.old.page, "found": None}]
        findings.append(
            {
                "number": number,
                "name": entry.name,
                "says": entry.says,
                "causes": entry.touches,
                "marks": marks[:MOST],
                "y": round(marks[0]["wanted"].y),
            }
        )
    return {
        **versus.pictures(*both(asked)),
        "name": asked.files[1].name,
        "against": heading(asked),
        "verdict": verdict(asked.changed),
        "findings": findings,
        "accepted": [],
    }


def _marks(change: Change) -> Iterator[dict[str, Any]]:
    """Where a thing was and is; what is in one version alone is marked there."""
    was, now = change.was or change.now, change.now or change.was
    if was is None or now is None or change.kind is ChangeKind.PAGE:
        return
    if change.was is None:
        yield {"kind": "came", "wanted": now, "found": now}
    else:
        yield {"kind": "root", "wanted": was, "found": now if change.now else None}
