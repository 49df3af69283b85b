"""`riffler preview`: the pages in a browser while one works on them."""

from __future__ import annotations

import os
from typing import Annotated

import typer

from riffler.cli.command import Command
from riffler.files import discard
from riffler.report.screen import Screen


def preview(
    screen: Screen,
    port: Annotated[
        int, typer.Option("--port", min=0, max=65535, help="Where to serve; 0 takes a free one.")
    ] = 4747,
    is_opened: Annotated[
        bool, typer.Option("--open", help="Open the first page in the browser.")
    ] = False,
) -> None:
    """Show the pages in a browser, and every change at once.

    Cuts and builds what you save; styles and pictures are swapped in the open page. The key m
    lays the mockup over it, w steps through widths. Only this machine can see it; Ctrl-C ends it.
    """
    from riffler.fit.chromium import BARE, is_root
    from riffler.preview.running import run
    from riffler.project.project import Project

    def begun(address: str) -> None:
        screen.say(
            f"{address}  Ctrl-C ends it; in a page m lays the mockup over, w steps through widths."
        )
        if is_root():  # who measures pages beside us says nothing here
            screen.say(BARE.format("root has none"))
        if is_opened:
            typer.launch(address)

    run(Project.here(), port, begun)
    discard()
    os._exit(0)  # what still encodes would hold up the end; every file is whole at every moment


COMMAND = Command(preview, has_json=False)
