"""`riffler inlay`: the lines that put a slice into somebody else's template."""

from __future__ import annotations

from typing import Annotated

import typer

from riffler.cli.options import Verbose

NAME = "inlay"


def inlay(
    name: Annotated[str, typer.Argument(metavar="SLICE", help="The slice to put in place.")],
    css_class: Annotated[str, typer.Option("--class", help="The class of the image.")] = "",
    alt: Annotated[
        str | None, typer.Option("--alt", help="Alternative text, instead of the cutlist's.")
    ] = None,
    loading: Annotated[
        str, typer.Option("--loading", metavar="lazy|eager", help="When the browser loads it.")
    ] = "",
    verbose: Verbose = False,  # noqa: ARG001 - read where errors are shown
) -> None:
    """Print the HTML that puts a slice into a page.

    For somebody else's templates: URLs are written as riffler.toml wants them.
    """
    from riffler.project.project import Project
    from riffler.report.screen import Screen
    from riffler.site import pieces
    from riffler.site.build import read_site

    site = read_site(Project.here())
    piece = pieces.find(site.pieces, name, site.written)
    links = site.links("index.html")
    Screen().line(str(pieces.image(piece, links, css_class=css_class, alt=alt, loading=loading)))
