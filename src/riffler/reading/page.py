"""A reading -> the page as a tree: rows, columns and the things in them, each with its reason.

Things come from what was found (buttons, rows of things alike, the head, drawings); what holds
what from their boxes and the stack; rows and columns from the gaps between boxes, cut one way and
then the other: Nagy and Seth, Hierarchical representation of optically scanned documents, 1984.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

from riffler.geometry import Box, union
from riffler.mockup import address
from riffler.mockup.model import Layer, drawings
from riffler.reading import head as heads
from riffler.reading import layout
from riffler.reading.clickable import Clickable, Found, find
from riffler.reading.illustration import is_illustration
from riffler.reading.judgement import Becomes, Certainty, Judgement
from riffler.reading.reading import Reading
from riffler.reading.rows import Row
from riffler.reading.wording import reason

#: How far a thing may reach beyond what holds it, in CSS pixels.
BEYOND = 2


class Kind(StrEnum):
    """What a part of a page is."""

    PAGE = "page"
    ROWS = "rows"
    COLUMNS = "columns"
    PILE = "pile"
    """Parts that lie on one another."""
    HEAD = "head"
    CARD = "card"
    ITEM = "item"
    TAB = "tab"
    BUTTON = "button"
    LOGO = "logo"
    WORDS = "words"
    PICTURE = "picture"
    ICON = "icon"
    TILE = "tile"
    BOX = "box"


@dataclass(frozen=True)
class Part:
    """One part: its box in mockup pixels, the layers it is made of, why it is what it is.

    `parts` lie beside or under one another, as `kind` says, or on it. Where things repeat, `count`
    of them stand `step` apart, right and down, and take up `whole`; `others` are the boxes of all
    but the first, whose parts `parts` are.
    """

    kind: Kind
    box: Box
    whole: Box
    layers: tuple[str, ...] = ()
    why: str = ""
    certainty: Certainty | None = None
    parts: tuple[Part, ...] = ()
    count: int = 1
    step: tuple[int, int] = (0, 0)
    others: tuple[Box, ...] = ()

    @property
    def called(self) -> str:
        """The last part of its first layer's address; empty where it has no layer of its own."""
        return address.plain(self.layers[0]) if self.layers else ""


def page(reading: Reading) -> Part:
    """The whole page."""
    canvas = reading.mockup.box
    if is_illustration(reading, reading.mockup.layers):
        layers = tuple(layer.address for layer in reading.mockup.layers)
        why = "no page: one drawing of many shapes"
        whole = Part(Kind.PICTURE, canvas, canvas, layers, why, Certainty.LIKELY)
        return Part(Kind.PAGE, canvas, canvas, parts=(whole,))
    found = find(reading)
    things = _Things(reading, found)
    parts = _nested(things.holders(), things.leaves(), round(BEYOND * reading.density))
    return Part(Kind.PAGE, canvas, canvas, parts=_cut(parts))


@dataclass
class _Thing:
    """A part with its height in the stack, from the top, and what is in it by its layers."""

    part: Part
    depth: float
    inside: frozenset[str] = frozenset()
    can_hold: bool = False


class _Things:
    """Everything that the page shows, once; of things that repeat the first."""

    def __init__(self, reading: Reading, found: Found) -> None:
        self._reading, self._found = reading, found
        self._depths = {layer.address: n for n, layer in enumerate(reading.drawings())}
        rows = [row for row in found.rows if len(row.members) > 1]
        self._skipped = {
            part.address for row in rows for member in row.members[1:] for part in member.walk()
        }
        self._rows = {row.members[0].address: row for row in rows}
        self._artwork: set[str] = set()

    def holders(self) -> list[_Thing]:
        """What is known by its layers: things to click, the first of things alike, the head."""
        found = [self._of_click(one) for one in self._found.clickables]
        clicked = {one.layer.address for one in self._found.clickables}
        found += [
            self._holder(Kind.ITEM, row.members[0], row.boxes[0], "", Certainty.LIKELY)
            for row in self._rows.values()
            if row.members[0].address not in clicked and row.kind != "bars"
        ]
        head = heads.hero(self._reading, self._found.repeated)
        if head is not None and (box := self._reading.renderer.solid_box(head.address)):
            why = "a picture from side to side at the head of the page"
            beside = heads.beside_artwork(self._reading, head, box)
            apart = {part.address for part in drawings(beside)}
            self._artwork = {part.address for part in drawings([head])} - apart
            found.append(self._holder(Kind.HEAD, head, box, why, Certainty.LIKELY))
        return [one for one in found if one.part.layers[0] not in self._skipped]

    def leaves(self) -> list[_Thing]:
        """The drawings."""
        reading = self._reading
        found = []
        for layer in reading.drawings():
            if layer.address in self._skipped or not reading.mockup.shows(layer):
                continue
            box, judgement = reading.box(layer), reading.judgement(layer)
            if layer.address in self._artwork and judgement.becomes is not Becomes.WORDS:
                continue
            if box is None or judgement.becomes is Becomes.NOTHING:
                continue
            part = Part(
                _kind_of(reading, judgement, box), box, box, (layer.address,),
                reason(judgement, reading.density), judgement.certainty,
            )  # fmt: skip
            if (row := self._rows.get(layer.address)) and row.kind == "bars":
                part = _repeated(part, row)
            depth = self._depths[layer.address]
            holds = judgement.is_rectangle or judgement.becomes in (Becomes.CSS, Becomes.TILE)
            found.append(_Thing(part, depth, can_hold=holds))
        return found

    def _of_click(self, found: Clickable) -> _Thing:
        plates = [
            part for part in drawings([found.layer])
            if part.visible and self._reading.judgement(part).becomes is Becomes.CSS
        ]  # fmt: skip
        why = f"a {found.kind}"
        if plates:
            plates.reverse()  # of equal ones the lowest: others are shades upon it
            plate = max(plates, key=lambda layer: (self._reading.box(layer) or found.box).area)
            why += f": {reason(self._reading.judgement(plate), self._reading.density)}"
        return self._holder(Kind(found.kind), found.layer, found.box, why, found.certainty)

    def _holder(self, kind: Kind, layer: Layer, box: Box, why: str, certainty: Certainty) -> _Thing:
        inside = frozenset(part.address for part in drawings([layer]))
        lowest = max((self._depths[address] for address in inside), default=0)
        part = Part(kind, box, box, (layer.address,), why, certainty)
        if row := self._rows.get(layer.address):
            part = _repeated(part, row)
        return _Thing(part, lowest + 0.5, inside, can_hold=True)


