"""Cutlists -> pictures in the output folder: the path of every slice, from file to file."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace
from pathlib import Path

from riffler.color import Pixels, is_opaque
from riffler.cutlist.resolve import ResolvedSlice, Saving, State, scale_of
from riffler.encode.encoding import encode
from riffler.errors import RifflerError, WrittenError, nearest
from riffler.formats import FORMATS
from riffler.geometry import Size
from riffler.icon import favicon
from riffler.jobs.bench import Bench, known_names, prepare, read_cutlists
from riffler.jobs.ledger import Ledger, Region
from riffler.jobs.publish import Made, Published, describe, publish
from riffler.mockup.model import Kind
from riffler.project.project import Project
from riffler.roles import framed, words
from riffler.roles.picture import Picture, picture

#: Told the name of a slice before it is cut, and how many are cut of how many.
Progress = Callable[[str, int, int], None]


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
    known = known_names(files)
    for name in names:
        if name not in known:
            advice = nearest(name, known, "Slices are")
            if Path(name).suffix:
                advice = f"To cut from a mockup alone: riffler cut {name} --only LAYER -o FILE"
            raise RifflerError(f'There is no slice "{name}".', advice)
    benches = prepare(project, files)
    wanted = set(names or known)
    made: list[Made] = []
    regions: list[Region] = []
    for bench, one in _slices(benches, wanted):
        if progress is not None:
            progress(one.name, len({m.asset.slice for m in made}), len(wanted))
        if one.role == "words":
            regions.append(_region(project, bench, one))
        else:
            made.extend(_cut_slice(project, bench, one))
    ledger = Ledger.read(project.out)
    answered = [a for a in ledger.assets if a.made_by == "cut" and (not names or a.slice in wanted)]
    kept = [region for region in ledger.words if names and region.slice not in wanted]
    done = publish(project, made, answered, words=[*kept, *regions], force=force, dry_run=dry_run)
    return replace(done, words=regions)


def _slices(benches: Sequence[Bench], wanted: set[str]) -> Iterator[tuple[Bench, ResolvedSlice]]:
    return ((bench, one) for bench in benches for one in bench.slices if one.name in wanted)


def _cut_slice(project: Project, bench: Bench, one: ResolvedSlice) -> Iterator[Made]:
    """Every file of a slice: its states in its sizes and formats, and the favicon if it is one."""
    folders, prefix = project.settings.folders, project.settings.url_prefix
    mockup = project.relative(bench.renderer.mockup.path)
    for state in one.states:
        for ready in _pictures(bench, one, state, project.settings.limits.pixels):
            for name in state.saving.save:
                _refuse_lost_alpha(bench, one, state.saving, ready.pixels, name)
                data = encode(
                    ready.pixels, name, quality=state.saving.quality, ground=state.saving.ground
                )
                yield describe(
                    data,
                    f"{folders.images}/{ready.stem}.{FORMATS[name].extension}",
                    prefix,
                    **_facts(ready, one, state.saving, mockup, name),
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


def _pictures(bench: Bench, one: ResolvedSlice, state: State, limit: int) -> Iterator[Picture]:
    """One state in every size that it is saved in, made what its role says."""
    for size in state.saving.sizes or ("",):
        scale = scale_of(size, one.box.size, one.density)
        _refuse_huge(bench, one, (one.frame or one.box.size).scaled(scale), limit)
        pixels = bench.renderer.render(one.box, scale, state.shown)
        ready = picture(one, state, pixels, size)
        match one.role:
            case "icon":
                yield framed.icon(one, ready)
            case "hero":
                yield framed.hero(one, ready)
            case _:
                yield ready


def _refuse_huge(bench: Bench, one: ResolvedSlice, size: Size, limit: int) -> None:
    """Raises WrittenError for a picture of more pixels than any mockup may have."""
    if size.width * size.height > limit:
        with bench.file.said_at(one.entry, "sizes"):
            raise WrittenError(
                f"A picture of {size.width} x {size.height} px is more than the limit of "
                f"{limit:,} pixels.",
                "If that is meant, raise [limits] pixels in riffler.toml.",
            )


def _region(project: Project, bench: Bench, one: ResolvedSlice) -> Region:
    """A box for live text, with the colour that lies under the text."""
    mockup = bench.renderer.mockup
    texts = {layer.address for layer in mockup.walk() if layer.kind is Kind.WORDS}
    return Region(
        slice=one.name,
        mockup=project.relative(mockup.path),
        place=one.box,
        css=(one.box.width / one.density, one.box.height / one.density),
        ground=words.ground(bench.renderer.render(one.box, 1.0, one.rest.shown - texts)),
        when=one.when,
    )


def _facts(
    ready: Picture, one: ResolvedSlice, saving: Saving, mockup: str, format_name: str
) -> dict[str, object]:
    is_lossy = FORMATS[format_name].is_lossy
    return {
        "role": one.role,
        "made_by": "cut",
        "slice": one.name,
        "state": ready.state,
        "when": one.when,
        "size": ready.size_name,
        "format": format_name,
        "pixels": ready.size,
        "css": (ready.css_width, ready.css_height),
        "mockup": mockup,
        "place": ready.place,
        "density": one.density,
        "setting": {"quality": saving.quality} if is_lossy else {},
        "loss": None if is_lossy else 0,
    }


def _refuse_lost_alpha(
    bench: Bench, one: ResolvedSlice, saving: Saving, pixels: Pixels, format_name: str
) -> None:
    if FORMATS[format_name].has_alpha or saving.ground is not None or is_opaque(pixels):
        return
    label = FORMATS[format_name].label
    with bench.file.said_at(one.entry, "save"):
        raise WrittenError(
            f"{label} has no transparency, and parts of this slice are transparent.",
            'Give the slice a ground = "#ffffff" to lay it on, or save it as "png".',
        )
