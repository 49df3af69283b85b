"""A slice or a picture file -> what it weighs in every format, and what is seen of the loss."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from fnmatch import fnmatchcase
from pathlib import Path
from typing import Any

import numpy as np

from riffler.color import Bytes, Pixels, is_opaque
from riffler.cutlist.resolved import QUALITY
from riffler.encode.choice import LEVELS, Choice
from riffler.encode.choose import CODECS, choose
from riffler.encode.encoding import holds, prepared
from riffler.encode.original import Original
from riffler.errors import RifflerError
from riffler.formats import FORMATS, Format
from riffler.geometry import Size
from riffler.jobs.runner import Workers
from riffler.plain import plain
from riffler.roles import pictures
from riffler.workspace import Workspace
from riffler.workspace.prepare import named, prepare, read_cutlists


@dataclass(frozen=True)
class Line:
    """A connection: its name, kilobits a second, and milliseconds until the first byte."""

    name: str
    kilobits: float
    wait: float

    def milliseconds(self, count: int) -> float:
        """How long a file of so many bytes takes to come."""
        return self.wait + 8 * count / self.kilobits


#: A phone at the edge of its network, a phone in town, a wire.
LINES = (Line("far", 400, 400), Line("town", 3_000, 120), Line("wire", 40_000, 20))


@dataclass(frozen=True)
class Weight:
    """One file that the picture could be. `is_chosen` marks the one that is taken."""

    choice: Choice
    level: str
    keeps_alpha: bool
    is_chosen: bool = False

    @property
    def bytes(self) -> int:
        """How large the file is."""
        return len(self.choice.data)


@dataclass(frozen=True)
class Source:
    """A picture to weigh: its name, its pixels, the ground for formats without alpha, its quality.

    `slice` is the slice that it is of, None for a file; `save` what holds for it.
    """

    name: str
    pixels: Pixels = field(repr=False)
    ground: tuple[float, float, float] | None = None
    quality: int | str = QUALITY
    slice: str | None = None

    @property
    def level(self) -> str:
        """The level that its smallest file is marked for."""
        return QUALITY if isinstance(self.quality, int) else self.quality

    def originals(self) -> dict[str, Original]:
        """What each format that can hold it is made of; formats of the same pixels share one."""
        found: dict[str, Original] = {}
        for form in self.formats:
            straight = self.prepared(form.name)
            same = (one for one in found.values() if np.array_equal(one.straight, straight))
            found[form.name] = next(same, None) or Original(straight)
        return found

    @property
    def size(self) -> Size:
        """Pixels across and down."""
        height, width = self.pixels.shape[:2]
        return Size(width, height)

    @property
    def formats(self) -> list[Format]:
        """The formats that can hold it."""
        known = FORMATS.values()
        return [form for form in known if self.ground is not None or holds(self.pixels, form.name)]

    def prepared(self, format_name: str) -> Bytes:
        """Its pixels as a format gets them, straight 8-bit RGBA."""
        return prepared(self.pixels, format_name, self.ground)


@dataclass(frozen=True)
class Weighed:
    """A picture with every file that it could be, the smallest of each level first.

    `missed` are the formats that reach a level at no setting, with the level.
    """

    source: Source
    weights: tuple[Weight, ...]
    missed: tuple[tuple[str, str], ...] = ()
    originals: Mapping[str, Original] = field(default_factory=dict, repr=False)

    @property
    def name(self) -> str:
        """The slice's name, or the file's as typed."""
        return self.source.name

    @property
    def chosen(self) -> Weight:
        """The smallest file of the level that holds for it."""
        return next(weight for weight in self.weights if weight.is_chosen)


@dataclass(frozen=True)
class Curve:
    """What a format loses at its settings: bytes and visible loss, from small to large."""

    format: str
    points: tuple[tuple[int, float], ...]


#: The version of what `as_data` gives.
VERSION = 3

#: Formats by how long they take, so that no slow one is left for the end.
SLOWEST = ("avif", "webp", "png", "gif", "jpeg")

#: Told the name of what comes next, and how many are done of how many.
Progress = Callable[[str, int, int], None]


def weigh(
    workspace: Workspace, names: Sequence[str], progress: Progress | None = None
) -> list[Weighed]:
    """Weigh slices of the project by name, or picture files. Raises RifflerError for neither."""
    found, sources = [], _sources(workspace, names)
    with Workers() as pool:
        for index, source in enumerate(sources):
            if progress is not None:
                progress(source.name, index, len(sources))
            found.append(_weighed(pool, source))
    return found


def curves(weighed: Sequence[Weighed], progress: Progress | None = None) -> list[list[Curve]]:
    """For each picture and format what a whole ladder of settings gives."""
    found = []
    with Workers() as pool:
        for index, picture in enumerate(weighed):
            if progress is not None:
                progress(picture.name, index, len(weighed))
            begun = [
                pool.start(_curve, original, name) for name, original in picture.originals.items()
            ]
            found.append([future.result() for future in begun])
    return found


def _curve(original: Original, format_name: str) -> Curve:
    files = CODECS[format_name].ladder(original)
    return Curve(format_name, tuple((len(file.data), file.loss) for file in files))


def _sources(workspace: Workspace, names: Sequence[str]) -> list[Source]:
    """What is to be weighed, in the order of the names; a name may be a slice or a file."""
    files = {name for name in names if Path(name).suffix and Path(name).is_file()}
    found: dict[str, list[Source]] = {name: [_file(workspace, name)] for name in files}
    slices = [name for name in names if name not in files]
    if slices and not workspace.has_project:
        raise RifflerError(
            f'There is no file "{slices[0]}", and no project here that it could be a slice of.'
        )
    if slices:
        found.update(_slices(workspace, slices))
    wanted = [one for name in names for one in found if fnmatchcase(one, name)]
    return [source for one in dict.fromkeys(wanted) for source in found[one]]


def _file(workspace: Workspace, name: str) -> Source:
    opened = workspace.open(Path(name))
    return Source(name, opened.renderer.render(opened.mockup.box, 1.0, opened.mockup.drawn))


def _slices(workspace: Workspace, names: Sequence[str]) -> dict[str, list[Source]]:
    """The pictures of slices at rest, as their roles make them, at the mockup's own size.

    Raises RifflerError for a slice that is not there, or that is named and becomes no picture.
    """
    files = read_cutlists(workspace.project)
    meant = set(named(names, files))
    found: dict[str, list[Source]] = {}
    for cutlist in prepare(workspace, files):
        for slice_ in cutlist.slices:
            if slice_.name not in meant or slice_.label is not None:
                continue
            for part in pictures.parts(slice_.role, slice_.box):
                drawn = cutlist.renderer.render(part.box, 1.0, slice_.rest.shown)
                picture = pictures.made(slice_.role, slice_.box, part.box, drawn, 1.0)
                name = f"{slice_.name}.{part.name}" if part.name else slice_.name
                saving = slice_.rest.saving
                source = Source(name, picture.pixels, saving.ground, saving.quality, slice_.name)
                found.setdefault(slice_.name, []).append(source)
    for name in names:
        if name not in found and (name in meant or not found):
            raise RifflerError(f'"{name}" is a box for live text: it becomes no picture.')
    return found


def _weighed(pool: Workers, source: Source) -> Weighed:
    """Every format at every level; one thread a format, the slowest first."""
    originals = source.originals()
    begun = [
        (FORMATS[name], pool.start(_at_levels, original, name))
        for name, original in sorted(originals.items(), key=lambda pair: SLOWEST.index(pair[0]))
    ]
    shows_through = not is_opaque(source.pixels)
    weights: list[Weight] = []
    missed = []
    for form, future in begun:
        for level, choice in future.result().items():
            if choice is None:
                missed.append((form.name, level))
            elif all(choice.data != weight.choice.data for weight in weights):
                weights.append(Weight(choice, level, form.alpha != "none" and shows_through))
    order = list(LEVELS)
    weights.sort(key=lambda weight: (order.index(weight.level), weight.bytes))
    most = LEVELS[source.level]
    fit = [weight for weight in weights if (weight.choice.loss or 0) <= most]
    best = min(fit, key=lambda weight: weight.bytes)
    marked = tuple(replace(weight, is_chosen=weight is best) for weight in weights)
    return Weighed(source, marked, tuple(missed), originals)


def _at_levels(original: Original, format_name: str) -> dict[str, Choice | None]:
    """The file of each level; one that asks for less may end with the same."""
    return {level: choose(original, format_name, level) for level in LEVELS}


def as_data(weighed: Sequence[Weighed]) -> dict[str, Any]:
    """All that was weighed as commands report it."""
    return {
        "pictures": [
            {
                "name": picture.name,
                "size": plain(picture.source.size),
                "level": picture.source.level,
                "files": [_as_data(weight) for weight in picture.weights],
                "missed": [{"format": name, "level": level} for name, level in picture.missed],
            }
            for picture in weighed
        ]
    }


def _as_data(weight: Weight) -> dict[str, Any]:
    choice = weight.choice
    return {
        "format": choice.format, "level": weight.level, "setting": plain(choice.setting),
        "bytes": weight.bytes, "loss": choice.loss, "alpha": weight.keeps_alpha,
        "chosen": weight.is_chosen, "encodes": choice.encodes,
        "ms": {line.name: round(line.milliseconds(weight.bytes)) for line in LINES},
    }  # fmt: skip
