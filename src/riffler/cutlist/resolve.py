"""A written slice -> a ResolvedSlice: its box in whole pixels and the layers of every state."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace

from riffler.cutlist import role_checks
from riffler.cutlist.boxes import Boxes
from riffler.cutlist.file import CutlistFile, Entry
from riffler.cutlist.model import Edge, Layers
from riffler.cutlist.resolved import SAVE, ResolvedSlice, Saving, State
from riffler.cutlist.roles import Icon, role_of
from riffler.cutlist.shown import switched
from riffler.geometry import Box, Size
from riffler.hexcolor import parse_hex
from riffler.mockup import address
from riffler.project.saving import bytes_of
from riffler.project.written import said_at
from riffler.render.painted import painted_box
from riffler.render.renderer import Renderer


def resolve(file: CutlistFile, renderer: Renderer) -> Iterator[ResolvedSlice]:
    """Every slice in the order of the file. Raises WrittenError at the key that is wrong."""
    boxes = Boxes(file, renderer)
    slices = [_resolve(file, renderer, boxes, entry) for entry in file.entries]
    yield from (_on_common_frame(slice_, slices, boxes) for slice_ in slices)


def resolve_one(file: CutlistFile, renderer: Renderer, entry: Entry) -> ResolvedSlice:
    """One slice alone; an icon's common canvas is not known then. Raises WrittenError."""
    return _resolve(file, renderer, Boxes(file, renderer), entry)


def _on_common_frame(
    slice_: ResolvedSlice, slices: Sequence[ResolvedSlice], boxes: Boxes
) -> ResolvedSlice:
    """Icons of one group without a frame of their own stand on the largest of their boxes.

    It grows to whole CSS pixels, so that all sizes of the files show in one size on the page.
    """
    if not isinstance(slice_.role, Icon) or slice_.role.frame is not None:
        return slice_
    sizes = [
        other_resolved.outer
        for other_resolved in slices
        if isinstance(other_resolved.role, Icon) and other_resolved.group == slice_.group
    ]
    largest = Size(max(size.width for size in sizes), max(size.height for size in sizes))
    frame = boxes.widened(Box.of_size(largest)).size
    return replace(slice_, role=replace(slice_.role, frame=frame))


def _resolve(file: CutlistFile, renderer: Renderer, boxes: Boxes, entry: Entry) -> ResolvedSlice:
    states = tuple(_states(file, renderer, entry))
    box, box_from = boxes.of(entry), boxes.origin(entry)
    if file.setting(entry, "trim", False):
        found_box = painted_box(renderer.render(box, 1.0, states[0].shown))
        if found_box is None:
            raise entry.mistake("trim", "There is nothing painted in this box.")
        box, box_from = boxes.aligned(found_box.moved(box.x, box.y)), "layers"
    box = boxes.on_canvas(entry, box.grown(file.setting(entry, "grow", 0)))
    focal: list[Edge] | None = file.setting(entry, "focal", None)
    slice_ = ResolvedSlice(
        name=entry.name,
        box=box,
        box_from=box_from,
        states=states,
        density=file.cutlist.density,
        entry=entry,
        role=role_of(file, entry),
        is_alone=entry.table.only is not None,
        group=entry.table.in_,
        alt=entry.alt if entry.alt is not None else file.setting(entry, "alt", None),
        link=entry.link,
        focal=boxes.point(entry, "focal", focal) if focal else None,
        label=file.label,
        when=file.cutlist.when,
        hidden=tuple(file.setting(entry, "hide", list[str]())),
    )
    role_checks.check(file, slice_, renderer.mockup.box)
    return slice_


def _states(file: CutlistFile, renderer: Renderer, entry: Entry) -> Iterator[State]:
    mockup, table = renderer.mockup, entry.table
    values: dict[str, list[str] | None] = {}
    for key in ("only", "show", "hide"):
        values[key] = table.only if key == "only" else file.setting(entry, key, None)
        with file.said_at(entry, key):
            address.find_all(mockup, values[key] or ())
    rest = switched(mockup, mockup.drawn, **values)
    saving = Saving(
        tuple(dict.fromkeys(file.setting(entry, "save", list(SAVE)))),
        file.setting(entry, "quality", None),
        _budget(file.setting(entry, "budget", None)),
        _ground(file.setting(entry, "ground", None)),
        tuple(dict.fromkeys(file.setting(entry, "sizes", []))),
        file.setting(entry, "paint", "drawn"),
    )
    yield State(None, rest, saving)
    for name, layers in table.state.items():
        shown = _switched_state(renderer, rest, entry, name, layers)
        own_saving = Saving(
            tuple(dict.fromkeys(layers.save or saving.save)),
            layers.quality or saving.quality,
            _budget(layers.budget) or saving.budget,
            _ground(layers.ground) or saving.ground,
            tuple(dict.fromkeys(layers.sizes or saving.sizes)),
            layers.paint or saving.paint,
        )
        yield State(name, shown, own_saving)


def _switched_state(
    renderer: Renderer, rest: frozenset[str], entry: Entry, name: str, layers: Layers
) -> frozenset[str]:
    for key in ("only", "show", "hide"):
        with said_at(entry.part.written, (*entry.keys, "state", name, key)):
            address.find_all(renderer.mockup, getattr(layers, key) or ())
    return switched(renderer.mockup, rest, layers.only, layers.show, layers.hide)


def _ground(text: str | None) -> tuple[float, float, float] | None:
    return parse_hex(text) if text else None


def _budget(text: str | None) -> int | None:
    return bytes_of(text) if text else None
