"""Slices of a cutlist -> what each shows of a page, and where it leads."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace

import numpy as np

from riffler.cutlist.resolved import ResolvedSlice
from riffler.cutlist.roles import Hero, Tile, Words
from riffler.formats import VECTOR
from riffler.geometry import Box, Rect
from riffler.markup.area import Piece
from riffler.mockup.model import Layer, Mockup
from riffler.reading.part import PagePart, PartKind
from riffler.sides import sides_of

#: How far the edges of a slice may be off those of what it shows, in CSS pixels.
NEAR = 3

#: Share of a part that lies in the slice which shows it, or in all that show it piece by piece.
INSIDE, MOST = 0.7, 0.9

#: What only a picture shows.
PICTURED = (PartKind.PICTURE, PartKind.ICON, PartKind.TILE, PartKind.HEAD)


@dataclass(frozen=True)
class Shown:
    """A slice with the layers that are on in any of its states.

    `is_again` tells one of the further places of a picture that is the same in all of them.
    """

    slice: ResolvedSlice
    layers: frozenset[str]
    is_again: bool = False

    @property
    def is_words(self) -> bool:
        """Whether it is a region of live text."""
        return isinstance(self.slice.role, Words)


class Pieces:
    """The slices of one mockup, to be asked what shows a part. Lengths are mockup pixels."""

    def __init__(self, slices: Iterable[ResolvedSlice], mockup: Mockup, density: float) -> None:
        self._density = density
        self._every = [
            Shown(
                resolved,
                frozenset().union(*(_painting(mockup, state.shown) for state in resolved.states)),
            )
            for resolved in slices
        ]
        self._again = [again for shown in self._every for again in _again(shown)]
        self._taken: dict[str, tuple[str, ...]] = {}
        self.used: set[str] = set()
        self._sides = sides_of(shown.slice.box for shown in self._every)
        self._tiles = np.array([isinstance(shown.slice.role, Tile) for shown in self._every], bool)

    def _near(self, box: Box) -> Iterator[Shown]:
        """Slices that meet a box, or nearly, and tiles: what shows anything of it is among them."""
        near = NEAR * self._density
        meets = self._sides <= (box.right + near, box.bottom + near, near - box.x, near - box.y)
        return (self._every[at] for at in np.flatnonzero(meets.all(axis=1) | self._tiles).tolist())

    def settle(self, page: PagePart) -> None:
        """Give each slice of several layers to the largest part that it shows."""
        for part in sorted(page.walk(), key=lambda part: -part.box.area):
            if part.kind in PICTURED and (shown := self.of(part)) and not shown.is_again:
                self._taken.setdefault(shown.slice.name, part.layers)

    def of(self, part: PagePart) -> Shown | None:
        """The slice that shows all of a part but its words; the smallest of several."""
        layers = set(part.layers)
        shown_slices = [
            shown
            for shown in self._near(part.box)
            if not shown.is_words and self._shows(shown, part) and layers <= shown.layers
        ]
        best = min(shown_slices, key=lambda shown: shown.slice.box.area, default=None)
        if best is None and part.kind in PICTURED:
            best = next((again for again in self._again if self._is_again(again, part.box)), None)
        return best

    def rows_of(self, part: PagePart) -> list[list[Shown]]:
        """The slices that show a part piece by piece, in rows; none where much of it is left."""
        layers = set(part.layers)
        shown_slices = [
            shown
            for shown in self._near(part.box)
            if not shown.is_words and part.box.contains(shown.slice.box) and layers <= shown.layers
        ]
        if sum(shown.slice.box.area for shown in shown_slices) < MOST * part.box.area:
            return []
        rows: dict[int, list[Shown]] = {}
        for shown in sorted(shown_slices, key=lambda shown: (shown.slice.box.y, shown.slice.box.x)):
            rows.setdefault(shown.slice.box.y, []).append(shown)
        return list(rows.values())

    def is_in_another(self, part: PagePart, shown: Shown) -> bool:
        """Whether a slice that shows a part was given to a larger one."""
        return not shown.is_again and self._taken.get(shown.slice.name, part.layers) != part.layers

    def covers(self, shown: Shown, part: PagePart) -> bool:
        """Whether a slice that is used shows this part as well."""
        inside = shown.slice.box & part.box
        return set(part.layers) <= shown.layers and inside.area >= INSIDE * part.box.area

    def _shows(self, shown: Shown, part: PagePart) -> bool:
        box = shown.slice.box
        if isinstance(shown.slice.role, Tile):
            return part.kind is PartKind.TILE
        if shown.slice.is_alone and part.kind in PICTURED:
            return (box & part.box).area >= INSIDE * part.box.area
        return self._is_at(box, part.box)

    def _is_again(self, again: Shown, box: Box) -> bool:
        """Whether a picture is there once more, which may have a canvas around it."""
        place = again.slice.box
        return self._is_at(place, box) or (again.slice.is_alone and _lies_on(box, place))

    def _is_at(self, box: Box, other_box: Box) -> bool:
        near = NEAR * self._density
        pairs = (
            (box.x, other_box.x),
            (box.y, other_box.y),
            (box.right, other_box.right),
            (box.bottom, other_box.bottom),
        )
        return all(abs(value - two) <= near for value, two in pairs)

    def link_at(self, box: Box) -> str | None:
        """Where a slice in this place leads."""
        linked = (shown.slice for shown in self._near(box) if shown.slice.link is not None)
        slices = [
            resolved
            for resolved in linked
            if self._is_at(resolved.box, box) or _lies_on(box, resolved.box)
        ]
        closest = min(slices, key=lambda resolved: abs(resolved.box.area - box.area), default=None)
        return closest.link if closest else None

    def piece(self, shown: Shown) -> Piece:
        """How the slice is put into a page."""
        slice_ = shown.slice
        self.used.add(slice_.name)
        framed = slice_.role.framed
        box = Rect.of(slice_.box)
        if framed is not None and not isinstance(slice_.role, Hero):
            left = box.x + (box.width - framed.width) / 2
            top = box.y + (box.height - framed.height) / 2
            box = Rect(left, top, framed.width, framed.height)
        by = self._density
        return Piece(
            slice_.name,
            Rect(box.x / by, box.y / by, box.width / by, box.height / by),
            slice_.alt,
            slice_.role.is_styled,
            isinstance(slice_.role, Hero),
            VECTOR in slice_.rest.saving.save,
            is_fine=by > 1 and VECTOR not in slice_.rest.saving.save,
        )

    def unused(self) -> Iterator[str]:
        """Slices with pictures that the pages do not show."""
        for shown in self._every:
            if not shown.is_words and shown.slice.name not in self.used:
                yield shown.slice.name


def _again(shown: Shown) -> Iterator[Shown]:
    """The further places of a slice whose picture is the same in each, that are said in steps."""
    times = shown.slice.entry.table.times
    if shown.is_words or times is None or not times.same or times.around is not None:
        return
    for index in range(1, times.total):
        box = shown.slice.box.moved(*times.offset(index))
        yield Shown(replace(shown.slice, box=box), shown.layers, is_again=True)


def _lies_on(box: Box, around: Box) -> bool:
    """Whether a box is about as large as another that holds it."""
    return around.contains(box) and around.area <= 4 * box.area and box.area > 0


def _painting(mockup: Mockup, shown: frozenset[str]) -> frozenset[str]:
    """Addresses of the layers that are on, in groups that are on."""
    return frozenset(_on(mockup.layers, shown))


def _on(layers: Iterable[Layer], shown: frozenset[str]) -> Iterator[str]:
    for layer in layers:
        if layer.address in shown:
            yield layer.address
            yield from _on(layer.children, shown)
