"""Font files -> faces by family, and what stands in for a family that is missing."""

from __future__ import annotations

import re
import sys
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import TYPE_CHECKING, Literal

from riffler.errors import RifflerError
from riffler.files import as_typed
from riffler.mockup.model import LayerText, Mockup

if TYPE_CHECKING:
    import uharfbuzz as harfbuzz

#: Family words that CSS defines, in the order in which a stand-in is looked for.
GENERIC = ("serif", "sans-serif", "monospace", "cursive", "fantasy", "system-ui")

#: Endings of files that hold faces.
ENDINGS = (".ttf", ".otf", ".ttc", ".otc", ".woff2")

#: Names in a font: OpenType 1.9, `name`.
_FAMILY, _TYPOGRAPHIC_FAMILY = 1, 16

#: Parts of common family names that tell what kind of face a family is.
_HINTS = {
    "serif": ("serif", "roman", "garamond", "times", "georgia", "slab"),
    "monospace": ("mono", "code", "courier", "console", "typewriter"),
    "sans-serif": ("sans", "grotesk", "gothic", "arial", "helvetica"),
}


#: The end of a family's name that is none of the family's.
_WEIGHT = r"\s+(Thin|(Extra|Ultra)?Light|Regular|Medium|(Semi|Demi|Extra|Ultra)?Bold|Black|Heavy)$"


@dataclass(frozen=True)
class Face:
    """One face in a font file."""

    path: Path
    family: str
    weight: int
    is_italic: bool
    is_system: bool = False


@dataclass(frozen=True)
class FontBook:
    """The faces that text may be drawn with: a project's own, then, where wanted, the system's."""

    files: tuple[Path, ...] = ()
    use_system: bool = False

    def faces(self) -> tuple[Face, ...]:
        """Every face, the project's first. System folders are read once a run."""
        return _faces(self.files, False) + (_system_faces() if self.use_system else ())

    def own_faces(self) -> tuple[Face, ...]:
        """The project's faces; where it has none, those of the system."""
        return _faces(self.files, False) or self.faces()

    def find(self, family: str) -> tuple[Face, ...]:
        """The faces of a family, whatever the case of its name."""
        wanted = family.casefold()
        return tuple(face for face in self.faces() if face.family.casefold() == wanted)

    def nearest(self, family: str, weight: int, *, is_italic: bool) -> Face | None:
        """The face of a family that is drawn. CSS Fonts 4, section 5.2, without widths."""
        faces = self.find(family)
        faces = tuple(face for face in faces if face.is_italic == is_italic) or faces
        return min(faces, key=lambda face: _misfit(face.weight, weight), default=None)

    def choose(self, families: Sequence[str]) -> tuple[str, bool]:
        """The family that text is drawn with, and whether it is the first that was asked for.

        The first of the list that is there; else a face that looks like the generic word in the
        list; else the first face of all. Empty when there is no font at all.
        """
        for index, family in enumerate(families):
            if found_faces := self.find(family):
                return found_faces[0].family, index == 0
        generic = next((f for f in families if f in GENERIC), _guess(families))
        for face in self.faces():
            if _guess([face.family]) == generic:
                return face.family, False
        faces = self.faces()
        return (faces[0].family if faces else ""), False


def _misfit(weight: int, wanted: int) -> tuple[int, int]:
    """Sorts weights: up to 500 for normal ones, then lighter ones for light, bolder for bold."""
    if 400 <= wanted <= 500 and wanted <= weight <= 500:
        return 0, weight - wanted
    is_light = wanted <= 500
    is_on_side = weight <= wanted if is_light else weight >= wanted
    return 1 + (not is_on_side), abs(weight - wanted)


def _guess(families: Sequence[str]) -> str:
    """The generic word that fits a list of families best."""
    name = " ".join(families).casefold().replace("sans-serif", "sans").replace("sans serif", "sans")
    for generic in ("monospace", "sans-serif", "serif"):
        if any(hint in name for hint in _HINTS[generic]) and not (
            generic == "serif" and "sans" in name
        ):
            return generic
    return "sans-serif"


@cache
def _faces(files: tuple[Path, ...], is_system: bool) -> tuple[Face, ...]:
    return tuple(face for path in files for face in _read(path, is_system))


@cache
def _system_faces() -> tuple[Face, ...]:
    paths = (path for folder in _system_folders() if folder.is_dir() for path in _below(folder))
    return _faces(tuple(paths), True)


def _below(folder: Path) -> Iterable[Path]:
    return (path for path in sorted(folder.rglob("*")) if path.suffix.lower() in ENDINGS)


def _system_folders() -> list[Path]:
    home = Path.home()
    if sys.platform == "darwin":
        return [home / "Library/Fonts", Path("/Library/Fonts"), Path("/System/Library/Fonts")]
    if sys.platform == "win32":
        return [Path("C:/Windows/Fonts")]
    shared = [Path("/usr/share/fonts"), Path("/usr/local/share/fonts")]
    return [home / ".local/share/fonts", home / ".fonts", *shared]


