"""What a check is: the kinds of mistakes that it finds, and what looks for them."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass

from riffler.plan.finding import Finding
from riffler.plan.subject import Subject

#: What a seam is, for the checks that each find one kind of it.
SEAM = "a tile whose seam shows, or a hero whose ground can't go on"


@dataclass(frozen=True)
class Check:
    """One check: its name, and its kinds by their short names, as `accept` writes them.

    It looks at each subject by itself, or at all of them together.
    """

    name: str
    kinds: Mapping[str, str]
    each: Callable[[Subject], Iterator[Finding]] | None = None
    every: Callable[[Sequence[Subject]], Iterator[Finding]] | None = None

    def run(self, subjects: Sequence[Subject]) -> Iterator[Finding]:
        """All that it finds."""
        if self.each is not None:
            for subject in subjects:
                yield from self.each(subject)
        if self.every is not None:
            yield from self.every(subjects)
