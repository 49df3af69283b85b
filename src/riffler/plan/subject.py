"""What is surveyed: one cutlist with its mockup, as the checks look at it."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property
from pathlib import Path

from riffler.color import Pixels
from riffler.cutlist.file import CutlistFile
from riffler.cutlist.resolved import ResolvedSlice, State
from riffler.cutlist.roles import Tile
from riffler.geometry import Box
from riffler.mockup.font_book import FontBook
from riffler.mockup.model import Layer, Mockup
from riffler.output.ledger import Ledger
from riffler.plan.finding import Finding
from riffler.project.limits import DEFAULT_LIMITS, Limits
from riffler.reading.intruders import Intruder, intruders
from riffler.reading.reading import Reading
from riffler.render.renderer import Renderer
from riffler.roles import slice_pictures
from riffler.workspace.lying import Known
from riffler.workspace.prepare import OpenCutlist


@dataclass(frozen=True)
class Subject:
    """A cutlist, its mockup and its slices; all boxes are in this mockup's pixels.

    `pages` are the names of the project's, `planned` those that mockups are of; `lay` says
    where layers lay at the last cut, and `ledger` what is in the folder `out` since.
    """

    cutlist: OpenCutlist
    fonts: FontBook
    pages: tuple[str, ...] = ()
    out: Path = Path()
    ledger: Ledger = field(default_factory=Ledger, repr=False)
    limits: Limits = DEFAULT_LIMITS
    lay: Known = field(default_factory=dict, repr=False)
    planned: frozenset[str] = frozenset()
    _reaching: dict[str, tuple[Intruder, ...]] = field(default_factory=dict, repr=False)

    @cached_property
    def reading(self) -> Reading:
        """What the layers should become, worked out when it is asked for."""
        return Reading(self.renderer, self.density, self.file.cutlist.says)

    @property
    def file(self) -> CutlistFile:
        """The cutlist as it is written."""
        return self.cutlist.file

    @property
    def renderer(self) -> Renderer:
        """What draws the mockup."""
        return self.cutlist.renderer

    @property
    def mockup(self) -> Mockup:
        """The mockup as data."""
        return self.renderer.mockup

    @property
    def density(self) -> float:
        """Mockup pixels per CSS pixel."""
        return self.file.cutlist.density

    @property
    def canvas(self) -> Box:
        """The whole mockup."""
        return self.mockup.box

    @property
    def slices(self) -> tuple[ResolvedSlice, ...]:
        """The slices that are cut from this mockup."""
        return self.cutlist.slices

    @property
    def borrowed(self) -> tuple[ResolvedSlice, ...]:
        """The slices that it shares with another mockup, which they are cut from."""
        return self.cutlist.borrowed

    @cached_property
    def seen(self) -> list[ResolvedSlice]:
        """The pictures that are cut as seen, with everything beneath."""
        return [slice_ for slice_ in self.pictures if _is_seen(slice_)]

    def reaching_in(self, slice_: ResolvedSlice) -> tuple[Intruder, ...]:
        """What neighbours paint in the box of a slice that is cut as seen; looked for once."""
        if slice_.name not in self._reaching:
            box = slice_.box & self.canvas
            found = intruders(self.reading, box, slice_.rest.shown) if _is_seen(slice_) else ()
            self._reaching[slice_.name] = tuple(found)
        return self._reaching[slice_.name]

    @cached_property
    def pictures(self) -> list[ResolvedSlice]:
        """All slices that become files."""
        return [slice_ for slice_ in self.slices if slice_.role.has_files]

    def draw(self, slice_: ResolvedSlice, state: State | None = None) -> Pixels:
        """A slice's pixels at the mockup's own size, at rest unless another state is wanted."""
        return self.renderer.render(slice_.box, 1.0, (state or slice_.rest).shown)

    def made(self, slice_: ResolvedSlice) -> Pixels:
        """A slice's pixels at rest, as its role makes them, at the mockup's own size."""
        part = next(slice_pictures.parts(slice_.role, slice_.box))
        drawn = self.renderer.render(part.box, 1.0, slice_.rest.shown)
        return slice_pictures.made(slice_.role, slice_.box, part.box, drawn, 1.0).pixels

    def is_on(self, layer: Layer, shown: frozenset[str]) -> bool:
        """Whether a layer paints when `shown` are on."""
        around = self.mockup.ancestors(layer.address)
        return layer.address in shown and all(up.address in shown for up in around)

    def finding(
        self,
        kind: str,
        slice_: ResolvedSlice,
        message: str,
        advice: str,
        *,
        about: tuple[object, ...] = (),
        place: Box | None = None,
        pixels: int = 0,
        others: tuple[str, ...] = (),
    ) -> Finding:
        """A finding about a slice, at the line where the slice is written.

        `about` tells it from others of its kind in the slice; for all boxes of a row the same.
        """
        at = slice_.entry.part.written.place(slice_.entry.keys)
        where = place or slice_.box
        key = (kind, at.path, *slice_.entry.keys, *about)
        return Finding(kind, slice_.name, message, advice, at, key, where, pixels, others)

    def of_all(
        self, kind: str, message: str, advice: str, about: object, place: Box | None = None
    ) -> Finding:
        """A finding about the cutlist as a whole; `about` is what it speaks of."""
        at = self.file.written.place(())
        return Finding(kind, None, message, advice, at, (kind, at.path, about), place)


def _is_seen(slice_: ResolvedSlice) -> bool:
    return not slice_.is_alone and not isinstance(slice_.role, Tile)


def within(place: Box, slice_: ResolvedSlice) -> Box:
    """A place as it lies in a slice: the same for all boxes of a row."""
    return place.moved(-slice_.box.x, -slice_.box.y)
