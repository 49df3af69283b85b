"""`riffler sprite`: many pictures or drawings in one file."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

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
        typer.Option("--output", "-o", metavar="DIR", rich_help_panel=_ALONE,
            help="The folder for the sheet and its style sheet."),
    ] = None,
    name: Annotated[
        str, typer.Option("--name", metavar="NAME", help="What it is called.",
            rich_help_panel=_ALONE),
    ] = "all",
    is_symbols: Annotated[
        bool, typer.Option("--symbols", rich_help_panel=_ALONE,
            help="Drawings as one file of symbols, not as pixels."),
    ] = False,
    paint: Annotated[
        str, typer.Option("--paint", metavar="HOW", rich_help_panel=_ALONE,
            help="Of symbols: drawn, current or custom."),
    ] = "drawn",
    sizes: Annotated[
        str, typer.Option("--sizes", metavar="1x,2x", rich_help_panel=_ALONE, help="Densities."),
    ] = "1x,2x",
    density: Annotated[
        float, typer.Option("--density", min=0.25, max=8, rich_help_panel=_ALONE,
            help="Pixels of the files per CSS pixel."),
    ] = 1.0,
    gap: Annotated[
        int, typer.Option("--gap", min=0, max=64, rich_help_panel=_ALONE,
            help="Room between two, in CSS pixels."),
    ] = 2,
    save: Annotated[
        str, typer.Option("--save", metavar="FORMAT", rich_help_panel=_ALONE, help="webp or png.")
    ] = "webp",
    dry_run: DryRun = False,
    force: Over = False,
) -> None:  # fmt: skip
    """Put many pictures into one file with its CSS, or many drawings into one file of symbols.

    In a project as [sprite] and [symbols] in riffler.toml say, which riffler cut does too.
    """
    from riffler.report import sprites as report
    from riffler.workspace import Workspace

    if not sources:
        if output is not None:
            raise RifflerError(
                "-o goes with files.", "Name them: riffler sprite a.png b.png -o DIR"
            )
        from riffler.cutting import sprites

        workspace = Workspace.here()
        with screen.progress("Packing"):
            done = sprites.of_project(workspace, force=force, dry_run=dry_run)
        if not screen.json(report.VERSION, done.as_data()):
            report.show_project(screen, done, workspace.project.out, is_dry=dry_run)
        return
    from riffler.cutting.sprites import of_files
    from riffler.project.target import Target

    paths = [located(path) for path in sources]
    workspace = Workspace.around(paths[0])
    with screen.progress("Packing"):
        said = {"sizes": sizes.split(","), "save": save, "gap": gap}
        files = of_files(workspace, paths, name, said, density, paint if is_symbols else None)
    targets = []
    if output is not None:
        if output.exists() and not output.is_dir():
            raise RifflerError(f"{output} is no folder.", "Name a folder: -o DIR")
        targets = [Target(output / file, force) for file in files]
        for target, data in zip(targets, files.values(), strict=True):
            if not target.path.is_file() or target.path.read_bytes() != data:
                target.check(sources=paths)
        if not dry_run:
            for target, data in zip(targets, files.values(), strict=True):
                target.write(data)
    if not screen.json(report.VERSION, report.as_data(files, output)):
        report.show_files(screen, files, paths, output, is_dry=dry_run)


COMMAND = Command(sprite)
