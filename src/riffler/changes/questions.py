"""Changes of a mockup -> the questions that they raise, for who drew it."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass

from riffler.changes.change import Change, ChangeKind
from riffler.changes.comparison import Changed
from riffler.changes.touching import Touched
from riffler.changes.version import VersionThing
from riffler.reading.layer_names import BUTTON, LINK, TAB, means, state_of

#: CSS pixels up to which something may have been moved by accident.
SLIP = 2.0

#: Things made alike, at the least, of which one is asked about by itself.
ALIKE = 3


@dataclass(frozen=True)
class Question:
    """What to ask about a change; `number` is its place in the list of all, from 0."""

    number: int
    text: str


def questions(
    changed: Changed, touched: tuple[Touched, ...], narrow: str | None = None
) -> list[Question]:
    """Every question, in the order of the changes; `narrow` is the mockup for small windows."""
    asked = [
        Question(number, text)
        for number, (change, touch) in enumerate(zip(changed.changes, touched, strict=True))
        for text in _asked(change, touch, changed)
    ]
    if narrow and any(change.shows for change in changed.changes):
        asked.append(Question(-1, f"{narrow} is as it was. Does all this hold for small windows?"))
    return asked


def _asked(change: Change, touch: Touched, changed: Changed) -> Iterator[str]:
    if not change.shows:
        return
    match change.kind:
        case ChangeKind.MOVED if max(abs(change.dx), abs(change.dy)) <= SLIP and not change.others:
            yield "So little: is it meant?"
        case ChangeKind.ADDED:
            yield from _of_added(change, changed)
        case ChangeKind.REMOVED:
            where = f" ({', '.join(touch.slices[:3])})" if touch.slices else ""
            yield f"Is it gone for good, on every page{where}?"
        case ChangeKind.RECOLOURED:
            yield from _of_color(change, touch, changed)
        case ChangeKind.REDRAWN:
            yield "Is there a new original to cut from, in every size and state?"
    if change.kind in (
        ChangeKind.RESIZED,
        ChangeKind.RESTYLED,
        ChangeKind.TYPE,
        ChangeKind.RECOLOURED,
    ):
        yield from _of_twins(change, changed)
    if change.kind in (ChangeKind.RECOLOURED, ChangeKind.RESTYLED, ChangeKind.RESIZED):
        yield from _of_states(change, changed)


def _of_added(change: Change, changed: Changed) -> Iterator[str]:
    layer = changed.new.mockup.by_address.get(change.new or "")
    if layer is not None and any(
        means(one_layer, TAB | BUTTON | LINK) for one_layer in layer.walk()
    ):
        yield "Where does it lead, and how does it look under the pointer and in focus?"
    else:
        yield "On which pages is it, and does it lead anywhere?"


def _of_color(change: Change, touch: Touched, changed: Changed) -> Iterator[str]:
    """Other things that keep the colour that this one lost."""
    for aspect in change.aspects:
        if not re.fullmatch(r"#[0-9a-f]{6}", aspect.was):
            continue
        mine = {address for pair in change.pairs for address in pair if address}
        keep = [
            thing
            for thing in changed.new.things
            if thing.address not in mine
            and changed.new.shows(thing)
            and _has_color(thing, changed, aspect.was)
        ]
        if keep:
            token = f", the token {touch.tokens[0]}," if touch.tokens else ""
            things = "thing keeps" if len(keep) == 1 else "things keep"
            yield f"{len(keep)} other {things} {aspect.was}{token}: is that meant?"


def _has_color(thing: VersionThing, changed: Changed, color: str) -> bool:
    words = thing.layer.words
    if words is not None:
        return words.color == color
    if not changed.new.mockup.is_vector:
        return False
    style = changed.new.style(thing)
    return style is not None and any(stop.color == color for stop in style.stops)


def _of_twins(change: Change, changed: Changed) -> Iterator[str]:
    """Things that were made like this one and stay as they were."""
    old = changed.old
    mine = old.by_address.get(change.old or "")
    if mine is None or change.others:
        return
    count = Counter(thing.essence for thing in old.things)[mine.essence]
    stay = sum(
        first.essence == mine.essence and second.essence == mine.essence
        for first, second in changed.pairs
    )
    if count >= ALIKE and stay:
        rest = "the other one" if stay == 1 else f"the other {stay}"
        yield f"It was one of {count} made alike: do {rest} stay as they are?"


def _of_states(change: Change, changed: Changed) -> Iterator[str]:
    """Layers of states beside it that stay as they were."""
    new = changed.new
    at = change.new or ""
    group = new.mockup.parents.get(at)
    layer = new.mockup.by_address.get(at)
    if group is None or layer is None or state_of(layer):
        return
    touched = {change.new for change in changed.changes}
    states = [
        state
        for layer in new.mockup.by_address[group].children
        if layer.address not in touched and (state := state_of(layer))
    ]
    if states:
        yield f"Its state for {' and '.join(dict.fromkeys(states))} is as it was: is that meant?"
