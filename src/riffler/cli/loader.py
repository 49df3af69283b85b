"""`riffler loader`: a loading mark of a vector layer."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from riffler.cli import completing
from riffler.cli.command import Command, DryRun, Over
from riffler.project.places import located
from riffler.report.screen import Screen


def loader(
    screen: Screen,
    source: Annotated[Path, typer.Argument(metavar="SVG", help="A drawing, or a vector mockup.")],
    only: Annotated[
        list[str] | None,
        typer.Option(
            "--only",
            metavar="LAYER",
            help="Take this layer out of the mockup.",
            autocompletion=completing.layers,
        ),
    ] = None,
    output: Annotated[
        Path | None,
        typer.Option(
            "--output",
            "-o",
            metavar="DIR",
            help="The folder for drawing, style sheet, and a page that shows it.",
        ),
    ] = None,
    move: Annotated[
        str, typer.Option("--move", metavar="HOW", help="turn, pulse, dots; several with commas.")
    ] = "turn",
    period: Annotated[
        str, typer.Option("--period", metavar="TIME", help="Of one round: 1.2s or 800ms.")
    ] = "1.2s",
    easing: Annotated[
        str, typer.Option("--easing", metavar="CSS", help="linear, ease-in-out, cubic-bezier().")
    ] = "ease-in-out",
    size: Annotated[
        int, typer.Option("--size", min=8, max=1000, metavar="PX", help="Its width on the page.")
    ] = 48,
    text: Annotated[
        str, typer.Option("--text", metavar="TEXT", help="The status, for screen readers.")
    ] = "Loading",
    name: Annotated[
        str | None, typer.Option("--name", metavar="NAME", help="What it is called; as the layer.")
    ] = None,
    dry_run: DryRun = False,
    force: Over = False,
) -> None:
    """Make a loading mark of a vector layer, with its CSS.

    It keeps still for people who asked for less motion. In a project [loader.NAME] in riffler.toml
    makes it with each cut, and loader("NAME") in a template shows it.
    """
    from riffler.project.target import targets_in
    from riffler.report import loaders as report
    from riffler.vector import batch, loose_loader
    from riffler.workspace import Workspace

    path = located(source)
    workspace = Workspace.around(path)
    values = {
        "slice": "-",
        "move": move.split(","),
        "period": period,
        "easing": easing,
        "size": size,
        "text": text,
    }
    with screen.progress("Tidying"):
        (drawing,) = batch.gather(workspace, [path], only or (), is_each=False)
        made_loader = loose_loader.made(workspace, drawing, name, values)
    if output is not None:
        targets = targets_in(output, made_loader.files, [path], force=force)
        for target, data in targets if not dry_run else ():
            target.write(data)
    if not screen.json(report.VERSION, report.as_data(made_loader, output)):
        report.show(screen, made_loader, output, is_dry=dry_run)


COMMAND = Command(loader)
