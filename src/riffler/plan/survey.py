"""A project -> what is wrong with its cutlists, held against the pixels."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from riffler.cutlist.file import CutlistFile
from riffler.errors import OutputError, RifflerError, nearest
from riffler.output.ledger import Ledger
from riffler.plain import plain
from riffler.plan.advice import Advice, advice
from riffler.plan.checks import CHECKS, KINDS
from riffler.plan.finding import Finding, distinct
from riffler.plan.subject import Subject
from riffler.workspace import Workspace, lying
from riffler.workspace.pages import planned as planned_pages
from riffler.workspace.prepare import named, prepare, read_cutlists

#: The version of what `as_data` gives.
VERSION = 2

#: Told which check comes next, and how many are done of how many.
Progress = Callable[[str, int, int], None]


@dataclass(frozen=True)
class Accepted:
    """A finding that the cutlist silences, with the reason."""

    finding: Finding
    reason: str


@dataclass(frozen=True)
class Idle:
    """A kind that a slice, or without one the cutlist, accepts and that is not found."""

    slice: str | None
    kind: str


@dataclass(frozen=True)
class Survey:
    """What was found, what of it is silenced, and silences that nothing needs."""

    subjects: tuple[Subject, ...] = field(repr=False)
    findings: list[Finding]
    accepted: list[Accepted]
    idle: list[Idle]
    advice: list[Advice] = field(default_factory=list)

    def subject(self, cutlist: str | None) -> Subject:
        """The subject whose cutlist is so called. Raises RifflerError when it is not said which."""
        known_subjects = {subject.file.path.stem: subject for subject in self.subjects}
        if cutlist is not None and Path(cutlist).stem not in known_subjects:
            advice = nearest(cutlist, known_subjects, "Cutlists are")
            raise RifflerError(f'There is no cutlist "{cutlist}".', advice)
        if cutlist is None and len(known_subjects) != 1:
            raise RifflerError(
                "There are several cutlists, and a picture shows one."
                if known_subjects
                else "There is no cutlist to draw.",
                f"Say which with --cutlist: {', '.join(known_subjects)}." if known_subjects else "",
            )
        return known_subjects[Path(cutlist).stem if cutlist else next(iter(known_subjects))]

    def as_data(self) -> dict[str, Any]:
        """The survey as commands report it."""
        return {
            "findings": [_finding(finding) for finding in self.findings],
            "accepted": [
                {**_finding(silenced.finding), "reason": silenced.reason}
                for silenced in self.accepted
            ],
            "idle": plain(self.idle),
            "advice": plain(self.advice),
        }


def _finding(finding: Finding) -> dict[str, Any]:
    values: dict[str, Any] = plain(finding)
    place = values.pop("said_at")
    return {**values, "file": place["path"], "line": place["line"]}


def survey(
    workspace: Workspace, wanted: Sequence[str] = (), progress: Progress | None = None
) -> Survey:
    """Check every cutlist, or only what concerns the wanted slices.

    Raises RifflerError for a mistake that leaves nothing to check.
    """
    files = read_cutlists(workspace.project, any_name=True)
    wanted = named(wanted, files)
    for file in files:
        _refuse_unknown_kinds(file)
    subjects = _subjects(workspace, files)
    for subject in subjects:
        subject.renderer.warm()
    found_findings: list[Finding] = []
    for number, check in enumerate(CHECKS):
        if progress is not None:
            progress(check.name, number, len(CHECKS))
        found_findings.extend(check.run(subjects))
    findings, accepted = [], []
    for finding in distinct(found_findings, list(KINDS)):
        reason = _reason(files, finding)
        if reason is None:
            findings.append(finding)
        else:
            accepted.append(Accepted(finding, reason))
    advised = list(advice(subjects))
    if wanted:
        findings = [finding for finding in findings if finding.slices & set(wanted)]
        advised = [advice for advice in advised if advice.slice in wanted]
    used = {(silenced.finding.slice, silenced.finding.kind) for silenced in accepted}
    return Survey(subjects, findings, accepted, [] if wanted else _idle(files, used), advised)


def _subjects(workspace: Workspace, files: Sequence[CutlistFile]) -> tuple[Subject, ...]:
    """Every cutlist as the checks look at it."""
    project = workspace.project
    pages, lay, ledger = project.pages(), lying.known(project), _made(workspace)
    drawn = planned_pages(project, [file.mockup_path for file in files])
    return tuple(
        Subject(cutlist, workspace.fonts, pages, project.out, ledger, workspace.limits, lay, drawn)
        for cutlist in prepare(workspace, files)
    )


def _made(workspace: Workspace) -> Ledger:
    """What the last cut made; nothing where its record can't be read, which is for `cut` to say."""
    try:
        return Ledger.read(workspace.project.out)
    except OutputError:
        return Ledger()


def _reason(files: Sequence[CutlistFile], finding: Finding) -> str | None:
    """Why a finding is accepted; None when it is not."""
    for file in files:
        if finding.slice is not None:
            entry = file.entry(finding.slice)
            if entry is not None and finding.kind in entry.table.accept:
                return entry.table.accept[finding.kind]
        elif file.path == finding.said_at.path and finding.kind in file.cutlist.accept:
            return file.cutlist.accept[finding.kind]
    return None


def _idle(files: Sequence[CutlistFile], used: set[tuple[str | None, str]]) -> list[Idle]:
    idle_kinds = [Idle(None, kind) for file in files for kind in file.cutlist.accept]
    rows: dict[tuple[str, ...], list[str]] = {}
    for file in files:
        for entry in file.entries:
            rows.setdefault((str(entry.part.written.path), *entry.keys), []).append(entry.name)
            if entry.index == 0:
                idle_kinds.extend(Idle(entry.name, kind) for kind in entry.table.accept)
    own_row = {name: names for names in rows.values() for name in names}

    def is_used(idle: Idle) -> bool:
        row = own_row.get(idle.slice, ()) if idle.slice else (None,)
        return any((name, idle.kind) in used for name in row)

    return [idle for idle in dict.fromkeys(idle_kinds) if not is_used(idle)]


def _refuse_unknown_kinds(file: CutlistFile) -> None:
    """Raises WrittenError for an `accept` of something that no survey finds."""
    for entry in file.entries:
        for kind in entry.table.accept:
            if kind not in KINDS:
                written = entry.part.written
                raise written.mistake((*entry.keys, "accept", kind), *_unknown(kind))
    for kind in file.cutlist.accept:
        if kind not in KINDS:
            raise file.written.mistake(("accept", kind), *_unknown(kind))


def _unknown(kind: str) -> tuple[str, str]:
    return f'There is no finding "{kind}".', nearest(kind, KINDS, "Findings are")
