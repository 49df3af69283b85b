"""Names: out of style, kept by some systems, or one file where case does not count."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from riffler.cutlist.naming import RESERVED, SOUND, sound
from riffler.plan.finding import Finding
from riffler.plan.page import Page


def check(pages: Sequence[Page]) -> Iterator[Finding]:
    """Every name of a slice and of a state."""
    first: dict[tuple[str, str], str] = {}
    for page in pages:
        for one in page.slices:
            label = (one.label, one.name.lower())
            other = first.setdefault(label, one.name)
            if other != one.name:
                yield page.finding(
                    "clash", one,
                    f'"{one.name}" and "{other}" are the same file where case does not count.',
                    f'Rename one of them, for example "{sound(one.name)}-two".', others=(other,),
                )  # fmt: skip
            written = (one.entry.keys[1], *(state.name for state in one.states if state.name))
            for name in written:
                if name.lower() in RESERVED:
                    yield page.finding(
                        "reserved", one, f'"{name}" is a name that some systems keep for devices.',
                        f'Rename it, for example "{name.lower()}-one".',
                    )  # fmt: skip
                elif not SOUND.fullmatch(name):
                    yield page.finding(
                        "name", one,
                        f'"{name}" is not in lower-case letters, digits and single hyphens.',
                        f'Rename it "{sound(name)}".',
                    )  # fmt: skip
