"""`riffler look`: what is in a mockup."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any

import typer

from riffler.cli.command import Command, Mockup, Over
from riffler.errors import RifflerError
from riffler.project.places import located
from riffler.report.screen import Screen

if TYPE_CHECKING:
    from riffler.project.target import Target
    from riffler.reading.part import PagePart
    from riffler.workspace import Opened


def look(
    screen: Screen,
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
    boxes: Annotated[
        bool,
        typer.Option("--boxes", help="What is each thing, and what stands beside and under it?"),
    ] = False,
    picture: Annotated[
        Path | None,
        typer.Option(
            "--picture",
            metavar="FILE.png",
            help="Draw every layer with its name; with --boxes the boxes.",
        ),
    ] = None,
    canvas: Annotated[
        str | None, typer.Option("--canvas", metavar="NAME", help="One of several canvases.")
    ] = None,
    show_all: Annotated[
        bool, typer.Option("--all", help="List unnamed shapes one by one as well.")
    ] = False,
    force: Over = False,
) -> None:
    """Look a mockup over: its layers, fonts, column grid.

    Without an option: the tree from the top of the stack, with kind, size, place, and what is
    unusual. Works on any mockup file, inside a project and outside.
    """
    from riffler.plain import plain
    from riffler.project.target import Target
    from riffler.reading import look as looks
    from riffler.report import looking
    from riffler.workspace import Workspace

    point, mockup = _point(at) if at else None, located(mockup)
    opened = Workspace.around(mockup).open(mockup, canvas)
    page = looks.parts(opened) if boxes else None
    if picture is not None:
        _draw(opened, page, Target(picture, force))
    data: dict[str, Any] = plain(looks.overview(opened))
    answers: list[Callable[[], None]] = []
    if point is not None:
        point_look = looks.point(opened, *point)
        data["at"] = plain(point_look)
        answers.append(lambda: looking.show_point(screen, point_look))
    if fonts:
        used = looks.fonts(opened)
        data["fonts"] = plain(used)
        answers.append(lambda: looking.show_fonts(screen, used, opened.fonts))
    if grid:
        columns = looks.grid(opened)
        data["grid"] = plain(columns)
        answers.append(lambda: looking.show_grid(screen, columns))
    if page is not None:
        data["page"] = plain(page)
        answers.append(partial(_show_page, screen, page))
    if not answers and (screen.is_json or picture is None):
        seen = looks.look(opened)
        data |= plain(seen)
        answers.append(lambda: looking.show_tree(screen, opened, seen, show_all=show_all))
    if screen.json(looks.VERSION, data):
        return
    if picture is not None:
        what = "the box of every thing" if page else "every layer with its name"
        answers.append(lambda: screen.say(f"Wrote {picture}: {what}."))
    _say(screen, answers)


COMMAND = Command(look)


def _draw(opened: Opened, page: PagePart | None, target: Target) -> None:
    """The boxes of a page, or without one every layer by itself."""
    from riffler.report import contact, parts

    if page is None:
        contact.write(opened.renderer, target)
    else:
        parts.draw(opened.renderer, page, target)


def _say(screen: Screen, answers: Sequence[Callable[[], None]]) -> None:
    """One answer after the other, with a line between."""
    for number, answer in enumerate(answers):
        if number:
            screen.say("")
        answer()


def _show_page(screen: Screen, page: PagePart) -> None:
    from riffler.report import parts

    parts.show(screen, page)


def _point(text: str) -> tuple[int, int]:
    parts = text.split(",")
    try:
        x, y = (int(part.strip()) for part in parts)
    except ValueError as error:
        raise RifflerError(
            f'"{text}" is no pixel.', "Say x and y in mockup pixels: --at 320,140"
        ) from error
    return x, y
