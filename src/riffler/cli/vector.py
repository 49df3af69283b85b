"""`riffler vector`: layers and drawings as tidied vector files of their own."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from riffler.cli import completing
from riffler.cli.command import Command, Over
from riffler.errors import RifflerError
from riffler.project.places import located
from riffler.report.screen import Screen

_PAGE = "For the page"


def vector(
    screen: Screen,
    sources: Annotated[
        list[Path], typer.Argument(metavar="SVG", help="Drawings, or one vector mockup.")
    ],
    only: Annotated[
        list[str] | None,
        typer.Option(
            "--only",
            metavar="LAYER",
            help="Take this layer out of the mockup.",
            autocompletion=completing.layers,
        ),
    ] = None,
    each: Annotated[
        bool, typer.Option("--each", help="A file for each layer that --only means.")
    ] = False,
    output: Annotated[
        Path | None,
        typer.Option(
            "--output",
            "-o",
            metavar="FILE",
            help="The .svg to write, or a folder; - prints it. Without it nothing is written.",
        ),
    ] = None,
    largest: Annotated[
        float | None,
        typer.Option(
            "--largest",
            min=1,
            metavar="PX",
            help="Width of the largest size in use, in pixels of the screen; 4 times its own.",
        ),
    ] = None,
    keep_names: Annotated[
        bool, typer.Option("--keep-names", help="Keep ids, classes and data that nothing uses.")
    ] = False,
    strict: Annotated[
        bool, typer.Option("--strict", help="Refuse drawings with scripts or outside references.")
    ] = False,
    outlines: Annotated[bool, typer.Option("--outlines", help="Turn text into outlines.")] = False,
    paint: Annotated[
        str,
        typer.Option(
            "--paint",
            metavar="HOW",
            rich_help_panel=_PAGE,
            help="drawn, current (currentColor) or custom (a custom property a colour).",
        ),
    ] = "drawn",
    styles: Annotated[
        Path | None,
        typer.Option(
            "--styles",
            metavar="CSS",
            rich_help_panel=_PAGE,
            help="Name parts after layers; opacity and stroke widths go into this style sheet.",
        ),
    ] = None,
    title: Annotated[
        str | None,
        typer.Option(
            "--title",
            metavar="TEXT",
            rich_help_panel=_PAGE,
            help='What it shows, read out to who can\'t see it; "" for decoration.',
        ),
    ] = None,
    force: Over = False,
) -> None:
    """Take vector layers, or whole drawings, out as tidied files.

    Every result is drawn beside its source at one and four times its size; what would be seen is
    not done.
    """
    from riffler.project.target import Target
    from riffler.report import vectors as report
    from riffler.tidy.tidying import Tidying
    from riffler.vector import batch
    from riffler.vector.for_page import ForPage, checked_paint
    from riffler.workspace import Workspace

    painted = checked_paint(paint)
    paths = [located(path) for path in sources]
    if (only or each) and len(paths) != 1:
        raise RifflerError("--only and --each take layers out of one mockup.", "Name one.")
    workspace = Workspace.around(paths[0])
    found_sources = batch.gather(workspace, paths, only or (), is_each=each)
    places = batch.places(found_sources, output)
    for place in places:
        Target(place, force).check((".svg",), paths)
    if styles is not None:
        Target(styles, force).check((".css",), paths)
    tidying = Tidying(largest=largest, keeps_names=keep_names)
    with screen.progress("Tidying") as progress:
        files = []
        for number, source in enumerate(found_sources):
            page = ForPage(source.name, painted, styles is not None, title)
            files.append(
                batch.make_one(workspace, source, tidying, page, refuses=strict, outlines=outlines)
            )
            progress(source.name, number, len(found_sources))
    for place, file in zip(places, files, strict=False):
        Target(place, force).write(file.text.encode())
    if styles is not None:
        Target(styles, force).write(batch.style_sheet(files).encode())
    if output == batch.NOWHERE:
        screen.say(files[0].text)
        return
    written = [*places, *([styles] if styles else [])]
    if screen.json(batch.VERSION, batch.as_data(found_sources, files, places)):
        return
    report.show(screen, found_sources, files, written)


COMMAND = Command(vector)
