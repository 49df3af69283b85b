"""Vector slices -> one file of symbols, each with its view box. SVG 2, section 5.5.

Symbols are put into the page that uses them: another file can't be read from a disk, and no browser
finds gradients in it.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from lxml import etree

from riffler.errors import RifflerError, SettingError
from riffler.jobs.task import Drawing
from riffler.mockup.svg import lengths
from riffler.mockup.svg.document import NAMESPACE
from riffler.mockup.xml import local_name
from riffler.output.asset import SymbolsAsset
from riffler.output.publish import Made, described
from riffler.project.saving import Paint
from riffler.sprite.sheet import members_of
from riffler.tidy.drawing import Drawing as Tree
from riffler.tidy.writing import text_of
from riffler.vector.for_page import ForPage
from riffler.vector.taken import taken
from riffler.vector.tidied import make
from riffler.workspace import Workspace
from riffler.workspace.prepare import Wanted

#: Attributes of a drawing's root that a symbol has no use for.
_OF_ROOT = ("width", "height", "version", "role", "aria-hidden")


@dataclass(frozen=True)
class SymbolFile:
    """A file of symbols."""

    data: bytes


@dataclass(frozen=True)
class MakeSymbols:
    """Take every member out, tidy it, and put it into the file under its name."""

    drawings: tuple[Drawing, ...]
    densities: tuple[float, ...]
    names: tuple[str, ...]
    paint: Paint

    @property
    def drawing(self) -> Drawing:
        """The first of them."""
        return self.drawings[0]

    @property
    def is_long(self) -> bool:
        """Never: drawings are tidied quickly."""
        return False

    def run(self, workspace: Workspace) -> SymbolFile:
        """Make the file. Raises SettingError for a member that is no vector."""
        texts = []
        for drawing, density, name in zip(self.drawings, self.densities, self.names, strict=True):
            try:
                source = taken(
                    workspace.renderer(drawing.mockup), drawing.shown, drawing.box, density
                )
                page = ForPage(name, self.paint)
                file = make(source, name, page=page, limits=workspace.limits, fonts=workspace.fonts)
            except RifflerError as error:
                raise SettingError("slices", f"{name}: {error.message}", error.advice) from error
            texts.append((name, file.text))
        return SymbolFile(together(texts).encode())


def together(drawings: Sequence[tuple[str, str]]) -> str:
    """Tidied drawings as the symbols of one file, by name; their ids are unlike each other's."""
    root = etree.Element(f"{{{NAMESPACE}}}svg", nsmap={None: NAMESPACE})
    for name, text in drawings:
        drawing = etree.fromstring(text.encode())
        symbol = etree.SubElement(root, f"{{{NAMESPACE}}}symbol", id=name)
        if drawing.get("viewBox") is None:
            width, height = (lengths.length(drawing.get(key)) or 0 for key in ("width", "height"))
            drawing.set("viewBox", f"0 0 {width:g} {height:g}")
        for key, value in drawing.attrib.items():
            if key not in _OF_ROOT and key != "id":
                symbol.set(key, value)
        for child in list(drawing):
            if local_name(child) != "title":
                symbol.append(child)
    return text_of(Tree(root))


@dataclass(frozen=True)
class SymbolsTask:
    """One file of symbols of riffler.toml."""

    operation: MakeSymbols
    name: str
    slice: str | None = None

    result = SymbolFile

    def products(self, result: SymbolFile, workspace: Workspace) -> Iterator[Made]:
        """The one file."""
        operation, project = self.operation, workspace.project
        members = {
            name: drawing.box.on_page(density)
            for name, drawing, density in zip(
                operation.names, operation.drawings, operation.densities, strict=True
            )
        }
        yield described(
            SymbolsAsset,
            project,
            f"{project.settings.folders.images}/{self.name}.svg",
            result.data,
            made_by="cut",
            name=self.name,
            members=members,
        )


def plan(wanted: Wanted) -> Iterator[SymbolsTask]:
    """The files of symbols of riffler.toml, when all slices are wanted.

    Raises WrittenError for a slice that is not there.
    """
    for name, how in wanted.workspace.project.settings.symbols.items():
        members = list(members_of(wanted, ("symbols", name, "slices"), how.slices))
        if members:
            drawings, densities, names = zip(*members, strict=True)
            yield SymbolsTask(MakeSymbols(drawings, densities, names, how.paint), name)
