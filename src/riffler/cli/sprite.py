"""`riffler sprite`: many pictures or drawings in one file."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated, Any

import typer

from riffler.cli.command import Command, DryRun, Over
from riffler.errors import RifflerError
from riffler.project.places import located
from riffler.report.screen import Screen

_ALONE = "Of files"


def sprite(
    screen: Screen,
    sources: Annotated[
        list[Path] | None,
        typer.Argument(metavar="FILE", help="Pictures or drawings; else as riffler.toml says."),
    ] = None,
    output: Annotated[
        Path | None,
        typer.Option(
            "--output",
            "-o",
            metavar="DIR",
            rich_help_panel=_ALONE,
            help="The folder for the sheet and its style sheet.",
        ),
    ] = None,
    name: Annotated[
        str,
        typer.Option("--name", metavar="NAME", help="What it is called.", rich_help_panel=_ALONE),
    ] = "all",
    is_symbols: Annotated[
        bool,
        typer.Option(
            "--symbols",
            rich_help_panel=_ALONE,
            help="Drawings as one file of symbols, not as pixels.",
        ),
    ] = False,
    paint: Annotated[
        str,
        typer.Option(
            "--paint",
            metavar="HOW",
            rich_help_panel=_ALONE,
            help="Of symbols: drawn, current or custom.",
        ),
    ] = "drawn",
    sizes: Annotated[
        str,
        typer.Option("--sizes", metavar="1x,2x", rich_help_panel=_ALONE, help="Densities."),
    ] = "1x,2x",
    density: Annotated[
        float,
        typer.Option(
            "--density",
            min=0.25,
            max=8,
            rich_help_panel=_ALONE,
            help="Pixels of the files per CSS pixel.",
        ),
    ] = 1.0,
    gap: Annotated[
        int,
        typer.Option(
            "--gap", min=0, max=64, rich_help_panel=_ALONE, help="Room between two, in CSS pixels."
        ),
    ] = 2,
    save: Annotated[
        str, typer.Option("--save", metavar="FORMAT", rich_help_panel=_ALONE, help="webp or png.")
    ] = "webp",
    dry_run: DryRun = False,
    force: Over = False,
) -> None:
    """Put many pictures into one file with its CSS, or many symbols.

    In a project as [sprite] and [symbols] in riffler.toml say, which riffler cut does too.
    """
    values = {"sizes": sizes.split(","), "save": save, "gap": gap}
    if sources:
        how = paint if is_symbols else None
        _of_files(screen, sources, output, name, values, density, how, is_dry=dry_run, force=force)
    elif output is not None:
        raise RifflerError("-o goes with files.", "Name them: riffler sprite a.png b.png -o DIR")
    else:
        _of_project(screen, is_dry=dry_run, force=force)


COMMAND = Command(sprite)


def _of_project(screen: Screen, *, is_dry: bool, force: bool) -> None:
    from riffler.cutting import sprites
    from riffler.report import sprites as report
    from riffler.workspace import Workspace

    workspace = Workspace.here()
    with screen.progress("Packing"):
        published = sprites.of_project(workspace, force=force, dry_run=is_dry)
    if not screen.json(report.VERSION, published.as_data()):
        report.show_project(screen, published, workspace.project.out, is_dry=is_dry)


def _of_files(
    screen: Screen,
    sources: list[Path],
    output: Path | None,
    name: str,
    values: dict[str, Any],
    density: float,
    paint: str | None,
    *,
    is_dry: bool,
    force: bool,
) -> None:
    from riffler.cutting.sprites import of_files
    from riffler.project.target import targets_in
    from riffler.report import sprites as report
    from riffler.report.folders import as_data
    from riffler.workspace import Workspace

    paths = [located(path) for path in sources]
    with screen.progress("Packing"):
        files = of_files(Workspace.around(paths[0]), paths, name, values, density, paint)
    if output is not None:
        targets = targets_in(output, files, paths, force=force)
        for target, data in targets if not is_dry else ():
            target.write(data)
    if not screen.json(report.VERSION, as_data(files, output)):
        report.show_files(screen, files, paths, output, is_dry=is_dry)