def _repeated(part: Part, row: Row) -> Part:
    said = f"{part.why}, " if part.why else ""
    why = f"{said}one of {len(row.members)} made alike"
    count, whole = len(row.members), union(row.boxes)
    others, step = row.boxes[1:], row.lattice.step
    return replace(part, whole=whole, why=why, count=count, step=step, others=others)


def _kind_of(reading: Reading, judgement: Judgement, box: Box) -> Kind:
    match judgement.becomes:
        case Becomes.WORDS:
            return Kind.WORDS
        case Becomes.CSS:
            return Kind.BOX
        case Becomes.TILE:
            return Kind.TILE
    is_small = max(box.width, box.height) <= layout.ICON * reading.density
    return Kind.ICON if is_small and not judgement.is_rectangle else Kind.PICTURE


def _nested(holders: list[_Thing], leaves: list[_Thing], beyond: int) -> list[Part]:
    """Things in what holds them: by their layers first, then by where they lie on one another."""
    everything = [*holders, *leaves]
    inside: dict[int, list[_Thing]] = {}
    top = []
    for thing in everything:
        home = _home(thing, everything, beyond)
        if home is None:
            top.append(thing)
        else:
            inside.setdefault(id(home), []).append(thing)

    def built(thing: _Thing) -> Part:
        parts = [built(one) for one in inside.get(id(thing), ())]
        if thing.inside:  # a plate that is all of it says nothing of its own
            parts = [one for part in parts for one in _opened(part, thing.part.box, beyond)]
        return replace(thing.part, parts=_cut(parts))

    return [built(thing) for thing in top]


def _opened(part: Part, whole: Box, beyond: int) -> Iterable[Part]:
    """What lies on a plate that is as large as what it is the plate of; else the part itself."""
    if part.kind is Kind.BOX and part.box.grown(beyond).contains(whole):
        return _flat(part.parts)
    return (part,)


def _flat(parts: Sequence[Part]) -> Iterable[Part]:
    """Parts without the rows and columns that were made of them."""
    for part in parts:
        if part.kind in (Kind.ROWS, Kind.COLUMNS, Kind.PILE):
            yield from _flat(part.parts)
        else:
            yield part


def _home(thing: _Thing, everything: Sequence[_Thing], beyond: int) -> _Thing | None:
    """The smallest thing that holds this one: its group, or what it lies on.

    What holds is lower in the stack or has more layers, so that nothing holds itself.
    """
    own = thing.inside or frozenset(thing.part.layers)
    homes = []
    for other in everything:
        if other is thing or not other.can_hold:
            continue
        is_part = own <= other.inside and (own < other.inside or not thing.inside)
        lies_on = other.depth > thing.depth and not thing.inside.issuperset(other.part.layers)
        if is_part or (lies_on and other.part.box.grown(beyond).contains(thing.part.box)):
            homes.append((other.part.box.area, other))
    return min(homes, key=lambda home: home[0])[1] if homes else None


def _cut(parts: Sequence[Part]) -> tuple[Part, ...]:
    """Parts in rows and columns; rows are what stands under one another without a word."""
    cut = _arranged(list(parts))
    if cut is None:
        return ()
    return cut.parts if cut.kind is Kind.ROWS else (cut,)


def _arranged(parts: list[Part]) -> Part | None:
    if len(parts) < 2:
        return parts[0] if parts else None
    whole = union(part.whole for part in parts)
    for kind, span in _WAYS:
        groups = _groups(parts, span)
        if len(groups) > 1:
            inner = tuple(part for group in groups if (part := _arranged(group)))
            return Part(kind, whole, whole, parts=inner)
    ordered = sorted(parts, key=lambda part: (-part.whole.area, part.box.y, part.box.x))
    return Part(Kind.PILE, whole, whole, parts=tuple(ordered))


_WAYS: tuple[tuple[Kind, Callable[[Box], tuple[int, int]]], ...] = (
    (Kind.ROWS, lambda box: (box.y, box.bottom)),
    (Kind.COLUMNS, lambda box: (box.x, box.right)),
)


def _groups(parts: Sequence[Part], span: Callable[[Box], tuple[int, int]]) -> list[list[Part]]:
    """Parts with a gap between one group and the next."""
    groups: list[list[Part]] = []
    end = 0
    for part in sorted(parts, key=lambda part: span(part.whole)):
        start, stop = span(part.whole)
        if groups and start < end:
            groups[-1].append(part)
            end = max(end, stop)
        else:
            groups.append([part])
            end = stop
    return groups
