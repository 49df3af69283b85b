"""Slices -> one picture of all of them in each density, and the rules that show each."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from math import ceil

from riffler.color import empty
from riffler.errors import nearest
from riffler.formats import FORMATS
from riffler.geometry import Box, Size
from riffler.jobs.task import Drawing
from riffler.output.asset import SpriteAsset, StyleAsset
from riffler.output.publish import Made, described
from riffler.project.sprite_settings import Sprite
from riffler.sprite.packing import pack
from riffler.workspace import Workspace
from riffler.workspace.prepare import Wanted, known_names

#: What the classes of a sprite's members begin with.
CLASS = "sprite-"


@dataclass(frozen=True)
class SpriteFile:
    """The sheet in one density, and how large it is in pixels."""

    size: str
    data: bytes
    pixels: Size


@dataclass(frozen=True)
class SpriteSheets:
    """The sheets, their size and where each member lies, in CSS pixels."""

    files: tuple[SpriteFile, ...]
    css: Size
    places: tuple[Box, ...]


@dataclass(frozen=True)
class MakeSprite:
    """Draw every member in every density, and lay them side by side.

    `drawings` are at one pixel a mockup pixel; `densities` are mockup pixels per CSS pixel of each.
    """

    drawings: tuple[Drawing, ...]
    densities: tuple[float, ...]
    how: Sprite

    @property
    def drawing(self) -> Drawing:
        """The first of them."""
        return self.drawings[0]

    @property
    def is_long(self) -> bool:
        """Never: a sprite is encoded at one setting."""
        return False

    def run(self, workspace: Workspace) -> SpriteSheets:
        """Make the sheets."""
        from riffler.encode.choose import choose
        from riffler.encode.encoding import prepared
        from riffler.encode.original import Original

        slots = [
            Size(ceil(drawing.box.width / density), ceil(drawing.box.height / density))
            for drawing, density in zip(self.drawings, self.densities, strict=True)
        ]
        css, places = pack(slots, self.how.gap)
        files = []
        for size in self._useful(workspace):
            times = int(size[:-1])
            sheet = empty(css.height * times, css.width * times)
            for drawing, density, place in zip(self.drawings, self.densities, places, strict=True):
                renderer = workspace.renderer(drawing.mockup)
                pixels = renderer.render(drawing.box, times / density, drawing.shown)
                height = min(pixels.shape[0], place.height * times)
                width = min(pixels.shape[1], place.width * times)
                top, left = place.y * times, place.x * times
                sheet[top : top + height, left : left + width] = pixels[:height, :width]
            original = Original(prepared(sheet, self.how.save, None))
            choice = choose(original, self.how.save, "exact", None)
            assert choice is not None
            files.append(SpriteFile(size, choice.data, Size(sheet.shape[1], sheet.shape[0])))
        return SpriteSheets(tuple(files), css, tuple(places))

    def _useful(self, workspace: Workspace) -> list[str]:
        """The sizes that have more to show: pixels are not enlarged beyond those that there are."""
        pixels = [
            density
            for drawing, density in zip(self.drawings, self.densities, strict=True)
            if not workspace.renderer(drawing.mockup).mockup.is_vector
        ]
        most = max(1.0, min(pixels, default=float("inf")))
        sizes: list[str] = sorted(dict.fromkeys(self.how.sizes))
        return [size for size in sizes if float(size[:-1]) <= most] or sizes[:1]


@dataclass(frozen=True)
class SpriteTask:
    """One sprite of riffler.toml."""

    operation: MakeSprite
    name: str
    names: tuple[str, ...]
    slice: str | None = None

    result = SpriteSheets

    def products(self, result: SpriteSheets, workspace: Workspace) -> Iterator[Made]:
        """The sheets, and their style sheet."""
        project, folders = workspace.project, workspace.project.settings.folders
        members = dict(zip(self.names, result.places, strict=True))
        extension = FORMATS[self.operation.how.save].extension
        files = {}
        for file in result.files:
            mark = "" if file.size == "1x" else f"@{file.size}"
            name = f"{folders.images}/{CLASS}{self.name}{mark}.{extension}"
            files[file.size] = name
            yield described(
                SpriteAsset,
                project,
                name,
                file.data,
                made_by="cut",
                name=self.name,
                format=self.operation.how.save,
                pixels=file.pixels,
                css=result.css,
                size=file.size,
                members=members,
            )
        text = style_sheet(self.name, files, result.css, members, folders.styles)
        sheet = f"{folders.styles}/{CLASS}{self.name}.css"
        yield described(StyleAsset, project, sheet, text.encode(), made_by="cut")


def style_sheet(
    name: str, files: dict[str, str], css: Size, members: dict[str, Box], folder: str
) -> str:
    """A class for all members, with the sheet, and one for each, with its place in it."""
    import posixpath

    def address(file: str) -> str:
        return posixpath.relpath(file, folder)

    first = files.get("1x") or next(iter(files.values()))
    image = f'url("{address(first)}")'
    rules = [f".{CLASS}{name} {{", "  display: inline-block;", f"  background: {image} no-repeat;"]
    if len(files) > 1:
        candidates = ", ".join(f'url("{address(file)}") {size}' for size, file in files.items())
        rules.append(f"  background-image: image-set({candidates});")
    rules += [f"  background-size: {css.width}px {css.height}px;", "}"]
    for member, box in members.items():
        rules += [
            f".{CLASS}{name}-{member} {{",
            f"  width: {box.width}px;",
            f"  height: {box.height}px;",
            f"  background-position: {_back(box.x)} {_back(box.y)};",
            "}",
        ]
    return "\n".join(rules) + "\n"


def _back(length: int) -> str:
    return f"-{length}px" if length else "0"


def plan(wanted: Wanted) -> Iterator[SpriteTask]:
    """The sprites of riffler.toml, when all slices are wanted.

    Raises WrittenError for a slice that is not there.
    """
    settings = wanted.workspace.project.settings
    for name, how in settings.sprite.items():
        members = list(members_of(wanted, ("sprite", name, "slices"), how.slices))
        if not members:
            continue
        drawings, densities, names = zip(*members, strict=True)
        yield SpriteTask(MakeSprite(drawings, densities, how), name, names)


def members_of(
    wanted: Wanted, keys: tuple[str, ...], names: Sequence[str]
) -> Iterator[tuple[Drawing, float, str]]:
    """The drawings of named slices at rest, with their densities; none in a run of some slices.

    Raises WrittenError for one that is not there.
    """
    known = known_names([cutlist.file for cutlist in wanted.cutlists])
    result = {
        slice_.name: (Drawing(cutlist.key, slice_.box, 1.0, slice_.rest.shown), slice_.density)
        for cutlist, slice_ in wanted.slices()
        if slice_.label is None
    }
    if not wanted.names >= frozenset(known):
        return
    for name in dict.fromkeys(names):
        if name not in result:
            raise wanted.workspace.project.written.mistake(
                keys,
                f'There is no slice "{name}" in any cutlist.',
                nearest(name, result, "Slices are"),
            )
        drawing, density = result[name]
        yield drawing, density, name
