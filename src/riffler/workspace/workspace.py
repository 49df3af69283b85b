"""A project, or none -> its limits and fonts, and every mockup opened in the same way."""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property, partial
from pathlib import Path
from typing import TypeVar

from riffler.cutlist.file import CutlistFile
from riffler.errors import MockupError, RifflerError
from riffler.files import as_typed, real
from riffler.mockup.font_book import FontBook
from riffler.mockup.model import Mockup, drawings
from riffler.mockup.opening import open_mockup
from riffler.project.limits import DEFAULT_LIMITS, Limits
from riffler.project.project import NO_PROJECT, Project, font_files
from riffler.render.boxes import BoxMemory
from riffler.render.renderer import Renderer, open_renderer

Made = TypeVar("Made")


@dataclass(frozen=True)
class MockupKey:
    """Which mockup is meant, as plain data that can be sent anywhere.

    `words` are the addresses of pixel layers that a cutlist calls text, `left` those of layers that
    the page leaves out.
    """

    path: Path
    canvas: str | None = None
    words: frozenset[str] = frozenset()
    left: frozenset[str] = frozenset()


@dataclass(frozen=True)
class Opened:
    """A mockup that is open, with what the project around it says of it.

    `density` is None where no cutlist says one; `cutlist` is the one that the mockup is cut by.
    """

    key: MockupKey
    renderer: Renderer
    fonts: FontBook
    cutlist: CutlistFile | None = None

    @property
    def mockup(self) -> Mockup:
        """The mockup as data."""
        return self.renderer.mockup

    @property
    def density(self) -> float | None:
        """Mockup pixels per CSS pixel, where a cutlist says it."""
        return self.cutlist.cutlist.density if self.cutlist else None

    @property
    def says(self) -> Mapping[str, str]:
        """What layers of pixels say, by their addresses, as a cutlist has it."""
        return self.cutlist.cutlist.says if self.cutlist else {}


