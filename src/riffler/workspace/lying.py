"""Where the layers of each slice lay when it was last cut, and what moved under slices since.

Kept in the work folder, which may be deleted any time: then nothing is known to have moved.

Where layers lay at the last cut is in the work folder, by address: a layer that left its slice
while the slice stayed stops the next cut.
"""

from __future__ import annotations

import contextlib
import json
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any, TypeAlias

from riffler.cutlist.resolved import ResolvedSlice
from riffler.errors import RifflerError
from riffler.geometry import Box
from riffler.plain import parse_json, plain
from riffler.project.places import LYING
from riffler.project.project import Project
from riffler.project.sealed import read_note, write_note
from riffler.workspace.prepare import OpenCutlist

#: The shape's version, and how boxes are found: older notes count as none.
VERSION = 2

#: A layer belongs to a slice when so much of it is inside, and no longer with less.
INSIDE = 0.8

#: Edges of a layer and a slice this near, in pixels, are meant to be one.
TOGETHER = 1


@dataclass(frozen=True)
class Lying:
    """The box of a slice, and of each of its layers by address, in mockup pixels."""

    box: Box
    layers: Mapping[str, Box]


Known: TypeAlias = Mapping[str, Lying]
"""What was remembered, by the key of a slice."""


#: What it is to be further along an axis, and less far.
ACROSS, DOWN = ("to the right", "to the left"), ("lower", "higher")


@dataclass(frozen=True)
class Moved:
    """A layer that left its slice: `x` and `y` are how far, None where its size is another, too."""

    layer: str
    x: int | None = None
    y: int | None = None

    @property
    def words(self) -> str:
        """What became of it, as a sentence begins."""
        if self.x is None or self.y is None:
            return f"{self.layer} has another size than at the last cut"
        far = ((self.y, DOWN), (self.x, ACROSS))
        parts = [f"{abs(by)} px {more if by > 0 else less}" for by, (more, less) in far if by]
        return f"{self.layer} is {' and '.join(parts)} than at the last cut"


def known(project: Project) -> Known:
    """What is remembered; nothing where it is damaged."""
    try:
        noted = read_note(project.work / LYING)
        data: Any = parse_json(noted or b"{}")
        if data.get("version") != VERSION:
            return {}
        return {name: _read(value) for name, value in data["slices"].items()}
    except (RifflerError, OSError, ValueError, TypeError, KeyError, AttributeError):
        return {}


def remember(project: Project, cutlists: Iterable[OpenCutlist], names: Iterable[str]) -> None:
    """Note where the layers of these slices lie now, and forget slices that are gone."""
    wanted = set(names)
    before = known(project)
    all_lying: dict[str, Lying] = {}
    for cutlist in cutlists:
        boxes = _boxes(cutlist)
        for slice_ in cutlist.slices:
            key = _key(slice_)
            if slice_.name in wanted or key not in before:
                all_lying[key] = Lying(slice_.box, _inside(boxes, slice_))
            else:
                all_lying[key] = before[key]
    _keep(project, all_lying)


def _keep(project: Project, kept: Known) -> None:
    slices = {key: kept[key] for key in sorted(kept)}
    data = json.dumps({"version": VERSION, "slices": plain(slices)}).encode()
    with contextlib.suppress(RifflerError, OSError):
        path = project.work / LYING
        if read_note(path) != data:
            write_note(path, data)


def follow(project: Project, names: Mapping[str, str]) -> None:
    """Remember slices under the new names that stand beside their old ones."""
    data = {}
    for key, lay in known(project).items():
        name, dot, label = key.partition(".")
        data[f"{names.get(name, name)}{dot}{label}"] = lay
    _keep(project, data)


def moved(known: Known, cutlist: OpenCutlist, slice_: ResolvedSlice) -> Moved | None:
    """What left a slice that lies where it lay, the largest layer of it; None for nothing."""
    lay = known.get(_key(slice_))
    if lay is None or lay.box != slice_.box:
        return None
    result: list[tuple[int, Moved]] = []
    for address, was in lay.layers.items():
        if address not in cutlist.renderer.mockup.by_address:
            continue
        now = cutlist.renderer.rough_box(address)
        if now is not None and now != was and _left(slice_.box, was, now):
            is_same = now.size == was.size
            by = (now.x - was.x, now.y - was.y) if is_same else (None, None)
            result.append((was.area, Moved(address, *by)))
    return max(result, key=lambda pair: pair[0])[1] if result else None


def complaint(moved: Moved, slice_: ResolvedSlice) -> tuple[str, str]:
    """What to say of a slice that something left, and what to do about it."""
    box = slice_.box
    at = f"[{box.x}, {box.y}, {box.width}, {box.height}]"
    message = f"{moved.words}; the slice, at {at}, is not."
    if moved.x is None or moved.y is None:
        return message, 'Give the slice its box, or accept it as it is: moved = "why".'
    there = f"[{box.x + moved.x}, {box.y + moved.y}, {box.width}, {box.height}]"
    return message, f'If it is to follow: at = {there}. If not, accept it: moved = "why".'


def _left(box: Box, was: Box, now: Box) -> bool:
    """Whether a layer reaches out of a box now, or lost an edge that both had."""
    is_out = now.share_in(box) < INSIDE
    lost = any(
        abs(own - before) <= TOGETHER < abs(own - after)
        for own, before, after in zip(_edges(box), _edges(was), _edges(now), strict=True)
    )
    return is_out or lost


def _boxes(cutlist: OpenCutlist) -> dict[str, Box]:
    """The box of every drawing that some slice shows, by address."""
    shown = frozenset[str]().union(
        *(state.shown for slice_ in cutlist.slices for state in slice_.states)
    )
    layers = (layer for layer in cutlist.renderer.mockup.walk() if not layer.is_group)
    result = {
        layer.address: cutlist.renderer.rough_box(layer.address)
        for layer in layers
        if layer.address in shown
    }
    return {address: box for address, box in result.items() if box is not None}


def _inside(boxes: Mapping[str, Box], slice_: ResolvedSlice) -> dict[str, Box]:
    """Boxes of the layers that a slice shows in any state and that lie in it."""
    shown = frozenset[str]().union(*(state.shown for state in slice_.states))
    return {
        address: box
        for address, box in boxes.items()
        if address in shown and box.share_in(slice_.box) >= INSIDE
    }


def _edges(box: Box) -> tuple[int, int, int, int]:
    return box.x, box.y, box.right, box.bottom


def _key(slice_: ResolvedSlice) -> str:
    return f"{slice_.name}.{slice_.label}" if slice_.label else slice_.name


def _read(values: Mapping[str, Any]) -> Lying:
    layers = {address: Box(**box) for address, box in values["layers"].items()}
    return Lying(Box(**values["box"]), layers)
