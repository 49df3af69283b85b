"""Tabs -> slices with their states and links; cards and rows -> repeated regions."""

from __future__ import annotations

from typing import Any

from riffler.analyse.repetition import TOLERANCE
from riffler.cutlist.model import MOST, SliceTable, Times
from riffler.geometry import Box, union
from riffler.mockup.model import drawings
from riffler.plan.draft.buttons import as_seen, buttons
from riffler.plan.draft.state import Drafting, times_of
from riffler.reading.clickable import Clickable
from riffler.reading.rows import LOOSE, Row, plate_of

#: So many layers of a row are named one by one.
LISTED = 8


def things_to_click(draft: Drafting) -> None:
    """Everything in the mockup that a visitor clicks, and what is repeated around it."""
    is_first = True
    for row in draft.found.rows:
        if row.kind == "tabs":
            is_first = _tabs(draft, row, is_first=is_first)
    buttons(draft)
    drafted = {link.layer.address for link in draft.found.clickables if link.kind == "button"}
    for row in draft.found.rows:
        if len(row.members) > MOST:
            continue
        if row.kind == "bars":
            _bars(draft, row)
        elif row.kind != "tabs" and not all(member.address in drafted for member in row.members):
            _repeated(draft, row)


def _tabs(draft: Drafting, row: Row, *, is_first: bool) -> bool:
    """The tabs of a row; returns whether the next one is still the first to be explained."""
    first = row.boxes[0]
    leader = draft.names.of(row.members[0], "tab")
    even = row.lattice.step != (0, 0)
    for index, (layer, box) in enumerate(zip(row.members, row.boxes, strict=True)):
        name = draft.names.of(layer, "tab") if index else leader
        tab = Clickable(layer, "tab", box)
        values: dict[str, Any] = draft.guides.span(box)
        if index and even and not draft.names.is_elsewhere(leader):
            values = {"like": leader, "by": [box.x - first.x, box.y - first.y]}
        is_first = not as_seen(draft, tab, row.members, name, values, is_first) and is_first
    for member in row.members:
        draft.done.update(below.address for below in member.walk())
    return is_first


def _repeated(draft: Drafting, row: Row) -> None:
    """A row of things alike as one region for live text, repeated."""
    names = draft.names
    name = names.of_row(row.parent, row.members, row.kind)
    plates = _plates(draft, row)
    box = row.boxes[0] if plates else _common_box(row) & draft.reading.mockup.box
    children = [child for member in row.members for child in member.children]
    inside = [part.address for part in drawings(children)]
    texts = tuple(address for address in inside if address in draft.texts)
    times = times_of(row.lattice, len(row.members))
    values: dict[str, Any] = {**draft.guides.span(box), "role": "words", "times": times}
    if plates:
        values = {"role": "words", "times": Times(around=plates)}
    is_click = row.kind == "cards" and not _hold_buttons(draft, row)
    if is_click and all(targets := [*map(draft.leads_to, row.members)]):
        values["links"] = targets
    boxes = row.boxes if plates else ()
    table = SliceTable(**values)
    draft.add(name, table, _why_repeated(row), texts, box, boxes=boxes, is_click=is_click)


def _why_repeated(row: Row) -> str:
    """What is alike, and what is hidden in it."""
    called = [member.name for member in row.members]
    listed = ", ".join(called) if len(called) <= LISTED else f"{called[0]} to {called[-1]}"
    why = [f"{len(called)} {row.kind} alike: {listed}. A region for the words of each."]
    children = [child for member in row.members for child in member.children]
    if hidden := dict.fromkeys(child.name for child in children if not child.visible):
        why.append(f"Hidden in them: {', '.join(hidden)}.")
    return "\n".join(why)


def _common_box(row: Row) -> Box:
    """A box at the first of a row that is large enough for each of them."""
    first = row.boxes[0]
    return union(box.moved(first.x - box.x, first.y - box.y) for box in row.boxes)


def _plates(draft: Drafting, row: Row) -> list[str]:
    """The plates of cards that are not of one size, or items of which some have more lines.

    None of others.
    """
    across, down = [box.width for box in row.boxes], [box.height for box in row.boxes]
    density = draft.reading.density
    if row.kind == "items" and max(down) - min(down) > LOOSE * density:
        return [member.address for member in row.members]
    off = max(max(across) - min(across), max(down) - min(down))
    if row.kind != "cards" or off <= 2 * TOLERANCE * density:
        return []
    plates = [plate_of(draft.reading, member) for member in row.members]
    return [plate.address for plate in plates if plate is not None]


def _bars(draft: Drafting, row: Row) -> None:
    """The bars of a chart, each as long as it is: their sizes and places for the style sheet."""
    name = draft.names.of_row(row.parent, row.members, row.kind)
    box, (across, down) = union(row.boxes), row.lattice.step
    step = f"{across} px right" if across else f"{down} px down"
    style = draft.reason(row.members[0])
    why = f"The {len(row.members)} bars of a chart, each of its length, the next {step} ({style})."
    addresses = [member.address for member in row.members]
    table = SliceTable(role="words", times=Times(around=addresses))
    draft.add(name, table, why, tuple(addresses), box)


def _hold_buttons(draft: Drafting, row: Row) -> bool:
    """Whether cards have buttons of their own, so that it is not they that lead anywhere."""
    inside = draft.found.inside
    parts = (part for member in row.members for part in drawings([member]))
    return any(part.address in inside and inside[part.address].kind == "button" for part in parts)
