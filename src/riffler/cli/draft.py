"""`riffler draft`: a first cutlist, written from the mockup."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from riffler.cli.options import DryRun, Json, MaybeMockup, Quiet, Verbose
from riffler.errors import RifflerError

NAME = "draft"


def draft(
    mockup: MaybeMockup = None,
    output: Annotated[
        Path | None,
        typer.Option("--output", "-o", metavar="FILE.toml", help="Where to write the cutlist."),
    ] = None,
    add: Annotated[
        bool, typer.Option("--add", help="Add what an existing cutlist lacks; change nothing.")
    ] = False,
    questions: Annotated[
        bool, typer.Option("--questions", help="List what the mockup does not say, to send.")
    ] = False,
    canvas: Annotated[
        str | None, typer.Option("--canvas", metavar="NAME", help="One of several canvases.")
    ] = None,
    schema: Annotated[
        bool, typer.Option("--schema", help="Print the JSON Schema of cutlists, for editors.")
    ] = False,
    density: Annotated[
        float | None,
        typer.Option("--density", min=0.1, max=10, help="Mockup pixels per CSS pixel."),
    ] = None,
    dry_run: DryRun = False,
    json: Json = False,
    quiet: Quiet = False,
    verbose: Verbose = False,  # noqa: ARG001 - read where errors are shown
) -> None:
    """Write a first cutlist from a mockup: guides, slices, states, and why.

    In a project it goes to cuts/, elsewhere beside you; a cutlist that is there is never
    written over. What CSS draws is not cut, and said so.
    """
    if schema:
        from riffler.cutlist.schema import shipped

        typer.echo(shipped(), nl=False)
        return
    if mockup is None:
        raise RifflerError("Which mockup?", "For example: riffler draft mockups/home.ora")
    from riffler.plan.drafting import draft_mockup
    from riffler.report import planning
    from riffler.report.screen import Screen

    screen = Screen(quiet)
    done = draft_mockup(
        mockup, output=output, add=add, canvas=canvas, density=density,
        dry_run=dry_run or questions,
    )  # fmt: skip
    if json:
        screen.json(planning.draft_as_json(done))
    elif questions:
        planning.show_questions(screen, done)
    else:
        planning.show_draft(screen, done, is_dry=dry_run)
