"""A written slice -> a ResolvedSlice: its box in whole pixels and the layers of every state."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace

from riffler.cutlist import fitting
from riffler.cutlist.boxes import Boxes, BoxFrom
from riffler.cutlist.file import CutlistFile, Entry, said_at
from riffler.cutlist.model import NO_CAPS, Balance, Caps, Edge, Layers, Role, Side
from riffler.cutlist.shown import switched
from riffler.geometry import Box, Scale, Size
from riffler.hexcolor import parse_hex
from riffler.mockup import address
from riffler.project.saving import bytes_of
from riffler.render.painted import painted_box
from riffler.render.renderer import Renderer

#: What a slice becomes when nothing says otherwise.
SAVE = ("png",)

#: How much may be seen of what a lossy format loses, when nothing says otherwise: nothing.
QUALITY = "clear"


@dataclass(frozen=True)
class Saving:
    """How a state is saved. `sizes` are empty for one file at the mockup's own pixels."""

    save: tuple[str, ...] = SAVE
    quality: int | str = QUALITY
    budget: int | None = None
    ground: tuple[float, float, float] | None = None
    sizes: tuple[str, ...] = ()


@dataclass(frozen=True)
class State:
    """One look of a slice: its name, empty at rest, the layers that are on, how it is saved."""

    name: str
    shown: frozenset[str]
    saving: Saving = Saving()


@dataclass(frozen=True)
class ResolvedSlice:
    """A slice with nothing left to look up: box in whole mockup pixels, layers, settings.

    `is_alone` says that it was begun with nothing but named layers, on transparency. In mockup
    pixels: `frame` is what an icon stands on or a hero fills, `focal` the point that narrow windows
    keep in sight, `soften` how far the edges of a tile fade into each other. `label` is set in a
    cutlist for another screen, whose media query is `when`.
    """

    name: str
    box: Box
    states: tuple[State, ...]
    density: float
    entry: Entry = field(repr=False, compare=False)
    role: Role = "picture"
    box_from: BoxFrom = "numbers"
    is_alone: bool = False
    group: str = ""
    alt: str | None = None
    link: str | None = None
    repeat: str = "both"
    caps: Caps = NO_CAPS
    middle: str = "stretch"
    is_split: bool = False
    soften: int = 0
    frame: Size | None = None
    place: Side = "center"
    balance: Balance = "box"
    focal: tuple[float, float] | None = None
    label: str = ""
    when: str = ""

    @property
    def outer(self) -> Size:
        """The size of its files in mockup pixels: its frame where it has one, or its box."""
        return self.frame or self.box.size

    @property
    def rest(self) -> State:
        """The slice at rest."""
        return self.states[0]


def scale_of(size: str, outer: Size, density: float) -> Scale:
    """Output pixels per mockup pixel for a size as it is written; empty for the mockup's own.

    `outer` is the size of the file in mockup pixels, which a width like "640w" is for.
    """
    if not size:
        return 1.0
    value = float(size[:-1])
    return value / density if size.endswith("x") else value / outer.width


def resolve(file: CutlistFile, renderer: Renderer) -> Iterator[ResolvedSlice]:
    """Every slice in the order of the file. Raises WrittenError at the key that is wrong."""
    boxes = Boxes(file, renderer)
    found = [_resolve(file, renderer, boxes, entry) for entry in file.entries]
    yield from (_on_common_frame(one, found) for one in found)


def resolve_one(file: CutlistFile, renderer: Renderer, entry: Entry) -> ResolvedSlice:
    """One slice alone; an icon's common canvas is not known then. Raises WrittenError."""
    return _resolve(file, renderer, Boxes(file, renderer), entry)


def _on_common_frame(one: ResolvedSlice, all_of_them: Sequence[ResolvedSlice]) -> ResolvedSlice:
    """Icons of one group without a frame of their own stand on the largest of their boxes."""
    if one.role != "icon" or one.frame is not None:
        return one
    group = [other for other in all_of_them if other.role == "icon" and other.group == one.group]
    sizes = [other.frame or other.box.size for other in group]
    return replace(
        one, frame=Size(max(size.width for size in sizes), max(size.height for size in sizes))
    )


def _resolve(file: CutlistFile, renderer: Renderer, boxes: Boxes, entry: Entry) -> ResolvedSlice:
    states = tuple(_states(file, renderer, entry))
    box, box_from = boxes.of(entry), boxes.origin(entry)
    if file.setting(entry, "trim", False):
        found = painted_box(renderer.render(box, 1.0, states[0].shown))
        if found is None:
            raise entry.mistake("trim", "There is nothing painted in this box.")
        box, box_from = boxes.aligned(found.moved(box.x, box.y)), "layers"
    box = boxes.on_canvas(entry, box.grown(file.setting(entry, "grow", 0)))
    one = ResolvedSlice(
        name=entry.name,
        box=box,
        box_from=box_from,
        states=states,
        density=file.cutlist.density,
        entry=entry,
        role=file.setting(entry, "role", "picture"),
        is_alone=entry.table.only is not None,
        group=entry.table.in_ or "",
        alt=entry.alt if entry.alt is not None else file.setting(entry, "alt", None),
        link=entry.link,
        repeat=file.setting(entry, "repeat", "both"),
        caps=file.setting(entry, "caps", NO_CAPS),
        middle=file.setting(entry, "middle", "stretch"),
        is_split=file.setting(entry, "split", False),
        soften=file.setting(entry, "soften", 0),
        place=file.setting(entry, "place", "center"),
        balance=file.setting(entry, "balance", "box"),
        label=file.cutlist.label if file.cutlist.when else "",
        when=file.cutlist.when or "",
    )
    frame: list[int] | None = file.setting(entry, "frame", None)
    focal: list[Edge] | None = file.setting(entry, "focal", None)
    one = replace(
        one,
        frame=Size(*frame) if frame else None,
        focal=boxes.point(entry, "focal", focal) if focal else None,
    )
    fitting.check(file, one, renderer.mockup.box)
    return one


def _states(file: CutlistFile, renderer: Renderer, entry: Entry) -> Iterator[State]:
    mockup, table = renderer.mockup, entry.table
    said: dict[str, list[str] | None] = {}
    for key in ("only", "show", "hide"):
        said[key] = table.only if key == "only" else file.setting(entry, key, None)
        with file.said_at(entry, key):
            address.find_all(mockup, said[key] or ())
    rest = switched(mockup, mockup.drawn, **said)
    saving = Saving(
        tuple(dict.fromkeys(file.setting(entry, "save", list(SAVE)))),
        file.setting(entry, "quality", QUALITY),
        _budget(file.setting(entry, "budget", None)),
        _ground(file.setting(entry, "ground", None)),
        tuple(dict.fromkeys(file.setting(entry, "sizes", []))),
    )
    yield State("", rest, saving)
    for name, layers in table.state.items():
        shown = _switched_state(renderer, rest, entry, name, layers)
        own = Saving(
            tuple(dict.fromkeys(layers.save or saving.save)),
            layers.quality or saving.quality,
            _budget(layers.budget) or saving.budget,
            _ground(layers.ground) or saving.ground,
            tuple(dict.fromkeys(layers.sizes or saving.sizes)),
        )
        yield State(name, shown, own)


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
