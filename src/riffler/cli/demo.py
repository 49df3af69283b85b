"""`riffler demo`: the whole job done on the example that ships with Riffler."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from riffler.cli.options import Quiet, Verbose

if TYPE_CHECKING:
    from riffler.jobs.ledger import Asset
    from riffler.jobs.publish import Published

NAME = "demo"


def demo(
    folder: Annotated[
        Path,
        typer.Argument(metavar="DIR", help="Where the example goes; it may be there already."),
    ] = Path("fernhollow"),
    quiet: Quiet = False,
    verbose: Verbose = False,  # noqa: ARG001 - read where errors are shown
) -> None:
    """Do the whole job on an example: copy, cut, build."""
    from riffler.files import as_typed
    from riffler.jobs.cut import cut
    from riffler.project import example
    from riffler.project.project import Project
    from riffler.report.assets import show_cut
    from riffler.report.progress import Progress
    from riffler.report.screen import Screen, plural
    from riffler.site.build import build

    screen = Screen(quiet)
    count = example.lay_out(folder)
    if count:
        screen.say(f"Copied Fernhollow Apiary to {as_typed(folder)}: {plural(count, 'file')}.")
    else:
        screen.say(f"Fernhollow Apiary is in {as_typed(folder)} already; your changes stay.")
    screen.say("")
    project = Project.at(folder)
    with Progress("Cutting", is_shown=not quiet) as progress:
        done = cut(project, progress=progress)
    show_cut(screen, done, as_typed(project.out), is_dry=False)
    pages = [a.file for a in _all(build(project)) if a.role == "page"]
    screen.say(f"Built {plural(len(pages), 'page')}: {', '.join(sorted(pages))}.")
    screen.say("")
    screen.say(f"Open {as_typed(project.out / 'index.html')} in a browser, then look around:")
    screen.say(f"  cd {as_typed(folder)}")
    screen.say("  riffler look mockups/home.ora")
    screen.say("  riffler inlay banner")


def _all(done: Published) -> list[Asset]:
    return [*done.written, *done.unchanged]
