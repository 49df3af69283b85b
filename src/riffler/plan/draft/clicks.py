"""Tabs and buttons -> slices with their states and links; cards and rows -> repeated regions."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from riffler.cutlist.model import SliceTable, StateTable
from riffler.geometry import Box, union
from riffler.mockup.model import Layer, drawings
from riffler.plan.draft.state import Drafting, times_of
from riffler.reading.clickable import Clickable
from riffler.reading.judgement import Becomes
from riffler.reading.rows import Row
from riffler.reading.states import states_of

#: The largest part of a button that a sign on it covers.
SIGN = 0.4


def things_to_click(draft: Drafting) -> None:
    """Everything in the mockup that a visitor clicks, and what is repeated around it."""
    is_first = True
    for row in draft.found.rows:
        if row.kind == "tabs":
            is_first = _tabs(draft, row, is_first=is_first)
    is_first = True
    for found in draft.found.clickables:
        if found.kind == "button" and found.layer.address not in draft.done:
            is_first = _button(draft, found, is_first=is_first)
    buttons = {found.layer.address for found in draft.found.clickables if found.kind == "button"}
    for row in draft.found.rows:
        if row.kind != "tabs" and not all(member.address in buttons for member in row.members):
            _repeated(draft, row)


def _tabs(draft: Drafting, row: Row, *, is_first: bool) -> bool:
    """The tabs of a row; returns whether the next one is still the first to be explained."""
    first = row.boxes[0]
    leader = draft.names.of(row.members[0], "tab")
    even = row.lattice.step != (0, 0)
    for index, (layer, box) in enumerate(zip(row.members, row.boxes, strict=True)):
        name = draft.names.of(layer, "tab") if index else leader
        tab = Clickable(layer, "tab", box)
        said: dict[str, Any] = draft.guides.span(box)
        if index and even and not draft.names.is_elsewhere(leader):
            said = {"like": leader, "by": [box.x - first.x, box.y - first.y]}
        is_first = not _as_seen(draft, tab, row.members, name, said, is_first) and is_first
    for member in row.members:
        draft.done.update(below.address for below in member.walk())
    return is_first


def _as_seen(
    draft: Drafting,
    found: Clickable,
    alike: Sequence[Layer],
    name: str,
    said: dict[str, Any],
    is_first: bool,
) -> bool:
    """A thing to click as a slice cut as seen, with its states; the first of a kind says why.

    Returns whether it became a slice.
    """
    states = states_of(draft.reading, found, alike)
    table = SliceTable(
        **said,
        **draft.hidden_in(found.box, states.hide_at_rest),
        alt="",
        link=draft.target(found.layer),
        state={state: StateTable(show=list(layers)) for state, layers in states.show.items()},
    )
    inside = tuple(below.address for below in found.layer.walk())
    why = f"A {found.kind}; its label is live text." if is_first else ""
    return draft.add(name, table, why, inside, found.box)


def _button(draft: Drafting, found: Clickable, *, is_first: bool) -> bool:
    """A button, as seen or as a region for its words; returns as `_tabs` does."""
    reading = draft.reading
    drawn = _drawn(draft, found.layer)
    name = draft.names.of(found.layer, "button")
    if any(_is_art(draft, part, found.box) for part in drawn):
        said: dict[str, Any] = draft.guides.span(found.box)
        is_first = not _as_seen(draft, found, (), name, said, is_first) and is_first
        draft.done.update(_addresses(found.layer))
        return is_first
    signs = {part.address for part in drawn if reading.judgement(part).becomes is Becomes.PICTURE}
    plates = [part for part in drawn if part.address not in signs]
    around = [part.address for part in plates] or [found.layer.address]
    table = SliceTable(around=around, role="words", link=draft.target(found.layer))
    inside = tuple(one for one in _addresses(found.layer) if one not in signs)
    draft.add(name, table, _drawn_by_css(draft, found, plates), inside, found.box)
    return is_first


def _drawn(draft: Drafting, layer: Layer) -> list[Layer]:
    """What a thing shows beside its words."""
    shown = (part for part in drawings([layer]) if part.visible)
    return [part for part in shown if not draft.reading.is_words(part)]


def _addresses(layer: Layer) -> list[str]:
    return [below.address for below in layer.walk()]


def _is_art(draft: Drafting, part: Layer, box: Box) -> bool:
    """Whether a part of a button is a picture that fills it; a sign on it is one by itself."""
    own = draft.reading.box(part)
    if own is None or draft.reading.judgement(part).becomes is not Becomes.PICTURE:
        return False
    return own.area > SIGN * box.area


def _drawn_by_css(draft: Drafting, found: Clickable, drawn: Sequence[Layer]) -> str:
    """What a style sheet says of a button, at rest and in each of its states."""
    plates = ", ".join(dict.fromkeys(draft.reason(part) for part in drawn))
    said = f"A button that CSS draws ({plates})" if plates else "A button"
    why = [f"{said}: a region for its words."]
    alike = draft.found.alike.get(found.layer.address, ())
    for state, layers in states_of(draft.reading, found, alike).show.items():
        parts = [draft.reading.mockup.by_address[address] for address in layers]
        said = "; ".join(draft.reason(part) for part in parts if not part.is_group)
        why.append(f"{state}: {', '.join(layers)}{f' ({said})' if said else ''}")
    return "\n".join(why)


def _repeated(draft: Drafting, row: Row) -> None:
    """A row of things alike as one region for live text, repeated."""
    names = draft.names
    name = names.of_row(row.parent, row.kind)
    size = union(box.moved(row.boxes[0].x - box.x, row.boxes[0].y - box.y) for box in row.boxes)
    box = size & draft.reading.mockup.box
    texts = tuple(
        drawing.address for member in row.members for drawing in drawings(member.children)
        if drawing.address in draft.texts
    )  # fmt: skip
    listed = ", ".join(member.name for member in row.members)
    why = [f"{len(row.members)} {row.kind} alike: {listed}. A region for the words of each."]
    children = [child for member in row.members for child in member.children]
    if hidden := dict.fromkeys(child.name for child in children if not child.visible):
        why.append(f"Hidden in them: {', '.join(hidden)}.")
    said: dict[str, Any] = {
        **draft.guides.span(box),
        "role": "words",
        "times": times_of(row.lattice, len(row.members)),
    }
    if row.kind == "cards":
        said["links"] = [draft.target(member) for member in row.members]
    draft.add(name, SliceTable(**said), "\n".join(why), texts, box)
