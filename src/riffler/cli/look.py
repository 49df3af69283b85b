"""`riffler look`: what is in a mockup."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Annotated

import typer

from riffler.cli.options import Json, Mockup, Quiet, Verbose
from riffler.errors import RifflerError

NAME = "look"


def look(
    mockup: Mockup,
    at: Annotated[
        str, typer.Option("--at", metavar="X,Y", help="Which layers paint at this pixel?")
    ] = "",
    fonts: Annotated[
        bool, typer.Option("--fonts", help="Which typefaces are used, and which are missing?")
    ] = False,
    grid: Annotated[
        bool, typer.Option("--grid", help="Is there a column grid, and how wide is it?")
    ] = False,
    picture: Annotated[
        Path | None,
        typer.Option("--picture", metavar="FILE.png", help="Draw every layer with its name."),
    ] = None,
    canvas: Annotated[
        str | None, typer.Option("--canvas", metavar="NAME", help="One of several canvases.")
    ] = None,
    every: Annotated[
        bool, typer.Option("--all", help="List unnamed shapes one by one as well.")
    ] = False,
    json: Json = False,
    quiet: Quiet = False,
    verbose: Verbose = False,  # noqa: ARG001 - read where errors are shown
) -> None:
    """Look a mockup over: its layers, fonts, column grid.

    Without an option: the tree from the top of the stack, with kind, size, place, and what is
    unusual. Works on any mockup file, inside a project and outside.
    """
    from riffler.cli.opened import open_for_looking
    from riffler.report import contact, looking
    from riffler.report.screen import Screen

    point = _point(at) if at else None
    opened = open_for_looking(mockup, canvas)
    view = looking.View(opened.renderer, opened.fonts, opened.density)
    screen = Screen(quiet)
    if picture is not None:
        contact.write(opened.renderer, picture)
    if json:
        screen.json(looking.as_json(view, point, fonts=fonts, grid=grid))
        return
    answers: list[Callable[[], None]] = []
    if point is not None:
        answers.append(lambda: looking.show_point(screen, view, point))
    if fonts:
        answers.append(lambda: looking.show_fonts(screen, view))
    if grid:
        answers.append(lambda: looking.show_grid(screen, view))
    if picture is not None:
        answers.append(lambda: screen.say(f"Wrote {picture}: every layer with its name."))
    for number, answer in enumerate(
        answers or [lambda: looking.show_tree(screen, view, every=every)]
    ):
        if number:
            screen.say("")
        answer()


def _point(text: str) -> tuple[int, int]:
    parts = text.split(",")
    try:
        x, y = (int(part.strip()) for part in parts)
    except ValueError as error:
        raise RifflerError(
            f'"{text}" is no pixel.', "Say x and y in mockup pixels: --at 320,140"
        ) from error
    return x, y
