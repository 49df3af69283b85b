"""A project -> what is wrong with its cutlists, held against the pixels."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass

from riffler.cutlist.file import CutlistFile
from riffler.errors import RifflerError, nearest
from riffler.jobs.bench import fonts_of, known_names, prepare, read_cutlists
from riffler.plan.checks import (
    beside,
    clicks,
    heroes,
    names,
    neighbours,
    outside,
    paint,
    panels,
    sizes,
    tiles,
    twins,
    words,
)
from riffler.plan.finding import KINDS, Finding, settled
from riffler.plan.page import Page
from riffler.project.project import Project

#: Every check, from pages to findings.
CHECKS: tuple[Callable[[Sequence[Page]], Iterator[Finding]], ...] = (
    names.check,
    outside.check,
    beside.check,
    neighbours.check,
    paint.check,
    panels.check,
    tiles.check,
    heroes.check,
    words.check,
    clicks.check,
    twins.check,
    sizes.check,
)

#: Told which check comes next, and how many are done of how many.
Progress = Callable[[str, int, int], None]


@dataclass(frozen=True)
class Accepted:
    """A finding that the cutlist silences, with the reason."""

    finding: Finding
    reason: str


@dataclass(frozen=True)
class Survey:
    """What was found, what of it is silenced, and silences that nothing needs.

    `idle` are pairs of slice (empty for the whole cutlist) and kind.
    """

    pages: tuple[Page, ...]
    findings: list[Finding]
    accepted: list[Accepted]
    idle: list[tuple[str, str]]


def survey(
    project: Project, wanted: Sequence[str] = (), progress: Progress | None = None
) -> Survey:
    """Check every cutlist, or only what concerns the wanted slices.

    Raises RifflerError for a mistake that leaves nothing to check.
    """
    files = read_cutlists(project, any_name=True)
    known = known_names(files)
    for name in wanted:
        if name not in known:
            raise RifflerError(f'There is no slice "{name}".', nearest(name, known, "Slices are"))
    for file in files:
        _refuse_unknown_kinds(file)
    pages = tuple(Page(bench, fonts_of(project)) for bench in prepare(project, files))
    for page in pages:
        page.reading.renderer.warm()
    found: list[Finding] = []
    for number, check in enumerate(CHECKS):
        if progress is not None:
            progress(check.__module__.rpartition(".")[2], number, len(CHECKS))
        found.extend(check(pages))
    findings, accepted = [], []
    for one in settled(found):
        reason = _reason(files, one)
        if reason is None:
            findings.append(one)
        else:
            accepted.append(Accepted(one, reason))
    if wanted:
        findings = [one for one in findings if one.slices & set(wanted)]
    used = {(one.finding.slice, one.finding.kind) for one in accepted}
    return Survey(pages, findings, accepted, [] if wanted else _idle(files, used))


def _reason(files: Sequence[CutlistFile], one: Finding) -> str | None:
    """Why a finding is accepted; None when it is not."""
    for file in files:
        if one.slice:
            entry = file.entry(one.slice)
            if entry is not None and one.kind in entry.table.accept:
                return entry.table.accept[one.kind]
        elif file.path == one.said_at.path and one.kind in file.cutlist.accept:
            return file.cutlist.accept[one.kind]
    return None


def _idle(files: Sequence[CutlistFile], used: set[tuple[str, str]]) -> list[tuple[str, str]]:
    said = [("", kind) for file in files for kind in file.cutlist.accept]
    rows: dict[tuple[str, ...], list[str]] = {}
    for file in files:
        for entry in file.entries:
            rows.setdefault((str(entry.part.written.path), *entry.keys), []).append(entry.name)
            if entry.index == 0:
                said.extend((entry.name, kind) for kind in entry.table.accept)
    own_row = {name: names for names in rows.values() for name in names}
    return [
        (name, kind)
        for name, kind in dict.fromkeys(said)
        if not any((other, kind) in used for other in own_row.get(name, [name]))
    ]


def _refuse_unknown_kinds(file: CutlistFile) -> None:
    """Raises WrittenError for an `accept` of something that no survey finds."""
    for entry in file.entries:
        for kind in entry.table.accept:
            if kind not in KINDS:
                said = entry.part.written
                raise said.mistake((*entry.keys, "accept", kind), *_unknown(kind))
    for kind in file.cutlist.accept:
        if kind not in KINDS:
            raise file.written.mistake(("accept", kind), *_unknown(kind))


def _unknown(kind: str) -> tuple[str, str]:
    return f'There is no finding "{kind}".', nearest(kind, KINDS, "Findings are")
