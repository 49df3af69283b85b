"""Cutlists -> pictures in the output folder: the path of every slice, from file to file."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path

from riffler.color import Pixels, is_opaque
from riffler.cutlist.resolve import CutlistFile, ResolvedSlice
from riffler.encode.encoding import encode
from riffler.errors import RifflerError, nearest
from riffler.files import as_typed, beside
from riffler.formats import FORMATS
from riffler.icon import favicon
from riffler.jobs.ledger import Ledger
from riffler.jobs.publish import Made, Published, describe, publish
from riffler.mockup.fonts import FontBook
from riffler.mockup.opening import open_mockup
from riffler.project.project import Project
from riffler.render.renderer import Renderer, open_renderer
from riffler.roles.picture import Picture, picture

#: Told the name of a slice before it is cut, and how many are cut of how many.
Progress = Callable[[str, int, int], None]


@dataclass(frozen=True)
class Bench:
    """One cutlist with its mockup open and its slices settled: all that cutting needs."""

    file: CutlistFile
    renderer: Renderer
    slices: tuple[ResolvedSlice, ...]


def fonts_of(project: Project | None) -> FontBook:
    """The fonts that text is drawn with: a project's own, and the system's where it may."""
    if project is None:
        return FontBook(use_system=True)
    return FontBook(project.fonts(), project.settings.system_fonts)


def read_cutlists(project: Project) -> list[CutlistFile]:
    """Every cutlist of the project. Raises WrittenError for mistakes and for a name used twice."""
    files, owners = [], dict[str, Path]()
    for path in project.cutlists():
        file = CutlistFile.read(path)
        for name in file.cutlist.slice:
            if name in owners:
                raise file.written.mistake(
                    ("slice", name),
                    f'There is a slice "{name}" in {as_typed(owners[name])} already.',
                    "Names are unique in a project: give one of them another.",
                )
            owners[name] = path
        files.append(file)
    favicon_table = project.settings.favicon
    if favicon_table is not None and favicon_table.slice not in owners:
        raise project.written.mistake(
            ("favicon", "slice"),
            f'There is no slice "{favicon_table.slice}" in any cutlist.',
            nearest(favicon_table.slice, owners, "Slices are"),
        )
    return files


def prepare(project: Project, files: Sequence[CutlistFile]) -> list[Bench]:
    """Open every mockup and settle every slice, so that mistakes come before the first cut."""
    benches = []
    for file in files:
        if not file.mockup_path.is_file():
            advice = beside(file.mockup_path) or "A cutlist names it from its own folder."
            missing = f'There is no file "{file.cutlist.mockup}".'
            raise file.written.mistake(("mockup",), missing, advice)
        mockup = open_mockup(file.mockup_path, project.settings.limits, file.cutlist.canvas)
        marked = file.marked(mockup)
        renderer = open_renderer(marked, fonts_of(project), project.settings.limits)
        benches.append(Bench(file, renderer, tuple(file.resolve(renderer))))
    return benches


def cut(
    project: Project,
    names: Sequence[str] = (),
    *,
    force: bool = False,
    dry_run: bool = False,
    progress: Progress | None = None,
) -> Published:
    """Cut the named slices, or all, and the favicon; write what changed and the ledger.

    Raises RifflerError, with nothing written, for any mistake in cutlists and mockups.
    """
    files = read_cutlists(project)
    known = [name for file in files for name in file.cutlist.slice]
    for name in names:
        if name not in known:
            advice = nearest(name, known, "Slices are")
            if Path(name).suffix:
                advice = f"To cut from a mockup alone: riffler cut {name} --only LAYER -o FILE"
            raise RifflerError(f'There is no slice "{name}".', advice)
    benches = prepare(project, files)
    wanted = set(names or known)
    made: list[Made] = []
    for bench, one in _slices(benches, wanted):
        if progress is not None:
            progress(one.name, len({m.asset.slice for m in made}), len(wanted))
        made.extend(_cut_slice(project, bench, one))
    answered = [
        asset
        for asset in Ledger.read(project.out).assets
        if asset.made_by == "cut" and (not names or asset.slice in wanted)
    ]
    return publish(project, made, answered, force=force, dry_run=dry_run)


def _slices(benches: Sequence[Bench], wanted: set[str]) -> Iterator[tuple[Bench, ResolvedSlice]]:
    return ((bench, one) for bench in benches for one in bench.slices if one.name in wanted)


def _cut_slice(project: Project, bench: Bench, one: ResolvedSlice) -> Iterator[Made]:
    """Every file of a slice: its states in its formats, and the favicon if it is the mark."""
    folders, prefix = project.settings.folders, project.settings.url_prefix
    mockup = project.relative(bench.renderer.mockup.path)
    for state in one.states:
        ready = picture(one, state, bench.renderer.render(one.box, 1.0, state.shown))
        for name in one.save:
            _refuse_lost_alpha(bench, one, ready.pixels, name)
            data = encode(ready.pixels, name, quality=one.quality, ground=one.ground)
            yield describe(
                data,
                f"{folders.images}/{ready.stem}.{FORMATS[name].extension}",
                prefix,
                **_facts(ready, one, mockup, name),
            )
    mark = project.settings.favicon
    if mark is not None and mark.slice == one.name:
        yield describe(
            favicon.favicon(one, bench.renderer),
            favicon.FILE,
            prefix,
            role="favicon",
            made_by="cut",
            slice=one.name,
            format="ico",
            mockup=mockup,
            place=one.box,
            density=one.density,
        )


def _facts(ready: Picture, one: ResolvedSlice, mockup: str, format_name: str) -> dict[str, object]:
    is_lossy = FORMATS[format_name].is_lossy
    return {
        "role": "picture",
        "made_by": "cut",
        "slice": one.name,
        "state": ready.state,
        "format": format_name,
        "pixels": ready.size,
        "css": (ready.css_width, ready.css_height),
        "mockup": mockup,
        "place": one.box,
        "density": one.density,
        "setting": {"quality": one.quality} if is_lossy else {},
        "loss": None if is_lossy else 0,
    }


def _refuse_lost_alpha(bench: Bench, one: ResolvedSlice, pixels: Pixels, format_name: str) -> None:
    if FORMATS[format_name].has_alpha or one.ground is not None or is_opaque(pixels):
        return
    label = FORMATS[format_name].label
    raise bench.file.written.mistake(
        ("slice", one.name, "save"),
        f"{label} has no transparency, and parts of this slice are transparent.",
        'Give the slice a ground = "#ffffff" to lay it on, or save it as "png".',
    )
