"""A cutlist and what changed in its mockup -> the cutlist's text that follows, and what is left.

Guides go with the things whose edges lie on them, boxes with what they hold, addresses with layers
that are called otherwise. Only numbers and names are written, in their places: comments, order and
all else stay.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import TypeAlias

from riffler.changes.addresses import addressed
from riffler.changes.comparison import Changed
from riffler.changes.moves import Moves, Places, guide_move, moves_of
from riffler.cutlist.edges import SIGN
from riffler.cutlist.editing import CutlistText, Value
from riffler.cutlist.file import AXES, Axis, CutlistFile, Entry, WrittenPart
from riffler.cutlist.model import Edge
from riffler.cutlist.resolve import resolve
from riffler.cutlist.resolved import ResolvedSlice
from riffler.errors import RifflerError, WrittenError
from riffler.files import real
from riffler.project.written import Written

#: Pixels by which an edge may be off that is where it should be.
NEAR = 0.5

#: The sides of a box along each axis, as `Moves` lists them.
SIDES: dict[Axis, tuple[int, int]] = {"x": (0, 2), "y": (1, 3)}


@dataclass(frozen=True)
class Left:
    """What was not decided: the file, what it is about, and why."""

    file: Path
    what: str
    why: str


LetGo: TypeAlias = tuple[Path, str, str]
"""A layer that is gone and that a cutlist names no more: the file, the key, the layer's address."""


@dataclass(frozen=True)
class PutAside:
    """A slice, or a state of one, that is cut no more, since all its layers are gone.

    It is a comment in the file now. `layer` is the last that it lost, `names` are those of the
    slice or of all in its row; a state has none.
    """

    file: Path
    slice: str
    state: str | None
    layer: str
    names: tuple[str, ...]


@dataclass
class Followed:
    """The new texts of a cutlist's files, what was left for a person, what is named no more."""

    texts: dict[Path, str] = field(default_factory=dict)
    left: list[Left] = field(default_factory=list)
    let_go: list[LetGo] = field(default_factory=list)
    put_aside: list[PutAside] = field(default_factory=list)


def followed(file: CutlistFile, changed: Changed, shared: frozenset[Path]) -> Followed:
    """Edit a cutlist for the newer version; files that are `shared` with other mockups stay.

    Where the cutlist does not fit the older version, it is left as it is. Raises WrittenError for
    a slice without a table of its own that has lost all layers that it is cut of.
    """
    return _Follower(file, changed, shared).done()


