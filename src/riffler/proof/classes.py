"""Classes of pages and of styles -> those that only one side knows."""

from __future__ import annotations

from collections.abc import Iterator

from riffler.proof.finding import PageFinding
from riffler.proof.folder import SCRIPTS, Folder, read_text

#: Classes of pieces: their rules are made for all of them, whether a page uses them or not.
MADE = "piece-"

#: Classes that every project begins with, for when they are wanted.
AT_HAND = ("replaced", "unseen")


def one_sided(folder: Folder) -> Iterator[PageFinding]:
    """Classes without a rule, and rules for classes that no element has, once each."""
    scripts = "".join(
        read_text(folder.root / name) for name in folder.files if name.endswith(SCRIPTS)
    )
    ruled = {name for sheet in folder.sheets for name in sheet.classes}
    used: set[str] = set()
    for page in folder.pages:
        for node in page.nodes:
            for name in node.classes:
                if name not in used and name not in ruled and name not in scripts:
                    message = f'No rule is for the class "{name}".'
                    yield PageFinding("class-without-rule", page.file, node.line, message, name)
                used.add(name)
    for name, (file, line) in _ruled(folder).items():
        if name not in used and name not in scripts and not name.startswith((MADE, *AT_HAND)):
            message = f'No element has the class "{name}".'
            yield PageFinding("rule-without-element", file, line, message, name)


def _ruled(folder: Folder) -> dict[str, tuple[str, int]]:
    """Classes that rules are for, each with the first place."""
    result: dict[str, tuple[str, int]] = {}
    for sheet in folder.sheets:
        for name, line in sheet.classes.items():
            result.setdefault(name, (sheet.file, line))
    return result
