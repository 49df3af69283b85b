"""`riffler survey`: the cutlists held against the pixels, before anything is cut."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from riffler.cli import completing
from riffler.cli.command import FINDINGS, Command, Over
from riffler.report.screen import Screen


def survey(
    screen: Screen,
    names: Annotated[
        list[str] | None,
        typer.Argument(
            metavar="SLICE",
            help="Only what concerns these slices.",
            autocompletion=completing.slices,
        ),
    ] = None,
    picture: Annotated[
        Path | None,
        typer.Option("--picture", metavar="FILE", help="Draw the plan to a .png or .svg."),
    ] = None,
    cutlist: Annotated[
        str | None,
        typer.Option(
            "--cutlist",
            metavar="NAME",
            help="The cutlist to draw, of several.",
            autocompletion=completing.cutlists,
        ),
    ] = None,
    accepted: Annotated[
        bool, typer.Option("--accepted", help="List what the cutlists accept, too.")
    ] = False,
    show_all: Annotated[
        bool, typer.Option("--all", help="List every finding, however many are alike.")
    ] = False,
    force: Over = False,
) -> int:
    """Check the plan against the pixels, before anything is cut.

    Gaps and overlaps, edges beside a layer's, shadows cut off, neighbours that reach in, seams of
    tiles, text inside pictures, icons unlike their set, names, links, typefaces, and more. Ends
    with exit code 1 when something is found. A finding that is meant is silenced in the cutlist,
    with a reason: [slice.NAME.accept] KIND = "why"
    """
    from riffler.plan.survey import VERSION
    from riffler.plan.survey import survey as survey_project
    from riffler.project.target import Target
    from riffler.report import plan_picture
    from riffler.report.surveying import show_survey
    from riffler.workspace import Workspace

    with screen.progress("Checking") as progress:
        result = survey_project(Workspace.here(), names or (), progress)
    if picture is not None:
        plan_picture.write(result.subject(cutlist), result.findings, Target(picture, force))
    if not screen.json(VERSION, result.as_data()):
        show_survey(screen, result, with_accepted=accepted, show_all=show_all)
        if picture is not None:
            screen.say(f"Wrote {picture}: the plan, with the findings numbered as above.")
    return FINDINGS if result.findings else 0


COMMAND = Command(survey)
