"""A mockup's file -> a cutlist's file: where it goes, and what an existing one lacks."""

from __future__ import annotations

import os
from dataclasses import dataclass, replace
from pathlib import Path

from riffler.cutlist.editing import CutlistText
from riffler.cutlist.file import CutlistFile
from riffler.cutlist.naming import sound
from riffler.cutlist.resolve import resolve
from riffler.cutlist.resolved import ResolvedSlice
from riffler.errors import OutputError, RifflerError
from riffler.files import as_typed, write_whole
from riffler.jobs.bench import cutlist_for, fonts_of, known_names
from riffler.mockup.opening import open_mockup
from riffler.plan.draft import draft
from riffler.plan.draft_text import slice_text, text_of
from riffler.plan.drafted import Draft, DraftedSlice
from riffler.plan.questions import Question, questions
from riffler.project.limits import DEFAULT_LIMITS
from riffler.project.project import Project
from riffler.render.renderer import open_renderer

#: A slice that covers so much of a drafted one, and the other way round, is the same.
SAME = 0.8


@dataclass(frozen=True)
class Drafted:
    """What became of a draft: the file, its text, and what the mockup leaves open."""

    path: Path
    text: str
    draft: Draft
    questions: list[Question]
    mockup: str
    is_added: bool


def draft_mockup(
    path: Path,
    *,
    output: Path | None = None,
    add: bool = False,
    canvas: str | None = None,
    density: float | None = None,
    dry_run: bool = False,
) -> Drafted:
    """Draft a cutlist for a mockup, and write it unless it is a dry run.

    Raises OutputError when there is a cutlist already and nothing is to be added to it.
    """
    project = Project.around(path.parent) or Project.around(Path.cwd())
    limits = project.settings.limits if project else DEFAULT_LIMITS
    mockup = open_mockup(path, limits, canvas)
    fonts = fonts_of(project)
    target = output or _target(path, project, canvas)
    existing = _existing(path, target, project) if add else None
    if target.exists() and existing is None and not dry_run:
        raise OutputError(
            f"There is a cutlist {as_typed(target)} already, so nothing was written.",
            "Use --add to add what it lacks, or -o to write another file.",
        )
    files = _others(project, target, existing)
    if existing is not None:
        mockup, density = existing.marked(mockup), existing.cutlist.density
        target = existing.path
    renderer = open_renderer(mockup, fonts, limits)
    drafted = draft(renderer, density=density, taken=known_names(files))
    if existing is None:
        named = Path(os.path.relpath(path.resolve(), target.parent.resolve())).as_posix()
        text = text_of(drafted, named, canvas)
    else:
        settled = list(resolve(existing, renderer))
        drafted = _lacking(drafted, settled)
        text = _added(existing, drafted)
    if not dry_run:
        write_whole(target, text.encode())
    asked = questions(drafted, fonts, has_narrow=any(file.cutlist.when for file in files))
    return Drafted(target, text, drafted, asked, as_typed(path), existing is not None)


def _target(path: Path, project: Project | None, canvas: str | None) -> Path:
    name = sound(f"{path.stem} {canvas}" if canvas else path.stem) + ".toml"
    return (project.folder("cuts") if project else Path()) / name


def _existing(path: Path, target: Path, project: Project | None) -> CutlistFile | None:
    """The cutlist to add to: the one that was named, or the project's for this mockup."""
    if target.exists():
        file = CutlistFile.read(target)
        if file.mockup_path.resolve() != path.resolve():
            raise RifflerError(f"{as_typed(target)} is the cutlist of another mockup.")
        return file
    return cutlist_for(project, path)


def _others(
    project: Project | None, target: Path, existing: CutlistFile | None
) -> list[CutlistFile]:
    """The other cutlists of the project."""
    own = existing.path if existing is not None else target
    paths = project.cutlists() if project else []
    return [CutlistFile.read(path) for path in paths if path.resolve() != own.resolve()]


def _lacking(drafted: Draft, settled: list[ResolvedSlice]) -> Draft:
    """The draft without what the cutlist has already: by name, or by place."""
    names = {one.name for one in settled} | {one.entry.keys[1] for one in settled}
    rest = tuple(
        one for one in drafted.slices
        if one.name not in names and not any(_is_same(one, known) for known in settled)
    )  # fmt: skip
    return replace(drafted, slices=rest)


def _is_same(one: DraftedSlice, known: ResolvedSlice) -> bool:
    shared = (one.box & known.box).area
    is_placed = shared >= SAME * one.box.area and shared >= SAME * known.box.area
    return is_placed and (one.keys.get("role") == "words") == (known.role == "words")


def _added(existing: CutlistFile, drafted: Draft) -> str:
    """The cutlist's text with the drafted slices behind it, and the guides and groups they use."""
    text = CutlistText(existing.written.text)
    said = str([one.keys for one in drafted.slices])
    for axis, guides in drafted.guides.items():
        for name, value in guides.items():
            if f"'{name}'" in said and not text.has(("guides", axis, name)):
                text.write(("guides", axis, name), value)
    for name, keys in drafted.groups.items():
        if f"'in': '{name}'" in said and not text.has(("group", name)):
            text.add_table(("group", name), keys)
    for one in drafted.slices:
        text.append(slice_text(one))
    return text.text
