"""A folder -> every mistake in it, in the order of its files; those that are accepted apart."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import TypeAlias

from riffler.proof import classes, contrast, outline, pictures, references
from riffler.proof.finding import PageFinding
from riffler.proof.folder import Folder

#: The version of what is told as JSON.
VERSION = 1

Check: TypeAlias = Callable[[Folder], Iterator[PageFinding]]

#: Every check, in the order in which people mend things.
CHECKS: tuple[Check, ...] = (
    outline.unclosed,
    references.dead,
    outline.unsaid,
    outline.heads,
    outline.headings,
    outline.ids,
    pictures.texts,
    pictures.repeated,
    pictures.sizes,
    pictures.equal,
    classes.one_sided,
    contrast.faint,
    references.unused,
    references.orphans,
    references.names,
)


@dataclass(frozen=True)
class Proof:
    """What was found, what was accepted with its reason, acceptances of nothing, pages read."""

    findings: tuple[PageFinding, ...]
    accepted: tuple[tuple[PageFinding, str], ...]
    idle: tuple[str, ...]
    pages: int
    files: int


def proofread(root: Path, accepted: Mapping[str, str], prefix: str = "") -> Proof:
    """Read a folder and check it. Raises RifflerError for one that can't be read."""
    folder = Folder.open(root, prefix)
    findings = [finding for check in CHECKS for finding in check(folder)]
    findings.sort(key=lambda finding: (finding.file, finding.line or 0))
    kept_findings = tuple(finding for finding in findings if finding.key not in accepted)
    keys = {finding.key for finding in findings}
    return Proof(
        kept_findings,
        tuple((finding, accepted[finding.key]) for finding in findings if finding.key in accepted),
        tuple(key for key in accepted if key not in keys),
        len(folder.pages),
        len(folder.files),
    )
