"""`riffler tokens`: the colours, types, spaces and shadows of a design, under names."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from riffler.cli.command import Command, Mockups, Over
from riffler.errors import RifflerError
from riffler.project.places import located
from riffler.report.screen import Screen

if TYPE_CHECKING:
    from riffler.measure.units import Scale
    from riffler.workspace import Workspace

#: What each ending is written as.
ENDINGS = (".css", ".json")


def tokens(
    screen: Screen,
    mockups: Mockups = None,
    outputs: Annotated[
        list[Path] | None,
        typer.Option(
            "--output",
            "-o",
            metavar="FILE",
            help="Write custom properties (.css) or design tokens (.json).",
        ),
    ] = None,
    pin: Annotated[bool, typer.Option("--pin", help="Keep the names in riffler.toml.")] = False,
    show_all: Annotated[bool, typer.Option("--all", help="Every value and every place.")] = False,
    unit: Annotated[
        str | None, typer.Option("--unit", metavar="UNIT", help="Of lengths in CSS: px or rem.")
    ] = None,
    force: Over = False,
) -> None:
    """Collect the values that the mockups use again and again: a small style guide.

    Colours, type, spacing, radii, shadows and widths, each under a name, with how often it is used;
    values that are nearly the same; the contrast of text. Names in riffler.toml hold.
    """
    from riffler.project.target import Target
    from riffler.report import tokens as report
    from riffler.tokens import answer
    from riffler.tokens.custom_properties import sheet
    from riffler.tokens.interchange import interchange
    from riffler.tokens.pinning import pin as keep
    from riffler.workspace import Workspace

    paths, targets = [located(path) for path in mockups or ()], []
    for path in outputs or ():
        targets.append(Target(path, force))
        targets[-1].check(ENDINGS, paths)
    workspace = Workspace.around(paths[0]) if paths else Workspace.here()
    if pin and not workspace.has_project:
        raise RifflerError("Names are kept in riffler.toml: there is no project here.")
    scale = _scale(workspace, unit)
    with screen.progress("Reading") as progress:
        found_tokens = answer.tokens(workspace, paths, progress)
    for target in targets:
        is_css = target.path.suffix.lower() == ".css"
        target.write((sheet(found_tokens, scale) if is_css else interchange(found_tokens)).encode())
    pinned = keep(workspace.project, found_tokens) if pin else None
    if screen.json(answer.VERSION, answer.as_data(found_tokens)):
        return
    report.show(screen, found_tokens, scale, show_all=show_all)
    report.show_written(screen, [target.path for target in targets], pinned)


def _scale(workspace: Workspace, text: str | None) -> Scale:
    """How lengths are said: as it is asked for, else as the project has it."""
    from riffler.measure.units import Scale
    from riffler.project.settings import Measure

    measure = workspace.project.settings.measure if workspace.has_project else Measure()
    unit = text or measure.unit
    if text is not None and unit not in ("px", "rem"):
        raise RifflerError(f'Tokens are in px or rem, not "{unit}".')
    return Scale("rem" if unit == "rem" else "px", base=measure.base)


COMMAND = Command(tokens)
