"""Layers that moved in the mockup since the last cut, under slices that stayed."""

from __future__ import annotations

from collections.abc import Iterator

from riffler.plan.check import Check
from riffler.plan.finding import Finding
from riffler.plan.subject import Subject
from riffler.workspace.lying import complaint, moved


def _look(subject: Subject) -> Iterator[Finding]:
    for slice_ in subject.slices:
        found_moved = moved(subject.lay, subject.cutlist, slice_)
        if found_moved is not None:
            message, advice = complaint(found_moved, slice_)
            far = max(abs(found_moved.x or 0), abs(found_moved.y or 0))
            yield subject.finding("moved", slice_, message, advice, pixels=far)


CHECK = Check("moved", {"moved": "a layer that left its slice since the last cut"}, each=_look)
