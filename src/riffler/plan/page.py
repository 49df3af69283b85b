"""One cutlist with its mockup, as the checks look at it."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from riffler.color import Pixels
from riffler.cutlist.resolved import ResolvedSlice, State
from riffler.geometry import Box
from riffler.jobs.bench import Bench
from riffler.mockup.fonts import FontBook
from riffler.mockup.model import Layer
from riffler.plan.finding import Finding
from riffler.plan.reading import Reading
from riffler.roles import drawn


@dataclass(frozen=True)
class Page:
    """A cutlist, its mockup and its slices; all boxes are in this mockup's pixels."""

    bench: Bench
    fonts: FontBook

    @cached_property
    def reading(self) -> Reading:
        """What the layers should become, worked out when it is asked for."""
        return Reading(self.bench.renderer, self.density)

    @property
    def density(self) -> float:
        """Mockup pixels per CSS pixel."""
        return self.bench.file.cutlist.density

    @property
    def canvas(self) -> Box:
        """The whole mockup."""
        return self.bench.renderer.mockup.box

    @property
    def slices(self) -> tuple[ResolvedSlice, ...]:
        """The slices that are cut from this mockup."""
        return self.bench.slices

    @cached_property
    def seen(self) -> list[ResolvedSlice]:
        """The pictures that are cut as seen, with everything beneath."""
        return [
            one for one in self.slices if not one.is_alone and one.role not in ("words", "tile")
        ]

    @cached_property
    def pictures(self) -> list[ResolvedSlice]:
        """All slices that become files."""
        return [one for one in self.slices if one.role != "words"]

    def draw(self, one: ResolvedSlice, state: State | None = None) -> Pixels:
        """A slice's pixels at the mockup's own size, at rest unless another state is wanted."""
        return self.bench.renderer.render(one.box, 1.0, (state or one.rest).shown)

    def made(self, one: ResolvedSlice) -> Pixels:
        """A slice's pixels at rest, as its role makes them, at the mockup's own size."""
        renderer = self.bench.renderer
        part = next(drawn.parts(one))
        return drawn.draw(one, part, renderer, 1.0, one.rest.shown).pixels

    def is_on(self, layer: Layer, shown: frozenset[str]) -> bool:
        """Whether a layer paints when `shown` are on."""
        around = self.bench.renderer.mockup.ancestors(layer.address)
        return layer.address in shown and all(up.address in shown for up in around)

    def finding(
        self,
        kind: str,
        one: ResolvedSlice,
        message: str,
        advice: str,
        *,
        place: Box | None = None,
        pixels: int = 0,
        others: tuple[str, ...] = (),
    ) -> Finding:
        """A finding about a slice, at the line where the slice is written."""
        at = one.entry.part.written.place(one.entry.keys)
        return Finding(kind, one.name, message, advice, at, place or one.box, pixels, others)

    def of_all(self, kind: str, message: str, advice: str, place: Box | None = None) -> Finding:
        """A finding about the cutlist as a whole."""
        return Finding(kind, "", message, advice, self.bench.file.written.place(()), place)
