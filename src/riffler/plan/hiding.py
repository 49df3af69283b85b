"""A slice -> the layers that it should leave out, and the one line that says so."""

from __future__ import annotations

from collections.abc import Sequence

from riffler.cutlist.editing import value_text
from riffler.cutlist.resolved import ResolvedSlice
from riffler.geometry import Box
from riffler.mockup.model import Layer
from riffler.plan.subject import Subject

#: Text belongs to a slice that holds so much of it.
INSIDE = 0.5


def baked_in(subject: Subject, slice_: ResolvedSlice) -> Sequence[tuple[Layer, Box]]:
    """The text in a picture, and the part of the box that it paints."""
    result = []
    for layer, painted in subject.reading.near(slice_.box):
        part = painted & slice_.box
        if part.area < INSIDE * painted.area or not subject.is_on(layer, slice_.rest.shown):
            continue
        if subject.reading.is_words(layer):
            result.append((layer, part))
    return result


def line(subject: Subject, slice_: ResolvedSlice) -> str:
    """The key that leaves out all that a slice should, with what it leaves out already.

    It is one list for all findings of a slice: a key of its own replaces that of its group.
    """
    names = [
        *slice_.hidden,
        *(intruder.layer.address for intruder in subject.reaching_in(slice_)),
        *(layer.address for layer, _ in baked_in(subject, slice_)),
    ]
    return f"hide = {value_text(list(dict.fromkeys(names)))}"
