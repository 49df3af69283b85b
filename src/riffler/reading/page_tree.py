"""A reading -> the page as a tree: rows, columns and the things in them, each with its reason.

Things come from what was found (buttons, rows of things alike, the head, drawings); what holds
what from their boxes and the stack; rows and columns from the gaps between them (`arranging`).

The page as a tree nests things by their groups and by what they lie on, and cuts what is left into
rows and columns at its gaps. Columns that are not in step go before rows; things alike are split
where others stand between them; a thin line goes on from the text beside it.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from riffler.geometry import Box, union
from riffler.mockup.model import Layer, drawings
from riffler.reading import head as heads
from riffler.reading.arranging import Arranging
from riffler.reading.clickable import Clickable, Found, find
from riffler.reading.icon_sets import has_size_of_icon
from riffler.reading.illustration import is_illustration
from riffler.reading.judgement import Becomes, Certainty, Judgement
from riffler.reading.part import PagePart, PartKind
from riffler.reading.reading import Reading
from riffler.reading.rows import Row
from riffler.reading.wording import reason
from riffler.sides import sides_of

#: How far a thing may reach beyond what holds it, in CSS pixels.
BEYOND = 2

#: Share of a thing that its plate covers at least.
PLATE = 0.8


def page(reading: Reading) -> PagePart:
    """The whole page."""
    canvas = reading.mockup.box
    if is_illustration(reading, reading.mockup.layers):
        layers = tuple(layer.address for layer in reading.mockup.layers)
        why = "no page: one drawing of many shapes"
        whole = PagePart(PartKind.PICTURE, canvas, canvas, layers, why, Certainty.LIKELY)
        return PagePart(PartKind.PAGE, canvas, canvas, parts=(whole,))
    clickables = find(reading)
    things = _Things(reading, clickables)
    arranging = Arranging(reading.density)
    parts = _nested([*things.holders(), *things.leaves()], arranging)
    return PagePart(PartKind.PAGE, canvas, canvas, parts=arranging.cut(parts))


@dataclass
class _Thing:
    """A part with its height in the stack, from the top, and what is in it by its layers.

    `row` is what it stands in with others alike; the first of them stands for all.
    """

    part: PagePart
    depth: float
    inside: frozenset[str] = frozenset()
    can_hold: bool = False
    row: Row | None = None

    @property
    def follows(self) -> bool:
        """Whether another thing stands for it."""
        return self.row is not None and self.row.members[0].address != self.part.layers[0]


class _Things:
    """Everything that the page shows, once."""

    def __init__(self, reading: Reading, clickables: Found) -> None:
        self._reading, self._found = reading, clickables
        self._depths = {layer.address: n for n, layer in enumerate(reading.drawings())}
        self._rows = {
            member.address: row
            for row in clickables.rows
            for member in row.members
            if len(row.members) > 1
        }
        self._artwork: set[str] = set()

    def holders(self) -> list[_Thing]:
        """What is known by its layers: things to click, things alike, the head."""
        things = {link.layer.address: self._of_click(link) for link in self._found.clickables}
        for row in self._found.rows:
            if row.kind == "bars" or len(row.members) < 2:
                continue
            for member, box in zip(row.members, self._plated(row), strict=True):
                if member.address not in things:
                    things[member.address] = self._holder(
                        PartKind.ITEM, member, box, "", Certainty.LIKELY
                    )
        head = heads.hero(self._reading, self._found.repeated)
        whole = self._reading.renderer.solid_box(head.address) if head is not None else None
        if head is not None and whole is not None:
            why = "a picture from side to side at the head of the page"
            beside = heads.beside_artwork(self._reading, head, whole)
            apart = {part.address for part in drawings(beside)}
            self._artwork = {part.address for part in drawings([head])} - apart
            things[head.address] = self._holder(PartKind.HEAD, head, whole, why, Certainty.LIKELY)
        return list(things.values())

    def _plated(self, row: Row) -> list[Box]:
        """The boxes of things alike: those of their plates, which some of them may lack."""
        plates = list(map(self._plate, row.members, row.boxes))
        pairs = [(plate, box) for plate, box in zip(plates, row.boxes, strict=True) if plate]
        if not pairs:
            return list(row.boxes)
        plate, box = sorted(pairs, key=lambda pair: pair[0].height)[len(pairs) // 2]
        lacking = [plate.moved(own.x - box.x, own.y - box.y) for own in row.boxes]
        return [own or other for own, other in zip(plates, lacking, strict=True)]

    def _plate(self, member: Layer, box: Box) -> Box | None:
        """The box of the plate that nearly all of a thing lies on, if one does."""
        parts = [part for part in drawings([member]) if self._reading.mockup.shows(part)]
        boxes = {part.address: self._reading.box(part) for part in parts}
        whole = union([box, *filter(None, boxes.values())])
        plates = [
            plate
            for part in parts
            if (plate := boxes[part.address]) is not None
            and plate.area >= PLATE * whole.area
            and self._reading.judgement(part).becomes is Becomes.CSS
        ]
        return max(plates, key=lambda plate: plate.area, default=None)

    def leaves(self) -> list[_Thing]:
        """The drawings."""
        reading = self._reading
        things = []
        for layer in reading.drawings():
            if not reading.mockup.shows(layer):
                continue
            box, judgement = reading.box(layer), reading.judgement(layer)
            if layer.address in self._artwork and judgement.becomes is not Becomes.WORDS:
                continue
            if box is None or judgement.becomes is Becomes.NOTHING:
                continue
            part = PagePart(
                _kind_of(reading, judgement, box),
                box,
                box,
                (layer.address,),
                reason(judgement, reading.density),
                judgement.certainty,
            )
            row = self._rows.get(layer.address)
            row = row if row and row.kind == "bars" else None
            depth = self._depths[layer.address]
            holds = judgement.is_rectangle or judgement.becomes in (Becomes.CSS, Becomes.TILE)
            things.append(_Thing(part, depth, can_hold=holds, row=row))
        return things

    def _of_click(self, link: Clickable) -> _Thing:
        plates = [
            part
            for part in drawings([link.layer])
            if part.visible and self._reading.judgement(part).becomes is Becomes.CSS
        ]
        why = f"a {link.kind}"
        if plates:
            plates.reverse()  # of equal ones the lowest: others are shades upon it
            plate = max(plates, key=lambda layer: (self._reading.box(layer) or link.box).area)
            why += f": {reason(self._reading.judgement(plate), self._reading.density)}"
        return self._holder(PartKind(link.kind), link.layer, link.box, why, link.certainty)

    def _holder(
        self, kind: PartKind, layer: Layer, box: Box, why: str, certainty: Certainty
    ) -> _Thing:
        inside = frozenset(part.address for part in drawings([layer]))
        lowest = max((self._depths[address] for address in inside), default=0)
        part = PagePart(kind, box, box, (layer.address,), why, certainty)
        return _Thing(part, lowest + 0.5, inside, can_hold=True, row=self._rows.get(layer.address))


def _repeated(part: PagePart, row: Row, other_parts: Sequence[PagePart]) -> PagePart:
    """A part that stands for all that are made alike."""
    whole = union((part.box, *(other_part.box for other_part in other_parts)))
    return replace(
        part,
        whole=whole,
        count=1 + len(other_parts),
        step=row.lattice.step,
        others=tuple(other_parts),
    )


def _kind_of(reading: Reading, judgement: Judgement, box: Box) -> PartKind:
    match judgement.becomes:
        case Becomes.WORDS:
            return PartKind.WORDS
        case Becomes.CSS:
            return PartKind.BOX
        case Becomes.TILE:
            return PartKind.TILE
    is_small = has_size_of_icon(box, reading.density)
    return PartKind.ICON if is_small and not judgement.is_rectangle else PartKind.PICTURE


def _nested(everything: Sequence[_Thing], arranging: Arranging) -> list[PagePart]:
    """Things in what holds them: by their layers first, then by where they lie on one another."""
    beyond = round(BEYOND * arranging.density)
    inside: dict[int, list[_Thing]] = {}
    top, homes = [], _Homes(everything, beyond)
    alike: dict[str, list[_Thing]] = {}
    for thing in everything:
        if thing.row and thing.follows:
            alike.setdefault(thing.row.members[0].address, []).append(thing)
            continue
        home = homes.of(thing)
        if home is None:
            top.append(thing)
        else:
            inside.setdefault(id(home), []).append(thing)

    def built(thing: _Thing) -> PagePart:
        parts = [built(one_thing) for one_thing in inside.get(id(thing), ())]
        if thing.inside:  # a plate that is all of it says nothing of its own
            parts = [
                one_part for part in parts for one_part in _opened(part, thing.part.box, beyond)
            ]
        whole = replace(thing.part, parts=arranging.cut(parts))
        if thing.row is None or thing.follows:
            return whole
        return _repeated(whole, thing.row, [built(thing) for thing in alike[whole.layers[0]]])

    return [built(thing) for thing in top]


def _opened(part: PagePart, whole: Box, beyond: int) -> Iterable[PagePart]:
    """What lies on a plate that is as large as what it is the plate of; else the part itself."""
    if part.kind is PartKind.BOX and part.box.grown(beyond).contains(whole):
        return _flat(part.parts)
    return (part,)


def _flat(parts: Sequence[PagePart]) -> Iterable[PagePart]:
    """Parts without the rows and columns that were made of them."""
    for part in parts:
        if part.kind in (PartKind.ROWS, PartKind.COLUMNS, PartKind.PILE):
            yield from _flat(part.parts)
        else:
            yield part


class _Homes:
    """What may hold things, to be asked which does: by layers, and by where it lies."""

    def __init__(self, everything: Sequence[_Thing], beyond: int) -> None:
        self._holders = [thing for thing in everything if thing.can_hold]
        self._with: dict[str, list[int]] = {}
        for number, holder in enumerate(self._holders):
            for address in holder.inside:
                self._with.setdefault(address, []).append(number)
        self._sides = sides_of(holder.part.box.grown(beyond) for holder in self._holders)
        self._depths = np.array([holder.depth for holder in self._holders])

    def of(self, thing: _Thing) -> _Thing | None:
        """The smallest thing that holds this one: its group, or what it lies on.

        What holds is lower in the stack or has more layers, so that nothing holds itself.
        """
        own = thing.inside or frozenset(thing.part.layers)
        around, homes = self._around(thing), []
        for number in sorted({*self._with.get(next(iter(own), ""), ()), *around}):
            holder = self._holders[number]
            if holder is thing:
                continue
            is_part = own <= holder.inside and (own < holder.inside or not thing.inside)
            lies_on = number in around and not thing.inside.issuperset(holder.part.layers)
            if is_part or lies_on:
                homes.append((holder.part.box.area, number))
        return self._holders[min(homes)[1]] if homes else None

    def _around(self, thing: _Thing) -> set[int]:
        """Numbers of the things below `thing` in the stack whose box holds it."""
        box = thing.part.box
        around = self._sides <= (box.x, box.y, -box.right, -box.bottom)
        lower = around.all(axis=1) & (self._depths > thing.depth)
        return set(np.flatnonzero(lower).tolist())
