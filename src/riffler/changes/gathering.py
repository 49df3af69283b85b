"""Changes one by one -> the same as a person would say them: what moved together is one."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import replace

from riffler.changes.change import Change, ChangeKind
from riffler.changes.version import Version
from riffler.geometry import Rect
from riffler.mockup import address

#: The fewest things that are said to have moved together.
FEWEST = 3

#: CSS pixels by which things that moved together may have moved otherwise.
TOGETHER = 0.3

#: The share of what lies beyond a line that has to have moved for "everything below".
NEARLY_ALL = 0.9

#: In which order kinds are told.
ORDER = (
    ChangeKind.PAGE,
    ChangeKind.ADDED,
    ChangeKind.REMOVED,
    ChangeKind.SHOWN,
    ChangeKind.HIDDEN,
    ChangeKind.MOVED,
    ChangeKind.RESIZED,
    ChangeKind.WORDS,
    ChangeKind.TYPE,
    ChangeKind.RECOLOURED,
    ChangeKind.RESTYLED,
    ChangeKind.REDRAWN,
    ChangeKind.RENAMED,
    ChangeKind.REGROUPED,
    ChangeKind.REORDERED,
)


def gathered(old: Version, new: Version, changes: Sequence[Change]) -> list[Change]:
    """Things that moved the same way as one change, what shows before what does not."""
    moves = [change for change in changes if change.kind is ChangeKind.MOVED]
    other_changes = [change for change in changes if change.kind is not ChangeKind.MOVED]
    all_changes = [*_together(old, new, moves), *other_changes]
    return sorted(
        all_changes,
        key=lambda change: (not change.shows, ORDER.index(change.kind), *_place(change)),
    )


def _place(change: Change) -> tuple[float, float]:
    box = change.now or change.was
    return (box.y, box.x) if box else (0.0, 0.0)


def _together(old: Version, new: Version, moves: Sequence[Change]) -> Iterator[Change]:
    """Moves of one way and length, where a group, or all beyond a line, or a row made them."""
    by_way: dict[tuple[int, int], list[Change]] = defaultdict(list)
    for move in moves:
        by_way[round(move.dx / TOGETHER), round(move.dy / TOGETHER)].append(move)
    for same in by_way.values():
        if len(same) < FEWEST:
            yield from same
            continue
        yield from _said(old, new, same)


def _said(old: Version, new: Version, same: list[Change]) -> Iterator[Change]:
    """All beyond a line as one; else each group that moved as a whole, and what is left."""
    if where := _beyond(old, same):
        yield _joined(same, where)
        return
    left = {change.old: change for change in same}
    for group in _whole_groups(old, left):
        inside = [change for address, change in left.items() if _is_in(old, address, group)]
        for change in inside:
            del left[change.old]
        yield _joined(inside, "", group, new)
    other_changes = list(left.values())
    if len(other_changes) >= FEWEST:
        yield _joined(other_changes, f"{len(other_changes)} things")
    else:
        yield from other_changes


def _beyond(old: Version, same: Sequence[Change]) -> str:
    """Words for all that lies below a line, or right of one, when just that moved."""
    boxes = _shown(old)
    shown = [boxes[change.old] for change in same if change.old in boxes]
    if len(shown) < FEWEST:
        return ""
    top = min(box.y for box in shown) - 0.5
    moved = {change.old for change in same}
    below = [key in moved for key, box in boxes.items() if box.y >= top]
    if sum(below) < NEARLY_ALL * len(below):
        return ""
    above = [(box, key) for key, box in boxes.items() if box.y < top]
    if not above:
        return "everything"
    return _below(above, top) if same[0].dy and not same[0].dx else ""


def _shown(version: Version) -> dict[str, Rect]:
    """The boxes of all drawings that are seen."""
    rects = (
        (thing.address, version.rect(thing)) for thing in version.things if version.shows(thing)
    )
    return {item: box for item, box in rects if box is not None}


def _below(above: Sequence[tuple[Rect, str]], top: float) -> str:
    """Below which thing: the lowest that ends above the line, the widest of those."""
    ended = [(box, item) for box, item in above if box.bottom <= top + 1.5]
    if not ended:
        return f"everything below {top:g} px"
    lowest = max(box.bottom for box, _ in ended)
    near = [(box.width, item) for box, item in ended if box.bottom > lowest - 2]
    return f"everything below {address.plain(max(near)[1])}"


def _whole_groups(old: Version, moved: dict[str | None, Change]) -> Iterator[str]:
    """The outermost groups of which all that shows moved, the largest first."""
    sizes: dict[str, list[str]] = defaultdict(list)
    for thing in old.things:
        if old.rect(thing) is not None:
            for up in old.mockup.ancestors(thing.address):
                sizes[up.address].append(thing.address)
    whole = [
        group
        for group, inside in sizes.items()
        if len(inside) > 1 and all(item in moved for item in inside)
    ]
    for group in whole:
        if not any(up.address in whole for up in old.mockup.ancestors(group)):
            yield group


def _is_in(old: Version, address: str | None, group: str) -> bool:
    return address is not None and any(up.address == group for up in old.mockup.ancestors(address))


def _joined(
    same: Sequence[Change], where: str, group: str = "", new: Version | None = None
) -> Change:
    """Several moves as one."""
    first = same[0]
    was, now = (
        Rect.around(box for change in same if (box := getattr(change, side)))
        for side in ("was", "now")
    )
    shows = any(change.shows for change in same)
    pairs = tuple((change.old, change.new) for change in same)
    if group and new is not None:
        twin = _common(new, [change.new for change in same])
        return replace(first, old=group, new=twin, was=was, now=now, shows=shows, others=pairs)
    return replace(first, was=was, now=now, shows=shows, others=pairs[1:], where=where)


def _common(new: Version, addresses: Sequence[str | None]) -> str | None:
    """The innermost group around all of these."""
    chains = [
        [up.address for up in new.mockup.ancestors(address)] for address in addresses if address
    ]
    return next((up for up in chains[0] if all(up in chain for chain in chains)), None)
