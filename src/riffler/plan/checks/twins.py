"""Slices with equal pixels, states that look like none, and shared slices that differ by page."""

from __future__ import annotations

import hashlib
from collections import defaultdict
from collections.abc import Iterator, Sequence

from riffler.color import to_bytes
from riffler.cutlist.resolved import ResolvedSlice, State
from riffler.files import as_typed
from riffler.geometry import Size
from riffler.plan.finding import Finding
from riffler.plan.intruders import differs, place_of
from riffler.plan.page import Page


def check(pages: Sequence[Page]) -> Iterator[Finding]:
    """Every picture against those of its size, and every shared one against its owner's."""
    yield from _equal(pages)
    for page in pages:
        for one in page.pictures:
            yield from _idle_states(page, one)
    owners = {one.name: (page, one) for page in pages for one in page.slices if not one.label}
    for page in pages:
        for one in page.bench.borrowed:
            if one.role != "words" and one.name in owners:
                yield from _differs(page, one, *owners[one.name])


def _equal(pages: Sequence[Page]) -> Iterator[Finding]:
    by_size: dict[tuple[Size, float], list[tuple[Page, ResolvedSlice]]] = defaultdict(list)
    for page in pages:
        for one in page.pictures:
            by_size[one.box.size, one.density].append((page, one))
    for alike in by_size.values():
        if len(alike) < 2:
            continue
        first: dict[str, tuple[Page, ResolvedSlice]] = {}
        for page, one in alike:
            print_of = _fingerprint(page, one, one.rest)
            _, other = first.setdefault(print_of, (page, one))
            if other is one or _states_tell_apart(page, one, other, first[print_of][0]):
                continue
            yield page.finding(
                "twin", one, f'It has the same pixels as "{other.name}".',
                f'Cut it once and use "{other.name}" in both places.',
                pixels=one.box.area, others=(other.name,),
            )  # fmt: skip


def _states_tell_apart(
    page: Page, one: ResolvedSlice, other: ResolvedSlice, other_page: Page
) -> bool:
    """Whether two things to click look alike at rest, as tabs do, but lead elsewhere."""
    if one.link is not None and one.link != other.link:
        return True
    if len(one.states) != len(other.states):
        return True
    mine = [_fingerprint(page, one, state) for state in one.states[1:]]
    return mine != [_fingerprint(other_page, other, state) for state in other.states[1:]]


def _fingerprint(page: Page, one: ResolvedSlice, state: State) -> str:
    pixels = to_bytes(page.draw(one, state))
    return hashlib.sha256(pixels.tobytes()).hexdigest()


def _idle_states(page: Page, one: ResolvedSlice) -> Iterator[Finding]:
    if len(one.states) < 2:
        return
    rest = page.draw(one)
    for state in one.states[1:]:
        if not differs(rest, page.draw(one, state)).any():
            yield page.finding(
                "twin", one, f'Its state "{state.name}" looks the same as at rest.',
                "Switch the layers of the state on, or take it away.",
            )  # fmt: skip


def _differs(
    page: Page, one: ResolvedSlice, other_page: Page, other: ResolvedSlice
) -> Iterator[Finding]:
    cut_from = as_typed(other_page.bench.file.path)
    here = as_typed(page.bench.file.path)
    if one.box.size != other.box.size:
        yield page.finding(
            "differs", one,
            f"Shared with {here}, where it is {one.box.width} x {one.box.height} px, not "
            f"{other.box.width} x {other.box.height} as in {cut_from}.",
            "Give the page a slice of its own, or ask which size is meant.",
        )  # fmt: skip
        return
    changed = differs(page.draw(one), other_page.draw(other))
    if changed.any():
        count = int(changed.sum())
        yield page.finding(
            "differs", one,
            f"Shared with {here}, where {count} px look other than in {cut_from}.",
            "Give the page a slice of its own, or ask which one is meant.",
            place=place_of(changed, one.box), pixels=count,
        )  # fmt: skip
