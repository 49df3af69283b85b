"""A project -> its cutlists with every mockup open and every slice settled."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from pathlib import Path

from riffler.cutlist.file import CutlistFile, Entry
from riffler.cutlist.resolve import resolve
from riffler.cutlist.resolved import ResolvedSlice
from riffler.errors import nearest
from riffler.files import as_typed, beside, is_inside
from riffler.mockup.fonts import FontBook
from riffler.mockup.opening import open_mockup
from riffler.project.project import Project
from riffler.render.known import KnownBoxes
from riffler.render.renderer import Renderer, open_renderer


@dataclass(frozen=True)
class Bench:
    """One cutlist with its mockup open and its slices settled: all that cutting needs.

    `borrowed` are slices of included files that another cutlist cuts, settled for this mockup.
    """

    file: CutlistFile
    renderer: Renderer
    slices: tuple[ResolvedSlice, ...]
    borrowed: tuple[ResolvedSlice, ...] = ()


def fonts_of(project: Project | None) -> FontBook:
    """The fonts that text is drawn with: a project's own, and the system's where it may."""
    if project is None:
        return FontBook(use_system=True)
    return FontBook(project.fonts(), project.settings.system_fonts)


def read_cutlists(project: Project, *, any_name: bool = False) -> list[CutlistFile]:
    """Every cutlist of the project; a shared slice belongs to the first that includes it.

    Raises WrittenError for mistakes and for a name used twice. With `any_name`, names need only be
    safe as files: what else is wrong with them is for the survey to say.
    """
    files = [CutlistFile.read(path, project.settings.defaults) for path in project.cutlists()]
    if not any_name:
        for file in files:
            file.refuse_faults()
    owners: dict[tuple[str, str], tuple[CutlistFile, Entry]] = {}
    told = [_with_borrowed(file, owners) for file in files]
    main = [name for label, name in owners if not label]
    for (label, name), (_, entry) in owners.items():
        if label and name not in main:
            raise entry.mistake(
                "",
                f'"{name}" is for a narrow screen alone: no other cutlist has a slice so called.',
                nearest(name, main, "Slices are"),
            )
    favicon = project.settings.favicon
    if favicon is not None and favicon.slice not in main:
        raise project.written.mistake(
            ("favicon", "slice"),
            f'There is no slice "{favicon.slice}" in any cutlist.',
            nearest(favicon.slice, main, "Slices are"),
        )
    return told


def _with_borrowed(
    file: CutlistFile, owners: dict[tuple[str, str], tuple[CutlistFile, Entry]]
) -> CutlistFile:
    """Note who cuts each slice. Raises WrittenError when two different ones have one name."""
    label = file.cutlist.label if file.cutlist.when else ""
    borrowed = set()
    for entry in file.entries:
        owner = owners.setdefault((label, entry.name), (file, entry))
        if owner[0] is file:
            continue
        other, there = owner
        if there.part.written.path.resolve() != entry.part.written.path.resolve():
            raise entry.mistake(
                "",
                f'There is a slice "{entry.name}" in {as_typed(there.part.written.path)} already.',
                "Names are unique in a project: give one of them another.",
            )
        if other.cutlist.density != file.cutlist.density:
            raise file.written.mistake(
                ("density",),
                f'"{entry.name}" is shared with {as_typed(other.path)}, '
                f"which has {other.cutlist.density:g} pixels per CSS pixel, not "
                f"{file.cutlist.density:g}.",
                "Slices are shared between mockups of one density.",
            )
        borrowed.add(entry.name)
    return replace(file, borrowed=frozenset(borrowed))


def known_names(files: Sequence[CutlistFile]) -> tuple[str, ...]:
    """Every slice of the project by name, in the order of the cutlists."""
    return tuple(dict.fromkeys(entry.name for file in files for entry in file.entries))


def prepare(
    project: Project, files: Sequence[CutlistFile], boxes: KnownBoxes | None = None
) -> list[Bench]:
    """Open every mockup and settle every slice, so that mistakes come before the first cut.

    `boxes` are painted boxes that are known from earlier runs.
    """
    return [_bench(project, file, boxes) for file in files]


def _bench(project: Project, file: CutlistFile, boxes: KnownBoxes | None) -> Bench:
    if not file.mockup_path.is_file():
        advice = beside(file.mockup_path) or "A cutlist names it from its own folder."
        missing = f'There is no file "{file.cutlist.mockup}".'
        raise file.written.mistake(("mockup",), missing, advice)
    if not is_inside(file.mockup_path, project.root):
        outside = f'"{file.cutlist.mockup}" lies outside the project.'
        raise file.written.mistake(("mockup",), outside, "Copy it into the project.")
    limits = project.settings.limits
    mockup = open_mockup(file.mockup_path, limits, file.cutlist.canvas)
    renderer = open_renderer(file.marked(mockup), fonts_of(project), limits, boxes)
    found = tuple(resolve(file, renderer))
    return Bench(
        file,
        renderer,
        tuple(one for one in found if one.name not in file.borrowed),
        tuple(one for one in found if one.name in file.borrowed),
    )


def cutlist_for(project: Project | None, path: Path) -> CutlistFile | None:
    """The first cutlist of a project that is for this mockup."""
    files = (CutlistFile.read(cutlist) for cutlist in project.cutlists()) if project else ()
    return next((one for one in files if one.mockup_path.resolve() == path.resolve()), None)
