"""Slices -> tasks: one for each picture of a slice, in each of its states and sizes."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace

from riffler.color import Pixels
from riffler.cutlist.resolved import ResolvedSlice, Saving, State, scale_of
from riffler.cutlist.roles import Hero, Role
from riffler.cutting.files import shared_files
from riffler.encode.choice import Choice
from riffler.errors import SettingError
from riffler.formats import AUTO, FORMATS, VECTOR
from riffler.geometry import Box, Point, Scale, Size
from riffler.jobs.task import Drawing
from riffler.output.asset import CutAsset
from riffler.output.publish import Made, described
from riffler.roles import slice_pictures
from riffler.roles.joints import Joined, goes_on, of_itself
from riffler.roles.picture import DrawnPicture, stem_of
from riffler.roles.slice_pictures import PicturePart
from riffler.workspace import Workspace
from riffler.workspace.prepare import OpenCutlist, Wanted

#: How many times pixels may be enlarged; beyond twice nobody sees more than a blur.
LARGEST = 4.0

#: Pixels from which looking for a setting takes long.
LONG = 50_000


@dataclass(frozen=True)
class Cut:
    """Files that one picture became, with its size in pixels and its place in the mockup.

    `without` are the formats that it was to be saved in, too, which reach its level at no setting.
    """

    files: tuple[Choice, ...]
    size: Size
    place: Box
    without: tuple[str, ...] = ()


@dataclass(frozen=True)
class CutPicture:
    """Draw a box, make of it what the role says, and encode it in every format it is saved in.

    `box` and `outer` are the slice's own box and the size of its files, in mockup pixels; `strips`
    are what lies across the sides at which another picture touches it.
    """

    drawing: Drawing
    box: Box
    outer: Size
    role: Role
    saving: Saving
    strips: tuple[tuple[str, Drawing], ...] = ()

    @property
    def is_long(self) -> bool:
        """Whether a setting is searched for on many pixels."""
        is_searched = not isinstance(self.saving.quality, int) or self.saving.budget is not None
        size = self.outer.scaled(self.drawing.scale)
        return is_searched and size.width * size.height >= LONG

    def made(self, workspace: Workspace) -> DrawnPicture:
        """The picture before it is encoded. Raises SettingError for one that is too large."""
        mockup = workspace.renderer(self.drawing.mockup).mockup
        if not mockup.is_vector:
            _refuse_enlarged(self.drawing.scale)
        _refuse_huge(self.outer.scaled(self.drawing.scale), workspace.limits.picture)
        pixels = self.drawing.pixels(workspace)
        drawn = self.drawing
        return slice_pictures.made(self.role, self.box, drawn.box, pixels, drawn.scale)

    def run(self, workspace: Workspace) -> Cut:
        """Make the picture. Raises SettingError for one that is too large, or loses its alpha."""
        picture = self.made(workspace)
        for name in self.saving.save:
            if name != AUTO:
                _refuse_lost_alpha(self.saving, picture.pixels, name)
        files = shared_files(workspace, self.saving, picture.pixels, self._joints(workspace))
        formats = {choice.format for choice in files}
        without = tuple(name for name in self.saving.save if name not in {AUTO, *formats})
        if not files:
            _refuse_out_of_reach(self.saving, without)
        return Cut(files, picture.size, picture.place, () if AUTO in self.saving.save else without)

    def _joints(self, workspace: Workspace) -> frozenset[str]:
        """The sides at which the picture goes on in another, or in itself."""
        drawn = ((side, drawing.pixels(workspace)) for side, drawing in self.strips)
        return of_itself(self.role) | {side for side, strip in drawn if goes_on(side, strip)}


@dataclass(frozen=True)
class SliceTask:
    """One picture of a slice, and what the ledger says of its files."""

    operation: CutPicture
    slice: str
    state: str | None
    size: str | None
    part: str | None
    label: str | None
    when: str | None
    density: float
    focal: Point | None
    mockup: str

    result = Cut

    def products(self, result: Cut, workspace: Workspace) -> Iterator[Made]:
        """A file for each format."""
        place, project = result.place, workspace.project
        stem = stem_of(self.slice, self.state, self.label, self.part, self.size)
        for choice in result.files:
            extension = FORMATS[choice.format].extension
            yield described(
                CutAsset,
                project,
                f"{project.settings.folders.images}/{stem}.{extension}",
                choice.data,
                made_by="cut",
                slice=self.slice,
                role=self.operation.role.name,
                state=self.state,
                part=self.part,
                when=self.when,
                size=self.size,
                format=choice.format,
                pixels=result.size,
                css=place.on_page(self.density),
                mockup=self.mockup,
                place=place,
                focal=_within(self.focal, place),
                density=self.density,
                setting=_setting(choice, result.without),
                loss=None if choice.loss is None else round(choice.loss, 5),
            )


def _setting(choice: Choice, without: Sequence[str]) -> dict[str, int | float | str]:
    """How a file was made, and the formats that were left out beside it."""
    left_out = {"without": ", ".join(without)} if without else {}
    return dict(sorted({**choice.setting, **left_out}.items()))


def plan(wanted: Wanted) -> Iterator[SliceTask]:
    """The pictures of every wanted slice."""
    joined = {id(cutlist): Joined(cutlist.slices) for cutlist in wanted.cutlists}
    for cutlist, slice_ in wanted.slices():
        for state in map(_of_pixels, slice_.states):
            if not state.saving.save:
                continue  # it is saved as a vector file alone
            for size in state.saving.sizes or (None,):
                scale = scale_of(size, slice_.outer, slice_.density)
                for part in slice_pictures.parts(slice_.role, slice_.box):
                    strips = joined[id(cutlist)].strips(slice_, part)
                    yield _task(wanted, cutlist, slice_, state, size, scale, part, strips)


def _of_pixels(state: State) -> State:
    """A state saved in its formats of pixels alone."""
    save = tuple(name for name in state.saving.save if name != VECTOR)
    return replace(state, saving=replace(state.saving, save=save, paint="drawn"))


def _task(
    wanted: Wanted,
    cutlist: OpenCutlist,
    slice_: ResolvedSlice,
    state: State,
    size: str | None,
    scale: Scale,
    part: PicturePart,
    strips: Mapping[str, Box],
) -> SliceTask:
    drawing = Drawing(cutlist.key, part.box, scale, state.shown)
    is_looked_at = not isinstance(state.saving.quality, int)  # or else nobody sees what is lost
    across = tuple(
        (side, replace(drawing, box=box, scale=1.0)) for side, box in strips.items() if is_looked_at
    )
    operation = CutPicture(drawing, slice_.box, slice_.outer, slice_.role, state.saving, across)
    mockup = wanted.workspace.project.relative(cutlist.key.path)
    return SliceTask(
        operation,
        slice_.name,
        state.name,
        size,
        part.name,
        slice_.label,
        slice_.when,
        slice_.density,
        _focal(slice_),
        mockup,
    )


def _focal(slice_: ResolvedSlice) -> Point | None:
    """The point that narrow windows keep in sight: the middle of a hero's art, unless one is said.

    In mockup pixels.
    """
    if slice_.focal is not None or not isinstance(slice_.role, Hero):
        return slice_.focal
    box = slice_.box
    return Point(box.x + box.width / 2, box.y + box.height / 2)


def _within(point: Point | None, place: Box) -> Point | None:
    """A point in parts of a box, 0..1, to four digits."""
    if point is None:
        return None
    across, down = (point.x - place.x) / place.width, (point.y - place.y) / place.height
    return Point(round(across, 4), round(down, 4))


def _refuse_enlarged(scale: Scale) -> None:
    """Raises SettingError for a picture with far more pixels than the mockup has."""
    if scale > LARGEST:
        raise SettingError(
            "sizes",
            f"This would enlarge the mockup's pixels {scale:,.1f} times; {LARGEST:g} is the most.",
            "Ask for a larger original, or for smaller sizes.",
        )


def _refuse_huge(size: Size, limit: int) -> None:
    """Raises SettingError for a picture of more pixels than one may have."""
    if size.width * size.height > limit:
        raise SettingError(
            "sizes",
            f"A picture of {size.width} x {size.height} px is more than the limit of "
            f"{limit:,} pixels.",
            "If that is meant, raise [limits] picture in riffler.toml.",
        )


def _refuse_out_of_reach(saving: Saving, without: Sequence[str]) -> None:
    """Raises SettingError for a picture whose level none of its formats reaches."""
    labels = " and ".join(FORMATS[name].label for name in without)
    level = saving.quality_of(without[0])
    raise SettingError(
        "save",
        f'{labels} can\'t reach "{level}" with this picture at any setting.',
        'Save it as "webp" or "png", too, which can; or name a lower level, or a number.',
    )


def _refuse_lost_alpha(saving: Saving, pixels: Pixels, format_name: str) -> None:
    from riffler.encode.encoding import holds

    if saving.ground is None and not holds(pixels, format_name):
        raise SettingError(
            "save",
            FORMATS[format_name].trouble,
            'Give the slice a ground = "#ffffff" to lay it on, or save it as "png".',
        )
