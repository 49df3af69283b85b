"""Things to click that have no slice."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from riffler.geometry import Box
from riffler.mockup.model import Layer, drawings
from riffler.plan.check import Check
from riffler.plan.draft.naming import Names
from riffler.plan.finding import Finding
from riffler.plan.subject import Subject
from riffler.reading import clickable
from riffler.reading.clickable import Clickable
from riffler.reading.judgement import Becomes

#: A slice is one of a thing's own when it is at most so many times its size.
OWN = 6

#: It must hold so much of what is drawn.
HELD = 0.6


def _look(subjects: Sequence[Subject]) -> Iterator[Finding]:
    """What reads as clickable and needs a picture, against the slices of every page."""
    everywhere = {
        slice_.name for subject in subjects for slice_ in (*subject.slices, *subject.borrowed)
    }
    for subject in subjects:
        names = Names(subject.mockup)
        for thing in clickable.find(subject.reading).clickables:
            kind = thing.kind if thing.kind in ("tab", "button") else ""
            if {names.of(thing.layer, kind), names.plain(thing.layer)} & everywhere:
                continue
            lacking = [
                layer for layer in _drawn(subject, thing) if not _is_held(subject, thing, layer)
            ]
            if lacking:
                listed = ", ".join(layer.address for layer in lacking)
                yield subject.of_all(
                    "unsliced",
                    f"{thing.layer.address} reads as a {thing.kind} and has no slice.",
                    f"CSS does not draw {listed}: riffler draft --add writes a slice, or "
                    f"riffler mark NAME --around {thing.layer.address}.",
                    about=thing.layer.address,
                    place=thing.box,
                )


def _drawn(subject: Subject, thing: Clickable) -> list[Layer]:
    """The drawings of the thing that must be pictures, those of its states among them."""
    reading = subject.reading
    return [
        layer
        for layer in drawings([thing.layer])
        if not reading.is_words(layer) and reading.judgement(layer).becomes is Becomes.PICTURE
    ]


def _is_held(subject: Subject, thing: Clickable, layer: Layer) -> bool:
    box = subject.reading.painted(layer) or Box(0, 0, 0, 0)
    for held in (*subject.slices, *subject.borrowed):
        on_somewhere = any(subject.is_on(layer, state.shown) for state in held.states)
        own = held.box.area <= OWN * max(thing.box.area, box.area)
        if on_somewhere and own and (held.box & box).area >= HELD * box.area:
            return True
    return False


CHECK = Check(
    "clicks",
    {
        "unsliced": "something to click without a slice",
    },
    every=_look,
)
