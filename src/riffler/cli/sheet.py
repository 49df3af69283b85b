"""`riffler sheet`: one page to hand over, with everything measurable and every asset."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from riffler.cli.command import Command, Mockups, Over
from riffler.files import as_typed
from riffler.project.places import located
from riffler.report.screen import Screen

#: What the page is called unless it is told.
NAME = Path("cut-sheet.html")


def sheet(
    screen: Screen,
    mockups: Mockups = None,
    output: Annotated[
        Path | None,
        typer.Option("--output", "-o", metavar="FILE.html", help="The page; cut-sheet.html."),
    ] = None,
    archive: Annotated[
        Path | None,
        typer.Option("--zip", metavar="FILE.zip", help="Page, assets, lengths and fonts in one."),
    ] = None,
    force: Over = False,
) -> None:
    """Write a page to hand over: the mockup with every number under the pointer.

    One file that works without a network and without Riffler: places, sizes, distances, words,
    colours and CSS of everything, the files that were cut, and the style guide.
    """
    from riffler.cutsheet import packing
    from riffler.cutsheet.gather import cut_sheet
    from riffler.project.target import Target
    from riffler.report import cut_sheet as report
    from riffler.report.wording import kilobytes, plural
    from riffler.workspace import Workspace

    paths = [located(path) for path in mockups or ()]
    html = None if archive and output is None else Target(output or NAME, force)
    packed = Target(archive, force) if archive else None
    if html:
        html.check((".html",), paths)
    if packed:
        packed.check((".zip",), paths)
    workspace = Workspace.around(paths[0]) if paths else Workspace.here()
    with screen.progress("Reading") as progress:
        found_cut_sheet = cut_sheet(workspace, paths, progress)
    page = report.page(found_cut_sheet)
    things = sum(len(sheet_page.entries) for sheet_page in found_cut_sheet.pages)
    text = f"{plural(len(found_cut_sheet.pages), 'page')}, {plural(things, 'thing')}"
    if html:
        html.write(page)
        screen.say(f"Wrote {as_typed(html.path)}: {text}, {kilobytes(len(page))}.")
    if packed:
        project = workspace.project if workspace.has_project else None
        data = packing.archive(found_cut_sheet, page, project)
        packed.write(data)
        assets = plural(len(found_cut_sheet.assets), "asset")
        screen.say(
            f"Wrote {as_typed(packed.path)}: the sheet and {assets}, {kilobytes(len(data))}."
        )


COMMAND = Command(sheet, has_json=False)
