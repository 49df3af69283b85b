"""`riffler inlay`: the lines that put a slice into somebody else's template."""

from __future__ import annotations

from typing import Annotated

import typer

from riffler.cli import completing
from riffler.cli.command import Command
from riffler.report.screen import Screen


def inlay(
    screen: Screen,
    name: Annotated[
        str,
        typer.Argument(
            metavar="SLICE", help="The slice to put in place.", autocompletion=completing.slices
        ),
    ],
    css: Annotated[
        bool, typer.Option("--css", help="The CSS that shows it, as tiles and panels always get.")
    ] = False,
    css_class: Annotated[
        str, typer.Option("--class", help="The class of the image, or of the CSS rule.")
    ] = "",
    alt: Annotated[
        str | None, typer.Option("--alt", help="Alternative text, instead of the cutlist's.")
    ] = None,
    loading: Annotated[
        str, typer.Option("--loading", metavar="lazy|eager", help="When the browser loads it.")
    ] = "",
    sizes: Annotated[
        str, typer.Option("--sizes", help='How wide it will be, such as "50vw": to choose by.')
    ] = "",
) -> None:
    """Print the HTML, or the CSS, that puts a slice into a page.

    For somebody else's templates: URLs are written as riffler.toml wants them.
    """
    from riffler.project.project import Project
    from riffler.site.build import read_site
    from riffler.site.inlay import lines

    values = {"css_class": css_class, "loading": loading, "sizes": sizes}
    screen.line(lines(read_site(Project.here()), name, css=css, alt=alt, **values))


COMMAND = Command(inlay, has_json=False, has_quiet=False)
