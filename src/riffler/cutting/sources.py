"""Names of slices and picture files -> the pictures to weigh."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from fnmatch import fnmatchcase
from functools import partial
from pathlib import Path

from riffler.color import Bytes, Pixels
from riffler.cutlist.resolved import QUALITY, Saving
from riffler.encode.encoding import holds, prepared
from riffler.encode.original import Original, shared
from riffler.errors import RifflerError
from riffler.formats import FORMATS, Format
from riffler.geometry import Size
from riffler.roles import slice_pictures
from riffler.roles.joints import Joined, goes_on, of_itself
from riffler.workspace import Workspace
from riffler.workspace.prepare import named, prepare, read_cutlists

#: Mockup pixels around a slice that are shown of what it lies in.
AROUND = 48


@dataclass(frozen=True)
class PictureSource:
    """A picture to weigh: its name, its pixels, and how it is saved.

    `slice` is the slice that it is of, None for a file; at its `joints` another picture goes on.
    `around` is what the mockup shows there with `AROUND` pixels more on every side, where it is cut
    as seen.
    """

    name: str
    pixels: Pixels = field(repr=False)
    saving: Saving = field(default_factory=Saving)
    slice: str | None = None
    density: float = 1.0
    joints: frozenset[str] = frozenset()
    around: Pixels | None = field(default=None, repr=False)

    @property
    def level(self) -> str:
        """The level that holds for it, where that is one."""
        quality = self.saving.quality
        return quality if isinstance(quality, str) else QUALITY

    def originals(self) -> dict[str, Original]:
        """What each format that can hold it is made of; formats of the same pixels share one."""
        found_originals: dict[str, Original] = {}
        for form in self.formats:
            found_originals[form.name] = shared(
                found_originals.values(), self.prepared(form.name), self.joints
            )
        return found_originals

    @property
    def size(self) -> Size:
        """Pixels across and down."""
        height, width = self.pixels.shape[:2]
        return Size(width, height)

    @property
    def formats(self) -> list[Format]:
        """The formats that can hold it."""
        known_formats, ground = FORMATS.values(), self.saving.ground
        return [
            form for form in known_formats if ground is not None or holds(self.pixels, form.name)
        ]

    def prepared(self, format_name: str) -> Bytes:
        """Its pixels as a format gets them, straight 8-bit RGBA."""
        return prepared(self.pixels, format_name, self.saving.ground)


def sources_of(workspace: Workspace, names: Sequence[str]) -> list[PictureSource]:
    """What is to be weighed, in the order of the names; a name may be a slice or a file."""
    files = {name for name in names if Path(name).suffix and Path(name).is_file()}
    sources: dict[str, list[PictureSource]] = {name: [_file(workspace, name)] for name in files}
    slices = [name for name in names if name not in files]
    _refuse_missing(workspace, slices)
    if slices:
        sources.update(_slices(workspace, slices))
    wanted = [item for name in names for item in sources if fnmatchcase(item, name)]
    return [source for item in dict.fromkeys(wanted) for source in sources[item]]


def _refuse_missing(workspace: Workspace, slices: Sequence[str]) -> None:
    """Raises RifflerError for what was meant as a file, and for slices without a project."""
    endings = {f".{form.extension}" for form in FORMATS.values()}
    for name in slices:
        if Path(name).suffix.lower() in endings:
            raise RifflerError(f'There is no file "{name}".')
        if not workspace.has_project:
            raise RifflerError(
                f'There is no file "{name}", and no project here that it could be a slice of.'
            )


def _file(workspace: Workspace, name: str) -> PictureSource:
    opened = workspace.open(Path(name))
    return PictureSource(name, opened.renderer.render(opened.mockup.box, 1.0, opened.mockup.drawn))


def _slices(workspace: Workspace, names: Sequence[str]) -> dict[str, list[PictureSource]]:
    """The pictures of slices at rest, as their roles make them, at the mockup's own size.

    Raises RifflerError for a slice that is not there, or that is named and becomes no picture.
    """
    files = read_cutlists(workspace.project)
    meant = set(named(names, files))
    sources: dict[str, list[PictureSource]] = {}
    for cutlist in prepare(workspace, files):
        joined = Joined(cutlist.slices)
        for slice_ in cutlist.slices:
            if slice_.name not in meant or slice_.label is not None:
                continue
            for part in slice_pictures.parts(slice_.role, slice_.box):
                drawn = cutlist.renderer.render(part.box, 1.0, slice_.rest.shown)
                picture = slice_pictures.made(slice_.role, slice_.box, part.box, drawn, 1.0)
                name = f"{slice_.name}.{part.name}" if part.name else slice_.name
                strips = joined.strips(slice_, part).items()
                draw = partial(cutlist.renderer.render, scale=1.0, shown=slice_.rest.shown)
                going_on = [side for side, strip in strips if goes_on(side, draw(strip))]
                source = PictureSource(
                    name,
                    picture.pixels,
                    slice_.rest.saving,
                    slice_.name,
                    slice_.density,
                    of_itself(slice_.role) | frozenset(going_on),
                    None if slice_.is_alone else draw(picture.place.grown(AROUND)),
                )
                sources.setdefault(slice_.name, []).append(source)
    for name in names:
        if name not in sources and (name in meant or not sources):
            raise RifflerError(f'"{name}" is a box for live text: it becomes no picture.')
    return sources
