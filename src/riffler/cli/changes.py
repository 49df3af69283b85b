"""`riffler changes`: what is another in the new version of a mockup, and what that touches."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from riffler.cli.command import Command, Over
from riffler.project.places import located
from riffler.report.screen import Screen


def changes(
    screen: Screen,
    old: Annotated[
        Path | None,
        typer.Argument(metavar="[OLD]", help="The older version; of a project, what was last cut."),
    ] = None,
    new: Annotated[Path | None, typer.Argument(metavar="NEW", help="The newer version.")] = None,
    every: Annotated[bool, typer.Option("--all", help="List every change, however many.")] = False,
    earlier: Annotated[
        bool, typer.Option("--earlier", help="Against the version before the one last cut.")
    ] = False,
    report: Annotated[
        Path | None,
        typer.Option("--page", metavar="FILE.html", help="Write a page to compare them on."),
    ] = None,
    picture: Annotated[
        Path | None,
        typer.Option("--picture", metavar="FILE.png", help="Draw the changes on both versions."),
    ] = None,
    note: Annotated[
        bool, typer.Option("--note", help="Print a summary and questions, to hand back.")
    ] = False,
    force: Over = False,
) -> int:
    """Compare two versions of a mockup: what moved, grew, reads or looks otherwise.

    In a project the older one is what was last cut, and each change says which slices, guides,
    tokens, lines and pages it touches. Ends with 1 when something changed.
    """
    from riffler.changes.answer import VERSION
    from riffler.changes.asked import since_cut, two_files
    from riffler.project.target import targets
    from riffler.report import changes as report_changes
    from riffler.workspace import Workspace

    typed = [located(path) for path in (old, new) if path is not None]
    wanted = targets({".html": report, ".png": picture}, typed, force=force)
    workspace = Workspace.around(typed[-1]) if typed else Workspace.here()
    compared = (
        two_files(workspace, typed[0], typed[1]) if len(typed) == 2
        else since_cut(workspace, typed, earlier=earlier)
    )  # fmt: skip
    with screen.progress("Comparing"), compared as asked:
        written = [report_changes.written(asked, target) for target in wanted]
    if note and not screen.is_json:
        from riffler.report import change_note

        screen.pass_on(change_note.text(asked))
    elif not screen.json(VERSION, report_changes.as_data(asked)):
        report_changes.show(screen, asked, every=every)
        for line in written:
            screen.say(line)
    return int(any(one.changed.changes for one in asked))


COMMAND = Command(changes)
"""The order of the work."""
