"""`riffler fit`: how far the pages are from their mockups, and what would put it right."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from riffler.cli.command import Command, Over
from riffler.errors import RifflerError
from riffler.project.places import located
from riffler.report.screen import Screen

if TYPE_CHECKING:
    from riffler.workspace import Opened, Workspace


def fit(
    screen: Screen,
    page: Annotated[
        str | None,
        typer.Argument(metavar="PAGE", help="A page of the project, an HTML file, or an address."),
    ] = None,
    mockup: Annotated[
        Path | None, typer.Argument(metavar="MOCKUP", help="What it should look like.")
    ] = None,
    within: Annotated[
        float, typer.Option("--within", metavar="PX", min=0.5, help="What is off by less fits.")
    ] = 1.0,
    every: Annotated[bool, typer.Option("--all", help="List every finding, however many.")] = False,
    diff: Annotated[
        bool, typer.Option("--diff", help="Print the values that would be right as a patch.")
    ] = False,
    report: Annotated[
        Path | None,
        typer.Option("--page", metavar="FILE.html", help="Write a page to compare them on."),
    ] = None,
    picture: Annotated[
        Path | None,
        typer.Option("--picture", metavar="FILE.png", help="Draw where things lie and should."),
    ] = None,
    force: Over = False,
) -> int:
    """Compare pages with their mockups in a browser, in numbers.

    Says where things really lie, what only follows from something else, and which value in which
    style sheet would be right. Needs Chromium. Ends with 1 when something does not fit.
    """
    from riffler.fit.browser import browsing
    from riffler.fit.fitting import VERSION
    from riffler.fit.fitting import fit as compare
    from riffler.project.target import Target
    from riffler.report import fitting
    from riffler.workspace import Workspace

    sources = [Path(one) for one in (page, mockup) if one is not None]
    for path, ending in ((report, ".html"), (picture, ".png")):
        if path is not None:
            Target(path, force).check((ending,), sources)
    workspace = Workspace.around(located(mockup)) if mockup else Workspace.here()
    pairs = _pairs(workspace, page, mockup)
    accept = workspace.project.settings.fit.accept if workspace.has_project else {}
    with screen.progress("Comparing") as progress, browsing() as browser:
        fits = []
        for done, (address, opened) in enumerate(pairs):
            progress(opened.mockup.path.name, done, len(pairs))
            fits.append(compare(browser, address, opened, within, accept))
    written = []
    if report is not None:
        from riffler.report import fit_page

        fit_page.write(fits, within, Target(report, force))
        written.append(f"Wrote {report}: open it in a browser to see where.")
    if picture is not None:
        from riffler.report import fit_picture

        fit_picture.write(fits, Target(picture, force))
        written.append(f"Wrote {picture}: where things lie, and where they should.")
    if diff:
        screen.line(fitting.patch(fits).rstrip("\n"))
    elif not screen.json(VERSION, fitting.as_data(fits, within)):
        fitting.show(screen, fits, within, every=every)
    for line in written:
        screen.say(line)
    return int(any(one.findings for one in fits))


def _pairs(
    workspace: Workspace, page: str | None, mockup: Path | None
) -> list[tuple[str, Opened]]:  # fmt: skip
    """The pages to look at, by address, each with a mockup."""
    from riffler.fit.browser import address_of

    if page is not None and mockup is not None:
        typed = page if "://" in page else str(located(Path(page)))
        return [(address_of(typed), workspace.open(located(mockup)))]
    return _of_the_project(workspace, page)


def _of_the_project(workspace: Workspace, page: str | None) -> list[tuple[str, Opened]]:
    from riffler.fit.browser import address_of
    from riffler.workspace.pages import page_of

    every = list(workspace.every())
    name = Path(page).name.removesuffix(".html") if page else None
    named = [(page_of(one, every), one) for one in every]
    meant = [(stem, one) for stem, one in named if name in (None, stem)]
    if not meant:
        said = ", ".join(sorted({stem for stem, _ in named}))
        raise RifflerError(
            f"No mockup of this project is of the page {name}." if name
            else "No mockup of this project has a cutlist yet.",
            f"Its pages with mockups: {said}" if said else "Say which: riffler fit PAGE MOCKUP",
        )  # fmt: skip
    out = workspace.project.out
    for stem, _ in meant:
        if not (out / f"{stem}.html").is_file():
            raise RifflerError(f"The page {stem} is not built.", "Build it first: riffler build")
    return [(address_of(str(out / f"{stem}.html")), one) for stem, one in meant]


COMMAND = Command(fit)
