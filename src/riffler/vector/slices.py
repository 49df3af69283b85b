"""Slices saved as "svg" -> tasks: their layers as a tidied file of their own."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from riffler.cutlist.resolved import ResolvedSlice, State
from riffler.cutlist.roles import Icon, Picture, Role
from riffler.errors import RifflerError, SettingError
from riffler.formats import VECTOR
from riffler.geometry import Box, Point, Size
from riffler.jobs.task import Drawing
from riffler.output.asset import CutAsset
from riffler.output.publish import Made, described
from riffler.project.saving import Paint
from riffler.roles import framed
from riffler.roles.picture import DrawnPicture as Drawn
from riffler.roles.picture import stem_of
from riffler.vector.for_page import ForPage
from riffler.vector.taken import taken
from riffler.vector.tidied import make
from riffler.workspace import Workspace
from riffler.workspace.prepare import OpenCutlist, Wanted


@dataclass(frozen=True)
class VectorData:
    """A vector file, where it lies in the mockup, and how large its source was, in bytes."""

    data: bytes
    place: Box
    before: int


@dataclass(frozen=True)
class SaveVector:
    """Take layers out of a mockup and tidy them; `stem` begins the names in the file."""

    drawing: Drawing
    role: Role
    density: float
    stem: str
    paint: Paint

    @property
    def is_long(self) -> bool:
        """Never: drawings are tidied quickly."""
        return False

    def run(self, workspace: Workspace) -> VectorData:
        """Make the file. Raises SettingError for layers that are no vectors."""
        renderer, box = workspace.renderer(self.drawing.mockup), self.drawing.box
        if isinstance(self.role, Icon):
            drawn = Drawn(self.drawing.pixels(workspace), box)
            box = framed.icon(self.role, box, drawn, 1.0).place
        try:
            source = taken(renderer, self.drawing.shown, box, self.density)
            page = ForPage(self.stem, self.paint)
            file = make(
                source, self.stem, page=page, limits=workspace.limits, fonts=workspace.fonts
            )
        except RifflerError as error:
            raise SettingError("save", error.message, error.advice) from error
        return VectorData(file.text.encode(), box, file.before)


@dataclass(frozen=True)
class VectorTask:
    """The vector file of a slice in one of its states, and what the ledger says of it."""

    operation: SaveVector
    slice: str
    state: str | None
    label: str | None
    when: str | None
    focal: Point | None
    mockup: str

    result = VectorData

    def products(self, result: VectorData, workspace: Workspace) -> Iterator[Made]:
        """The one file."""
        project, density = workspace.project, self.operation.density
        css = result.place.on_page(density)
        stem = stem_of(self.slice, self.state, self.label, None, None)
        yield described(
            CutAsset,
            project,
            f"{project.settings.folders.images}/{stem}.{VECTOR}",
            result.data,
            made_by="cut",
            slice=self.slice,
            role=self.operation.role.name,
            state=self.state,
            when=self.when,
            format=VECTOR,
            pixels=Size(max(1, round(css.width)), max(1, round(css.height))),
            css=css,
            mockup=self.mockup,
            place=result.place,
            density=density,
            setting={"untidied": result.before},
        )


def plan(wanted: Wanted) -> Iterator[VectorTask]:
    """The vector files of every wanted slice that is saved as one.

    Raises WrittenError for a slice whose role no vector file has.
    """
    for cutlist, slice_ in wanted.slices():
        for state in slice_.states:
            if VECTOR in state.saving.save:
                _refuse_role(cutlist, slice_)
                yield _task(wanted, cutlist, slice_, state)


def _refuse_role(cutlist: OpenCutlist, slice_: ResolvedSlice) -> None:
    is_icon = isinstance(slice_.role, Icon)
    if isinstance(slice_.role, Picture) or (is_icon and slice_.is_alone):
        return
    trouble = (
        "An icon of named layers (only = [...]) can be a vector file, not one cut as seen."
        if is_icon
        else f'"svg" goes with pictures and icons, not with a {slice_.role.name}.'
    )
    advice = 'Save it as "png" or "webp".'
    raise cutlist.file.mistake(slice_.entry, "save", trouble, advice)


def _task(wanted: Wanted, cutlist: OpenCutlist, slice_: ResolvedSlice, state: State) -> VectorTask:
    stem = slice_.name if state.name is None else f"{slice_.name}-{state.name}"
    drawing = Drawing(cutlist.key, slice_.box, 1.0, state.shown)
    operation = SaveVector(drawing, slice_.role, slice_.density, stem, state.saving.paint)
    mockup = wanted.workspace.project.relative(cutlist.key.path)
    return VectorTask(
        operation, slice_.name, state.name, slice_.label, slice_.when, slice_.focal, mockup
    )
