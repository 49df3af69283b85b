"""A thing -> its numbers: where it is on the canvas, on what, beside what, over which columns."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from riffler.geometry import Rect
from riffler.measure.distances import Insets, Side, insets, neighbours
from riffler.measure.frame import Frame, Span
from riffler.measure.things import MeasuredThing, Sort, Things


@dataclass(frozen=True)
class Inside:
    """Something that a thing is inside of, and how far from its sides."""

    name: str
    insets: Insets


@dataclass(frozen=True)
class Beside:
    """The nearest thing on a side, and the gap to it; the canvas where there is none."""

    name: str
    gap: float


@dataclass(frozen=True)
class Measured:
    """A thing in mockup pixels.

    `on` is the smallest thing under it that it lies on, `group` the group it stands in. `share` is
    its part of the content width, `columns` those of the grid that it begins and ends with.
    """

    thing: MeasuredThing
    canvas: Insets
    on: Inside | None
    group: Inside | None
    beside: dict[Side, Beside]
    share: float | None
    columns: Span | None


def measured(things: Things, thing: MeasuredThing, frame: Frame) -> Measured:
    """All that is to be known of one thing."""
    canvas = things.canvas.box
    around = [other_thing for other_thing in things.drawings if _is_apart(thing, other_thing)]
    has_width = thing.box.width > 0
    return Measured(
        thing,
        insets(thing.box, canvas),
        _on(thing, _below(things, thing, around)),
        _group(things, thing),
        _beside(thing, around, canvas),
        thing.box.width / frame.width if has_width and frame.width else None,
        frame.span(thing.box) if has_width else None,
    )


def _is_apart(thing: MeasuredThing, other_thing: MeasuredThing) -> bool:
    """Whether another drawing is no part of a thing, nor the thing a part of it."""
    if thing.layer is None or other_thing.layer is None:
        return True
    a, b = f"{thing.layer}/", f"{other_thing.layer}/"
    return not a.startswith(b) and not b.startswith(a)


def _below(
    things: Things, thing: MeasuredThing, around: Sequence[MeasuredThing]
) -> Sequence[MeasuredThing]:
    """The drawings that are drawn before a layer or group; any for what is no layer."""
    if thing.layer is None:
        return around
    places = {layer.address: n for n, layer in enumerate(things.opened.mockup.walk())}
    own = places[thing.layer]
    return [
        other_thing
        for other_thing in around
        if other_thing.layer and places[other_thing.layer] > own
    ]


def _on(thing: MeasuredThing, below: Sequence[MeasuredThing]) -> Inside | None:
    """The smallest drawing that holds a thing and is larger."""
    holding = [other_thing for other_thing in below if _is_larger(other_thing.box, thing.box)]
    if not holding:
        return None
    best = min(holding, key=lambda other_thing: other_thing.box.width * other_thing.box.height)
    return Inside(best.name, insets(thing.box, best.box))


def _is_larger(outer: Rect, inner: Rect) -> bool:
    """Whether a box holds another and stands out on some side."""
    return outer.contains(inner) and outer != inner


def _group(things: Things, thing: MeasuredThing) -> Inside | None:
    if thing.layer is None:
        return None
    group = next(iter(things.opened.mockup.ancestors(thing.layer)), None)
    box = things.opened.renderer.exact_box(group.address) if group else None
    return Inside(group.address, insets(thing.box, box)) if group and box else None


def _beside(
    thing: MeasuredThing, around: Sequence[MeasuredThing], canvas: Rect
) -> dict[Side, Beside]:
    """The nearest thing on each side of a thing that has sides."""
    if thing.sort in (Sort.CANVAS, Sort.GUIDE):
        return {}
    other_things = [
        other_thing
        for other_thing in around
        if not _is_larger(other_thing.box, thing.box) and not _is_larger(thing.box, other_thing.box)
    ]
    result = neighbours(thing.box, [other_thing.box for other_thing in other_things])
    rim = insets(thing.box, canvas)
    edges: dict[Side, float] = {
        "left": rim.left,
        "right": rim.right,
        "above": rim.top,
        "below": rim.bottom,
    }
    return {
        side: Beside(other_things[result[side][0]].name, result[side][1])
        if side in result
        else Beside("canvas", edge)
        for side, edge in edges.items()
    }
