"""What changed between two versions of a mockup -> lines for the terminal, and data."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

from riffler.changes.change import Change, ChangeKind
from riffler.csslength import decimal
from riffler.files import as_typed
from riffler.mockup import address
from riffler.mockup.model import Mockup
from riffler.plain import clean, plain
from riffler.report.screen import Screen
from riffler.report.wording import plural, short

if TYPE_CHECKING:
    from riffler.changes.asked import Asked
    from riffler.changes.comparison import Changed
    from riffler.changes.touching import Touched
    from riffler.changes.version import Version

#: Lines that are shown of one mockup unless all are wanted.
SHOWN = 40

#: Letters of a text that are shown.
LONG = 60


def show(screen: Screen, asked: Sequence[Asked], *, show_all: bool) -> None:
    """Every mockup with its changes, and what they touch."""
    for number, request in enumerate(asked):
        if number:
            screen.say("")
        screen.line(heading(request))
        listed = list(entries(request.changed, request.touched))
        shown = listed if show_all else listed[:SHOWN]
        for entry in shown:
            screen.line(f"  {clean(entry.name)}: {clean(entry.says)}")
            for line in entry.touches:
                screen.line(f"      {clean(line)}")
        if len(listed) > len(shown):
            screen.say(f"  And {plural(len(listed) - len(shown), 'thing')} more: --all")
        screen.line(verdict(request.changed))


def heading(asked: Asked) -> str:
    """Which versions are compared."""
    old, new = (clean(as_typed(path)) for path in asked.files)
    return f"{new} since it was last cut" if asked.is_kept else f"{old} and {new}"


def verdict(changed: Changed) -> str:
    """A mockup in one sentence."""
    if not changed.changes:
        return "Nothing changed."
    seen = [change for change in changed.changes if change.shows]
    unseen = len(changed.changes) - len(seen)
    text = plural(len(seen), "change")
    return f"{text}{f' that are seen, {unseen} that are not' if unseen else ''}."


@dataclass(frozen=True)
class ChangeEntry:
    """A thing that changed, as people read it: name, what became of it, what that touches."""

    name: str
    says: str
    touches: list[str]
    changes: tuple[Change, ...]


def entries(changed: Changed, touched: Sequence[Touched]) -> Iterator[ChangeEntry]:
    """Each thing that changed, with all that became of it."""
    tails = {version: _tails(version.mockup) for version in (changed.old, changed.new)}
    kept: dict[tuple[object, ...], list[int]] = {}
    for number, change in enumerate(changed.changes):
        is_alone = bool(change.others) or change.kind is ChangeKind.PAGE
        key = (number,) if is_alone else (change.old, change.new)
        kept.setdefault(key, []).append(number)
    for numbers in kept.values():
        changes = [changed.changes[number] for number in numbers]
        touches = [touched[number] for number in numbers] if touched else []
        shows = any(change.shows for change in changes) or changes[0].kind is ChangeKind.REORDERED
        text = ", ".join(phrase(change) for change in changes) + ("" if shows else " (hidden)")
        yield ChangeEntry(
            _name(changes[0], changed, tails), text, list(_touches(touches)), tuple(changes)
        )


def _name(change: Change, changed: Changed, tails: Mapping[Version, Counter[str]]) -> str:
    """What a thing is called: a text by its words, others by the end of their address."""
    if change.kind is ChangeKind.PAGE:
        return "The page"
    if change.where:
        return change.where[:1].upper() + change.where[1:]
    version, at = (changed.new, change.new) if change.new is not None else (changed.old, change.old)
    if at is None:
        return "the top of the stack"
    thing = version.by_address.get(at)
    if thing is not None and thing.layer.words is not None and change.kind is not ChangeKind.WORDS:
        return f'"{_short(" ".join(thing.layer.words.text.split()))}"'
    return _tail(at, tails[version])


def _ends(at: str) -> list[str]:
    """What an address ends with, from its last name alone to all of it."""
    parts = address.parts(at)
    return ["/".join(parts[start:]) for start in reversed(range(len(parts)))]


def _tails(mockup: Mockup) -> Counter[str]:
    """How many addresses end so."""
    return Counter(end for at in mockup.by_address for end in _ends(at))


def _tail(at: str, tails: Counter[str]) -> str:
    """As much of the end of an address as tells it from all others."""
    ends = _ends(at)
    return next((end for end in ends if tails[end] == 1), ends[-1])


def _apart(was: Sequence[str], now: Sequence[str]) -> tuple[str, str]:
    """Two texts by their words; of long ones what they begin with alike is left out."""
    if max(len(" ".join(was)), len(" ".join(now))) <= LONG:
        return " ".join(was), " ".join(now)
    pairs = enumerate(zip(was, now, strict=False))
    first = next(
        (number for number, (first, second) in pairs if first != second), min(len(was), len(now))
    )
    begin = max(0, first - 2)
    dots = "… " if begin else ""
    return _short(dots + " ".join(was[begin:])), _short(dots + " ".join(now[begin:]))


def _short(text: str) -> str:
    return short(text, LONG)


#: Kinds that one word says, and how the others are told.
_PLAIN = {
    ChangeKind.HIDDEN: "switched off",
    ChangeKind.SHOWN: "switched on",
    ChangeKind.REDRAWN: "drawn anew",
    ChangeKind.WORDS: "other words, or set otherwise",
    ChangeKind.TYPE: "set in another type",
}


def phrase(change: Change) -> str:
    """What became of a thing, in some words."""
    told: dict[ChangeKind, Callable[[Change], str]] = {
        ChangeKind.MOVED: _moved_together,
        ChangeKind.RESIZED: _resized,
        ChangeKind.ADDED: _came,
        ChangeKind.REMOVED: _came,
        ChangeKind.REGROUPED: _regrouped,
        ChangeKind.REORDERED: _reordered,
    }
    if change.kind in told:
        return told[change.kind](change)
    if not change.aspects:
        return _PLAIN.get(change.kind, change.kind.value)
    if change.kind is ChangeKind.WORDS:
        was, now = _apart(change.aspects[0].was.split(), change.aspects[0].now.split())
        return f'reads "{now}" instead of "{was}"'
    if change.kind is ChangeKind.RENAMED:
        return f'called "{change.aspects[0].now}" instead of "{change.aspects[0].was}"'
    return ", ".join(
        f"{aspect.what} {_short(aspect.now)} instead of {_short(aspect.was)}"
        for aspect in change.aspects
    )


def _moved_together(change: Change) -> str:
    count = len(change.others)
    is_group = count and change.old not in dict(change.others) and not change.where
    return f"{moved(change)}, with the {count} things in it" if is_group else moved(change)


def _came(change: Change) -> str:
    """What was added, or is gone."""
    is_new, box = change.kind is ChangeKind.ADDED, change.now or change.was
    size = f", {decimal(box.width, 1)} x {decimal(box.height, 1)} px" if box else ""
    at = f" at {decimal(box.x, 1)}, {decimal(box.y, 1)}" if box and is_new else ""
    inside = f", with {plural(len(change.others), 'thing')} in it" if change.others else ""
    return f"{'new' if is_new else 'gone'}{size}{at}{inside}"


def _regrouped(change: Change) -> str:
    also = f", with {plural(len(change.others), 'other')}" if change.others else ""
    return f"now in {change.aspects[0].now}, it was in {change.aspects[0].was}{also}"


def moved(change: Change) -> str:
    """How far something moved."""
    down = f"{decimal(abs(change.dy), 1)} px {'lower' if change.dy > 0 else 'higher'}"
    across = f"{decimal(abs(change.dx), 1)} px further {'right' if change.dx > 0 else 'left'}"
    return ", ".join(text for by, text in ((change.dy, down), (change.dx, across)) if by)


def _resized(change: Change) -> str:
    was, now = change.was, change.now
    sizes = [f"{decimal(box.width, 1)} x {decimal(box.height, 1)}" for box in (now, was) if box]
    place = f", {moved(change)}" if change.dx or change.dy else ""
    return f"{' px instead of '.join(sizes)}{place}"


def _reordered(change: Change) -> str:
    names = [address.plain(new) for _, new in change.others if new]
    listed = _some(names, 3)
    lies = "lies" if len(names) == 1 else "lie"
    unseen = "" if change.shows else "; nothing that is seen changes"
    return f"{listed} {lies} at another place in the stack{unseen}"


def _touches(touched: Sequence[Touched]) -> Iterator[str]:
    """What changes touch, in one line."""
    parts = []
    for kind in ("slices", "states", "guides", "tokens"):
        names = list(
            dict.fromkeys(name for one_touched in touched for name in getattr(one_touched, kind))
        )
        if names:
            parts.append(f"{kind[:-1] if len(names) == 1 else kind} {_some(names, 6)}")
    places = [
        f"{as_typed(mention.file)}:{mention.line}"
        for each_touched in touched
        for mention in each_touched.lines
    ]
    if places:
        parts.append(_some(list(dict.fromkeys(places)), 4))
    if parts:
        yield "touches " + "; ".join(parts)


def _some(names: Sequence[str], most: int) -> str:
    """The first of several names, and how many more."""
    more = f" and {len(names) - most} more" if len(names) > most else ""
    return ", ".join(names[:most]) + more


def as_data(asked: Sequence[Asked]) -> dict[str, Any]:
    """What is printed as JSON."""
    return {"mockups": [_mockup(request) for request in asked]}


def _mockup(request: Asked) -> dict[str, Any]:
    old, new = request.changed.old, request.changed.new
    return {
        "old": None if request.is_kept else as_typed(request.files[0]),
        "new": as_typed(request.files[1]),
        "density": {"old": old.density, "new": new.density},
        "matched": len(request.changed.pairs),
        "changes": [
            {"number": number, **_change(change), "touches": _touch(touch)}
            for number, (change, touch) in enumerate(
                zip(request.changed.changes, request.touched, strict=True), 1
            )
        ],
    }


def _change(change: Change) -> dict[str, Any]:
    data: dict[str, Any] = {"change": change.kind.value, "old": change.old, "new": change.new}
    if change.where:
        data["where"] = change.where
    data["shows"] = change.shows
    for side in ("was", "now"):
        box = getattr(change, side)
        rounded = {name: round(value, 2) for name, value in vars(box).items()} if box else None
        data[side] = plain(rounded)
    if change.kind in (ChangeKind.MOVED, ChangeKind.RESIZED, ChangeKind.PAGE):
        data |= plain({"dx": change.dx, "dy": change.dy, "dw": change.dw, "dh": change.dh})
    if change.aspects:
        data["aspects"] = plain(change.aspects)
    if change.others:
        data["others"] = [{"old": old, "new": new} for old, new in change.others]
    return data


def _touch(touch: Touched) -> dict[str, Any]:
    data: dict[str, Any] = plain(touch)
    return {key: value for key, value in data.items() if value}
