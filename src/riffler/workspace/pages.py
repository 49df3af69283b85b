"""Mockups of a project -> the pages that they are of, by name."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from pathlib import Path

from riffler.cutlist.sound_names import sound
from riffler.project.project import Project
from riffler.workspace.workspace import Opened

#: Mockups that are called so are those of the first page.
HOME = ("home", "index", "start", "main", "landing", "homepage")

#: How files end that mockups mostly are.
ENDINGS = (".ora", ".svg", ".png", ".jpg", ".jpeg", ".webp")


def source_of(project: Project, file: str) -> str:
    """The file of a project that one in its output was copied from as it is; else the same."""
    path, out = Path(file), project.out
    if not path.is_relative_to(out):
        return file
    source = project.root / path.relative_to(out)
    is_copy = source.is_file() and path.is_file() and source.read_bytes() == path.read_bytes()
    return str(source) if is_copy else file


def page_named(text: str) -> str:
    """What a page is called in a project, by the words of a link to it or its mockup's name."""
    name = sound(text) if text.strip() else ""
    return "index" if name in HOME else name


def planned(project: Project, mockups: Iterable[Path]) -> frozenset[str]:
    """The pages that a project has, and those that these mockups and what lies by them are of."""
    folders = {path.parent for path in mockups}
    files = (path for folder in folders if folder.is_dir() for path in folder.iterdir())
    drawn = {page_named(path.stem) for path in files if path.suffix.lower() in ENDINGS}
    return frozenset(project.pages()) | drawn


def page_of(opened: Opened, all_opened: Sequence[Opened]) -> str:
    """The page that a mockup is of; one for a narrow window is of the same page as the wide one."""
    stems = [sound(opened.mockup.path.stem) for opened in all_opened]
    home = next((stem for stem in stems if stem in HOME), stems[0])
    stem = sound(opened.mockup.path.stem)
    if opened.cutlist and opened.cutlist.label:
        stem = stem.removesuffix(f"-{opened.cutlist.label}").removesuffix("-narrow")
    return "index" if stem == home else stem
