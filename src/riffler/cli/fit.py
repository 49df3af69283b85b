"""`riffler fit`: how far the pages are from their mockups, and what would put it right."""

from __future__ import annotations

from collections.abc import Container, Sequence
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from riffler.cli.command import Command, EveryFinding, Over, Versus
from riffler.errors import RifflerError
from riffler.project.places import located
from riffler.report.screen import Screen

if TYPE_CHECKING:
    from riffler.fit.chromium import Chromium
    from riffler.fit.expected import Coming
    from riffler.fit.page_fit import PageFit
    from riffler.fit.widths import Trouble
    from riffler.project.target import Target
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
    density: Annotated[
        float | None,
        typer.Option("--density", min=0.5, max=8, help="Mockup pixels per CSS pixel."),
    ] = None,
    show_all: EveryFinding = False,
    diff: Annotated[
        bool, typer.Option("--diff", help="Print the values that would be right as a patch.")
    ] = False,
    report: Versus = None,
    picture: Annotated[
        Path | None,
        typer.Option("--picture", metavar="FILE.png", help="Draw where things lie and should."),
    ] = None,
    widths: Annotated[
        str | None,
        typer.Option("--widths", metavar="PX,PX", help="Look for what breaks at these widths."),
    ] = None,
    force: Over = False,
) -> int:
    """Compare pages with their mockups in a browser, in numbers.

    Says where things really lie, what only follows from something else, and which value in which
    style sheet would be right. Needs Chromium. Ends with 1 when something does not fit.
    """
    from riffler.fit.browser import name_of
    from riffler.fit.chromium import browsing
    from riffler.fit.page_fit import VERSION
    from riffler.fit.page_fit import fit as compare
    from riffler.project.target import targets
    from riffler.report import page_fit, page_widths
    from riffler.workspace import Workspace
    from riffler.workspace.pages import source_of

    sources = [Path(item) for item in (page, mockup) if item is not None]
    wanted_files = targets({".html": report, ".png": picture}, sources, force=force)
    at = _widths(widths)
    workspace = Workspace.around(located(mockup)) if mockup else Workspace.here()
    pairs = _pairs(workspace, page, mockup, density)
    accept = workspace.project.settings.fit.accept if workspace.has_project else {}
    origin = partial(source_of, workspace.project) if workspace.has_project else None
    with screen.progress("Comparing") as progress, browsing() as browser:
        fits = []
        for done, (address, coming) in enumerate(pairs):
            progress(name_of(address), done, len(pairs))
            fits.append(compare(browser, address, coming, within, accept, origin))
        found_troubles = _troubles(browser, pairs, at, accept)
    written = list(map(partial(_written, fits, within), wanted_files))
    if diff and not screen.is_json:
        screen.pass_on(page_fit.patch(fits))
    elif not screen.json(VERSION, page_fit.as_data(fits, within, found_troubles)):
        page_fit.show(screen, fits, within, show_all=show_all)
        page_widths.show(screen, found_troubles, at)
        for line in written:
            screen.say(line)
    return int(bool(found_troubles) or any(fit.findings for fit in fits))


def _written(fits: Sequence[PageFit], within: float, target: Target) -> str:
    """Write the page or the picture that is wanted; returns what to say of it."""
    from riffler.report import fit_page, fit_picture
    from riffler.report.beside import written

    return written(
        target,
        partial(fit_page.write, fits, within),
        partial(fit_picture.write, fits),
        "where things lie, and where they should",
    )


def _troubles(
    browser: Chromium,
    pairs: Sequence[tuple[str, Coming]],
    widths: Sequence[int],
    accept: Container[str],
) -> list[Trouble]:
    """What breaks at some widths, of every page."""
    from riffler.fit.widths import troubles

    found: list[Trouble] = []
    for address in dict(pairs):
        drawn = sorted(round(coming.width) for where, coming in pairs if where == address)
        found += troubles(browser, address, widths, accept, drawn)
    return found


def _widths(text: str | None) -> list[int]:
    """Widths of windows. Raises RifflerError for what is none."""
    parts = [part.strip() for part in text.split(",")] if text else []
    if not all(part.isdigit() and 200 <= int(part) <= 4000 for part in parts):
        raise RifflerError(f"--widths {text}: widths are 200 to 4000 px.", "--widths 375,600,960")
    return [int(part) for part in parts]


def _pairs(
    workspace: Workspace, page: str | None, mockup: Path | None, density: float | None
) -> list[tuple[str, Coming]]:
    """The pages to look at, by address, each with a mockup that is read already."""
    from riffler.fit.browser import address_of
    from riffler.fit.expecting import expected

    if page is not None and mockup is not None:
        typed = page if "://" in page else str(located(Path(page)))
        pairs = [(address_of(typed), workspace.open(located(mockup)))]
    else:
        pairs = _of_the_project(workspace, page)
    work = workspace.project.work if workspace.has_project else None
    return [(address, expected(opened, density, work)) for address, opened in pairs]


def _of_the_project(workspace: Workspace, page: str | None) -> list[tuple[str, Opened]]:
    from riffler.fit.browser import address_of
    from riffler.workspace.pages import page_of

    all_opened = list(workspace.every())
    name = Path(page).name.removesuffix(".html") if page else None
    named = [(page_of(opened, all_opened), opened) for opened in all_opened]
    meant = [(stem, opened) for stem, opened in named if name in (None, stem)]
    if not meant:
        text = ", ".join(sorted({stem for stem, _ in named}))
        raise RifflerError(
            f"No mockup of this project is of the page {name}."
            if name
            else "No mockup of this project has a cutlist yet.",
            f"Its pages with mockups: {text}" if text else "Say which: riffler fit PAGE MOCKUP",
        )
    out = workspace.project.out
    for stem, _ in meant:
        if not (out / f"{stem}.html").is_file():
            raise RifflerError(f"The page {stem} is not built.", "Build it first: riffler build")
    return [(address_of(str(out / f"{stem}.html")), opened) for stem, opened in meant]


COMMAND = Command(fit)
