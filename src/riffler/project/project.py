"""A folder with riffler.toml -> a Project: its settings and the places of everything in it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path, PurePosixPath

from riffler.errors import OutputError, RifflerError, WrittenError, tell
from riffler.files import as_typed, files_below, is_inside, real
from riffler.project.places import CACHE, FONT_ENDINGS, MARKER, WORK, root_of
from riffler.project.settings import Settings
from riffler.project.written import Written

#: The folders that hold what people wrote.
BY_HAND = ("cuts", "pages", "styles", "data", "scripts", "fonts")

#: What to say, and to advise, where a project is needed and there is none.
NO_PROJECT = (
    f"There is no {MARKER} here or in a folder above, so this is no project.",
    "Go into a project, or begin one: riffler start my-site",
)


@dataclass(frozen=True)
class Project:
    """A project on disk; every path is absolute."""

    root: Path
    settings: Settings
    written: Written

    @classmethod
    def at(cls, root: Path) -> Project:
        """Read the project in `root`. Raises WrittenError for mistakes in riffler.toml."""
        written = Written.read(root / MARKER)
        project = cls(real(root), written.check(Settings), written)
        for name, folder in project.settings.folders:
            if name != "images" and not is_inside(project.root / folder, project.root):
                raise written.mistake(
                    ("folders", name), f'"{folder}" leads out of the project through a link.'
                )
        project._refuse_shared_out()
        _refuse_link(project.work)
        _refuse_link(project.work / CACHE)
        return project

    def _refuse_shared_out(self) -> None:
        """Raises WrittenError when what is made lies among what is written by hand, or around it.

        Links count as where they lead to.
        """
        out = real(self.out)
        by_hand = {name: real(self.folder(name)) for name in BY_HAND}
        for name, folder in {**by_hand, "work": self.work}.items():
            if out.is_relative_to(folder) or folder.is_relative_to(out):
                place = getattr(self.settings.folders, name, WORK)
                raise self.written.mistake(
                    ("folders", "out"),
                    f'"{self.settings.folders.out}" and "{place}" share files; what is made '
                    "needs a folder of its own.",
                )

    def is_by_hand(self, path: Path) -> bool:
        """Whether a file is one that a person made: settings, or in a folder of such."""
        found_path = real(path)
        folders = (real(self.folder(name)) for name in BY_HAND)
        return found_path == self.root / MARKER or any(
            found_path.is_relative_to(own_path) for own_path in folders
        )

    def is_source(self, name: str, folder: str, ending: str) -> bool:
        """Whether a path below the project, as we write it, is a file in a folder of sources.

        None is that leads through a hidden folder or a link elsewhere.
        """
        path = PurePosixPath(name)
        is_plain = not set(name) & set("\\:\0") and path.as_posix() == name
        is_shown = not any(part.startswith(".") for part in path.parts)
        return (
            is_plain
            and is_shown
            and path.suffix == ending
            and path.is_relative_to(folder)
            and is_inside(self.root / name, self.root / folder)
        )

    @classmethod
    def around(cls, folder: Path) -> Project | None:
        """The project that `folder` lies in, looking upwards; None outside of any."""
        root = root_of(folder)
        return cls.at(root) if root is not None else None

    @classmethod
    def here(cls) -> Project:
        """The project around the current folder. Raises RifflerError outside of any."""
        project = cls.around(Path.cwd())
        if project is None:
            raise RifflerError(*NO_PROJECT)
        return project

    def folder(self, name: str) -> Path:
        """The absolute path of one of the `[folders]`; images and styles are the written ones."""
        value: str = getattr(self.settings.folders, name)
        return self.root / value

    @property
    def out(self) -> Path:
        """All that is generated."""
        return self.folder("out")

    @property
    def work(self) -> Path:
        """Cache and journal."""
        return self.root / WORK

    def sources(self, name: str) -> Iterator[Path]:
        """Every file of one of the `[folders]`, in order; nothing where there is no such folder.

        Raises WrittenError for what only seems to lie there, by way of a link out of the project. A
        font is left out then, with a word.
        """
        folder = self.folder(name)
        for path in files_below(folder) if folder.is_dir() else ():
            if is_inside(path, self.root):
                yield path
                continue
            place = f"{as_typed(path.parent)}/{path.name}"
            text = f"{place} leads out of the project through a link"
            if name != "fonts":
                raise WrittenError(f"{text}.", "Put the file itself in its place.")
            tell(f"{text}, and was left out.")

    def cutlists(self) -> list[Path]:
        """Every cutlist, by name; files that begin with `_` are parts of others."""
        return self._written("cuts", ".toml")

    def pages(self) -> tuple[str, ...]:
        """The pages by name, their path without the ending; parts of others begin with `_`."""
        folder = self.folder("pages")
        return tuple(
            path.relative_to(folder).as_posix().removesuffix(".html")
            for path in self._written("pages", ".html")
        )

    def _written(self, name: str, ending: str) -> list[Path]:
        """The files of an ending in a folder of the project that are no parts of others."""
        return [
            path
            for path in self.sources(name)
            if path.suffix == ending and not path.name.startswith("_")
        ]

    def fonts(self) -> tuple[Path, ...]:
        """The font files of the project, by name."""
        return tuple(p for p in self.sources("fonts") if p.suffix.lower() in FONT_ENDINGS)

    def relative(self, path: Path) -> str:
        """A path as the ledger writes it: from the project's folder, with forward slashes.

        Raises WrittenError when it lies outside.
        """
        try:
            return real(path).relative_to(self.root).as_posix()
        except ValueError as error:
            raise WrittenError(f"{as_typed(path)} lies outside the project.") from error


def _refuse_link(folder: Path) -> None:
    """Raises OutputError for a folder of ours that is a link: what is kept there may be deleted."""
    if folder.is_symlink():
        raise OutputError(
            f"{as_typed(folder)} is a link, and what is kept there is deleted at times.",
            "Remove the link; a folder is made in its place.",
        )


def font_files(folder: Path) -> tuple[Path, ...]:
    """The font files in and below a folder, by name; none where there is no folder."""
    if not folder.is_dir():
        return ()
    return tuple(path for path in files_below(folder) if path.suffix.lower() in FONT_ENDINGS)