class Workspace:
    """What mockups are opened in; each is opened once and stays open.

    Any thread may open. It can be sent to another process, where it opens anew.
    """

    def __init__(
        self,
        project: Project | None = None,
        memory: BoxMemory | None = None,
        beside: tuple[Path, ...] = (),
        *,
        may_lack: bool = False,
    ) -> None:
        """`beside` are font files that hold where there is no project.

        Mockups that `may_lack` layers which their cutlists name are opened all the same, as one
        version with the cutlist of another.
        """
        self._project, self._beside, self.may_lack = project, beside, may_lack
        self.memory = BoxMemory() if memory is None else memory
        self._mockups: dict[tuple[Path, str | None], Mockup] = {}
        self._renderers: dict[MockupKey, Renderer] = {}
        self._lock = threading.RLock()
        self._made: dict[str, object] = {}

    def __reduce__(self) -> tuple[object, ...]:
        make = partial(Workspace, may_lack=self.may_lack)
        return (make, (self._project, None, self._beside))

    def once(self, digest: str, make: Callable[[], Made]) -> Made:
        """What `make` gives, kept under a digest of all that it is made of.

        Two threads that ask at once both make it, and equal.
        """
        if digest not in self._made:
            self._made[digest] = make()
        return self._made[digest]  # type: ignore[return-value]

    @classmethod
    def here(cls, *, may_lack: bool = False) -> Workspace:
        """The project around the current folder. Raises RifflerError outside of any."""
        return cls(Project.here(), may_lack=may_lack)

    @classmethod
    def around(cls, path: Path, *, may_lack: bool = False) -> Workspace:
        """The project that a file lies in, or failing that the current folder; else without one.

        Without one, fonts in a folder `fonts` beside the file are used before the system's.
        """
        project = Project.around(path.parent) or Project.around(Path.cwd())
        fonts = () if project else font_files(path.parent / "fonts")
        return cls(project, beside=fonts, may_lack=may_lack)

    @property
    def project(self) -> Project:
        """The project. Raises RifflerError without one."""
        if self._project is None:
            raise RifflerError(*NO_PROJECT)
        return self._project

    @property
    def has_project(self) -> bool:
        """Whether there is a project at all."""
        return self._project is not None

    @property
    def limits(self) -> Limits:
        """What mockups may ask for."""
        return self._project.settings.limits if self._project else DEFAULT_LIMITS

    @property
    def language(self) -> str:
        """What words in pixels are written in, as Tesseract calls it."""
        return self._project.settings.words.language if self._project else "eng"

    @cached_property
    def fonts(self) -> FontBook:
        """The fonts that text is drawn with: a project's own, and the system's where it may."""
        if self._project is None:
            return FontBook(self._beside, use_system=True)
        return FontBook(self._project.fonts(), self._project.settings.system_fonts)

    def open(
        self, path: Path, canvas: str | None = None, cutlist: CutlistFile | None = None
    ) -> Opened:
        """Open a mockup; the density and the words of its cutlist hold.

        That is the project's first cutlist for this file and canvas unless one is given. Raises
        MockupError for a file that can't be read, WrittenError for a mistake in a cutlist.
        """
        mockup = self._mockup(path, canvas)
        if cutlist is None:
            cutlist = self._cutlist_for(path, canvas)
        key = MockupKey(real(path), canvas)
        if cutlist is not None:
            words = cutlist.words(mockup, may_lack=self.may_lack)
            left = cutlist.left(mockup, may_lack=self.may_lack)
            key = replace(key, words=words, left=left)
        return Opened(key, self._renderer(key, mockup), self.fonts, cutlist)

    def every(self) -> Iterator[Opened]:
        """Every mockup that a cutlist is for, each of its canvases once."""
        seen: set[tuple[Path, str | None]] = set()
        for cutlist in self.project.cutlists():
            file = CutlistFile.read(cutlist)
            key = (real(file.mockup_path), file.cutlist.canvas)
            if key not in seen:
                seen.add(key)
                yield self.open(file.mockup_path, file.cutlist.canvas, file)

    def meant(self, paths: Sequence[Path]) -> list[Opened]:
        """These mockups, or every one that a cutlist is for. Raises RifflerError for none."""
        opened = [self.open(path) for path in paths] or list(self.every())
        if not opened:
            raise RifflerError("No mockup of this project has a cutlist yet.", "Say which: FILE")
        return opened

    def refuse_too_many(self, mockup: Mockup) -> None:
        """Raises MockupError for a mockup of more drawings than can be judged one by one."""
        most = self.limits.drawings
        count = sum(1 for _ in drawings(mockup.layers))
        if count > most:
            raise MockupError(
                f"{as_typed(mockup.path)} has {count} drawings, too many to judge each: {most} is "
                "the most.",
                "Group the shapes of one picture and leave them without names: they count as one. "
                "Or raise [limits] drawings in riffler.toml.",
            )

    def renderer(self, key: MockupKey) -> Renderer:
        """The renderer of a mockup that was opened before, here or elsewhere."""
        return self._renderer(key, self._mockup(key.path, key.canvas))

    def _renderer(self, key: MockupKey, mockup: Mockup) -> Renderer:
        with self._lock:
            if key not in self._renderers:
                marked = mockup.marked(key.words, key.left)
                self._renderers[key] = open_renderer(marked, self.fonts, self.limits, self.memory)
            return self._renderers[key]

    def _mockup(self, path: Path, canvas: str | None) -> Mockup:
        place = (real(path), canvas)
        with self._lock:
            if place not in self._mockups:
                self._mockups[place] = open_mockup(path, self.limits, canvas)
            return self._mockups[place]

    def _cutlist_for(self, path: Path, canvas: str | None) -> CutlistFile | None:
        """The first cutlist for a mockup, one of the same canvas before others."""
        files = cutlists_for(self._project, path)
        same = (file for file in files if file.cutlist.canvas == canvas)
        return next(same, files[0] if files else None)


def cutlists_for(project: Project | None, path: Path) -> Sequence[CutlistFile]:
    """The cutlists of a project that are for this mockup."""
    files = [CutlistFile.read(cutlist) for cutlist in project.cutlists()] if project else []
    return [file for file in files if real(file.mockup_path) == real(path)]
