"""What a person names -> the thing that is meant: a layer, slice, guide, point, box, the canvas."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from functools import cached_property
from pathlib import Path

from riffler.cutlist.edges import CELL, Ruler
from riffler.cutlist.file import CutlistFile, Entry
from riffler.cutlist.resolve import resolve_one
from riffler.errors import AddressError, RifflerError, nearest
from riffler.geometry import Rect
from riffler.mockup import address
from riffler.mockup.model import Layer, drawings
from riffler.project.places import located
from riffler.workspace import Opened, Workspace

#: What a name may begin with where it could mean two things.
PREFIXES = ("slice", "layer", "guide")

#: The box of text that is not drawn, since its typeface is missing.
NOWHERE = Rect(0, 0, 0, 0)

_NUMBERS = re.compile(r"\s*-?\d+(\.\d+)?(\s*,\s*-?\d+(\.\d+)?)*\s*")


class Sort(StrEnum):
    """What kind of thing it is."""

    LAYER = "layer"
    GROUP = "group"
    SLICE = "slice"
    GUIDE = "guide"
    POINT = "point"
    BOX = "box"
    CANVAS = "canvas"


@dataclass(frozen=True)
class MeasuredThing:
    """Something with a place. `box` is in mockup pixels, without shadow and glow.

    A guide is as long as the canvas and of no width, a point has no size at all. `layer` is the
    address of a layer or group.
    """

    sort: Sort
    name: str
    box: Rect
    layer: str | None = None


class Things:
    """The things of one mockup by name."""

    def __init__(self, opened: Opened) -> None:
        self.opened = opened

    @property
    def canvas(self) -> MeasuredThing:
        """The whole."""
        return MeasuredThing(Sort.CANVAS, "canvas", Rect.of(self.opened.mockup.box))

    @cached_property
    def layers(self) -> list[MeasuredThing]:
        """Every layer and group that shows and paints, as they are listed."""
        mockup = self.opened.mockup
        shown = (layer for layer in mockup.walk() if mockup.shows(layer))
        return [thing for layer in shown if (thing := self._layer(layer))]

    @cached_property
    def slices(self) -> list[MeasuredThing]:
        """Every slice of the mockup's cutlist."""
        file = self.opened.cutlist
        return [self._slice(file, entry) for entry in file.entries] if file else []

    @cached_property
    def drawings(self) -> list[MeasuredThing]:
        """The layers that hold paint, as a person counts them."""
        mockup = self.opened.mockup
        shown = (layer for layer in drawings(mockup.layers) if mockup.shows(layer))
        return [thing for layer in shown if (thing := self._layer(layer))]

    def named(self, name: str) -> MeasuredThing:
        """The thing that a name means. Raises RifflerError for none, or a pattern for several."""
        kind, _, rest = name.partition(":")
        if kind in PREFIXES and rest:
            thing = {"slice": self._a_slice, "layer": self._a_layer, "guide": self._a_guide}[kind](
                rest
            )
            if thing is None:
                raise RifflerError(f'There is no {kind} "{rest}".', self._advice(rest))
            return thing
        if name == "canvas":
            return self.canvas
        if _NUMBERS.fullmatch(name):
            return _numbers(name)
        for find in (self._a_slice, self._a_layer, self._a_guide):
            if (thing := find(name)) is not None:
                return thing
        raise RifflerError(f'There is nothing called "{name}".', self._advice(name))

    def _advice(self, name: str) -> str:
        file = self.opened.cutlist
        guides = [guide for axis in ("x", "y") for guide in file.ruler(axis).guides] if file else []
        slices = [entry.name for entry in file.entries] if file else []
        known = [*slices, *self.opened.mockup.by_address, *guides]
        return nearest(name, known) or "riffler look lists the layers, riffler survey the slices."

    def _a_slice(self, name: str) -> MeasuredThing | None:
        file = self.opened.cutlist
        entry = file.entry(name) if file else None
        return self._slice(file, entry) if file and entry else None

    def _slice(self, file: CutlistFile, entry: Entry) -> MeasuredThing:
        slice_ = resolve_one(file, self.opened.renderer, entry)
        return MeasuredThing(Sort.SLICE, entry.name, Rect.of(slice_.box))

    def only_layer(self, thing: MeasuredThing) -> str | None:
        """The layer that a slice is made of or lies around, if it is one; None for other things."""
        file = self.opened.cutlist
        entry = file.entry(thing.name) if file and thing.sort is Sort.SLICE else None
        if entry is None:
            return None
        times = entry.table.times
        each = times.around[entry.index : entry.index + 1] if times and times.around else None
        addresses = address.find_all(
            self.opened.mockup, entry.table.only or entry.table.around or each or ()
        )
        return next(iter(addresses)) if len(addresses) == 1 else None

    def _a_layer(self, name: str) -> MeasuredThing | None:
        mockup = self.opened.mockup
        try:
            result = address.find(mockup, name)
        except AddressError:
            return None
        if len(result) > 1:
            listed = ", ".join(result[:4]) + (", ..." if len(result) > 4 else "")
            raise RifflerError(f'"{name}" means {len(result)} layers.', f"Say which: {listed}")
        layer = mockup.by_address[result[0]]
        thing = self._layer(layer)
        if thing is None and layer.words is not None:
            return MeasuredThing(Sort.LAYER, layer.address, NOWHERE, layer.address)
        if thing is None:
            raise RifflerError(f'The layer "{result[0]}" paints nothing.')
        return thing

    def _layer(self, layer: Layer) -> MeasuredThing | None:
        box = self.opened.renderer.exact_box(layer.address)
        sort = Sort.GROUP if layer.is_group else Sort.LAYER
        return MeasuredThing(sort, layer.address, box, layer.address) if box else None

    def _a_guide(self, name: str) -> MeasuredThing | None:
        """A guide, or the cell of a grid, along the whole canvas."""
        file, canvas = self.opened.cutlist, self.canvas.box
        for axis in ("x", "y"):
            if file is None or not _is_on(file.ruler(axis), name):
                continue
            start = file.ruler(axis).position(name)
            size = file.ruler(axis).position(name, is_end=True) - start
            across = Rect(start, 0, size, canvas.height)
            line = across if axis == "x" else Rect(0, start, canvas.width, size)
            return MeasuredThing(Sort.BOX if size else Sort.GUIDE, name, line)
        return None


