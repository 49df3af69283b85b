"""Slices -> tasks: one for each picture of a slice, in each of its states and sizes."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from riffler.color import Pixels, is_opaque
from riffler.cutlist.resolved import ResolvedSlice, Saving, State, scale_of
from riffler.cutlist.roles import Hero, Role
from riffler.digests import digest_of, sha256
from riffler.encode.choice import Choice
from riffler.errors import SettingError
from riffler.formats import AUTO, FORMATS, VECTOR
from riffler.geometry import Box, Point, Scale, Size
from riffler.jobs.task import Drawing
from riffler.output.asset import CutAsset
from riffler.output.publish import Made, described
from riffler.roles import pictures
from riffler.roles.picture import Picture, stem_of
from riffler.roles.pictures import Part
from riffler.workspace import Workspace
from riffler.workspace.prepare import OpenCutlist, Wanted

#: How many times pixels may be enlarged; beyond twice nobody sees more than a blur.
LARGEST = 4.0

#: Pixels up to which equal pictures are looked for: it takes longer the more there are.
SHARED = 60_000

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

    `box` and `outer` are the slice's own box and the size of its files, in mockup pixels.
    """

    drawing: Drawing
    box: Box
    outer: Size
    role: Role
    saving: Saving

    @property
    def is_long(self) -> bool:
        """Whether a setting is searched for on many pixels."""
        is_searched = isinstance(self.saving.quality, str) or self.saving.budget is not None
        size = self.outer.scaled(self.drawing.scale)
        return is_searched and size.width * size.height >= LONG

    def made(self, workspace: Workspace) -> Picture:
        """The picture before it is encoded. Raises SettingError for one that is too large."""
        mockup = workspace.renderer(self.drawing.mockup).mockup
        if not mockup.is_vector:
            _refuse_enlarged(self.drawing.scale)
        _refuse_huge(self.outer.scaled(self.drawing.scale), workspace.limits.picture)
        pixels = self.drawing.pixels(workspace)
        drawn = self.drawing
        return pictures.made(self.role, self.box, drawn.box, pixels, drawn.scale)

    def run(self, workspace: Workspace) -> Cut:
        """Make the picture. Raises SettingError for one that is too large, or loses its alpha."""
        picture = self.made(workspace)
        for name in self.saving.save:
            if name != AUTO:
                _refuse_lost_alpha(self.saving, picture.pixels, name)
        files = _shared_files(workspace, self.saving, picture.pixels)
        made = {choice.format for choice in files}
        without = tuple(name for name in self.saving.save if name not in {AUTO, *made})
        if not files:
            _refuse_out_of_reach(self.saving, without)
        return Cut(files, picture.size, picture.place, () if AUTO in self.saving.save else without)


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
    for cutlist, slice_ in wanted.slices():
        for state in map(_of_pixels, slice_.states):
            if not state.saving.save:
                continue  # it is saved as a vector file alone
            for size in state.saving.sizes or (None,):
                scale = scale_of(size, slice_.outer, slice_.density)
                for part in pictures.parts(slice_.role, slice_.box):
                    yield _task(wanted, cutlist, slice_, state, size, scale, part)


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
    part: Part,
) -> SliceTask:
    drawing = Drawing(cutlist.key, part.box, scale, state.shown)
    operation = CutPicture(drawing, slice_.box, slice_.outer, slice_.role, state.saving)
    mockup = wanted.workspace.project.relative(cutlist.key.path)
    return SliceTask(
        operation, slice_.name, state.name, size, part.name, slice_.label, slice_.when,
        slice_.density, _focal(slice_), mockup,
    )  # fmt: skip


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


def _shared_files(workspace: Workspace, saving: Saving, pixels: Pixels) -> tuple[Choice, ...]:
    """The files of a picture; small ones that are equal are encoded once a run."""
    if pixels.shape[0] * pixels.shape[1] > SHARED:
        return tuple(_files(saving, pixels))
    digest = digest_of(saving, pixels.shape, sha256(pixels.tobytes()))
    return workspace.once(digest, lambda: tuple(_files(saving, pixels)))


def _files(saving: Saving, pixels: Pixels) -> Iterator[Choice]:
    """The files of a picture. Raises SettingError for one that nothing brings into its budget."""
    for choice in _choices(saving, pixels):
        if saving.budget is not None and len(choice.data) > saving.budget:
            height, width = pixels.shape[:2]
            raise SettingError(
                "budget",
                f"The smallest {choice.format} of {width} x {height} px has "
                f"{len(choice.data)} bytes, more than the budget of {saving.budget}.",
                "Allow as much, save it in another format, or at a smaller size.",
            )
        yield choice


def _choices(saving: Saving, pixels: Pixels) -> Iterator[Choice]:
    from riffler.encode.auto import best
    from riffler.encode.choose import choose
    from riffler.encode.encoding import prepared
    from riffler.encode.original import Original, shared

    originals: list[Original] = []

    def original(format_name: str) -> Original:
        """What a format is made of, shared by those of the same pixels."""
        originals.append(shared(originals, prepared(pixels, format_name, saving.ground)))
        return originals[-1]

    if AUTO in saving.save:
        can_be_flat = saving.ground is not None or is_opaque(pixels)
        flat = original("jpeg") if can_be_flat else None
        yield from best(original("png"), flat, saving.quality, saving.budget)
        return
    for name in saving.save:
        choice = choose(original(name), name, saving.quality, saving.budget)
        if choice is not None:
            yield choice


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
    raise SettingError(
        "save",
        f'{labels} can\'t reach "{saving.quality}" with this picture at any setting.',
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
