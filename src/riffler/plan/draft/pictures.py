"""Drawings that must be pictures -> slices: the hero, pictures and icons, tiles, flat rows."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, TypeVar

from riffler.analyse.bands import row_boxes, row_edges
from riffler.analyse.repetition import TOLERANCE, scattered
from riffler.cutlist.model import MOST, Common, SliceTable, Times
from riffler.cutlist.sound_names import sound
from riffler.geometry import Box
from riffler.mockup.model import Layer, drawings
from riffler.plan.draft.saving import saved
from riffler.plan.draft.state import Drafting, times_of
from riffler.reading import head as heads
from riffler.reading import layout
from riffler.reading.icon_sets import Drawing, icon_canvas, icon_sets
from riffler.reading.judgement import Becomes, Evidence
from riffler.reading.squares import Squares
from riffler.reading.wording import reason

#: The part of a tile without a step in which its edges fade into each other.
FADING = 6


def hero(draft: Drafting, layer: Layer) -> None:
    """The large picture at the head of the page."""
    reading = draft.reading
    box = reading.renderer.solid_box(layer.address)
    assert box is not None
    box = box & reading.mockup.box
    beside = heads.beside_artwork(reading, layer, box)
    upon = list(heads.upon(reading, layer, box))
    apart = {part.address for part in drawings(beside)}
    inside = [
        part.address
        for part in drawings([layer])
        if not reading.is_words(part) and part.address not in apart
    ]
    name = draft.names.of(layer, what="hero")
    table = SliceTable(
        **draft.guides.span(box),
        **draft.hidden_in(box, [layer.address for layer in (*upon, *beside)]),
    )
    why = "The head of the page, without its words"
    why += " and what lies on the artwork." if beside or upon else "."
    draft.add(name, table, why, tuple(inside), box)


def no_page(draft: Drafting) -> None:
    """A mockup that is one illustration, as one picture."""
    mockup = draft.reading.mockup
    name = draft.names.free(sound(mockup.path.stem))
    table = SliceTable(**draft.guides.span(mockup.box))
    why = "No page, by all that shows: one drawing of many shapes."
    draft.add(name, table, why, tuple(mockup.by_address), mockup.box)


def pictures(draft: Drafting) -> None:
    """Every drawing that must be a picture; equal ones once, small ones alike as a set."""
    result = layout.pictures(draft.reading, draft.done)
    squares = _squares(draft, result)
    boxes = {layers: squares.get(layers) or draft.painted(layers) for layers in result}
    icons = _icons(draft, boxes, squares)
    for layers, place in _places(draft, result, boxes).items():
        if layers in icons:
            keys: dict[str, Any] = {"in_": icons[layers]} if icons[layers] else {}
            if square := squares.get(layers):
                keys["at"] = [square.x, square.y, square.width, square.height]
                if not icons[layers]:
                    keys |= {"role": "icon", "alt": "", "frame": keys["at"][2:]}
            _icon(draft, layers, boxes[layers], place, keys)
        else:
            _picture(draft, layers, boxes[layers], place)


def _icons(
    draft: Drafting, boxes: Mapping[Drawing, Box], squares: Mapping[Drawing, Box]
) -> dict[Drawing, str]:
    """The group of each icon; all of a group have a canvas of one size, or their own squares.

    The only one with its square has no group.
    """
    logos = [link.layer for link in draft.found.clickables if link.kind == "logo"]
    other_boxes = {layers: box for layers, box in boxes.items() if layers[0] not in logos}
    sets = icon_sets(draft.reading, other_boxes)
    of_a_side = [part for icon_set in sets for part in _of_a_side(icon_set, squares)]
    together = [part for part in of_a_side if len(part) > 1 or part[0] not in squares]
    icons = {part[0]: "" for part in of_a_side if part not in together}
    for number, icon_set in enumerate(together, start=1):
        group = "icons" if number == 1 else f"icons-{number}"
        draft.groups[group] = _in_common(draft, icon_set, boxes, squares)
        icons.update(dict.fromkeys(icon_set, group))
    return icons


def _in_common(
    draft: Drafting,
    icon_set: Sequence[Drawing],
    boxes: Mapping[Drawing, Box],
    squares: Mapping[Drawing, Box],
) -> tuple[Common, str]:
    """What icons of a group have in common, and why they are one."""
    kept = [saved(draft, layers, boxes[layers]) for layers in icon_set]
    save = kept[0] if all(kept) else {}
    side = icon_canvas([boxes[layers] for layers in icon_set], draft.reading.density)
    has_squares = any(layers in squares for layers in icon_set)
    frame = None if side is None or has_squares else [side, side]
    why = "Icons on one canvas, for decoration beside their words."
    return Common(role="icon", alt="", frame=frame, **save), why


def _of_a_side(icons: list[Drawing], squares: Mapping[Drawing, Box]) -> Iterator[list[Drawing]]:
    """A set of icons, those apart whose squares are of other sizes: they share a canvas."""
    sizes = [squares[layers].size if layers in squares else None for layers in icons]
    for size in dict.fromkeys(sizes):
        yield [layers for layers, own in zip(icons, sizes, strict=True) if own == size]


def _squares(draft: Drafting, groups: Sequence[Drawing]) -> dict[Drawing, Box]:
    """The squares that pictures of one drawing were drawn on, where the mockup tells."""
    known = Squares(draft.reading)
    found = ((layers, known.of(layers[0])) for layers in groups if len(layers) == 1)
    return {layers: square for layers, square in found if square}


Member = TypeVar("Member")


@dataclass(frozen=True)
class _Places:
    """Where equal pictures are shown, with all the drawings that they are."""

    layers: Drawing
    times: Times | None = None

    @property
    def addresses(self) -> tuple[str, ...]:
        """Of all the drawings."""
        return tuple(layer.address for layer in self.layers)

    @property
    def key(self) -> dict[str, Any]:
        """What the table says of it."""
        return {} if self.times is None else {"times": self.times}


def _places(
    draft: Drafting, groups: Sequence[Drawing], boxes: Mapping[Drawing, Box]
) -> dict[Drawing, _Places]:
    """Every picture, or the first of equal ones, with where it is shown."""
    places = {layers: _Places(layers) for layers in groups}
    tolerance = round(TOLERANCE * draft.reading.density)
    for members in _at_most(MOST, layout.equal(draft.reading, groups, boxes)):
        where = scattered([boxes[member] for member in members], tolerance)
        first, *others = (members[index] for index in where.members)
        all_layers = (*first, *(layer for other_layers in others for layer in other_layers))
        places[first] = _Places(all_layers, times_of(where, len(where.members), same=True))
        for other_other_layers in others:
            del places[other_other_layers]
    return places


def _at_most(count: int, sets: Iterable[list[Member]]) -> Iterator[list[Member]]:
    """The sets, each cut into parts of at most `count` members."""
    for members in sets:
        yield from (members[start : start + count] for start in range(0, len(members), count))


def _icon(
    draft: Drafting, layers: Drawing, box: Box, place: _Places, keys: Mapping[str, Any]
) -> None:
    addresses = [layer.address for layer in layers]
    table = SliceTable(**keys, only=addresses, **place.key)
    name = draft.names.of(layers[0], what="icon", among=len(place.layers))
    draft.add(name, table, "", place.addresses, box)


def _alt(draft: Drafting, layers: Sequence[Layer]) -> dict[str, Any]:
    """The alternative text that the mockup itself gives: the title of the thing alike it is in.

    A sign of one colour is decoration. Left open for any other: what a layer is called is not what
    it shows.
    """
    if title := draft.title_beside(layers):
        return {"alt": title}
    judgement = draft.reading.judgement(layers[0])
    is_shape = judgement.evidence is Evidence.ODD_SHAPE and judgement.is_flat
    is_sign = is_shape and len(layers) == 1 and not layers[0].is_group
    return {"alt": ""} if is_sign else {}


def _picture(draft: Drafting, layers: Drawing, box: Box, place: _Places) -> None:
    is_logo = any(
        link.kind == "logo" and link.layer is layers[0] for link in draft.found.clickables
    )
    name = draft.names.of(layers[0], "logo" if is_logo else "", "picture", len(place.layers))
    addresses = [layer.address for layer in layers]
    save = saved(draft, layers, box)
    values: dict[str, Any] = {"only": addresses, **_alt(draft, place.layers), **place.key, **save}
    why = f"{'the logo: ' if is_logo else ''}{draft.reason(layers[0])}."
    why = why[0].upper() + why[1:]
    draft.add(name, SliceTable(**values), why, place.addresses, box, is_click=is_logo)


def tiles(draft: Drafting) -> None:
    """Every texture that repeats, as a chunk of one period."""
    for layer in draft.reading.drawings():
        if not draft.is_open(layer):
            continue
        judgement, box = draft.reading.judgement(layer), draft.reading.box(layer)
        if box is None or judgement.becomes is not Becomes.TILE:
            continue
        assert judgement.period is not None
        width, height = judgement.period
        room = min(width, height) // FADING if judgement.evidence is Evidence.GRAIN else 0
        soften: dict[str, Any] = {"soften": room} if room else {}
        x, y = _open_corner(draft, box, width + room, height + room)
        table = SliceTable(
            at=[x, y, width, height],
            only=[layer.address],
            role="tile",
            repeat=judgement.repeat,
            alt="",
            **soften,
        )
        text = reason(judgement, draft.reading.density)
        why = f"The ground: a {text}." if judgement.repeat == "both" else f"A {text}."
        draft.add(draft.names.of(layer, what="tile"), table, why, (layer.address,), box)


def _open_corner(draft: Drafting, ground: Box, width: int, height: int) -> tuple[int, int]:
    """Where a chunk of a texture lies that other slices cover least, from the top."""
    places = [
        Box(x, y, width, height)
        for y in range(ground.y, ground.bottom - height + 1, height)
        for x in range(ground.x, ground.right - width + 1, width)
    ]
    other_boxes = [drafted.box for drafted in draft.slices]
    best = min(places, key=lambda place: sum((place & other_box).area for other_box in other_boxes))
    return best.x, best.y


def flat_rows(draft: Drafting) -> None:
    """The rows of a mockup that is a single picture, in which no layers can be told apart."""
    mockup = draft.reading.mockup
    only = draft.reading.drawings()
    if len(only) != 1 or only[0].box != mockup.box:
        return
    draft.done.update(mockup.by_address)
    edges = row_edges(draft.reading.renderer, mockup.drawn)
    for edge in edges:
        draft.guides.add("y", edge, f"row-{edge}")
    for number, box in enumerate(row_boxes(mockup.box, edges), start=1):
        table = SliceTable(**draft.guides.span(box), alt="")
        why = "A flat picture: rows where it changes from side to side." if number == 1 else ""
        draft.add(f"row-{number}", table, why, (), box)
