"""A slice or a picture file -> what it weighs in every format, and what is seen of the loss."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from itertools import product
from typing import Any

from riffler.analyse.outline import only_corners
from riffler.color import is_opaque, to_bytes
from riffler.cutting.files import files_of
from riffler.cutting.sources import PictureSource, sources_of
from riffler.encode.choice import LEVELS, Choice, is_worth_a_loss
from riffler.encode.choose import CODECS, choose
from riffler.encode.hidden import spread
from riffler.encode.original import Original
from riffler.formats import AUTO, FORMATS
from riffler.jobs.runner import Workers
from riffler.plain import plain
from riffler.workspace import Workspace


@dataclass(frozen=True)
class Connection:
    """A connection: its name, kilobits a second, and milliseconds until the first byte."""

    name: str
    kilobits: float
    wait: float

    def milliseconds(self, count: int) -> float:
        """How long a file of so many bytes takes to come."""
        return self.wait + 8 * count / self.kilobits


#: A phone at the edge of its network, a phone in town, a wire.
LINES = (
    Connection("far", 400, 400),
    Connection("town", 3_000, 120),
    Connection("wire", 40_000, 20),
)


@dataclass(frozen=True)
class Weight:
    """One file that the picture could be. `is_chosen` marks those that are cut.

    `level` is the strictest that it holds, or what was asked for beside those.
    """

    choice: Choice
    level: str
    keeps_alpha: bool
    is_chosen: bool = False

    @property
    def bytes(self) -> int:
        """How large the file is."""
        return len(self.choice.data)


@dataclass(frozen=True)
class Square:
    """A picture without its rounded corners: the JPEG, and the radii that CSS gives it back.

    `radii` are in CSS pixels, from the top left corner on clockwise. `saved` are the bytes that the
    smallest file that is cut has more.
    """

    choice: Choice
    saved: int
    radii: tuple[float, ...]


@dataclass(frozen=True)
class Weighed:
    """A picture with every file that it could be, the smallest of each level first.

    Those that a cut writes are marked; where other formats are asked for than would serve best,
    `better` is the file that would.

    `missed` are the formats that reach a level at no setting, with the level; `square` is what a
    JPEG would be where only rounded corners need transparency.
    """

    source: PictureSource
    weights: tuple[Weight, ...]
    missed: tuple[tuple[str, str], ...] = ()
    square: Square | None = None
    better: Weight | None = None
    originals: Mapping[str, Original] = field(default_factory=dict, repr=False)

    @property
    def name(self) -> str:
        """The slice's name, or the file's as typed."""
        return self.source.name

    @property
    def chosen(self) -> Weight:
        """The smallest file that a cut writes."""
        return min(self.taken, key=lambda weight: weight.bytes)

    @property
    def taken(self) -> list[Weight]:
        """The files that a cut writes."""
        return [weight for weight in self.weights if weight.is_chosen]


@dataclass(frozen=True)
class Curve:
    """What a format loses at its settings: bytes and visible loss, from small to large."""

    format: str
    points: tuple[tuple[int, float], ...]


#: The version of what `as_data` gives.
VERSION = 4

#: Bytes and share that a JPEG with corners by CSS has to save to be worth a word.
SAVED, SAVED_SHARE = 1_000, 0.2

#: Formats by how long they take, so that no slow one is left for the end.
SLOWEST = ("avif", "webp", "png", "gif", "jpeg")

#: Told the name of what comes next, and how many are done of how many.
Progress = Callable[[str, int, int], None]


def weigh(
    workspace: Workspace, names: Sequence[str], progress: Progress | None = None
) -> list[Weighed]:
    """Weigh slices of the project by name, or picture files. Raises RifflerError for neither."""
    weighings, sources = [], sources_of(workspace, names)
    with Workers() as pool:
        for index, source in enumerate(sources):
            if progress is not None:
                progress(source.name, index, len(sources))
            weighings.append(_weighed(pool, source))
    return weighings


def curves(weighed: Sequence[Weighed], progress: Progress | None = None) -> list[list[Curve]]:
    """For each picture and format what a whole ladder of settings gives."""
    result = []
    with Workers() as pool:
        for index, picture in enumerate(weighed):
            if progress is not None:
                progress(picture.name, index, len(weighed))
            begun = [
                pool.start(_curve, original, name) for name, original in picture.originals.items()
            ]
            result.append([future.result() for future in begun])
    return result


def _curve(original: Original, format_name: str) -> Curve:
    rungs = CODECS[format_name].ladder(original)
    return Curve(format_name, tuple((rung.size, rung.loss) for rung in rungs))


def _weighed(pool: Workers, source: PictureSource) -> Weighed:
    """Every format at every level side by side, the slowest first."""
    originals = source.originals()
    names = sorted(originals, key=SLOWEST.index)
    begun = {
        (level, name): pool.start(choose, originals[name], name, level)
        for level in reversed(LEVELS)
        for name in names
    }
    result = {(name, level): begun[level, name].result() for name, level in product(names, LEVELS)}
    missed = tuple(key for key, choice in result.items() if choice is None)
    shows_through = not is_opaque(source.pixels)
    weights = list(_smaller(result, shows_through=shows_through))
    known_originals = list(originals.values())
    cut = list(files_of(source.saving, source.pixels, source.joints, known_originals))
    for choice in cut:
        same = [n for n, row in enumerate(weights) if row.choice.data == choice.data]
        if same:
            weights[same[0]] = replace(weights[same[0]], is_chosen=True)
        else:
            keeps = FORMATS[choice.format].alpha != "none" and shows_through
            weights.append(Weight(choice, _level_of(choice), keeps, is_chosen=True))
    order = {level: number for number, level in enumerate(LEVELS)}
    weights.sort(key=lambda weight: (order.get(weight.level, len(order)), weight.bytes))
    square = _square(source, min(len(choice.data) for choice in cut)) if cut else None
    better = _better(source, cut, known_originals)
    return Weighed(source, tuple(weights), missed, square, better, originals)


def _level_of(choice: Choice) -> str:
    """The strictest level that a file holds; what it was made at where it holds none."""
    if choice.loss is None:
        return f"quality {choice.setting.get('quality')}"
    return next((level for level, most in LEVELS.items() if choice.loss <= most), "below")


def _better(
    source: PictureSource, cut: Sequence[Choice], known_originals: list[Original]
) -> Weight | None:
    """The file that would serve best at the same level, where it saves real bytes."""
    if AUTO in source.saving.save or source.saving.budget is not None or not cut:
        return None
    saving = replace(source.saving, save=(AUTO,), quality=source.level)
    best = next(files_of(saving, source.pixels, source.joints, known_originals))
    if not is_worth_a_loss(best, min(cut, key=lambda choice: len(choice.data))):
        return None
    return Weight(best, _level_of(best), FORMATS[best.format].alpha != "none")


def _smaller(
    found: Mapping[tuple[str, str], Choice | None], *, shows_through: bool
) -> Iterator[Weight]:
    """The file of each format and level, but for what is no smaller than that of a stricter one."""
    least: dict[str, int] = {}
    for (name, level), choice in found.items():
        if choice is not None and len(choice.data) < least.get(name, len(choice.data) + 1):
            least[name] = len(choice.data)
            yield Weight(choice, level, FORMATS[name].alpha != "none" and shows_through)


def _square(source: PictureSource, least: int) -> Square | None:
    """The JPEG of a picture that only its corners keep from being one, where it saves much."""
    radii = None if is_opaque(source.pixels) else only_corners(source.pixels)
    if radii is None:
        return None
    straight = to_bytes(source.pixels)
    filled = spread(straight, straight[..., 3] < 255)
    filled[..., 3] = 255
    choice = choose(filled, "jpeg", source.level)
    saved = least - len(choice.data) if choice else 0
    if choice is None or saved < max(SAVED, SAVED_SHARE * least):
        return None
    return Square(
        choice, saved, tuple(round(radius / source.density, 1) for radius in radii.listed)
    )


def as_data(weighed: Sequence[Weighed]) -> dict[str, Any]:
    """All that was weighed as commands report it."""
    return {
        "pictures": [
            {
                "name": picture.name,
                "size": plain(picture.source.size),
                "level": picture.source.level,
                "files": [_as_data(weight) for weight in picture.weights],
                "square": None
                if picture.square is None
                else {
                    "bytes": len(picture.square.choice.data),
                    "saved": picture.square.saved,
                    "radii": picture.square.radii,
                },
                "better": None
                if picture.better is None
                else {
                    "format": picture.better.choice.format,
                    "bytes": picture.better.bytes,
                    "loss": picture.better.choice.loss,
                },
                "missed": [{"format": name, "level": level} for name, level in picture.missed],
            }
            for picture in weighed
        ]
    }


def _as_data(weight: Weight) -> dict[str, Any]:
    choice = weight.choice
    return {
        "format": choice.format,
        "level": weight.level,
        "setting": plain(choice.setting),
        "bytes": weight.bytes,
        "loss": choice.loss,
        "alpha": weight.keeps_alpha,
        "chosen": weight.is_chosen,
        "encodes": choice.encodes,
        "ms": {line.name: round(line.milliseconds(weight.bytes)) for line in LINES},
    }
