"""Buttons -> slices as seen with their states, or regions of words in a box that CSS draws."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Any

from riffler.analyse.repetition import TOLERANCE, scattered
from riffler.cutlist.model import MOST, SliceTable, StateTable
from riffler.mockup.model import Layer, drawings
from riffler.plan.draft.state import Drafting, times_of
from riffler.reading import layout
from riffler.reading.clickable import Clickable
from riffler.reading.judgement import Becomes
from riffler.reading.states import states_of

#: The largest part of a button that a sign on it covers.
SIGN = 0.4


def buttons(draft: Drafting) -> None:
    """Every button; those that look and say the same are one slice, shown so often."""
    links = [
        link
        for link in draft.found.clickables
        if link.kind == "button" and link.layer.address not in draft.done
    ]
    drawn = [link for link in links if not _is_picture(draft, link)]
    alike = {members[0]: members for members in _alike(draft, drawn)}
    twins = {link for members in alike.values() for link in members[1:]}
    is_first = True
    for link in links:
        if link in alike:
            _by_css(draft, alike[link])
        elif link not in twins:
            name, values = draft.names.of(link.layer, "button"), draft.guides.span(link.box)
            is_first = not as_seen(draft, link, (), name, values, is_first) and is_first
            draft.done.update(_addresses(link.layer))


def as_seen(
    draft: Drafting,
    link: Clickable,
    alike: Sequence[Layer],
    name: str,
    values: dict[str, Any],
    is_first: bool,
) -> bool:
    """A thing to click as a slice cut as seen, with its states; the first of a kind says why.

    Returns whether it became a slice.
    """
    states = states_of(draft.reading, link, alike)
    table = SliceTable(
        **values,
        **draft.hidden_in(link.box, states.hide_at_rest),
        alt="",
        link=draft.leads_to(link.layer),
        state={state: StateTable(show=list(layers)) for state, layers in states.show.items()},
    )
    inside = tuple(below.address for below in link.layer.walk())
    why = f"A {link.kind}; its label is live text." if is_first else ""
    return draft.add(name, table, why, inside, link.box, is_click=True)


def _by_css(draft: Drafting, alike: Sequence[Clickable]) -> None:
    """Buttons that look and say the same as a region for their words."""
    where = scattered([link.box for link in alike], round(TOLERANCE * draft.reading.density))
    alike = [alike[index] for index in where.members]
    first, signs = alike[0], _signs(draft, alike)
    plates = [part for part in _drawn(draft, first.layer) if part.address not in signs]
    around = [part.address for part in plates] or [first.layer.address]
    values: dict[str, Any] = {"around": around, "role": "words"}
    if len(alike) > 1:
        values["times"] = times_of(where, len(alike))
    if target := draft.leads_to(first.layer):
        values["link"] = target  # all of them say the same
    inside = (address for link in alike for address in _addresses(link.layer))
    layers = tuple(address for address in inside if address not in signs)
    name = draft.names.of(first.layer, "button", among=len(alike), times=len(alike))
    why = _why(draft, first, plates)
    draft.add(name, SliceTable(**values), why, layers, first.box, is_click=True)


def _signs(draft: Drafting, links: Sequence[Clickable]) -> set[str]:
    """The addresses of the pictures on buttons, which are slices by themselves."""
    parts = (part for link in links for part in _drawn(draft, link.layer))
    return {part.address for part in parts if _is_sign(draft, part)}


def _alike(draft: Drafting, links: Sequence[Clickable]) -> list[list[Clickable]]:
    """Buttons in sets that a style sheet draws in one way and that have the same words."""
    kinds: dict[object, list[Clickable]] = {}
    for link in links:
        states = [(state, text) for state, _, text in _states(draft, link)]
        key = (link.box.size, _style(draft, _drawn(draft, link.layer)), *states)
        kinds.setdefault(key, []).append(link)
    sets = (same for kind in kinds.values() for same in _saying_the_same(draft, kind))
    return [same[start : start + MOST] for same in sets for start in range(0, len(same), MOST)]


def _saying_the_same(draft: Drafting, kind: Sequence[Clickable]) -> list[list[Clickable]]:
    """Buttons of one style in sets of the same words and signs, by text or else by pixels."""
    links: dict[object, list[Clickable]] = {}
    pixels: dict[tuple[Layer, ...], Clickable] = {}
    for link in kind:
        shown = (part for part in drawings([link.layer]) if part.visible)
        label = tuple(
            part for part in shown if draft.reading.is_words(part) or _is_sign(draft, part)
        )
        texts = list(filter(None, map(draft.text, label)))
        if len(kind) > 1 and len(texts) < len(label):
            pixels[label] = link
        else:
            links.setdefault(tuple(texts), []).append(link)
    return [*links.values(), *_looking_the_same(draft, pixels)]


def _looking_the_same(
    draft: Drafting, labels: dict[tuple[Layer, ...], Clickable]
) -> Iterator[list[Clickable]]:
    """Buttons in sets of which the labels are the same pixels."""
    boxes = {parts: draft.painted(parts) for parts in labels}
    same = layout.equal(draft.reading, tuple(labels), boxes)
    yield from ([labels[parts] for parts in members] for members in same)
    twins = {parts for members in same for parts in members}
    yield from ([link] for parts, link in labels.items() if parts not in twins)


def _is_picture(draft: Drafting, link: Clickable) -> bool:
    """Whether a part of a button is a picture that fills it; a sign on it is one by itself."""
    for part in _drawn(draft, link.layer):
        own_box = draft.reading.box(part)
        if own_box and _is_sign(draft, part) and own_box.area > SIGN * link.box.area:
            return True
    return False


def _is_sign(draft: Drafting, part: Layer) -> bool:
    return draft.reading.judgement(part).becomes is Becomes.PICTURE


def _drawn(draft: Drafting, layer: Layer) -> list[Layer]:
    """What a thing shows beside its words."""
    shown = (part for part in drawings([layer]) if part.visible)
    return [part for part in shown if not draft.reading.is_words(part)]


def _addresses(layer: Layer) -> list[str]:
    return [below.address for below in layer.walk()]


def _style(draft: Drafting, parts: Sequence[Layer]) -> str:
    return ", ".join(dict.fromkeys(draft.reason(part) for part in parts))


def _states(draft: Drafting, link: Clickable) -> list[tuple[str, list[str], str]]:
    """Each state, the layers that make it, and how a style sheet would say it."""
    alike = draft.found.alike.get(link.layer.address, ())
    by_address = draft.reading.mockup.by_address
    return [
        (
            state,
            layers,
            "; ".join(
                draft.reason(by_address[address])
                for address in layers
                if not by_address[address].is_group
            ),
        )
        for state, layers in states_of(draft.reading, link, alike).show.items()
    ]


def _why(draft: Drafting, link: Clickable, plates: Sequence[Layer]) -> str:
    """What a style sheet says of a button, at rest and in each of its states."""
    style = _style(draft, plates)
    text = f"A button that CSS draws ({style})" if style else "A button"
    why = [f"{text}: a region for its words."]
    for state, layers, style in _states(draft, link):
        why.append(f"{state}: {', '.join(layers)}{f' ({style})' if style else ''}")
    return "\n".join(why)
