"""What was found on pages -> lines for the terminal, and data."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from riffler.files import as_typed
from riffler.plain import clean
from riffler.proof.finding import PageFinding
from riffler.proof.proofread import Proof
from riffler.report.screen import Screen
from riffler.report.wording import plural

#: Findings that are shown unless all are wanted, and those of one kind.
SHOWN, OF_A_KIND = 40, 6


def show(screen: Screen, proof: Proof, root: Path, *, show_all: bool) -> None:
    """The findings file by file, each with its place, and what they come to."""
    shown = list(proof.findings) if show_all else _weightiest(proof.findings)
    file = None
    for finding in shown:
        if finding.file != file:
            file = finding.file
            screen.line(f"{as_typed(root / file)}")
        place = f"{finding.line}" if finding.line else "-"
        screen.line(f"  {place:>5}  {finding.kind:<20}  {clean(finding.message)}")
    if shown:
        screen.say("")
    left = len(proof.findings) - len(shown)
    if left:
        screen.say(f"And {plural(left, 'finding')} more: riffler check --all")
    for key in proof.idle:
        screen.say(f'Accepted, but not found any more: "{key}"')
    pages = f"{plural(proof.pages, 'page')} and {plural(proof.files, 'file')}"
    if proof.findings:
        screen.say(f"{plural(len(proof.findings), 'finding')} in {pages}.")
        screen.say("One that is meant: riffler.toml, [check.accept]")
        screen.say(f'  "{proof.findings[0].key}" = "why"')
    else:
        screen.say(f"Nothing to find in {pages}.")
    if proof.accepted:
        screen.say(f"{plural(len(proof.accepted), 'finding')} accepted in riffler.toml.")


def _weightiest(findings: tuple[PageFinding, ...]) -> list[PageFinding]:
    """Some of every kind, so that one kind does not hide the others."""
    counts: dict[str, int] = {}
    shown = []
    for finding in findings:
        counts[finding.kind] = counts.get(finding.kind, 0) + 1
        if counts[finding.kind] <= OF_A_KIND:
            shown.append(finding)
    return shown[:SHOWN]


def as_data(proof: Proof) -> dict[str, Any]:
    """What is printed as JSON."""
    return {
        "pages": proof.pages,
        "files": proof.files,
        "findings": [_finding(finding) for finding in proof.findings],
        "accepted": [{**_finding(finding), "reason": reason} for finding, reason in proof.accepted],
        "idle": list(proof.idle),
    }


def _finding(finding: PageFinding) -> dict[str, Any]:
    return {
        "kind": finding.kind,
        "file": finding.file,
        "line": finding.line,
        "message": finding.message,
        "key": finding.key,
    }
