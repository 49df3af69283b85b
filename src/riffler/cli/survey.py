"""`riffler survey`: the cutlists held against the pixels, before anything is cut."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from riffler.cli.options import FINDINGS, Json, Quiet, Verbose

NAME = "survey"


def survey(
    names: Annotated[
        list[str] | None, typer.Argument(metavar="SLICE", help="Only what concerns these slices.")
    ] = None,
    picture: Annotated[
        Path | None,
        typer.Option("--picture", metavar="FILE", help="Draw the plan to a .png or .svg."),
    ] = None,
    cutlist: Annotated[
        str | None,
        typer.Option("--cutlist", metavar="NAME", help="The cutlist to draw, of several."),
    ] = None,
    accepted: Annotated[
        bool, typer.Option("--accepted", help="List what the cutlists accept, too.")
    ] = False,
    json: Json = False,
    quiet: Quiet = False,
    verbose: Verbose = False,  # noqa: ARG001 - read where errors are shown
) -> None:
    """Check the plan against the pixels, before anything is cut.

    Gaps and overlaps, edges beside a layer's, shadows cut off, neighbours that reach in, seams of
    tiles, text inside pictures, icons unlike their set, names, links, typefaces, and more. Ends
    with exit code 1 when something is found. A finding that is meant is silenced in the cutlist,
    with a reason: [slice.NAME.accept] KIND = "why"
    """
    from riffler.plan.survey import survey as survey_project
    from riffler.project.project import Project
    from riffler.report import plan_picture, planning
    from riffler.report.progress import Progress
    from riffler.report.screen import Screen

    screen = Screen(quiet)
    project = Project.here()
    with Progress("Checking", is_shown=not json and not quiet) as progress:
        done = survey_project(project, names or (), progress)
    if picture is not None:
        plan_picture.write(planning.page_to_draw(done, cutlist), done.findings, picture)
    if json:
        screen.json(planning.survey_as_json(done))
    else:
        planning.show_survey(screen, done, with_accepted=accepted)
        if picture is not None:
            screen.say(f"Wrote {picture}: the plan, with the findings numbered as above.")
    if done.findings:
        raise typer.Exit(FINDINGS)
