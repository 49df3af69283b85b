"""A project -> its cutlists with every mockup open and every slice resolved."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from fnmatch import fnmatchcase
from typing import TypeAlias

from riffler.cutlist.file import CutlistFile, Entry
from riffler.cutlist.resolve import resolve
from riffler.cutlist.resolved import ResolvedSlice
from riffler.errors import RifflerError, nearest
from riffler.files import as_typed, beside, is_inside, real
from riffler.project.project import Project
from riffler.render.renderer import Renderer
from riffler.workspace.workspace import MockupKey, Workspace

Owners: TypeAlias = dict[tuple[str | None, str], tuple[CutlistFile, Entry]]
"""Who cuts each slice, by the label of its cutlist and its name."""


@dataclass(frozen=True)
class OpenCutlist:
    """One cutlist with its mockup open and its slices resolved: all that cutting needs.

    `borrowed` are slices of included files that another cutlist cuts, resolved for this mockup.
    """

    file: CutlistFile
    key: MockupKey
    renderer: Renderer
    slices: tuple[ResolvedSlice, ...]
    borrowed: tuple[ResolvedSlice, ...] = ()


@dataclass(frozen=True)
class Wanted:
    """The cutlists of a project, and which of their slices something is to be made of."""

    workspace: Workspace
    cutlists: tuple[OpenCutlist, ...]
    names: frozenset[str]

    def slices(self) -> Iterator[tuple[OpenCutlist, ResolvedSlice]]:
        """The wanted slices in the order of the cutlists, each with its own."""
        for cutlist in self.cutlists:
            for slice_ in cutlist.slices:
                if slice_.name in self.names:
                    yield cutlist, slice_


def read_cutlists(project: Project, *, any_name: bool = False) -> list[CutlistFile]:
    """Every cutlist of the project; a shared slice belongs to the first that includes it.

    Raises WrittenError for mistakes and for a name used twice. With `any_name`, names need only be
    safe as files: what else is wrong with them is for the survey to say.
    """
    files = [CutlistFile.read(path, project.settings.defaults) for path in project.cutlists()]
    if not any_name:
        for file in files:
            file.refuse_faults()
    owners: Owners = {}
    told = [_with_borrowed(file, owners) for file in files]
    main = [name for label, name in owners if not label]
    for (label, name), (_, entry) in owners.items():
        if label and name not in main:
            raise entry.mistake(
                "",
                f'"{name}" is for a narrow screen alone: no other cutlist has a slice so called.',
                nearest(name, main, "Slices are"),
            )
    return told


def _with_borrowed(file: CutlistFile, owners: Owners) -> CutlistFile:
    """Note who cuts each slice. Raises WrittenError when two different ones have one name."""
    label = file.label
    borrowed = set()
    for entry in file.entries:
        owner = owners.setdefault((label, entry.name), (file, entry))
        if owner[0] is file:
            continue
        other_cutlist, first = owner
        if real(first.part.written.path) != real(entry.part.written.path):
            raise entry.mistake(
                "",
                f'There is a slice "{entry.name}" in {as_typed(first.part.written.path)} already.',
                "Names are unique in a project: give one of them another.",
            )
        if other_cutlist.cutlist.density != file.cutlist.density:
            raise file.written.mistake(
                ("density",),
                f'"{entry.name}" is shared with {as_typed(other_cutlist.path)}, '
                f"which has {other_cutlist.cutlist.density:g} pixels per CSS pixel, not "
                f"{file.cutlist.density:g}.",
                "Slices are shared between mockups of one density.",
            )
        borrowed.add(entry.name)
    return replace(file, borrowed=frozenset(borrowed))


def known_names(files: Sequence[CutlistFile]) -> tuple[str, ...]:
    """Every slice of the project by name, in the order of the cutlists."""
    return tuple(dict.fromkeys(entry.name for file in files for entry in file.entries))


def named(names: Iterable[str], files: Sequence[CutlistFile]) -> list[str]:
    """The slices that are meant, in order; `*` and `?` stand for any signs and for any one.

    Raises RifflerError for a name that no slice of the project has.
    """
    known = known_names(files)
    result: list[str] = []
    for name in names:
        is_pattern = "*" in name or "?" in name
        meant = [item for item in known if fnmatchcase(item, name)] if is_pattern else [name]
        if not meant or meant[0] not in known:
            raise RifflerError(f'There is no slice "{name}".', nearest(name, known, "Slices are"))
        result.extend(meant)
    return list(dict.fromkeys(result))


def prepare(workspace: Workspace, files: Sequence[CutlistFile]) -> tuple[OpenCutlist, ...]:
    """Open every mockup and resolve every slice, so that mistakes come before the first cut."""
    return tuple(_opened(workspace, file) for file in files)


def _opened(workspace: Workspace, file: CutlistFile) -> OpenCutlist:
    if not file.mockup_path.is_file():
        advice = beside(file.mockup_path) or "A cutlist names it from its own folder."
        missing = f'There is no file "{file.cutlist.mockup}".'
        raise file.written.mistake(("mockup",), missing, advice)
    if not is_inside(file.mockup_path, workspace.project.root):
        outside = f'"{file.cutlist.mockup}" lies outside the project.'
        raise file.written.mistake(("mockup",), outside, "Copy it into the project.")
    opened = workspace.open(file.mockup_path, file.cutlist.canvas, file)
    slices = tuple(resolve(file, opened.renderer))
    return OpenCutlist(
        file,
        opened.key,
        opened.renderer,
        tuple(slice_ for slice_ in slices if slice_.name not in file.borrowed),
        tuple(slice_ for slice_ in slices if slice_.name in file.borrowed),
    )