def _read(path: Path, is_system: bool) -> list[Face]:
    """The faces in a file; none when it is damaged, since a font is not worth stopping for."""
    if path.suffix.lower() in (".ttf", ".otf"):
        return _single(path, is_system)
    from fontTools.ttLib import TTCollection, TTFont

    try:
        with path.open("rb") as file:
            if path.suffix.lower() in (".ttc", ".otc"):
                fonts = TTCollection(file, lazy=True).fonts
            else:
                fonts = [TTFont(file, lazy=True)]
            return [_face(path, font, is_system) for font in fonts]
    except Exception:  # its parts may be damaged in any way
        return []


def _single(path: Path, is_system: bool) -> list[Face]:
    """The face of a file with one: HarfBuzz, which loads in a tenth of the time, knows it all."""
    import uharfbuzz

    try:
        face = uharfbuzz.Face(uharfbuzz.Blob.from_file_path(path))
    except (OSError, uharfbuzz.HarfBuzzError):
        return []
    if not face.glyph_count:
        return []
    family = face.get_name(_TYPOGRAPHIC_FAMILY) or face.get_name(_FAMILY) or path.stem
    font = uharfbuzz.Font(face)
    weight = round(font.get_style_value(uharfbuzz.StyleTag.WEIGHT))
    is_italic = font.get_style_value(uharfbuzz.StyleTag.ITALIC) > 0
    is_variable = weights_of(font) is not None
    return [Face(path, _named(family, is_variable=is_variable), weight, is_italic, is_system)]


def _named(family: str, *, is_variable: bool) -> str:
    """The family of a face; a variable one is at times called by the weight that it begins with."""
    return re.sub(_WEIGHT, "", family) or family if is_variable else family


def laid_out_with(path: Path, weight: int | None = None) -> tuple[harfbuzz.Font, int]:
    """A font that HarfBuzz sets text with, and the units that it counts in.

    A variable one is set to a `weight` where that is said. The file is read whole, since a mapped
    one that shrinks would end the process. Raises RifflerError for one that is no font.
    """
    import uharfbuzz

    try:
        data = path.read_bytes()
        face = uharfbuzz.Face(_unpacked(data) if data[:4] == b"wOF2" else data)
    except (OSError, uharfbuzz.HarfBuzzError) as error:
        raise RifflerError(f"{as_typed(path)} can't be read as a font: {error}.") from error
    font = uharfbuzz.Font(face)
    if weight is not None and weights_of(font):
        font.set_variations({"wght": float(weight)})
    return font, max(1, face.upem)


def weights_of(font: harfbuzz.Font) -> tuple[int, int] | None:
    """The lightest and the boldest that a variable font can be; None for one of a single weight."""
    axes = (axis for axis in font.face.axis_infos if axis.tag == "wght")
    return next(((round(axis.min_value), round(axis.max_value)) for axis in axes), None)


def _unpacked(data: bytes) -> bytes:
    """A font without the packing of the web. Raises OSError for a damaged one."""
    from io import BytesIO

    from fontTools.ttLib import TTFont

    out = BytesIO()
    try:
        with TTFont(BytesIO(data)) as font:
            font.flavor = None
            font.save(out)
    except Exception as error:  # its parts may be damaged in any way
        raise OSError(str(error) or "it is damaged") from error
    return out.getvalue()


def _face(path: Path, font: object, is_system: bool) -> Face:
    names, shape = font["name"], font["OS/2"]  # type: ignore[index]
    family = names.getDebugName(_TYPOGRAPHIC_FAMILY) or names.getDebugName(_FAMILY) or path.stem
    family = _named(family, is_variable="fvar" in font)  # type: ignore[operator]
    return Face(path, family, int(shape.usWeightClass), bool(shape.fsSelection & 1), is_system)


@dataclass(frozen=True)
class Use:
    """A family that text asks for first: how much text, where it was found, what is drawn.

    `found` says where, None when it is missing; `drawn_with` is the family that stands in, or its
    own name; None when there is no font at all.
    """

    family: str
    weights: tuple[int, ...]
    words: int
    layers: int
    found: Literal["project", "system"] | None
    drawn_with: str | None


#: Stands for the family of text that names none of its own, or a generic one.
UNNAMED = "(none named)"


def uses(mockup: Mockup, book: FontBook) -> list[Use]:
    """The families that the mockup's text asks for, the most used first."""
    texts: dict[tuple[str, ...], list[LayerText]] = {}
    for layer in mockup.walk():
        if layer.words is not None:
            texts.setdefault(layer.words.families, []).append(layer.words)
    found_uses: dict[str, Use] = {}
    anywhere = FontBook(book.files, use_system=True)
    for families, words in texts.items():
        family = families[0] if families else UNNAMED
        drawn, _ = book.choose(families)
        faces = anywhere.find(family)
        where: Literal["project", "system"] | None = None
        if faces:
            where = "system" if faces[0].is_system else "project"
        before = found_uses.get(family, Use(family, (), 0, 0, where, drawn or None))
        found_uses[family] = Use(
            family,
            tuple(sorted({*before.weights, *(text.weight for text in words)})),
            before.words + sum(len(text.text.split()) for text in words),
            before.layers + len(words),
            where,
            drawn or None,
        )
    return sorted(found_uses.values(), key=lambda use: (-use.words, use.family))
