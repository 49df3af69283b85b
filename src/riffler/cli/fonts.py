"""`riffler fonts`: what the text is set in, what is missing, and the fonts that go to the web."""

from __future__ import annotations

from typing import Annotated

import typer

from riffler.cli.command import Command, Force, Mockups
from riffler.errors import RifflerError
from riffler.project.places import located
from riffler.report.screen import Screen


def fonts(
    screen: Screen,
    mockups: Mockups = None,
    web: Annotated[
        bool, typer.Option("--web", help="Write web fonts and their style sheet into out/.")
    ] = False,
    force: Force = False,
) -> None:
    """Tell which typefaces the text uses, what is missing and what stands in for it.

    With --web the fonts of the project become web fonts with the characters that its pages need,
    with a style sheet in which nothing jumps when they arrive.
    """
    from riffler.report import fonts as report
    from riffler.webfonts import publishing
    from riffler.workspace import Workspace

    paths = [located(path) for path in mockups or ()]
    workspace = Workspace.around(paths[0]) if paths else Workspace.here()
    if web and not workspace.has_project:
        raise RifflerError("Web fonts are made of the fonts of a project: there is none here.")
    opened = publishing.mockups_of(workspace, paths)
    used = publishing.fonts(workspace, opened)
    made_web = publishing.web(workspace, used, opened, force=force) if web else None
    if screen.json(publishing.VERSION, publishing.as_data(used, made_web)):
        return
    if made_web is None:
        report.show_used(screen, used, is_project=workspace.has_project)
    else:
        report.show_web(screen, made_web, workspace.project)


COMMAND = Command(fonts)
