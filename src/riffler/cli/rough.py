"""`riffler rough`: the first templates and styles of the pages, written from the mockups."""

from __future__ import annotations

from typing import Annotated

import typer

from riffler.cli.command import Command, DryRun, Mockups
from riffler.errors import RifflerError
from riffler.project.places import located
from riffler.report.screen import Screen


def rough(
    screen: Screen,
    mockups: Mockups = None,
    print_: Annotated[
        bool, typer.Option("--print", help="Print the files instead of writing them.")
    ] = False,
    part: Annotated[
        str | None,
        typer.Option("--part", metavar="NAME", help="Print one part: header, nav, a class."),
    ] = None,
    unit: Annotated[
        str, typer.Option("--unit", metavar="px|rem", help="What lengths are written in.")
    ] = "px",
    look: Annotated[
        bool,
        typer.Option("--look/--no-look", help="Look at the pages in a browser, and mend them."),
    ] = True,
    dry_run: DryRun = False,
) -> None:
    """Write the first templates, styles and data of your pages, once.

    Markup with meaning, styles in its order, what repeats in loops: for you to go on from. What is
    there already stays, whatever is in it. Where Chromium is installed the pages are looked at
    first, and mended where they don't stand as in the mockup.
    """
    if unit not in ("px", "rem"):
        raise RifflerError(f'There is no unit "{unit}" for this.', "Units are px and rem.")
    from riffler.markup import writing
    from riffler.markup.element import Lengths
    from riffler.markup.roughing import VERSION, rough
    from riffler.mirror.looking import looked_at
    from riffler.report import roughing
    from riffler.workspace import Workspace

    paths = [located(path) for path in mockups or ()]
    workspace = Workspace.around(paths[0]) if paths else Workspace.here()
    is_read_only = print_ or part is not None
    is_dry = dry_run or screen.is_json
    is_writing = not (is_read_only or is_dry)
    if is_writing:
        writing.take_up(workspace.project)
    with screen.progress("Reading"), looked_at(workspace, is_wanted=look) as view:
        roughed = rough(workspace, paths, Lengths(unit), part, look=view.look)
        is_there = is_writing and writing.is_there(
            workspace, paths, Lengths(unit), roughed, view.look
        )
    if is_there:
        screen.say("All of it is there as it was roughed out: nothing was written.")
        return
    if not is_read_only:
        is_seen = view.look is not None
        writing.write(workspace.project, roughed, unit, is_looked_at=is_seen, dry_run=is_dry)
    if screen.json(VERSION, roughing.as_data(roughed, view)):
        return
    if is_read_only:
        roughing.print_files(screen, roughed)
    else:
        roughing.show(screen, roughed, view, is_dry=dry_run)


COMMAND = Command(rough)
