"""One slice in one state and size -> its picture in every format it is saved in."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from riffler.color import Pixels, is_opaque
from riffler.cutlist.resolved import ResolvedSlice, Saving, State
from riffler.encode.choice import Choice
from riffler.errors import WrittenError
from riffler.formats import AUTO, FORMATS
from riffler.geometry import Scale
from riffler.jobs.bench import Bench
from riffler.jobs.cache import Cache, Entry
from riffler.roles import drawn
from riffler.roles.drawn import Part


@dataclass(frozen=True)
class Job:
    """One picture to make, of a slice in one state and size, and the word it is kept under."""

    bench: Bench
    one: ResolvedSlice
    state: State
    size: str
    part: Part
    scale: Scale
    word: str


def make(cache: Cache, job: Job) -> Entry:
    """A picture drawn and in every format that it is saved in, kept for the next run."""
    one, saving = job.one, job.state.saving
    ready = drawn.draw(one, job.part, job.bench.renderer, job.scale, job.state.shown)
    for name in saving.save:
        if name != AUTO:
            _refuse_lost_alpha(job.bench, one, saving, ready.pixels, name)
    choices = tuple(_files(saving, ready.pixels))
    entry = Entry(choices, ready.size.width, ready.size.height, ready.place)
    cache.put(job.word, entry)
    return entry


def _files(saving: Saving, pixels: Pixels) -> Iterator[Choice]:
    from riffler.encode.auto import best
    from riffler.encode.choose import choose
    from riffler.encode.encoding import prepared

    if AUTO in saving.save:
        can_be_flat = saving.ground is not None or is_opaque(pixels)
        ground = prepared(pixels, "jpeg", saving.ground) if can_be_flat else None
        yield from best(prepared(pixels, "png"), ground, saving.quality)
        return
    for name in saving.save:
        yield choose(prepared(pixels, name, saving.ground), name, saving.quality, saving.budget)


def _refuse_lost_alpha(
    bench: Bench, one: ResolvedSlice, saving: Saving, pixels: Pixels, format_name: str
) -> None:
    from riffler.encode.encoding import holds

    if saving.ground is not None or holds(pixels, format_name):
        return
    with bench.file.said_at(one.entry, "save"):
        raise WrittenError(
            FORMATS[format_name].trouble,
            'Give the slice a ground = "#ffffff" to lay it on, or save it as "png".',
        )
