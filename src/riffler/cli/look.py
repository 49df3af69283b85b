"""`riffler look`: what is in a mockup."""

from __future__ import annotations

from typing import Annotated

import typer

from riffler.cli.options import Json, Mockup, Quiet, Verbose

NAME = "look"


def look(
    mockup: Mockup,
    every: Annotated[
        bool, typer.Option("--all", help="List unnamed shapes one by one as well.")
    ] = False,
    json: Json = False,
    quiet: Quiet = False,
    verbose: Verbose = False,  # noqa: ARG001 - read where errors are shown
) -> None:
    """Look a mockup over: its layers, sizes, hidden parts.

    Prints the tree from the top of the stack: kind, size, place, and what is unusual.
    """
    from riffler.cli.opened import renderer_of
    from riffler.report import looking
    from riffler.report.screen import Screen

    screen = Screen(quiet)
    renderer = renderer_of(mockup)
    if json:
        screen.json(looking.as_json(renderer))
    else:
        looking.show_tree(screen, renderer, every=every)
