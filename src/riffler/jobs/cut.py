"""Cutlists -> pictures in the output folder: the path of every slice, from file to file."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import Future
from dataclasses import replace
from pathlib import Path

from riffler.cutlist.resolved import ResolvedSlice, scale_of
from riffler.encode.choice import Choice
from riffler.errors import RifflerError, WrittenError, nearest
from riffler.formats import FORMATS
from riffler.geometry import Box, Size
from riffler.jobs import settled
from riffler.jobs.bench import Bench, known_names, prepare, read_cutlists
from riffler.jobs.cache import FOLDER, VERSION, Cache, Entry
from riffler.jobs.ledger import Ledger, Region
from riffler.jobs.making import Job, make
from riffler.jobs.publish import Made, Published, describe, publish
from riffler.jobs.workers import Workers, finished
from riffler.mockup.model import Kind
from riffler.project.project import Project
from riffler.render.known import word_for
from riffler.roles import drawn, words
from riffler.roles.picture import stem_of

#: Pictures from which nearly every layer will be wanted, so that large ones are decoded ahead.
MANY = 20

#: Told the name of a slice before it is cut, and how many are cut of how many.
Progress = Callable[[str, int, int], None]


def cut(
    project: Project,
    names: Sequence[str] = (),
    *,
    force: bool = False,
    dry_run: bool = False,
    workers: int | None = None,
    progress: Progress | None = None,
) -> Published:
    """Cut the named slices, or all, and the favicon; write what changed and the ledger.

    What an earlier run made from the same is taken from the cache. `workers` encode side by side,
    one for each processor unless said; what they make does not depend on how many they are. Raises
    RifflerError, with nothing written, for any mistake in cutlists and mockups.
    """
    files = read_cutlists(project)
    known = known_names(files)
    for name in names:
        if name not in known:
            advice = nearest(name, known, "Slices are")
            if Path(name).suffix:
                advice = f"To cut from a mockup alone: riffler cut {name} --only LAYER -o FILE"
            raise RifflerError(f'There is no slice "{name}".', advice)
    cache = Cache(project.work / FOLDER)
    boxes = cache.boxes()
    is_whole = not names and not dry_run
    mockups = [file.mockup_path for file in files]
    read = settled.hashes(project, mockups) if is_whole else {}
    benches = prepare(project, files, boxes)
    wanted = set(names or known)
    made: list[Made] = []
    regions: list[Region] = []
    with Workers(workers) as pool:
        jobs = [job for bench, one in _slices(benches, wanted) for job in _jobs(bench, one)]
        for index, (job, entry) in enumerate(pool.in_order(_started(project, cache, pool, jobs))):
            if progress is not None:
                progress(job.one.name, index, len(jobs))
            made.extend(_described(project, job, entry))
    for bench, one in _slices(benches, wanted):
        if one.role == "words":
            regions.append(_region(project, cache, bench, one))
    made.extend(_favicon(project, cache, benches, wanted))
    if not dry_run:
        cache.keep_boxes(boxes)
    ledger = Ledger.read(project.out)
    answered = [a for a in ledger.assets if a.made_by == "cut" and (not names or a.slice in wanted)]
    kept = [region for region in ledger.words if names and region.slice not in wanted]
    done = publish(project, made, answered, words=[*kept, *regions], force=force, dry_run=dry_run)
    if is_whole:
        cache.prune()
        settled.remember(project, mockups, read)
    return replace(done, words=regions)


def _slices(benches: Sequence[Bench], wanted: set[str]) -> Iterator[tuple[Bench, ResolvedSlice]]:
    return ((bench, one) for bench in benches for one in bench.slices if one.name in wanted)


def _jobs(bench: Bench, one: ResolvedSlice) -> Iterator[Job]:
    role = (one.role, one.box, one.frame, one.place, one.balance, one.soften, one.repeat)
    for state in one.states:
        for size in state.saving.sizes or ("",):
            scale = scale_of(size, one.outer, one.density)
            for part in drawn.parts(one):
                pixels = bench.renderer.fingerprint(part.box, scale, state.shown)
                word = word_for(VERSION, pixels, role, state.saving)
                yield Job(bench, one, state, size, part, scale, word)


def _started(
    project: Project, cache: Cache, pool: Workers, jobs: Sequence[Job]
) -> Iterator[tuple[Job, Future[Entry]]]:
    """Every job with what it becomes: kept from before, or made now by a worker."""
    warmed: set[int] = set()
    for job in jobs:
        if (entry := cache.get(job.word)) is not None:
            yield job, finished(entry)
            continue
        if len(jobs) >= MANY and id(job.bench) not in warmed:
            warmed.add(id(job.bench))
            job.bench.renderer.warm(only_large=True)
        limit = project.settings.limits.pixels
        _refuse_huge(job.bench, job.one, job.one.outer.scaled(job.scale), limit)
        yield job, pool.start(make, cache, job)


def _described(project: Project, job: Job, entry: Entry) -> Iterator[Made]:
    """The files of an entry as the ledger records them."""
    folders, prefix = project.settings.folders, project.settings.url_prefix
    one = job.one
    stem = stem_of(one.name, job.state.name, one.label, job.part.name, job.size)
    for choice in entry.choices:
        yield describe(
            choice.data,
            f"{folders.images}/{stem}.{FORMATS[choice.format].extension}",
            prefix,
            role=one.role,
            made_by="cut",
            slice=one.name,
            state=job.state.name,
            part=job.part.name,
            when=one.when,
            size=job.size,
            format=choice.format,
            pixels=Size(entry.width, entry.height),
            css=(entry.place.width / one.density, entry.place.height / one.density),
            mockup=project.relative(job.bench.renderer.mockup.path),
            place=entry.place,
            focal=_focal(one, entry.place),
            density=one.density,
            setting=choice.setting,
            loss=None if choice.loss is None else round(choice.loss, 5),
        )


def _focal(one: ResolvedSlice, place: Box) -> tuple[float, float] | None:
    """The point that narrow windows keep in sight, in parts of the picture; 0..1.

    For a hero the middle of its artwork, unless one is said.
    """
    middle = (one.box.x + one.box.width / 2, one.box.y + one.box.height / 2)
    point = one.focal or (middle if one.role == "hero" else None)
    if point is None:
        return None
    return (point[0] - place.x) / place.width, (point[1] - place.y) / place.height


def _favicon(
    project: Project, cache: Cache, benches: Sequence[Bench], wanted: set[str]
) -> Iterator[Made]:
    """The icon file, when the slice that it is made of is among the wanted ones."""
    from riffler.icon import favicon

    mark = project.settings.favicon
    for bench, one in _slices(benches, wanted):
        if mark is None or one.name != mark.slice:
            continue
        drawn = bench.renderer.fingerprint(one.box, 1.0, one.rest.shown)
        word = word_for(VERSION, "favicon", drawn, favicon.SIDES)
        entry = cache.get(word)
        if entry is None:
            data = favicon.favicon(one, bench.renderer)
            entry = Entry((Choice(data, "ico"),), one.box.width, one.box.height, one.box)
            cache.put(word, entry)
        yield describe(
            entry.choices[0].data,
            favicon.FILE,
            project.settings.url_prefix,
            role="favicon",
            made_by="cut",
            slice=one.name,
            format="ico",
            mockup=project.relative(bench.renderer.mockup.path),
            place=one.box,
            density=one.density,
        )


def _refuse_huge(bench: Bench, one: ResolvedSlice, size: Size, limit: int) -> None:
    """Raises WrittenError for a picture of more pixels than any mockup may have."""
    if size.width * size.height > limit:
        with bench.file.said_at(one.entry, "sizes"):
            raise WrittenError(
                f"A picture of {size.width} x {size.height} px is more than the limit of "
                f"{limit:,} pixels.",
                "If that is meant, raise [limits] pixels in riffler.toml.",
            )


def _region(project: Project, cache: Cache, bench: Bench, one: ResolvedSlice) -> Region:
    """A box for live text, with the colour that lies under the text."""
    mockup = bench.renderer.mockup
    texts = {layer.address for layer in mockup.walk() if layer.kind is Kind.WORDS}
    shown = one.rest.shown - texts
    word = word_for(VERSION, "ground", bench.renderer.fingerprint(one.box, 1.0, shown))
    entry = cache.get(word)
    if entry is None:
        ground = words.ground(bench.renderer.render(one.box, 1.0, shown))
        entry = Entry((Choice(ground.encode(), "color"),), 1, 1, one.box)
        cache.put(word, entry)
    return Region(
        slice=one.name,
        mockup=project.relative(mockup.path),
        place=one.box,
        css=(one.box.width / one.density, one.box.height / one.density),
        ground=entry.choices[0].data.decode(),
        when=one.when,
    )
