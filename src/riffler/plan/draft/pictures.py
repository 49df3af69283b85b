"""Drawings that must be pictures -> slices: the hero, pictures and icons, tiles, flat rows."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from riffler.analyse.rows import row_boxes, row_edges
from riffler.cutlist.model import Common, SliceTable
from riffler.geometry import Box, union
from riffler.mockup.model import Layer, drawings
from riffler.plan.draft.state import Drafting
from riffler.plan.wording import reason
from riffler.reading import layer_names, layout
from riffler.reading.judgement import Becomes


def hero(draft: Drafting, layer: Layer) -> None:
    """The large picture at the head of the page."""
    reading = draft.reading
    box = reading.renderer.solid_box(layer.address)
    assert box is not None
    box = box & reading.mockup.box
    inside = [part.address for part in drawings([layer]) if not reading.is_words(part)]
    name = draft.names.of(layer)
    table = SliceTable(
        **draft.guides.span(box),
        **draft.hidden_in(box),
        save=["jpeg"],
        alt=layer_names.humanised(name),
    )
    why = "The head of the page, without its words."
    draft.add(name, table, why, tuple(inside), box)


def pictures(draft: Drafting) -> None:
    """Every drawing that must be a picture; small ones called the same are a set of icons."""
    found = layout.pictures(draft.reading, draft.done)
    boxes = {layers: _painted(draft, layers) for layers in found}
    alike: dict[str, list[tuple[Layer, ...]]] = {}
    for layers in found:
        alike.setdefault(draft.names.plain(layers[0]), []).append(layers)
    icons = {
        layers for members in alike.values()
        if layout.are_icons(draft.reading, [boxes[member] for member in members])
        for layers in members
    }  # fmt: skip
    if icons:
        why = "Icons on one canvas, for decoration beside their words."
        draft.groups["icons"] = Common(role="icon", alt=""), why
    for layers in found:
        if layers in icons:
            _icon(draft, layers, boxes[layers])
        else:
            _picture(draft, layers, boxes[layers])


def _painted(draft: Drafting, layers: Sequence[Layer]) -> Box:
    return union(box for box in map(draft.reading.painted, layers) if box)


def _icon(draft: Drafting, layers: tuple[Layer, ...], box: Box) -> None:
    addresses = [layer.address for layer in layers]
    table = SliceTable(in_="icons", only=addresses)
    draft.add(draft.names.of(layers[0]), table, "", tuple(addresses), box)


def _picture(draft: Drafting, layers: tuple[Layer, ...], box: Box) -> None:
    judgement = draft.reading.judgement(layers[0])
    is_logo = any(
        found.kind == "logo" and found.layer is layers[0] for found in draft.found.clickables
    )
    name = draft.names.of(layers[0], "logo" if is_logo else "")
    addresses = [layer.address for layer in layers]
    said: dict[str, Any] = {"only": addresses, "alt": layer_names.humanised(name)}
    if judgement.is_rich and _is_opaque(draft, layers, box):
        said["save"] = ["jpeg"]
    if is_logo:
        said["link"] = "index"
    why = f"{'the logo: ' if is_logo else ''}{draft.reason(layers[0])}."
    draft.add(name, SliceTable(**said), why[0].upper() + why[1:], tuple(addresses), box)


def _is_opaque(draft: Drafting, layers: Sequence[Layer], box: Box) -> bool:
    """Whether the topmost row of pixels is: a photo with its own edges has no other rows."""
    shown: set[str] = set()
    for layer in layers:
        shown |= draft.reading.mockup.alone(layer.address)
    row = Box(box.x, box.y, box.width, 1)
    pixels = draft.reading.renderer.render(row, 1.0, frozenset(shown))
    return float(pixels[..., 3].min()) > 0.99


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
        x, y = _open_corner(draft, box, width, height)
        table = SliceTable(
            at=[x, y, width, height], only=[layer.address], role="tile", repeat="both", alt=""
        )
        why = f"The ground: a {reason(judgement, draft.reading.density)}."
        draft.add(draft.names.of(layer), table, why, (layer.address,), box)


def _open_corner(draft: Drafting, ground: Box, width: int, height: int) -> tuple[int, int]:
    """Where a chunk of a texture lies that other slices cover least, from the top."""
    places = [
        Box(x, y, width, height)
        for y in range(ground.y, ground.bottom - height + 1, height)
        for x in range(ground.x, ground.right - width + 1, width)
    ]
    others = [drafted.box for drafted in draft.slices]
    best = min(places, key=lambda place: sum((place & other).area for other in others))
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
