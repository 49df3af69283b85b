"""A slice or a picture file -> what it weighs in every format, and what is seen of the loss."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

from riffler.color import Pixels, is_opaque
from riffler.encode import png
from riffler.encode.choice import LEVELS, Choice
from riffler.encode.choose import choose
from riffler.encode.encoding import holds, prepared
from riffler.errors import RifflerError, nearest
from riffler.formats import FORMATS
from riffler.geometry import Size
from riffler.jobs.bench import fonts_of, known_names, prepare, read_cutlists
from riffler.jobs.workers import Workers
from riffler.mockup.opening import open_mockup
from riffler.project.limits import DEFAULT_LIMITS
from riffler.project.project import Project
from riffler.render.renderer import open_renderer


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
class Weighed:
    """A picture with every file that it could be, the smallest of each kind first."""

    name: str
    size: Size
    weights: tuple[Weight, ...]


def weigh(project: Project | None, names: Sequence[str]) -> list[Weighed]:
    """Weigh slices of the project by name, or picture files. Raises RifflerError for neither."""
    found = []
    with Workers() as pool:
        for name, pixels, ground in _pictures(project, names):
            found.append(_weighed(pool, name, pixels, ground))
    return found


def _pictures(
    project: Project | None, names: Sequence[str]
) -> list[tuple[str, Pixels, tuple[float, float, float] | None]]:
    files = [name for name in names if Path(name).suffix and Path(name).is_file()]
    slices = [name for name in names if name not in files]
    found: list[tuple[str, Pixels, tuple[float, float, float] | None]] = []
    for name in files:
        limits = project.settings.limits if project else DEFAULT_LIMITS
        mockup = open_mockup(Path(name), limits)
        renderer = open_renderer(mockup, fonts_of(project), limits)
        found.append((name, renderer.render(mockup.box, 1.0, mockup.drawn), None))
    if not slices:
        return found
    if project is None:
        raise RifflerError(
            f'There is no file "{slices[0]}", and no project here that it could be a slice of.'
        )
    cutlists = read_cutlists(project)
    known = known_names(cutlists)
    for name in slices:
        if name not in known:
            raise RifflerError(f'There is no slice "{name}".', nearest(name, known, "Slices are"))
    for bench in prepare(project, cutlists):
        for one in bench.slices:
            if one.name in slices and one.role != "words":
                pixels = bench.renderer.render(one.box, 1.0, one.rest.shown)
                found.append((one.name, pixels, one.rest.saving.ground))
    return found


def _weighed(
    pool: Workers, name: str, pixels: Pixels, ground: tuple[float, float, float] | None
) -> Weighed:
    begun = []
    for form in FORMATS.values():
        if ground is None and not holds(pixels, form.name):
            continue
        straight = prepared(pixels, form.name, ground)
        if form.name == "png":
            begun.append(("lossless", form.name, pool.start(_lossless, straight)))
        begun.extend(
            (level, form.name, pool.start(choose, straight, form.name, level)) for level in LEVELS
        )
    weights, shows_through = [], not is_opaque(pixels)
    for level, form_name, future in begun:
        choice = future.result()
        if form_name == "png" and level != "lossless" and choice.loss == 0:
            continue  # a palette would not be worth it: the lossless one stands there already
        weights.append(Weight(choice, level, FORMATS[form_name].alpha != "none" and shows_through))
    weights.sort(key=lambda one: (one.level == "fair", one.bytes))
    clear = [one for one in weights if (one.choice.loss or 0) <= LEVELS["clear"]]
    best = min(clear, key=lambda one: one.bytes)
    marked = tuple(Weight(one.choice, one.level, one.keeps_alpha, one is best) for one in weights)
    height, width = pixels.shape[:2]
    return Weighed(name, Size(width, height), marked)


def _lossless(straight: object) -> Choice:
    return Choice(png.encode(straight), "png", {}, 0.0)  # type: ignore[arg-type]
