"""Names: out of style, kept by some systems, or one file where case does not count."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from riffler.cutlist.resolved import ResolvedSlice
from riffler.cutlist.sound_names import RESERVED, SOUND, sound
from riffler.errors import slip_of
from riffler.plan.check import Check
from riffler.plan.finding import Finding
from riffler.plan.subject import Subject
from riffler.reading.layer_names import STATES


def _look(subjects: Sequence[Subject]) -> Iterator[Finding]:
    """Every name of a slice and of a state."""
    first: dict[tuple[str | None, str], str] = {}
    for subject in subjects:
        for slice_ in subject.slices:
            label = (slice_.label, slice_.name.lower())
            earlier = first.setdefault(label, slice_.name)
            if earlier != slice_.name:
                yield subject.finding(
                    "clash",
                    slice_,
                    f'"{slice_.name}" and "{earlier}" are the same file where case does not count.',
                    f'Rename one of them, for example "{sound(slice_.name)}-two".',
                    about=(earlier,),
                    others=(earlier,),
                )
            written = (slice_.entry.keys[1], *(state.name for state in slice_.states if state.name))
            for name in written:
                if name.lower() in RESERVED:
                    yield subject.finding(
                        "reserved",
                        slice_,
                        f'"{name}" is a name that some systems keep for devices.',
                        f'Rename it, for example "{name.lower()}-one".',
                        about=(name,),
                    )
                elif near := _nearly(name, slice_):
                    yield subject.finding(
                        "name",
                        slice_,
                        f'The state "{name}" is nearly "{near}", which CSS knows.',
                        f'Write "{near}", or a name of your own that is farther from it.',
                        about=(name,),
                    )
                elif not SOUND.fullmatch(name):
                    yield subject.finding(
                        "name",
                        slice_,
                        f'"{name}" is not in lower-case letters, digits and single hyphens.',
                        f'Rename it "{sound(name)}".',
                        about=(name,),
                    )


def _nearly(name: str, slice_: ResolvedSlice) -> str | None:
    """The state that CSS knows and that a state of the slice was most likely meant to be."""
    if name in STATES or name not in {state.name for state in slice_.states}:
        return None
    return slip_of(name, STATES)


CHECK = Check(
    "names",
    {
        "reserved": "a name that some systems keep for devices",
        "clash": "names that are one file where case does not count",
        "name": "a name out of style, or a state that is nearly one of CSS",
    },
    every=_look,
)
