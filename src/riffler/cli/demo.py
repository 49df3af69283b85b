"""`riffler demo`: the whole job done on the example that ships with Riffler."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from riffler.cli.command import Command
from riffler.report.screen import Screen
from riffler.report.wording import kilobytes, plural


def demo(
    screen: Screen,
    folder: Annotated[
        Path,
        typer.Argument(metavar="DIR", help="Where the example goes; it may be there already."),
    ] = Path("fernhollow"),
) -> None:
    """Do the whole job on an example: copy, cut, make web fonts, build."""
    from riffler.cutting.cut import cut
    from riffler.files import as_typed
    from riffler.output.asset import PageAsset
    from riffler.project import example
    from riffler.project.project import Project
    from riffler.report.cuts import show_cut
    from riffler.site.build import build
    from riffler.webfonts import publishing as webfonts
    from riffler.workspace import Workspace

    count = example.lay_out(folder)
    if count:
        screen.say(f"Copied Fernhollow Apiary to {as_typed(folder)}: {plural(count, 'file')}.")
    else:
        screen.say(f"Fernhollow Apiary is in {as_typed(folder)} already; your changes stay.")
    screen.say("")
    project = Project.at(folder)
    with screen.progress("Cutting") as progress:
        published = cut(Workspace(project), progress=progress)
    show_cut(screen, published.as_data(), project.out, is_dry=False)
    workspace = Workspace(project)
    mockups = webfonts.mockups_of(workspace, ())
    fonts = webfonts.web(workspace, webfonts.fonts(workspace, mockups), mockups)
    screen.say(f"Made {plural(len(fonts.faces), 'web font')}: {kilobytes(fonts.bytes)}.")
    built = build(project).assets
    pages = sorted(asset.file for asset in built if isinstance(asset, PageAsset))
    screen.say(f"Built {plural(len(pages), 'page')}: {', '.join(pages)}.")
    screen.say("")
    screen.say(f"Open {as_typed(project.out / 'index.html')} in a browser, then look around:")
    screen.say(f"  cd {as_typed(folder)}")
    screen.say("  riffler look mockups/home.ora")
    screen.say("  riffler inlay banner")


COMMAND = Command(demo, has_json=False)
