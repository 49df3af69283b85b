"""What was found on pages -> lines for the terminal, and data."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from riffler.files import as_typed
from riffler.plain import clean
from riffler.proof.finding import Finding
from riffler.proof.proofread import Proof
from riffler.report.screen import Screen
from riffler.report.wording import plural

#: Findings that are shown unless all are wanted, and those of one kind.
SHOWN, OF_A_KIND = 40, 6


def show(screen: Screen, found: Proof, root: Path, *, every: bool) -> None:
    """The findings file by file, each with its place, and what they come to."""
    shown = list(found.findings) if every else _weightiest(found.findings)
    file = None
    for one in shown:
        if one.file != file:
            file = one.file
            screen.line(f"{as_typed(root / file)}")
        place = f"{one.line}" if one.line else "-"
        screen.line(f"  {place:>5}  {one.kind:<20}  {clean(one.message)}")
    if shown:
        screen.say("")
    left = len(found.findings) - len(shown)
    if left:
        screen.say(f"And {plural(left, 'finding')} more: riffler check --all")
    for key in found.idle:
        screen.say(f'Accepted, but not found any more: "{key}"')
    pages = f"{plural(found.pages, 'page')} and {plural(found.files, 'file')}"
    if found.findings:
        screen.say(f"{plural(len(found.findings), 'finding')} in {pages}.")
        screen.say("One that is meant: riffler.toml, [check.accept]")
        screen.say(f'  "{found.findings[0].key}" = "why"')
    else:
        screen.say(f"Nothing to find in {pages}.")
    if found.accepted:
        screen.say(f"{plural(len(found.accepted), 'finding')} accepted in riffler.toml.")


def _weightiest(findings: tuple[Finding, ...]) -> list[Finding]:
    """Some of every kind, so that one kind does not hide the others."""
    counts: dict[str, int] = {}
    shown = []
    for one in findings:
        counts[one.kind] = counts.get(one.kind, 0) + 1
        if counts[one.kind] <= OF_A_KIND:
            shown.append(one)
    return shown[:SHOWN]


def as_data(found: Proof) -> dict[str, Any]:
    """What is printed as JSON."""
    return {
        "pages": found.pages,
        "files": found.files,
        "findings": [_finding(one) for one in found.findings],
        "accepted": [{**_finding(one), "reason": reason} for one, reason in found.accepted],
        "idle": list(found.idle),
    }


def _finding(one: Finding) -> dict[str, Any]:
    return {
        "kind": one.kind,
        "file": one.file,
        "line": one.line,
        "message": one.message,
        "key": one.key,
    }