class _Follower:
    """One cutlist while it is edited."""

    def __init__(self, file: CutlistFile, changed: Changed, shared: frozenset[Path]) -> None:
        self._file, self._changed, self._shared = file, changed, shared
        self._done = Followed()
        self._texts = {part.written.path: CutlistText(part.written.text) for part in self._parts()}

    def _parts(self) -> Iterator[WrittenPart]:
        return (part for part in self._file.parts if real(part.written.path) not in self._shared)

    def done(self) -> Followed:
        """Boxes and guides first, in the old names; then the names."""
        try:
            slices = resolve(self._file, self._changed.old.renderer)
        except RifflerError as error:
            self._leave(self._file.path, "the cutlist", error.message)
            return self._done
        if self._is_drawn_otherwise():
            why = "the new version is drawn at another size: draft it anew"
            self._leave(self._file.path, "boxes and guides", why)
        else:
            self._boxes(list(slices))
        for path, text in self._texts.items():
            found_addressed = addressed(text.text, self._changed)
            self._done.texts[path] = found_addressed.text
            for keys, name in found_addressed.needed:
                raise self._in_the_way(path, keys, name)
            self._done.let_go += [
                (path, ".".join(keys), name) for keys, name in found_addressed.let_go
            ]
            self._done.put_aside += [
                self._aside(path, table, name) for table, name in found_addressed.put_aside
            ]
        return self._done

    def _aside(self, path: Path, table: Sequence[str], layer: str) -> PutAside:
        name, state = table[1], table[3] if len(table) > 2 else None
        names = (entry.name for entry in self._file.entries if entry.keys[1] == name)
        return PutAside(path, name, state, layer, () if state else tuple(names))

    def _in_the_way(self, path: Path, keys: Sequence[str], name: str) -> WrittenError:
        """What to say of a slice that has nothing left to show, at its line as it is now."""
        written = next(part.written for part in self._parts() if part.written.path == path)
        what = f'"{keys[1]}"' if keys[0] == "slice" else f"[{'.'.join(keys[:-1])}]"
        return written.mistake(
            keys,
            f'"{name}" is not in the new version of {self._changed.new.mockup.path.name}, '
            f"and {what} shows nothing else.",
            f"Nothing was written. Take {what} out or let it show another layer, then again.",
        )

    def _is_drawn_otherwise(self) -> bool:
        old, new = self._changed.old, self._changed.new
        return old.density != new.density or old.mockup.size.width != new.mockup.size.width

    def _leave(self, file: Path, what: str, why: str) -> None:
        self._done.left.append(Left(file, what, why))

    def _boxes(self, slices: Sequence[ResolvedSlice]) -> None:
        places = Places(self._changed)
        wanted: dict[str, tuple[ResolvedSlice, Moves]] = {}
        for resolved in slices:
            if resolved.box_from == "numbers":
                wanted[resolved.name] = resolved, moves_of(resolved.box, places.in_slice(resolved))
        self._guides(wanted, places)
        after = self._read()
        if after is None:
            return
        for entry in self._file.entries:
            if entry.name in wanted and entry.index == 0:
                self._slice(after, entry, wanted[entry.name][1])
        self._check({name: moves for name, (_, moves) in wanted.items()}, slices)

    def _guides(self, wanted: dict[str, tuple[ResolvedSlice, Moves]], places: Places) -> None:
        """Guides that are numbers, as those slices want that lean on them, or what lies on them."""
        for part in self._parts():
            for axis in AXES:
                for name, value in getattr(part.said.guides, axis).items():
                    if isinstance(value, str):
                        continue
                    by = self._guide_by(name, axis, value, wanted, places)
                    if by:
                        path = ("guides", axis, name)
                        self._texts[part.written.path].write(path, _number(value + by))

    def _guide_by(
        self,
        name: str,
        axis: Axis,
        place: float,
        wanted: dict[str, tuple[ResolvedSlice, Moves]],
        places: Places,
    ) -> float:
        moves = []
        for resolved, by in wanted.values():
            table = resolved.entry.table
            span = (table.x if axis == "x" else table.y) or ()
            for side, edge in zip(SIDES[axis], span, strict=False):
                if isinstance(edge, str) and name in SIGN.split(edge.strip())[::2]:
                    moves.append(by.sides[side])
        if moves:
            known = [move for move in moves if move is not None]
            is_one = len(known) == len(moves) and max(known) - min(known) <= NEAR
            return known[0] if is_one else 0.0
        return guide_move(place, axis, places.every()) or 0.0

    def _read(self) -> CutlistFile | None:
        """The cutlist with the guides where they are now; None where it is not sound."""
        edited = {path: Written.of(path, text.text) for path, text in self._texts.items()}
        try:
            return CutlistFile.read(self._file.path, self._file.base, edited)
        except WrittenError as error:
            self._leave(self._file.path, "the cutlist", error.message)
            return None

    def _slice(self, after: CutlistFile, entry: Entry, moves: Moves) -> None:
        """The box of one table, where its guides do not bring it there."""
        table, path = entry.table, ("slice", entry.keys[1])
        text = self._texts.get(entry.part.written.path)
        if text is None:
            if not moves.is_still:
                self._leave(entry.part.written.path, f"slice {entry.name}", _SHARED)
            return
        if table.at is not None:
            self._at(after, text, path, table.at, moves)
        for axis in AXES:
            span = table.x if axis == "x" else table.y
            if span is not None:
                self._span(after, text, (*path, axis), axis, span, moves)
        if table.focal is not None and not any(isinstance(edge, str) for edge in table.focal):
            by = moves.sides[0], moves.sides[1]
            if any(by) and None not in by:
                pairs = zip(table.focal, by, strict=True)
                text.write((*path, "focal"), [_number(float(at) + (b or 0.0)) for at, b in pairs])

    def _at(
        self,
        after: CutlistFile,
        text: CutlistText,
        path: tuple[str, ...],
        edges: Sequence[Edge],
        moves: Moves,
    ) -> None:
        """A place and a size."""
        left, top, right, bottom = (by or 0.0 for by in moves.sides)
        by = (left, top, right - left, bottom - top)
        axes: tuple[Axis, ...] = ("x", "y", "x", "y")
        values = [
            self._edge(after, axis, edge, self._place(self._file, axis, edge) + move)
            for axis, edge, move in zip(axes, edges, by, strict=True)
        ]
        if values != list(edges):
            text.write((*path, "at"), values)

    def _span(
        self,
        after: CutlistFile,
        text: CutlistText,
        path: tuple[str, ...],
        axis: Axis,
        edges: Sequence[Edge],
        moves: Moves,
    ) -> None:
        """Two edges along an axis."""
        values = []
        for number, (edge, side) in enumerate(zip(edges, SIDES[axis], strict=True)):
            place = self._place(self._file, axis, edge, is_end=bool(number))
            wanted = place + (moves.sides[side] or 0.0)
            values.append(self._edge(after, axis, edge, wanted, is_end=bool(number)))
        if values != list(edges):
            text.write(path, values)

    def _place(self, file: CutlistFile, axis: Axis, edge: Edge, *, is_end: bool = False) -> float:
        return file.ruler(axis).position(edge, is_end=is_end)

    def _edge(
        self, after: CutlistFile, axis: Axis, edge: Edge, wanted: float, *, is_end: bool = False
    ) -> Value:
        """An edge as it is written when it is to lie elsewhere: its own number, or a sum."""
        if not isinstance(edge, str):
            return _number(wanted) if abs(wanted - edge) > NEAR else edge
        off = wanted - self._place(after, axis, edge, is_end=is_end)
        if abs(off) <= NEAR:
            return edge
        match = re.fullmatch(r"(.*\S)\s+([+-])\s+(\d+(?:\.\d+)?)", edge.strip())
        base, by = (match[1], float(match[2] + match[3])) if match else (edge.strip(), 0.0)
        total = by + off
        if abs(total) < NEAR:
            return base
        return f"{base} {'+' if total > 0 else '-'} {_number(abs(total))}"

    def _check(self, wanted: dict[str, Moves], slices: Sequence[ResolvedSlice]) -> None:
        """Tell of every slice that does not lie where what it holds went."""
        undecided = {name for name, moves in wanted.items() if None in moves.sides}
        for name in sorted(undecided):
            entry = self._file.by_name[name]
            why = "what lies in it went different ways"
            self._leave(entry.part.written.path, f"slice {name}", why)
        after = self._read()
        if after is None:
            return
        try:
            boxes = {
                resolved.name: resolved.box
                for resolved in resolve(after, self._changed.old.renderer)
            }
        except RifflerError as error:
            self._leave(self._file.path, "the cutlist", error.message)
            return
        for slice_ in slices:
            moves = wanted.get(slice_.name)
            if moves is None or slice_.name in undecided or slice_.name not in boxes:
                continue
            now, was = boxes[slice_.name], slice_.box
            by = (now.x - was.x, now.y - was.y, now.right - was.right, now.bottom - was.bottom)
            if any(abs(a - (b or 0.0)) > 1 + NEAR for a, b in zip(by, moves.sides, strict=True)):
                why = "it leans on another slice, or is one of a row, that went another way"
                self._leave(slice_.entry.part.written.path, f"slice {slice_.name}", why)


_SHARED = "it is shared with another mockup, and what it holds moved in this one"


def _number(value: float) -> int | float:
    """A length in mockup pixels as people write it."""
    return round(value) if abs(value - round(value)) < 0.05 else round(value, 1)
