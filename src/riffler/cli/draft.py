"""`riffler draft`: a first cutlist, written from the mockup."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from riffler.cli.command import Command, DryRun, MaybeMockup
from riffler.errors import RifflerError
from riffler.project.places import located
from riffler.report.screen import Screen

_MORE = "Instead of a new cutlist"


def draft(
    screen: Screen,
    mockup: MaybeMockup = None,
    output: Annotated[
        Path | None,
        typer.Option("--output", "-o", metavar="FILE.toml", help="Where to write the cutlist."),
    ] = None,
    density: Annotated[
        float | None,
        typer.Option("--density", min=0.1, max=10, help="Mockup pixels per CSS pixel."),
    ] = None,
    canvas: Annotated[
        str | None, typer.Option("--canvas", metavar="NAME", help="One of several canvases.")
    ] = None,
    when: Annotated[
        str | None,
        typer.Option("--when", metavar="QUERY", help="A narrow mockup, and its media query."),
    ] = None,
    dry_run: DryRun = False,
    add: Annotated[
        bool,
        typer.Option(
            "--add",
            help="Add what an existing cutlist lacks; change nothing.",
            rich_help_panel=_MORE,
        ),
    ] = False,
    read: Annotated[
        bool | None,
        typer.Option(
            "--read/--no-read",
            help="Read words in pixels with Tesseract and keep them, or leave them; read where it "
            "is installed.",
        ),
    ] = None,
    questions: Annotated[
        bool,
        typer.Option(
            "--questions", help="List what the mockup does not say, to send.", rich_help_panel=_MORE
        ),
    ] = False,
    show_all: Annotated[
        bool,
        typer.Option("--all", help="List every question, however many.", rich_help_panel=_MORE),
    ] = False,
    schema: Annotated[
        bool,
        typer.Option(
            "--schema",
            help="Print the JSON Schema of cutlists, for editors.",
            rich_help_panel=_MORE,
        ),
    ] = False,
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
    from riffler.plan.draft.file import VERSION, draft_mockup
    from riffler.report import drafting
    from riffler.workspace import Workspace

    mockup = located(mockup)
    with screen.progress("Reading") as progress:
        written = draft_mockup(
            Workspace.around(mockup),
            mockup,
            output=output,
            add=add,
            canvas=canvas,
            density=density,
            when=when,
            read=read,
            progress=progress,
            dry_run=dry_run or questions or (screen.is_json and output is None and not add),
        )
    if screen.json(VERSION, written.as_data()):
        return
    if questions:
        drafting.show_questions(screen, written, show_all=show_all)
    else:
        drafting.show_draft(screen, written, is_dry=dry_run)


COMMAND = Command(draft)
