"""`riffler check`: what was forgotten on the pages, left over, or leads nowhere."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from riffler.cli.command import Command, EveryFinding
from riffler.project.places import located
from riffler.report.screen import Screen


def check(
    screen: Screen,
    folder: Annotated[
        Path | None, typer.Argument(metavar="FOLDER", help="Pages and styles; of a project, out.")
    ] = None,
    show_all: EveryFinding = False,
) -> int:
    """Proofread the built pages, or any folder of HTML and CSS.

    Dead links, copied alternative texts, pictures in the wrong shape, words still unsaid: each
    with file and line. The network is never touched. Ends with 1 when there is anything.
    """
    from riffler.project.project import Project
    from riffler.proof.proofread import VERSION, proofread
    from riffler.report import proof

    project = Project.around(located(folder) if folder else Path.cwd())
    root = located(folder) if folder else (project or Project.here()).out
    accepted = project.settings.check.accept if project and root == project.out else {}
    prefix = project.settings.url_prefix if project and root == project.out else ""
    found_proof = proofread(root, accepted, prefix)
    if not screen.json(VERSION, proof.as_data(found_proof)):
        proof.show(screen, found_proof, root, show_all=show_all)
    return int(bool(found_proof.findings))


COMMAND = Command(check)