def _is_on(ruler: Ruler, name: str) -> bool:
    """Whether an axis has a guide so called, or a cell of a grid."""
    cell = CELL.fullmatch(name)
    grid = ruler.grids.get(cell[1]) if cell else None
    return name in ruler.guides or (
        cell is not None and grid is not None and int(cell[2]) <= grid.count
    )


def _numbers(text: str) -> MeasuredThing:
    """A point by two numbers, a box by four. Raises RifflerError for other counts, or no size."""
    values = [float(value) for value in text.split(",")]
    name = ", ".join(f"{value:g}" for value in values)
    if len(values) == 2:
        return MeasuredThing(Sort.POINT, name, Rect(values[0], values[1], 0, 0))
    if len(values) == 4 and values[2] > 0 and values[3] > 0:
        return MeasuredThing(Sort.BOX, name, Rect(*values))
    raise RifflerError(
        f'"{text}" is neither a point nor a box.', "A point is x,y; a box x,y,width,height."
    )


def mockup_of(workspace: Workspace, names: Sequence[str], text: str | None) -> Opened:
    """The mockup that things stand in: the one that is said, or the only one that knows the names.

    `text` is a mockup's file, or a cutlist by name. Raises RifflerError where that leaves none or
    several.
    """
    if text is not None:
        return _said(workspace, text)
    opened = list(workspace.every())
    if not opened:
        raise RifflerError("No mockup of this project has a cutlist yet.", "Say which: --in FILE")
    fitting = [
        one_opened for one_opened in opened if all(_knows(one_opened, name) for name in names)
    ]
    if len(fitting) == 1 or len(opened) == 1:
        return (fitting or opened)[0]
    raise _unsettled(opened, fitting, names)


def _unsettled(
    opened: Sequence[Opened], fitting: Sequence[Opened], names: Sequence[str]
) -> RifflerError:
    """What to say when several mockups know the names, or none knows all of them."""
    where = " or ".join(
        f"--in {one_opened.cutlist.path.stem}"
        for one_opened in fitting or opened
        if one_opened.cutlist
    )
    if fitting:
        what = " and ".join(f'"{name}"' for name in names) or "The whole"
        return RifflerError(f"{what} could be of several mockups.", f"Say of which: {where}")
    unknown = (name for name in names if not any(_knows(one_opened, name) for one_opened in opened))
    wrong = next((f'anything called "{name}"' for name in unknown), "all of these")
    return RifflerError(f"No mockup has {wrong}.", f"Say where: {where}")


def _said(workspace: Workspace, text: str) -> Opened:
    files = (
        [CutlistFile.read(path) for path in workspace.project.cutlists() if path.stem == text]
        if workspace.has_project
        else []
    )
    if files:
        return workspace.open(files[0].mockup_path, files[0].cutlist.canvas, files[0])
    return workspace.open(located(Path(text)))


def _knows(opened: Opened, name: str) -> bool:
    """Whether a mockup has a thing so called, without drawing anything."""
    kind, _, rest = name.partition(":")
    plain = rest if kind in PREFIXES and rest else name
    if plain == "canvas" or _NUMBERS.fullmatch(plain):
        return True
    file = opened.cutlist
    if file and (file.entry(plain) or any(_is_on(file.ruler(axis), plain) for axis in ("x", "y"))):
        return True
    try:
        return bool(address.find(opened.mockup, plain))
    except AddressError:
        return False
