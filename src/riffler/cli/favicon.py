"""`riffler favicon`: a site's icon in every size, and what it looks like before it is shipped."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any

import typer

from riffler.cli import completing
from riffler.cli.command import Command, DryRun, Over
from riffler.errors import RifflerError
from riffler.report.screen import Screen

if TYPE_CHECKING:
    from riffler.cutting.icons import MadeIcons

_ALONE, _LETTERS = "Without a project", "Letters"


def favicon(
    screen: Screen,
    source: Annotated[
        Path | None,
        typer.Argument(metavar="FILE", help="Picture, SVG or mockup; else as riffler.toml says."),
    ] = None,
    picture: Annotated[
        Path | None,
        typer.Option("--picture", metavar="PNG", help="Draw it in tabs, bookmarks, on a phone."),
    ] = None,
    into: Annotated[
        list[Path] | None,
        typer.Option("--into", metavar="HTML", help="Put the lines for its head into this page."),
    ] = None,
    output: Annotated[
        Path | None,
        typer.Option(
            "--output",
            "-o",
            metavar="DIR",
            rich_help_panel=_ALONE,
            help="The folder for its files.",
        ),
    ] = None,
    layer: Annotated[
        str | None,
        typer.Option(
            "--layer",
            metavar="LAYER",
            rich_help_panel=_ALONE,
            help="This layer of the mockup alone.",
            autocompletion=completing.layers,
        ),
    ] = None,
    sizes: Annotated[
        str,
        typer.Option(
            "--sizes",
            metavar="PX,PX",
            rich_help_panel=_ALONE,
            help="Sides of the pictures in favicon.ico.",
        ),
    ] = "",
    ground: Annotated[
        str | None,
        typer.Option(
            "--ground",
            metavar="COLOR",
            rich_help_panel=_ALONE,
            help="Under the icons of phones, which may not be clear.",
        ),
    ] = None,
    theme: Annotated[
        str | None,
        typer.Option(
            "--theme",
            metavar="COLOR",
            rich_help_panel=_ALONE,
            help="Around the page, where a browser colours that.",
        ),
    ] = None,
    name: Annotated[
        str, typer.Option("--name", metavar="TEXT", rich_help_panel=_ALONE, help="Of the site.")
    ] = "",
    letters: Annotated[
        str | None,
        typer.Option(
            "--letters",
            metavar="AB",
            rich_help_panel=_LETTERS,
            help="One or two letters in place of a file.",
        ),
    ] = None,
    font: Annotated[
        str, typer.Option("--font", metavar="FAMILY", rich_help_panel=_LETTERS, help="Their font.")
    ] = "",
    weight: Annotated[
        int, typer.Option("--weight", min=1, max=1000, rich_help_panel=_LETTERS, help="And weight.")
    ] = 700,
    shape: Annotated[
        str,
        typer.Option(
            "--shape",
            metavar="SHAPE",
            rich_help_panel=_LETTERS,
            help="circle, square, rounded, hexagon, shield or none.",
        ),
    ] = "rounded",
    color: Annotated[
        str,
        typer.Option(
            "--color",
            metavar="COLOR",
            rich_help_panel=_LETTERS,
            help="Of the shape; several with commas make a gradient.",
        ),
    ] = "#33231a",
    angle: Annotated[
        float,
        typer.Option(
            "--angle",
            metavar="DEGREES",
            rich_help_panel=_LETTERS,
            help="Of the gradient, as CSS counts: 180 goes down.",
        ),
    ] = 180.0,
    ink: Annotated[
        str,
        typer.Option("--ink", metavar="COLOR", help="Of the letters.", rich_help_panel=_LETTERS),
    ] = "#ffffff",
    outline: Annotated[
        str | None,
        typer.Option(
            "--outline", metavar="COLOR", rich_help_panel=_LETTERS, help="Around the shape."
        ),
    ] = None,
    shadow: Annotated[
        bool, typer.Option("--shadow", rich_help_panel=_LETTERS, help="Under the shape.")
    ] = False,
    raised: Annotated[
        bool, typer.Option("--raised", rich_help_panel=_LETTERS, help="A soft raised edge.")
    ] = False,
    dry_run: DryRun = False,
    force: Over = False,
) -> None:
    """Make the icon of a site: favicon.ico, SVG, phone icons, manifest.

    In a project as [favicon] in riffler.toml says, into the output folder; of a file or of letters
    into any folder with -o. Small sizes are drawn at their own size.
    """
    from riffler.project.target import Target, targets_in
    from riffler.report import favicon as report
    from riffler.report.icon_picture import drawn
    from riffler.site.heading import check

    check(into or [])
    if picture is not None:
        Target(picture, force).check((".png",), [source] if source else [])
    if source is not None or letters is not None:
        values = {
            "file": None if source is None else str(source.absolute()),
            "layer": layer,
            "letters": letters,
            "font": font,
            "weight": weight,
            "shape": shape,
            "color": color.partition(",")[0],
            "gradient": _colors(color),
            "angle": angle,
            "ink": ink,
            "outline": outline,
            "shadow": shadow,
            "raised": raised,
            "ground": ground,
            "theme": theme,
            "name": name,
            "sizes": _numbers(sizes),
        }
        icons = _alone(screen, source, values)
    elif output is not None:
        raise RifflerError("-o goes with a file or with --letters.", "Name what the icon is of.")
    else:
        icons = _of_project(screen, force=force, is_dry=dry_run)
    targets = [] if output is None else targets_in(output, icons.files, force=force)
    changed = _put_into(into or [], icons, output, is_dry=dry_run)
    if not dry_run:
        if picture is not None:
            targets.append((Target(picture, force), drawn(icons.icons, icons.name)))
        for target, data in targets:
            target.write(data)
    written = [*icons.written, *(target.path for target, _ in targets)]
    if not screen.json(report.VERSION, report.as_data(icons, written, changed)):
        report.show(screen, icons, written, changed, is_dry=dry_run)


COMMAND = Command(favicon)


def _alone(screen: Screen, source: Path | None, values: dict[str, Any]) -> MadeIcons:
    """An icon as options say. Raises RifflerError."""
    from riffler.cutting import icons
    from riffler.project.icon_settings import Favicon
    from riffler.project.options import checked
    from riffler.workspace import Workspace

    how = checked(Favicon, values)
    workspace = Workspace.around(source or Path.cwd() / "here")
    with screen.progress("Drawing"):
        return icons.alone(workspace, how)


def _of_project(screen: Screen, *, force: bool, is_dry: bool) -> MadeIcons:
    from riffler.cutting import icons
    from riffler.workspace import Workspace

    workspace = Workspace.here()
    with screen.progress("Drawing"):
        return icons.of_project(workspace, force=force, dry_run=is_dry)


def _put_into(
    pages: list[Path], icons: MadeIcons, output: Path | None, *, is_dry: bool
) -> list[Path]:
    """The pages whose heads changed. Raises RifflerError where nothing says where icons are."""
    from riffler.site.heading import put_into

    folder = output or icons.folder
    if pages and folder is None:
        raise RifflerError("--into needs to know where the icons are.", "Say it: -o DIR")
    if not pages or folder is None:
        return []
    return put_into(pages, icons.assets, folder, icons.theme, dry_run=is_dry)


def _colors(text: str) -> list[str] | None:
    return text.split(",") if "," in text else None


def _numbers(text: str) -> list[int] | None:
    """The sides that --sizes says. Raises RifflerError."""
    parts = [part.strip() for part in text.split(",")] if text else []
    if not all(part.isdigit() for part in parts):
        raise RifflerError(f'--sizes takes sides in pixels, like 16,32,48, not "{text}".')
    return [int(part) for part in parts] or None
