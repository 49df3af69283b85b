"""Slices of live text -> tasks: the colour under the words of each, and the box that they fill."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field

from riffler.cutlist.resolved import ResolvedSlice
from riffler.cutlist.roles import Words
from riffler.geometry import Box, CssSize
from riffler.jobs.task import Drawing
from riffler.mockup.model import LayerKind
from riffler.output.asset import Region
from riffler.roles import words
from riffler.workspace import Workspace
from riffler.workspace.prepare import OpenCutlist, Wanted

#: Edges of a drawing and of a region so near, in mockup pixels, are one.
TOGETHER = 1

#: How far a shadow may reach beyond a plate on each side, in mockup pixels.
SHADOW = 200


@dataclass(frozen=True)
class RegionGround:
    """What a style sheet says of a box: the colour under its words, and what draws it.

    `color` is `#rrggbb`, with two more digits where it shows through; None where a picture or a
    texture lies there. `look` are declarations of CSS.
    """

    color: str | None
    look: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True)
class FindGround:
    """Draw a box without its text, find its usual colour, and how the plate in it is drawn."""

    drawing: Drawing
    plate: Drawing | None = None
    plate_layer: str = ""
    density: float = 1.0

    @property
    def is_long(self) -> bool:
        """Never: a colour is quickly found."""
        return False

    def run(self, workspace: Workspace) -> RegionGround:
        """Find it."""
        return RegionGround(words.ground(self.drawing.pixels(workspace)), self._look(workspace))

    def _look(self, workspace: Workspace) -> dict[str, str]:
        """The declarations that draw the plate; none where CSS can't."""
        if self.plate is None:
            return {}
        from riffler.analyse.declared import declarations
        from riffler.reading.judgement import Becomes
        from riffler.reading.reading import Reading

        renderer = workspace.renderer(self.plate.mockup)
        layer = renderer.mockup.by_address[self.plate_layer]
        judgement = Reading(renderer, self.density).judgement(layer)
        if judgement.becomes is not Becomes.CSS or judgement.style is None:
            return {}
        return declarations(judgement.style.scaled(1 / self.density))


@dataclass(frozen=True)
class RegionTask:
    """A box for live text."""

    operation: FindGround
    slice: str
    mockup: str
    css: CssSize
    when: str | None

    result = RegionGround

    def products(self, result: RegionGround, workspace: Workspace) -> Iterator[Region]:  # noqa: ARG002
        """What the ledger says of the box; no file belongs to it."""
        place = self.operation.drawing.box
        yield Region(
            self.slice, self.mockup, place, self.css, result.color, self.when, result.look or None
        )


def plan(wanted: Wanted) -> Iterator[RegionTask]:
    """Every wanted box for live text."""
    for cutlist, slice_ in wanted.slices():
        if not isinstance(slice_.role, Words):
            continue
        mockup, box = cutlist.renderer.mockup, slice_.box
        texts = {layer.address for layer in mockup.walk() if layer.kind is LayerKind.WORDS}
        drawing = Drawing(cutlist.key, box, 1.0, slice_.rest.shown - texts)
        css = box.on_page(slice_.density)
        where = wanted.workspace.project.relative(cutlist.key.path)
        operation = FindGround(drawing, *_plate(cutlist, slice_), density=slice_.density)
        yield RegionTask(operation, slice_.name, where, css, slice_.when)


def _plate(cutlist: OpenCutlist, slice_: ResolvedSlice) -> tuple[Drawing | None, str]:
    """The topmost drawing whose solid part fills the slice's box, and its address."""
    renderer, box = cutlist.renderer, slice_.box
    for layer in renderer.mockup.walk():
        if layer.address not in slice_.rest.shown or layer.kind not in (
            LayerKind.PIXELS,
            LayerKind.VECTOR,
        ):
            continue
        rough = renderer.rough_box(layer.address)
        if rough is None or not (_is_around(rough, box) and _is_around(box.grown(SHADOW), rough)):
            continue
        solid, painted = renderer.solid_box(layer.address), renderer.painted_box(layer.address)
        if solid and painted and _is_around(box, solid) and _is_around(solid, box):
            shown = renderer.mockup.alone(layer.address)
            return Drawing(cutlist.key, painted, 1.0, shown), layer.address
    return None, ""


def _is_around(outer: Box, inner: Box) -> bool:
    """Whether a box holds another, but for what counts as together."""
    return outer.grown(TOGETHER).contains(inner)
