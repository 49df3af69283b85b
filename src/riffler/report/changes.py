"""What changed between two versions of a mockup -> lines for the terminal, and data."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import TYPE_CHECKING, Any

from riffler.changes.change import Change, Kind
from riffler.files import as_typed
from riffler.mockup import address
from riffler.plain import clean, plain
from riffler.report.screen import Screen
from riffler.report.wording import plural

if TYPE_CHECKING:
    from riffler.changes.answer import Changed
    from riffler.changes.asked import Asked
    from riffler.changes.touching import Touched
    from riffler.project.target import Target

#: Lines that are shown of one mockup unless all are wanted.
SHOWN = 40

#: Letters of a text that are shown.
LONG = 60


def show(screen: Screen, asked: Sequence[Asked], *, every: bool) -> None:
    """Every mockup with its changes, and what they touch."""
    for number, one in enumerate(asked):
        if number:
            screen.say("")
        screen.line(heading(one))
        lines = list(entries(one.changed, one.touched))
        shown = lines if every else lines[:SHOWN]
        for name, said, touches in shown:
            screen.line(f"  {clean(name)}: {clean(said)}")
            for line in touches:
                screen.line(f"      {clean(line)}")
        if len(lines) > len(shown):
            screen.say(f"  And {plural(len(lines) - len(shown), 'thing')} more: --all")
        screen.line(verdict(one.changed))


def heading(asked: Asked) -> str:
    """Which versions are compared."""
    old, new = (clean(as_typed(path)) for path in asked.files)
    return f"{new} since it was last cut" if asked.is_kept else f"{old} and {new}"


def verdict(changed: Changed) -> str:
    """A mockup in one sentence."""
    if not changed.changes:
        return "Nothing changed."
    seen = [one for one in changed.changes if one.shows]
    unseen = len(changed.changes) - len(seen)
    said = plural(len(seen), "change")
    return f"{said}{f' that are seen, {unseen} that are not' if unseen else ''}."


def entries(
    changed: Changed, touched: Sequence[Touched]
) -> Iterator[tuple[str, str, list[str]]]:  # fmt: skip
    """Name, what became of it, and what that touches, of each thing that changed."""
    kept: dict[tuple[object, ...], list[int]] = {}
    for number, change in enumerate(changed.changes):
        is_alone = bool(change.others) or change.kind is Kind.PAGE
        key = (number,) if is_alone else (change.old, change.new)
        kept.setdefault(key, []).append(number)
    for numbers in kept.values():
        changes = [changed.changes[number] for number in numbers]
        touches = [touched[number] for number in numbers] if touched else []
        shows = any(one.shows for one in changes) or changes[0].kind is Kind.REORDERED
        said = ", ".join(phrase(one) for one in changes) + ("" if shows else " (hidden)")
        yield name_of(changes[0], changed), said, list(_touches(touches))


def name_of(change: Change, changed: Changed) -> str:
    """What a thing is called: a text by its words, others by the end of their address."""
    if change.kind is Kind.PAGE:
        return "The page"
    if change.where:
        return change.where[:1].upper() + change.where[1:]
    version, at = (
        (changed.new, change.new) if change.new is not None else (changed.old, change.old)
    )
    if at is None:
        return "the top of the stack"
    thing = version.by_address.get(at)
    if thing is not None and thing.layer.words is not None:
        return f'"{_short(" ".join(thing.layer.words.text.split()))}"'
    return _tail(at, list(version.mockup.by_address))


def _tail(at: str, every: Sequence[str]) -> str:
    """As much of the end of an address as tells it from all others."""
    parts = address.parts(at)
    for count in range(1, len(parts) + 1):
        tail = "/".join(parts[-count:])
        if sum(one == at or "/".join(address.parts(one)[-count:]) == tail for one in every) == 1:
            return tail
    return "/".join(parts)


def _short(text: str) -> str:
    return text if len(text) <= LONG else f"{text[: LONG - 1]}…"


def phrase(change: Change) -> str:
    """What became of a thing, in some words."""
    plain_words = {
        Kind.HIDDEN: "switched off", Kind.SHOWN: "switched on", Kind.REDRAWN: "drawn anew",
        Kind.REMOVED: "gone", Kind.ADDED: "new",
    }  # fmt: skip
    match change.kind:
        case Kind.MOVED:
            said = moved(change)
            count = len(change.others)
            is_group = count and change.old not in dict(change.others) and not change.where
            return f"{said}, with the {count} things in it" if is_group else said
        case Kind.RESIZED:
            return _resized(change)
        case Kind.ADDED | Kind.REMOVED:
            box = change.now or change.was
            size = f", {_px(box.width)} x {_px(box.height)} px" if box else ""
            inside = f", with {plural(len(change.others), 'thing')} in it" if change.others else ""
            at = f" at {_px(box.x)}, {_px(box.y)}" if box and change.kind is Kind.ADDED else ""
            return f"{plain_words[change.kind]}{size}{at}{inside}"
        case Kind.WORDS if change.aspects:
            was, now = (_short(" ".join(text.split())) for text in
                        (change.aspects[0].was, change.aspects[0].now))  # fmt: skip
            return f'reads "{now}" instead of "{was}"'
        case Kind.WORDS:
            return "other words, or set otherwise"
        case Kind.RENAMED:
            return f'called "{change.aspects[0].now}" instead of "{change.aspects[0].was}"'
        case Kind.REGROUPED:
            also = f", with {plural(len(change.others), 'other')}" if change.others else ""
            return f"now in {change.aspects[0].now}, it was in {change.aspects[0].was}{also}"
        case Kind.REORDERED:
            return _reordered(change)
    if change.kind in plain_words:
        return plain_words[change.kind]
    if not change.aspects:
        return "set in another type"
    return ", ".join(
        f"{one.what} {_short(one.now)} instead of {_short(one.was)}" for one in change.aspects
    )


def moved(change: Change) -> str:
    """How far something moved."""
    down = f"{_px(abs(change.dy))} px {'lower' if change.dy > 0 else 'higher'}"
    across = f"{_px(abs(change.dx))} px further {'right' if change.dx > 0 else 'left'}"
    return ", ".join(text for by, text in ((change.dy, down), (change.dx, across)) if by)


def _resized(change: Change) -> str:
    was, now = change.was, change.now
    sizes = [f"{_px(box.width)} x {_px(box.height)}" for box in (now, was) if box]
    place = f", {moved(change)}" if change.dx or change.dy else ""
    return f"{' px instead of '.join(sizes)}{place}"


def _reordered(change: Change) -> str:
    names = [address.plain(new) for _, new in change.others if new]
    listed = ", ".join(names[:3]) + (f" and {len(names) - 3} more" if len(names) > 3 else "")
    lies = "lies" if len(names) == 1 else "lie"
    unseen = "" if change.shows else "; nothing that is seen changes"
    return f"{listed} {lies} at another place in the stack{unseen}"


def _px(value: float) -> str:
    return f"{round(value, 1):g}"


def _touches(touched: Sequence[Touched]) -> Iterator[str]:
    """What changes touch, a line a kind."""
    named = {
        "slices": [name for one in touched for name in one.slices],
        "states": [name for one in touched for name in one.states],
        "guides": [name for one in touched for name in one.guides],
        "tokens": [name for one in touched for name in one.tokens],
    }
    parts = []
    for kind, names in named.items():
        unique = list(dict.fromkeys(names))
        if unique:
            shown = ", ".join(unique[:6]) + (f" and {len(unique) - 6} more" if len(unique) > 6 else "")
            parts.append(f"{kind[:-1] if len(unique) == 1 else kind} {shown}")
    lines = list(dict.fromkeys((one.file, one.line) for each in touched for one in each.lines))
    places = [f"{as_typed(file)}:{line}" for file, line in lines]
    if places:
        parts.append(", ".join(places[:4]) + (f" and {len(places) - 4} more" if len(places) > 4 else ""))
    if parts:
        yield "touches " + "; ".join(parts)


def written(asked: Sequence[Asked], target: Target) -> str:
    """Write the page or the picture that is wanted; returns what to say of it."""
    from riffler.report import change_page, change_picture

    if target.path.suffix.lower() == ".html":
        change_page.write(asked, target)
        return f"Wrote {target.path}: open it in a browser to see where."
    change_picture.write(asked, target)
    return f"Wrote {target.path}: both versions, with the changes on them."


def as_data(asked: Sequence[Asked]) -> dict[str, Any]:
    """What is printed as JSON."""
    return {"mockups": [_mockup(one) for one in asked]}


def _mockup(one: Asked) -> dict[str, Any]:
    old, new = one.changed.old, one.changed.new
    return {
        "old": None if one.is_kept else as_typed(one.files[0]), "new": as_typed(one.files[1]),
        "density": {"old": old.density, "new": new.density},
        "matched": len(one.changed.pairs),
        "changes": [
            {"number": number, **_change(change), "touches": _touch(touch)}
            for number, (change, touch) in enumerate(
                zip(one.changed.changes, one.touched, strict=True), 1
            )
        ],
    }  # fmt: skip


def _change(change: Change) -> dict[str, Any]:
    data: dict[str, Any] = {"change": change.kind.value, "old": change.old, "new": change.new}
    if change.where:
        data["where"] = change.where
    data["shows"] = change.shows
    for side in ("was", "now"):
        box = getattr(change, side)
        data[side] = plain(box) if box else None
    if change.kind in (Kind.MOVED, Kind.RESIZED, Kind.PAGE):
        data |= plain({"dx": change.dx, "dy": change.dy, "dw": change.dw, "dh": change.dh})
    if change.aspects:
        data["aspects"] = plain(change.aspects)
    if change.others:
        data["others"] = [{"old": old, "new": new} for old, new in change.others]
    return data


def _touch(touch: Touched) -> dict[str, Any]:
    data: dict[str, Any] = plain(touch)
    return {key: value for key, value in data.items() if value}
