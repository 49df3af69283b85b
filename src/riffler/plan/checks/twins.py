"""Slices with equal pixels, states that look like none, and shared slices that differ by page."""

from __future__ import annotations

import hashlib
from collections import defaultdict
from collections.abc import Iterator, Sequence

from riffler.color import to_bytes
from riffler.cutlist.resolved import ResolvedSlice, State
from riffler.files import as_typed
from riffler.geometry import Size
from riffler.plan.check import Check
from riffler.plan.finding import Finding
from riffler.plan.subject import Subject
from riffler.reading.intruders import differs, place_of


def _look(subjects: Sequence[Subject]) -> Iterator[Finding]:
    """Every picture against those of its size, and every shared one against its owner's."""
    yield from _equal(subjects)
    for subject in subjects:
        for slice_ in subject.pictures:
            yield from _idle_states(subject, slice_)
    owners = {
        slice_.name: (subject, slice_)
        for subject in subjects
        for slice_ in subject.slices
        if slice_.label is None
    }
    for subject in subjects:
        for slice_ in subject.borrowed:
            if slice_.role.has_files and slice_.name in owners:
                yield from _differs(subject, slice_, *owners[slice_.name])


def _equal(subjects: Sequence[Subject]) -> Iterator[Finding]:
    by_size: dict[tuple[Size, float], list[tuple[Subject, ResolvedSlice]]] = defaultdict(list)
    for subject in subjects:
        for slice_ in subject.pictures:
            by_size[slice_.box.size, slice_.density].append((subject, slice_))
    for alike in by_size.values():
        if len(alike) < 2:
            continue
        first: dict[str, tuple[Subject, ResolvedSlice]] = {}
        for subject, slice_ in alike:
            print_of = _fingerprint(subject, slice_, slice_.rest)
            _, other_resolved = first.setdefault(print_of, (subject, slice_))
            if other_resolved is slice_ or _states_tell_apart(
                subject, slice_, other_resolved, first[print_of][0]
            ):
                continue
            yield subject.finding(
                "twin",
                slice_,
                f'It has the same pixels as "{other_resolved.name}".',
                f'Cut it once and use "{other_resolved.name}" in both places.',
                about=other_resolved.entry.keys,
                pixels=slice_.box.area,
                others=(other_resolved.name,),
            )


def _states_tell_apart(
    subject: Subject, slice_: ResolvedSlice, other_resolved: ResolvedSlice, other_subject: Subject
) -> bool:
    """Whether two things to click look alike at rest, as tabs do, and may lead elsewhere."""
    if slice_.link != other_resolved.link or (slice_.link is None and len(slice_.states) > 1):
        return True
    if len(slice_.states) != len(other_resolved.states):
        return True
    mine = [_fingerprint(subject, slice_, state) for state in slice_.states[1:]]
    return mine != [
        _fingerprint(other_subject, other_resolved, state) for state in other_resolved.states[1:]
    ]


def _fingerprint(subject: Subject, slice_: ResolvedSlice, state: State) -> str:
    is_rest = state is slice_.rest
    pixels = to_bytes(subject.made(slice_) if is_rest else subject.draw(slice_, state))
    return hashlib.sha256(pixels.tobytes()).hexdigest()


def _idle_states(subject: Subject, slice_: ResolvedSlice) -> Iterator[Finding]:
    if len(slice_.states) < 2:
        return
    rest = subject.draw(slice_)
    for state in slice_.states[1:]:
        if not differs(rest, subject.draw(slice_, state)).any():
            yield subject.finding(
                "twin",
                slice_,
                f'Its state "{state.name}" looks the same as at rest.',
                "Switch the layers of the state on, or take it away.",
                about=("state", state.name),
            )


def _differs(
    subject: Subject, slice_: ResolvedSlice, other_subject: Subject, other_resolved: ResolvedSlice
) -> Iterator[Finding]:
    cut_from = as_typed(other_subject.file.path)
    page = as_typed(subject.file.path)
    if slice_.box.size != other_resolved.box.size:
        yield subject.finding(
            "differs",
            slice_,
            f"Shared with {page}, where it is {slice_.box.width} x {slice_.box.height} px, not "
            f"{other_resolved.box.width} x {other_resolved.box.height} as in {cut_from}.",
            "Give the page a slice of its own, or ask which size is meant.",
        )
        return
    changed = differs(subject.draw(slice_), other_subject.draw(other_resolved))
    if changed.any():
        count = int(changed.sum())
        yield subject.finding(
            "differs",
            slice_,
            f"Shared with {page}, where {count} px look other than in {cut_from}.",
            "Give the page a slice of its own, or ask which one is meant.",
            place=place_of(changed, slice_.box),
            pixels=count,
        )


CHECK = Check(
    "twins",
    {
        "differs": "a shared slice that is not the same on every page",
        "twin": "two slices, or states, with equal pixels",
    },
    every=_look,
)
