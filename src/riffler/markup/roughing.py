"""A project's mockups -> the first templates, styles and data of its pages."""

from __future__ import annotations

import json
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path

from riffler.cutlist.links import page_of as page_in
from riffler.cutlist.naming import sound
from riffler.markup.classes import Classes
from riffler.markup.element import Lengths, Loop
from riffler.markup.page import Page, page_of, plans
from riffler.markup.shell import Templates, templates
from riffler.markup.stylesheet import Ground, text
from riffler.mockup.fonts import Face
from riffler.output.asset import StyleAsset
from riffler.output.ledger import Ledger
from riffler.project.project import Project
from riffler.workspace import Opened, Workspace

#: What people call the mockup of the first page.
HOME = ("home", "index", "start", "main", "landing", "homepage")

#: The style sheet that is written.
STYLES = "site.css"


@dataclass(frozen=True)
class Roughed:
    """What was roughed out: files below the project with their text, and what to know of them.

    `unsaid` counts words, links and alternative texts that are still to be said; `missing` are
    pictures without a slice, `unused` slices without a place, by page.
    """

    files: tuple[tuple[str, str], ...]
    pages: tuple[str, ...]
    unsaid: int
    missing: tuple[tuple[str, str], ...]
    unused: tuple[tuple[str, str], ...]


def rough(workspace: Workspace, paths: Sequence[Path], lengths: Lengths) -> Roughed:
    """Rough out pages for these mockups, or for every one that has a cutlist."""
    mockups = [one for one in workspace.meant(paths) if not (one.cutlist and one.cutlist.label)]
    names = _page_names(mockups)
    ordered = sorted(zip(names, mockups, strict=True), key=lambda one: one[0] != "index")
    names, mockups = [name for name, _ in ordered], [opened for _, opened in ordered]
    known = {*names, *workspace.project.pages()}

    def page_named(link: str) -> str | None:
        page = page_in(link)
        if page is None:
            return link
        return link if page in known else None

    taken: set[str] = set()
    planned = plans(list(zip(names, mockups, strict=True)))
    pages = [page_of(plan, page_named, lengths, taken) for plan in planned]
    made = templates(pages)
    files = tuple(_files(workspace, pages, made, lengths))
    return Roughed(
        files,
        tuple(names),
        sum(content.count("unsaid") for _, content in files),
        tuple((page.name, address) for page in pages for address in page.missing),
        tuple((page.name, name) for page in pages for name in page.unused),
    )


def _page_names(mockups: Sequence[Opened]) -> list[str]:
    """The page that each mockup becomes: the first one, or the one called so, is the index."""
    stems = [sound(one.mockup.path.stem) for one in mockups]
    home = next((stem for stem in stems if stem in HOME), stems[0])
    names = ["index" if stem == home else stem for stem in stems]
    return list(dict.fromkeys(names)) if len(set(names)) == len(names) else [
        name if n == 0 or name not in names[:n] else f"{name}-{n + 1}"
        for n, name in enumerate(names)
    ]  # fmt: skip


def _files(
    workspace: Workspace, pages: Sequence[Page], made: Templates, lengths: Lengths
) -> Iterator[tuple[str, str]]:
    project = workspace.project
    folders = project.settings.folders
    classes = Classes()
    first = pages[0]
    for page in pages:
        if page.ground != first.ground and page.ground:
            page.body.css["background"] = page.ground
    for name, root in made.roots:
        classes.assign(root, name)
    for name, content in made.texts:
        yield f"{folders.pages}/{name}", content
    for loop in made.loops:
        yield f"data/{loop.data}.toml", data_text(loop)
    is_whole = any(page.is_whole for page in pages)
    ground = Ground(first.usual, first.ground, first.width if is_whole else None)
    faces = [] if _has_web_fonts(project) else _faces(workspace, pages)
    yield f"{folders.styles}/{STYLES}", text(list(classes.rules.values()), ground, faces, lengths)


def _has_web_fonts(project: Project) -> bool:
    ledger = Ledger.read(project.out)
    return any(isinstance(one, StyleAsset) and one.made_by == "fonts" for one in ledger.assets)


def _faces(workspace: Workspace, pages: Sequence[Page]) -> list[tuple[Face, str]]:
    """The faces of the project that the pages are set in, with their addresses."""
    found: dict[Path, Face] = {}
    for page in pages:
        for family, weight, is_italic in sorted(page.families):
            face = workspace.fonts.nearest(family, weight, is_italic=is_italic)
            if face is not None and not face.is_system:
                found.setdefault(face.path, face)
    root = workspace.project.root
    return [
        (face, f"../{path.relative_to(root).as_posix()}")
        for path, face in sorted(found.items()) if path.is_relative_to(root)
    ]  # fmt: skip


def data_text(loop: Loop) -> str:
    """The rows of a loop as TOML."""
    parts = []
    for row in loop.rows:
        plain = {key: value for key, value in row.items() if not isinstance(value, list)}
        lines = ["[[list]]", *(f"{key} = {_value(value)}" for key, value in plain.items())]
        for key, value in row.items():
            if isinstance(value, list):
                for inner in value:
                    lines.append(f"[[list.{key}]]")
                    lines.extend(f"{name} = {_value(one)}" for name, one in inner.items())
        parts.append("\n".join(lines) + "\n")
    return "\n".join(parts)


def _value(value: object) -> str:
    """A value as TOML writes it: its texts are those of JSON."""
    return json.dumps(value, ensure_ascii=False)
