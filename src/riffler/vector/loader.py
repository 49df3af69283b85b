"""A vector mark -> a loading mark: its drawing, the CSS that moves it, the words for who can't see.

CSS Transforms 2 has turning and scaling as properties of their own, so that both can go on at once.
All lengths are shares of one width.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from html import escape
from importlib import resources

from riffler.errors import RifflerError, SettingError
from riffler.jobs.task import Drawing
from riffler.output.asset import LoaderAsset, StyleAsset
from riffler.output.publish import Made, described
from riffler.project.sprite_settings import Loader
from riffler.sprite.sheet import members_of
from riffler.vector.for_page import ForPage
from riffler.vector.taken import taken
from riffler.vector.tidied import make
from riffler.workspace import Workspace
from riffler.workspace.prepare import Wanted

#: What the class and the names of animations begin with.
CLASS = "loader-"

#: Dots that run below the mark.
DOTS = 3


@dataclass(frozen=True)
class LoaderFile:
    """The drawing of a loading mark."""

    data: bytes


@dataclass(frozen=True)
class MakeLoader:
    """Take the mark out and tidy it."""

    drawing: Drawing
    density: float
    name: str

    @property
    def is_long(self) -> bool:
        """Never: it is a few lines of text."""
        return False

    def run(self, workspace: Workspace) -> LoaderFile:
        """Make the drawing. Raises SettingError for a slice that is no vector."""
        drawing = self.drawing
        try:
            source = taken(
                workspace.renderer(drawing.mockup), drawing.shown, drawing.box, self.density
            )
        except RifflerError as error:
            raise SettingError("save", error.message, error.advice) from error
        return LoaderFile(mark(source, self.name, self.name, workspace).encode())


def mark(source: bytes, name: str, what: str, workspace: Workspace) -> str:
    """The tidied drawing of a mark, hidden from who would hear it: the status text says it."""
    page = ForPage(name, title="")
    return make(source, what, page=page, limits=workspace.limits, fonts=workspace.fonts).text


@dataclass(frozen=True)
class LoaderTask:
    """One loading mark of riffler.toml."""

    operation: MakeLoader
    name: str
    how: Loader
    slice: str | None = None

    result = LoaderFile

    def products(self, result: LoaderFile, workspace: Workspace) -> Iterator[Made]:
        """The drawing, and its style sheet."""
        project, folders = workspace.project, workspace.project.settings.folders
        stem = f"{CLASS}{self.name}"
        yield described(
            LoaderAsset,
            project,
            f"{folders.images}/{stem}.svg",
            result.data,
            made_by="cut",
            name=self.name,
            dots=DOTS if "dots" in self.how.move else 0,
            text=self.how.text,
        )
        text = style_sheet(self.name, self.how)
        yield described(
            StyleAsset, project, f"{folders.styles}/{stem}.css", text.encode(), made_by="cut"
        )


def plan(wanted: Wanted) -> Iterator[LoaderTask]:
    """The loading marks of riffler.toml, when all slices are wanted.

    Raises WrittenError for a slice that is not there.
    """
    for name, how in wanted.workspace.project.settings.loader.items():
        for drawing, density, _ in members_of(wanted, ("loader", name, "slice"), [how.slice]):
            yield LoaderTask(MakeLoader(drawing, density, f"{CLASS}{name}"), name, how)


def html(name: str, svg: str, dots: int, text: str) -> str:
    """The lines for a page: the mark, its dots, and the status as text."""
    running = f'<span class="{CLASS}{name}-dots">{"<i></i>" * dots}</span>' if dots else ""
    said_text = f'<span class="{CLASS}{name}-text">{escape(text)}</span>'
    return f'<span class="{CLASS}{name}" role="status">{svg}{running}{said_text}</span>'


def style_sheet(name: str, how: Loader) -> str:
    """The rules: one width, what moves and how, nothing where less motion is wanted."""
    return filled(
        "loader.css",
        stem=f"{CLASS}{name}",
        size=how.size,
        moves=[move for move in how.move if move != "dots"],
        period=how.period,
        easing=how.easing,
        delays=list(_delays(how)),
    )


def _delays(how: Loader) -> Iterator[str]:
    """How much later each dot moves than the first, in the unit of the period."""
    unit = "ms" if how.period.endswith("ms") else "s"
    for number in range(1, DOTS) if "dots" in how.move else ():
        yield f"{float(how.period.removesuffix(unit)) * number / (2 * DOTS):.3g}{unit}"


def filled(template: str, **values: object) -> str:
    """A template beside this module with what it asks for; nothing in it is escaped."""
    import jinja2

    text = resources.files("riffler.vector").joinpath(template).read_text(encoding="utf-8")
    environment = jinja2.Environment(  # noqa: S701 - all that goes in is our own
        trim_blocks=True, lstrip_blocks=True, keep_trailing_newline=True
    )
    return environment.from_string(text).render(**values)
